import { brushPlanes, type Brush } from '../../brush/index.ts';
import type { Job, KeptResults } from '../../jobs/index.ts';
import { cosSinOf, hashRandom, OFF_SURFACE, type Plane, type Vec3 } from '../../math/index.ts';
import { makeRays } from '../tracing/index.ts';
import { CellIndex } from './cells.ts';
import { inOutline, planeDirections } from './charts.ts';
import { FAR } from './lights.ts';
import { PATCH_LUXELS, type ChartPatches } from './patches.ts';
import { PlaneTable } from './planes.ts';
import { LOST, Veils, type Veil } from './veils.ts';

/** A chart as links see it. */
export interface LinkedChart {
  readonly plane: Plane;
  /** Edge of a luxel, cm. */
  readonly luxel: number;
  readonly outline: readonly (readonly [number, number])[];
  readonly patches: ChartPatches;
}

/** Where links end that end on no patch. */
export const NOWHERE = -1;
export const OUTSIDE = -2;

export interface LinksInput {
  readonly brushes: readonly Brush[];
  readonly veils: readonly Veil[];
  readonly charts: readonly LinkedChart[];
  /** Links a patch. */
  readonly count: number;
}

/** Patches a shard. */
const SHARD = 256;

/**
 * Traces links: from each patch so many rays, spread by the cosine law (every one then carries the same share of what comes in), to
 * the patches they meet, told by their places in the list of all charts' patches. As many of those that meet a veil end on it as it
 * covers of what is behind it. They depend on the solids and surfaces alone: whatever shines, all its bounces are sums over them.
 */
export const linksJob: Job<LinksInput, LinksInput, number, Int32Array, readonly Int32Array[]> = {
  name: 'links',
  cut: (input) => ({ shared: input, items: [...input.charts.keys()] }),
  shard: SHARD,
  weight: () => 8,
  names: (shared, hash) => {
    const all = nameOfLinks(shared, hash);
    return (chart) => `${all} ${chart}`;
  },
  prepare: makeLinker,
  merge: (_, results) => results,
  memory: (links) => [links.buffer],
};

/** Names all that links depend on. */
export const nameOfLinks = ({ brushes, veils, charts, count }: LinksInput, hash: KeptResults['hash']): string =>
  hash(
    JSON.stringify([
      count,
      brushes.map(({ vertices, faces }) => [vertices, faces.map(({ loop, show }) => [loop, show])]),
      veils,
      charts.map(({ plane, luxel, outline, patches }) => [
        plane,
        luxel,
        outline,
        [...patches.area],
        [...patches.origins],
      ]),
    ]),
  );

/** Low-discrepancy points in a square (Roberts, The Unreasonable Effectiveness of Quasirandom Sequences, 2018). */
const STEP_U = 0.7548776662466927;
const STEP_V = 0.5698402909980532;

/** Patches in a row, and rows, that share a sequence. */
const TURNS = 3;

function makeLinker({ brushes, veils: some, charts, count }: LinksInput): (chart: number) => Int32Array {
  const rays = makeRays(brushes);
  const veils = new Veils(some);
  const patchAt = makeLookup([...brushes, ...some.map((v) => v.brush)], charts);
  const batch = new Float64Array(count * 7);
  const solids = new Int32Array(count);
  const at = new Float64Array(count);
  return (chart) => {
    const { plane, patches } = charts[chart]!;
    const { normal, distance } = plane;
    const { s, t } = planeDirections(normal);
    const { area, cells, originFirst, origins } = patches;
    const links = new Int32Array(area.length * count);
    const raised = distance + OFF_SURFACE;
    // The same for a chart wherever in the list it is: what is built elsewhere does not change its links.
    const seed = [Math.round(distance * 8), Math.round((normal[0] + 2 * normal[1] + 4 * normal[2]) * 64)] as const;
    const ways = waysOf(hashRandom(...seed, 1), hashRandom(...seed, 2), count, [s, t, normal]);
    for (let p = 0; p < area.length; p++) {
      // Neighbours take turns in one sequence, so that several of them together are as even as one with all their links.
      const turn = modulo(cells[p * 2]!, TURNS) * TURNS + modulo(cells[p * 2 + 1]!, TURNS);
      const from = originFirst[p]!;
      const starts = originFirst[p + 1]! - from;
      for (let k = 0; k < count; k++) {
        const o = (from + (k % starts)) * 2;
        const a = origins[o]!;
        const b = origins[o + 1]!;
        const way = (turn * count + k) * 3;
        const to = k * 7;
        for (let c = 0; c < 3; c++) {
          batch[to + c] = s[c]! * a + t[c]! * b + normal[c]! * raised;
          batch[to + 3 + c] = ways[way + c]!;
        }
        batch[to + 6] = FAR;
      }
      rays.firstHits(batch, count, solids, at);
      for (let k = 0; k < count; k++) {
        const end = endIn(veils, batch, k * 7, at[k]!, () => hashRandom(...seed, p * count + k, 3));
        if (end === LOST) links[p * count + k] = OUTSIDE;
        else if (end) links[p * count + k] = patchAt(brushes.length + end.veil, batch, k * 7, end.at);
        else links[p * count + k] = solids[k]! < 0 ? OUTSIDE : patchAt(solids[k]!, batch, k * 7, at[k]!);
      }
    }
    return links;
  };
}

