import { HARMONICS, harmonics, type Vec3 } from '../../math/index.ts';
import type { Level } from './level.ts';
import { levelSees } from './sight.ts';
import { levelCell, SOLID } from './space.ts';

/** Nine coefficients of red, green and blue light, lux: those of one colour lie three apart. */
export type ProbeLight = Float32Array;

const SIZE = HARMONICS * 3;

/** On the way to a probe a wall is looked for in so many places. */
const LOOKS = 8;

/** Fine probes are enough by themselves when they have this much of all weight. */
const ENOUGH = 0.3;

/** The light of a level for what moves, anywhere in it. */
export interface LevelProbes {
  /** Puts the light at a place into `out`, as lamps that can be switched shine now (shares of their strength); false where nothing is known. */
  readonly lightAt: (p: Vec3, shares: ReadonlyMap<string, number>, out: ProbeLight) => boolean;
}

/** Looks up the light at places between probes, of those only that no wall hides. */
export function makeLevelProbes(level: Level): LevelProbes {
  const { probeStep: step, probeLamps, layers } = level.meta;
  const { probePlace, probeLight, probeLampFirst, probeLamp, probeLampLight } = level;
  const count = probePlace.length / 3;
  const places = new Map<string, number>();
  for (let n = 0; n < count; n++)
    places.set(`${probePlace[n * 3]} ${probePlace[n * 3 + 1]} ${probePlace[n * 3 + 2]}`, n);
  const cells = new Map<number, number>();
  const place = (n: number): Vec3 => [0, 1, 2].map((k) => probePlace[n * 3 + k]! * step) as unknown as Vec3;
  const cellOf = (n: number): number => {
    let cell = cells.get(n);
    if (cell === undefined) cells.set(n, (cell = levelCell(level, place(n))));
    return cell;
  };
  /** What each lamp adds, by probe. */
  const ofProbe = new Map<number, { lamp: number; at: number }[]>();
  probeLamps.forEach((_, lamp) => {
    for (let k = probeLampFirst[lamp]!; k < probeLampFirst[lamp + 1]!; k++) {
      const list = ofProbe.get(probeLamp[k]!);
      if (list) list.push({ lamp, at: k * 4 });
      else ofProbe.set(probeLamp[k]!, [{ lamp, at: k * 4 }]);
    }
  });
  const tints = probeLamps.map((thing) => layers.find((l) => l.thing === thing)?.tint ?? [0, 0, 0]);
  const isClear = (p: Vec3, cell: number, n: number): boolean => {
    if (cell >= 0 && cellOf(n) >= 0 && !levelSees(level, cell, cellOf(n))) return false;
    const to = place(n);
    for (let k = 1; k < LOOKS; k++) {
      const t = k / LOOKS;
      if (
        levelCell(
          level,
          [0, 1, 2].map((a) => p[a]! + (to[a]! - p[a]!) * t),
        ) === SOLID
      )
        return false;
    }
    return true;
  };
  const basis = new Float64Array(HARMONICS);
  const add = (n: number, weight: number, shares: ReadonlyMap<string, number>, out: ProbeLight): void => {
    for (let k = 0; k < SIZE; k++) out[k]! += probeLight[n * SIZE + k]! * weight;
    for (const { lamp, at } of ofProbe.get(n) ?? []) {
      const share = (shares.get(probeLamps[lamp]!) ?? 0) * weight * probeLampLight[at]!;
      if (share === 0) continue;
      harmonics(probeLampLight[at + 1]!, probeLampLight[at + 2]!, probeLampLight[at + 3]!, basis);
      for (let k = 0; k < HARMONICS; k++)
        for (let c = 0; c < 3; c++) out[k * 3 + c]! += basis[k]! * share * tints[lamp]![c]!;
    }
  };
  /** Of the corners of the square of the lattice, `wide` places wide, that a place lies in: those that no wall hides, with their weights. */
  const corners = (p: Vec3, cell: number, wide: number): { n: number; weight: number; fine: boolean }[] => {
    const at = p.map((c) => c / step / wide);
    const low = at.map(Math.floor);
    const found: { n: number; weight: number; fine: boolean }[] = [];
    for (let corner = 0; corner < 8; corner++) {
      let weight = 1;
      const key = [0, 1, 2].map((k) => {
        const high = (corner >> k) & 1;
        const part = at[k]! - low[k]!;
        weight *= high ? part : 1 - part;
        return (low[k]! + high) * wide;
      });
      const n = places.get(key.join(' '));
      // A probe just at a face of the square counts a little, so that a place on it is not without any.
      if (n !== undefined && isClear(p, cell, n))
        found.push({ n, weight: weight + 1e-4, fine: key.some((k) => k % 2 !== 0) });
    }
    return found;
  };
  return {
    lightAt: (p, shares, out) => {
      const cell = levelCell(level, p);
      const fine = corners(p, cell, 1);
      const all = (list: readonly { weight: number }[]) => list.reduce((sum, c) => sum + c.weight, 0);
      const used = fine.some((c) => c.fine) && all(fine) > ENOUGH ? fine : corners(p, cell, 2);
      const chosen = used.length > 0 ? used : fine;
      if (chosen.length === 0) return false;
      out.fill(0);
      const sum = all(chosen);
      for (const { n, weight } of chosen) add(n, weight / sum, shares, out);
      return true;
    },
  };
}
