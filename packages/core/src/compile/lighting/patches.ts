import { countOnes } from '../visibility/index.ts';
import { clipRectangle, GUTTER, nearestInOutline } from './charts.ts';
import type { Direct } from './direct.ts';
import { isSampled, samplePlace, spotOf, withinOf, type Luxels } from './luxels.ts';
import type { Openings } from './openings.ts';

/** Luxels along an edge of a patch. */
export const PATCH_LUXELS = 2;

/** Places of a patch from which its links start, at most. */
const ORIGINS = 16;

/**
 * The patches of a chart: squares of its lattice, several luxels wide, as far as they are open. What bounces is the same all over one.
 * All arrays are in the order of the patches, those with a number behind so many a patch.
 */
export interface ChartPatches {
  /** Column and row of the lattice of patches. 2 */
  readonly cells: Int32Array;
  /** Open area, cm². */
  readonly area: Float32Array;
  /** Middle of what is open, in lattice coordinates. 2 */
  readonly centre: Float32Array;
  /** Places that links start from: those of patch `i` are `originFirst[i] … originFirst[i + 1]`. */
  readonly originFirst: Int32Array;
  /** Lattice coordinates. 2 an origin */
  readonly origins: Float32Array;
}

/** Cuts a chart into patches; with the mean of what falls on each of each light. */
export function patchesOf(
  luxels: Luxels,
  openings: Openings,
  lights: readonly Pick<Direct, 'share' | 'surface'>[],
): { readonly patches: ChartPatches; readonly means: readonly Float32Array[] } {
  const { chart, width, height, samples, within } = luxels;
  const open = Float64Array.from(luxels.area, (_, k) => openArea(luxels, k % width, Math.floor(k / width)));
  const { size, s0, t0 } = chart;
  const cellOf = (from: number, i: number) => Math.floor((from + i - GUTTER) / PATCH_LUXELS);
  const [c0, r0] = [cellOf(s0, 0), cellOf(t0, 0)];
  const columns = cellOf(s0, width - 1) - c0 + 1;
  const rows = cellOf(t0, height - 1) - r0 + 1;
  const members: number[][] = Array.from({ length: columns * rows }, () => []);
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width; i++)
      if (open[j * width + i]! > 0) members[(cellOf(t0, j) - r0) * columns + cellOf(s0, i) - c0]!.push(j * width + i);
  const cells: number[] = [];
  const areas: number[] = [];
  const centre: number[] = [];
  const originFirst = [0];
  const origins: number[] = [];
  const means = lights.map((): number[] => []);
  const close = (list: readonly number[], m: number) => {
    const places: number[] = [];
    let [sum, a, b] = [0, 0, 0];
    for (const k of list) {
      const [i, j] = [k % width, Math.floor(k / width)];
      const own = open[k]!;
      const before = places.length;
      for (let n = 0; n < samples * samples; n++)
        if (within[k]! & (1 << n))
          places.push(
            samplePlace(s0, i, n % samples, samples, size),
            samplePlace(t0, j, Math.floor(n / samples), samples, size),
          );
      // A part of the surface between the places that are sampled: its own middle.
      if (places.length === before) places.push(...middleOf(luxels, i, j));
      const count = (places.length - before) / 2;
      for (let p = before; p < places.length; p += 2) {
        a += (places[p]! * own) / count;
        b += (places[p + 1]! * own) / count;
      }
      sum += own;
    }
    cells.push(c0 + (m % columns), r0 + Math.floor(m / columns));
    areas.push(sum);
    centre.push(a / sum, b / sum);
    const count = places.length / 2;
    const taken = Math.min(ORIGINS, count);
    for (let n = 0; n < taken; n++) {
      const p = Math.floor(((n + 0.5) * count) / taken) * 2;
      origins.push(places[p]!, places[p + 1]!);
    }
    originFirst.push(origins.length / 2);
    lights.forEach(({ share, surface }, l) => {
      let falls = 0;
      for (const k of list) falls += ((surface.get(k) ?? share[k]!) * open[k]!) / sum;
      means[l]!.push(falls);
    });
  };
  members.forEach((list, m) => {
    for (const part of openings.none ? [list] : connected(luxels, openings, list)) if (part.length) close(part, m);
  });
  const patches = {
    cells: Int32Array.from(cells),
    area: Float32Array.from(areas),
    centre: Float32Array.from(centre),
    originFirst: Int32Array.from(originFirst),
    origins: Float32Array.from(origins),
  };
  return { patches, means: means.map((m) => Float32Array.from(m)) };
}

/** Parts a list of luxels where something stands between them: what bounces on one side of it does not on the other. */
function connected(luxels: Luxels, openings: Openings, list: readonly number[]): number[][] {
  const parts: number[][] = [];
  for (const k of list) {
    const own = spotOf(luxels, k);
    const [joined, apart] = [[k], [] as number[][]];
    for (const part of parts)
      if (part.some((m) => openings.clear(...spotOf(luxels, m), ...own))) joined.push(...part);
      else apart.push(part);
    parts.splice(
      0,
      parts.length,
      ...apart,
      joined.sort((a, b) => a - b),
    );
  }
  return parts;
}

/** How much of a luxel is surface that is open, cm². */
function openArea(luxels: Luxels, i: number, j: number): number {
  const { chart, width, samples, within, area, mask } = luxels;
  const k = j * width + i;
  const all = (1 << (samples * samples)) - 1;
  if (area[k] === 0 || mask[k] === all) return area[k]!;
  const on = withinOf(chart.outline, chart.s0, chart.t0, i, j, samples, chart.size);
  // Of a part between the places that are sampled nothing says that it is covered, but that nothing else of the luxel is open.
  return on === 0 ? (isSampled(luxels, k) ? area[k]! : 0) : (area[k]! * countOnes(within[k]!)) / countOnes(on);
}

/** The middle of the part of a luxel that is surface. */
function middleOf({ chart }: Luxels, i: number, j: number): readonly [number, number] {
  const { size, s0, t0, outline } = chart;
  const [a, b] = [(s0 + i - GUTTER) * size, (t0 + j - GUTTER) * size];
  const part = clipRectangle(outline, a, b, a + size, b + size);
  const mean = (c: 0 | 1) => part.reduce((sum, p) => sum + p[c], 0) / part.length;
  return nearestInOutline(outline, mean(0), mean(1));
}
