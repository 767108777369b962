import type { Brush } from '../../brush/index.ts';
import type { Job } from '../../jobs/index.ts';
import type { Surface } from '../structure/index.ts';
import { luminanceOf } from './bounce.ts';
import { CellIndex } from './cells.ts';
import { GUTTER, makeChart } from './charts.ts';
import { makeOccluders, type Occluders } from './occluders.ts';
import { Openings } from './openings.ts';
import { PATCH_LUXELS } from './patches.ts';

/** A patch in the plane of a chart, of itself or of its neighbours: its cell, its middle (lattice coordinates), its open area. */
export interface NearPatch {
  readonly column: number;
  readonly row: number;
  readonly a: number;
  readonly b: number;
  readonly area: number;
  /** It is the chart's own. */
  readonly own: boolean;
}

/** How far patches even out one another's noise, in patches: as far as they share their links. */
const EVEN = 2;

/** How far from a chart's own patches others matter to it, in patches: one beside a luxel, and those that even it out. */
export const NEAR = EVEN + 1;

interface Item {
  readonly surface: Surface;
  readonly luxel: number;
  /** Where luxels stand: two lattice coordinates each, NaN for those that are not used. */
  readonly spots: Float32Array;
  readonly near: readonly NearPatch[];
  /** For each list of light; null where it brings nothing. */
  readonly values: readonly (Values | null)[];
}

interface Values {
  /** What falls on each of the patches: three floats each. */
  readonly light: Float32Array;
  /** About how far that may be off, lux. */
  readonly noise: Float32Array;
}

/** For each list of light what it brings each luxel; null for nothing. */
export type Lists = readonly (Float32Array | null)[];

export interface GatherInput {
  readonly brushes: readonly Brush[];
  readonly items: readonly Item[];
}

/**
 * Spreads what bounces from patches smoothly over luxels: between the middles of patches that lie around a luxel and that nothing
 * parts from it, so that no border shows and nothing comes through a wall. One list of three floats a luxel for each list of values, null
 * for those that are.
 */
export const gatherJob: Job<GatherInput, readonly Brush[], Item, Lists, readonly Lists[]> = {
  name: 'gather',
  cut: ({ brushes, items }) => ({ shared: brushes, items }),
  shard: 8192,
  weight: ({ surface, luxel }) => {
    const { width, height } = makeChart(surface, luxel);
    return width * height;
  },
  prepare: (brushes) => {
    const solids = makeOccluders(brushes);
    return (item) => gather(solids, item);
  },
  merge: (_, results) => results,
  memory: (lights) => lights.flatMap((l) => l?.buffer ?? []),
};

function gather(solids: Occluders, { surface, luxel, spots, near, values: all }: Item): Lists {
  const values = all.filter((v) => v !== null);
  if (values.length === 0) return all.map(() => null);
  const chart = makeChart(surface, luxel);
  const [width, height] = [chart.width + 2 * GUTTER, chart.height + 2 * GUTTER];
  const lights = values.map(() => new Float32Array(width * height * 3));
  const edge = PATCH_LUXELS * luxel;
  const openings = new Openings(chart, solids, (NEAR + 1) * PATCH_LUXELS);
  const index = new CellIndex(near.flatMap(({ column, row }) => [column, row]));
  const own = near.flatMap((p, i) => (p.own ? [i] : []));
  const even = evened(near, values, index, openings, edge);
  const weights = new Float64Array(near.length);
  const patches = new Int32Array(near.length);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++) {
      const [a, b] = [spots[(j * width + i) * 2]!, spots[(j * width + i) * 2 + 1]!];
      if (Number.isNaN(a)) continue;
      let count = 0;
      let sum = 0;
      const [column, row] = [Math.floor(a / edge), Math.floor(b / edge)];
      const guarded = openings.meets(a - edge, b - edge, a + edge, b + edge);
      for (let v = row - 1; v <= row + 1; v++)
        for (let u = column - 1; u <= column + 1; u++)
          for (let p = index.first(u, v); p >= 0; p = index.after(p)) {
            const patch = near[p]!;
            const weight = tent(a - patch.a, edge) * tent(b - patch.b, edge) * patch.area;
            if (weight <= 0 || (guarded && !openings.clear(patch.a, patch.b, a, b, true))) continue;
            weights[count] = weight;
            patches[count++] = p;
            sum += weight;
          }
      if (count === 0) {
        const p = nearestOf(own, near, a, b);
        if (p < 0) continue;
        weights[0] = sum = 1;
        patches[0] = p;
        count = 1;
      }
      const k = (j * width + i) * 3;
      for (let l = 0; l < values.length; l++) {
        const [value, light] = [even[l]!, lights[l]!];
        for (let n = 0; n < count; n++) {
          const share = weights[n]! / sum;
          const q = patches[n]! * 3;
          light[k]! += value[q]! * share;
          light[k + 1]! += value[q + 1]! * share;
          light[k + 2]! += value[q + 2]! * share;
        }
      }
    }
  let next = 0;
  return all.map((v) => (v ? lights[next++]! : null));
}

const tent = (way: number, edge: number): number => Math.max(0, 1 - Math.abs(way) / edge);

function nearestOf(list: readonly number[], near: readonly NearPatch[], a: number, b: number): number {
  let [best, least] = [-1, Infinity];
  for (const p of list) {
    const d = (near[p]!.a - a) ** 2 + (near[p]!.b - b) ** 2;
    if (d < least) [best, least] = [p, d];
  }
  return best;
}

/**
 * The patches' light without most of its noise: each takes the mean of those around it that nothing parts from it, as far as they
 * differ by no more than noise does (Tomasi & Manduchi, Bilateral Filtering, 1998). Each list by itself.
 */
function evened(
  near: readonly NearPatch[],
  values: readonly Values[],
  index: CellIndex,
  openings: Openings,
  edge: number,
): Float32Array[] {
  const whole = values.map(({ light }) => Float32Array.from(near, (_, p) => luminanceOf(light, p * 3)));
  const out = values.map(({ light }) => new Float32Array(light.length));
  const far = (EVEN + 0.5) * edge;
  const around = new Int32Array(near.length);
  for (let p = 0; p < near.length; p++) {
    const { column, row, a, b } = near[p]!;
    const guarded = openings.meets(a - far, b - far, a + far, b + far);
    let count = 0;
    for (let v = row - EVEN; v <= row + EVEN; v++)
      for (let u = column - EVEN; u <= column + EVEN; u++)
        for (let q = index.first(u, v); q >= 0; q = index.after(q))
          if (q === p || !guarded || openings.clear(near[q]!.a, near[q]!.b, a, b)) around[count++] = q;
    for (let l = 0; l < values.length; l++) {
      const { light, noise } = values[l]!;
      let [sum, r, g, blue] = [0, 0, 0, 0];
      for (let k = 0; k < count; k++) {
        const q = around[k]!;
        const most = 8 * (noise[p]! ** 2 + noise[q]! ** 2);
        const way = (whole[l]![p]! - whole[l]![q]!) ** 2;
        if (q !== p && way >= most) continue;
        // 1 for no difference, 0 for as much as is let in: as a bell, without its exponential.
        const weight = (near[q]!.area || 1e-9) * (q === p ? 1 : (1 - way / most) ** 2);
        sum += weight;
        r += light[q * 3]! * weight;
        g += light[q * 3 + 1]! * weight;
        blue += light[q * 3 + 2]! * weight;
      }
      out[l]![p * 3] = r / sum;
      out[l]![p * 3 + 1] = g / sum;
      out[l]![p * 3 + 2] = blue / sum;
    }
  }
  return out;
}