/** Where a ray ends before `far` in a veil, by a chance. */
function endIn(
  veils: Veils,
  rays: Float64Array,
  ray: number,
  far: number,
  chance: () => number,
): ReturnType<Veils['ends']> {
  const [ox, oy, oz] = [rays[ray]!, rays[ray + 1]!, rays[ray + 2]!];
  const [dx, dy, dz] = [rays[ray + 3]!, rays[ray + 4]!, rays[ray + 5]!];
  return veils.mayMeet(ox, oy, oz, dx, dy, dz, far) ? veils.ends([ox, oy, oz], [dx, dy, dz], far, chance()) : null;
}

/** Directions by the cosine law about the last of three axes: for each turn so many, three numbers each. */
function waysOf(shiftU: number, shiftV: number, count: number, [s, t, up]: readonly [Vec3, Vec3, Vec3]): Float64Array {
  const out = new Float64Array(TURNS * TURNS * count * 3);
  for (let turn = 0; turn < TURNS * TURNS; turn++)
    for (let k = 0; k < count; k++) {
      const n = k * TURNS * TURNS + turn;
      const u = frac(shiftU + n * STEP_U);
      const [cos, sin] = cosSinOf(2 * Math.PI * frac(shiftV + n * STEP_V));
      const flat = Math.sqrt(u);
      for (let c = 0; c < 3; c++)
        out[(turn * count + k) * 3 + c] = s[c]! * flat * cos + t[c]! * flat * sin + up[c]! * Math.sqrt(1 - u);
    }
  return out;
}

const frac = (x: number): number => x - Math.floor(x);
const modulo = (x: number, n: number): number => ((x % n) + n) % n;

/** Patches of one plane and one size. */
interface Layer {
  /** Edge of a patch, cm. */
  readonly edge: number;
  readonly index: CellIndex;
  /** Places in the list of all patches, and charts, of what is in the index. */
  readonly patches: readonly number[];
  readonly charts: readonly number[];
  /** Whether its cell lies all within the outline of its chart: 1. */
  readonly whole: Uint8Array;
}

