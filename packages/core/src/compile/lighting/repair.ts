import { GUTTER, nearestInOutline } from './charts.ts';
import { isSampled, type Luxels } from './luxels.ts';
import type { Openings } from './openings.ts';

/** A luxel that takes the mean of others: of those that are lit, or that came before it in the list. */
export interface Repair {
  readonly luxel: number;
  readonly from: readonly number[];
}

const AROUND = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
] as const;

/**
 * Luxels wholly inside solids take the mean of lit neighbours from which a clear way leads to them (up to the very solid
 * they lie in), so that light never creeps through a wall. Those that nothing clear leads to take the nearest value: they
 * are never seen, and only filtering reads them.
 */
export function repairsOf(luxels: Luxels, openings: Openings): Repair[] {
  const { chart, width, height } = luxels;
  const valid = Uint8Array.from({ length: width * height }, (_, k) =>
    !luxels.used[k] || isSampled(luxels, k) ? 1 : 0,
  );
  let left = valid.reduce((n, v) => n + (v ? 0 : 1), 0);
  const spots = new Map<number, readonly [number, number]>();
  const spot = (k: number): readonly [number, number] => {
    const known = spots.get(k);
    if (known) return known;
    const [x, y] = [k % width, Math.floor(k / width)].map((c) => c - GUTTER + 0.5) as [number, number];
    const near = nearestInOutline(chart.outline, (chart.s0 + x) * chart.size, (chart.t0 + y) * chart.size);
    spots.set(k, near);
    return near;
  };
  const repairs: Repair[] = [];
  for (let strict = true; left > 0;) {
    const round: Repair[] = [];
    for (let k = 0; k < valid.length; k++) {
      if (valid[k]) continue;
      const from = AROUND.flatMap(([dx, dy]) => {
        const x = (k % width) + dx;
        const y = Math.floor(k / width) + dy;
        const m = y * width + x;
        if (x < 0 || y < 0 || x >= width || y >= height || !valid[m] || !luxels.used[m]) return [];
        return strict && !openings.clear(...spot(m), ...spot(k), true) ? [] : [m];
      });
      if (from.length) round.push({ luxel: k, from });
    }
    if (round.length === 0) {
      if (!strict) break;
      strict = false;
      continue;
    }
    for (const { luxel } of round) valid[luxel] = 1;
    repairs.push(...round);
    left -= round.length;
  }
  return repairs;
}

/** Fills luxels that lie in solids from their neighbours: three floats a luxel. */
export function repair(light: Float32Array, repairs: readonly Repair[]): void {
  for (const { luxel, from } of repairs)
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (const k of from) sum += light[k * 3 + c]!;
      light[luxel * 3 + c] = sum / from.length;
    }
}
