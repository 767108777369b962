import { brushBounds, brushPlanes, type Brush } from '../../brush/index.ts';
import {
  boxOf,
  boxesOverlap,
  growBox,
  signedDistance,
  smoothStep,
  uniteBoxes,
  type Box,
  type Plane,
  type Vec3,
} from '../../math/index.ts';
import { chartPoint, GUTTER, type Chart } from './charts.ts';
import type { LitChart } from './direct-job.ts';
import type { EvenLight, OfThing } from './lights.ts';

/** Even light of a region, ready to be asked about. */
export interface EvenRegion {
  readonly light: OfThing<EvenLight>;
  readonly solids: readonly (readonly Plane[])[];
  /** All that its light comes to. */
  readonly bounds: Box;
}

/** The regions of even light that have some brushes, in the order in which they count. */
export const evenRegions = (
  evens: readonly OfThing<EvenLight>[],
  region: (thing: string) => readonly Brush[],
): EvenRegion[] =>
  evens.flatMap((light): EvenRegion[] => {
    const brushes = region(light.thing);
    if (brushes.length === 0) return [];
    const bounds = growBox(uniteBoxes(brushes.map(brushBounds)), light.edge);
    return [{ light, solids: brushes.map(brushPlanes), bounds }];
  });

/** How much of a region's light there is at a place: all within, less and less beyond, as a cubic without a seam at either end. */
export function evenShare({ light, solids }: EvenRegion, p: Vec3): number {
  let off = Infinity;
  for (const planes of solids) {
    let out = -Infinity;
    for (const plane of planes) out = Math.max(out, signedDistance(plane, p));
    off = Math.min(off, out);
  }
  // On a wall that a region's brush ends at one is within it.
  if (off <= ON_IT) return 1;
  if (off >= light.edge) return 0;
  return smoothStep(1 - off / light.edge);
}

const ON_IT = 0.05;

/** How the even light on a chart's luxels is shared: what is left to that of the map, and each region's part, null for none. */
export interface EvenShares {
  readonly rest: Float32Array;
  readonly regions: readonly (Float32Array | null)[];
}

export function evenShares(chart: Chart, { open, spots }: LitChart, regions: readonly EvenRegion[]): EvenShares {
  const rest = Float32Array.from(open);
  const bounds = growBox(boxOf(chart.surface.winding), GUTTER * chart.size);
  const shares: (Float32Array | null)[] = [];
  for (const region of regions) {
    const own = boxesOverlap(region.bounds, bounds) ? new Float32Array(open.length) : null;
    for (let k = 0; own && k < open.length; k++) {
      if (!open[k]) continue;
      const share = evenShare(region, chartPoint(chart, spots[k * 2]!, spots[k * 2 + 1]!));
      if (share === 0) continue;
      rest[k]! *= 1 - share;
      for (const before of shares) if (before) before[k]! *= 1 - share;
      own[k] = share;
    }
    shares.push(own);
  }
  return { rest, regions: shares.map((own) => (own?.some((s) => s > 0) ? own : null)) };
}