/** Tells the patch in which a ray ends that meets a solid at a parameter. */
function makeLookup(
  brushes: readonly Brush[],
  charts: readonly LinkedChart[],
): (solid: number, rays: Float64Array, ray: number, at: number) => number {
  const table = new PlaneTable();
  const layers = layersOf(charts, table);
  const faceFirst = new Int32Array(brushes.length + 1);
  brushes.forEach(({ faces }, i) => (faceFirst[i + 1] = faceFirst[i]! + faces.length));
  const planes = Float64Array.from(
    brushes.flatMap((brush) => brushPlanes(brush).flatMap(({ normal, distance }) => [...normal, distance])),
  );
  /** Of each face what lies in its plane; made when it is first met. */
  const faces: (Target | undefined)[] = new Array<undefined>(faceFirst[brushes.length]!);
  const targetOf = (solid: number, face: number): Target => {
    const plane = brushPlanes(brushes[solid]!)[face]!;
    const show = brushes[solid]!.faces[face]!.show;
    if (show === 'sky') return OPEN;
    const own = show === 'unseen' ? -1 : table.find(plane);
    return own < 0 ? HIDDEN : { otherwise: NOWHERE, ...planeDirections(plane.normal), layers: layers[own]! };
  };
  return (solid, rays, ray, at) => {
    // Inside a solid, or so near that rounding decides: nothing is known of where it ends.
    if (at <= 0) return NOWHERE;
    const [ox, oy, oz] = [rays[ray]!, rays[ray + 1]!, rays[ray + 2]!];
    const [dx, dy, dz] = [rays[ray + 3]!, rays[ray + 4]!, rays[ray + 5]!];
    let entered = -1;
    let near = -Infinity;
    for (let f = faceFirst[solid]!; f < faceFirst[solid + 1]!; f++) {
      const q = f * 4;
      const slope = planes[q]! * dx + planes[q + 1]! * dy + planes[q + 2]! * dz;
      if (slope >= 0) continue;
      const t = (planes[q + 3]! - planes[q]! * ox - planes[q + 1]! * oy - planes[q + 2]! * oz) / slope;
      if (t > near) {
        entered = f;
        near = t;
      }
    }
    if (entered < 0) return NOWHERE;
    const { s, t, layers: own, otherwise } = (faces[entered] ??= targetOf(solid, entered - faceFirst[solid]!));
    const x = ox + dx * near;
    const y = oy + dy * near;
    const z = oz + dz * near;
    const a = s[0] * x + s[1] * y + s[2] * z;
    const b = t[0] * x + t[1] * y + t[2] * z;
    for (let l = 0; l < own.length; l++) {
      const { edge, index, patches, charts: of, whole } = own[l]!;
      // Where a wall stands on a plane a cell may hold places of both sides, and a patch of one of them alone: nothing is known of the other.
      for (let item = index.first(Math.floor(a / edge), Math.floor(b / edge)); item >= 0; item = index.after(item))
        if (whole[item] || inOutline(charts[of[item]!]!.outline, a, b)) return patches[item]!;
    }
    return otherwise;
  };
}

/** What may be met in a face: patches, with the directions of their lattice, or none. */
interface Target {
  readonly s: Vec3;
  readonly t: Vec3;
  readonly layers: readonly Layer[];
  /** Where a link ends that meets none. */
  readonly otherwise: number;
}
const OPEN: Target = { s: [0, 0, 0], t: [0, 0, 0], layers: [], otherwise: OUTSIDE };
const HIDDEN: Target = { ...OPEN, otherwise: NOWHERE };

/** By plane: the patches in it, apart by size. */
function layersOf(charts: readonly LinkedChart[], table: PlaneTable): Layer[][] {
  const found: Map<number, { cells: number[]; patches: number[]; charts: number[] }>[] = [];
  let first = 0;
  charts.forEach(({ plane, luxel, patches }, chart) => {
    const sizes = (found[table.add(plane)] ??= new Map<
      number,
      { cells: number[]; patches: number[]; charts: number[] }
    >());
    let layer = sizes.get(luxel);
    if (!layer) sizes.set(luxel, (layer = { cells: [], patches: [], charts: [] }));
    for (let p = 0; p < patches.area.length; p++) {
      layer.cells.push(patches.cells[p * 2]!, patches.cells[p * 2 + 1]!);
      layer.patches.push(first + p);
      layer.charts.push(chart);
    }
    first += patches.area.length;
  });
  return found.map((sizes) =>
    [...sizes].map(([luxel, { cells, patches, charts: of }]) => ({
      edge: luxel * PATCH_LUXELS,
      index: new CellIndex(cells),
      patches,
      charts: of,
      whole: Uint8Array.from(of, (chart, i) => {
        const [a, b] = [cells[i * 2]!, cells[i * 2 + 1]!];
        const within = (u: number, v: number) =>
          inOutline(charts[chart]!.outline, u * luxel * PATCH_LUXELS, v * luxel * PATCH_LUXELS);
        return Number(within(a, b) && within(a + 1, b) && within(a, b + 1) && within(a + 1, b + 1));
      }),
    })),
  );
}
