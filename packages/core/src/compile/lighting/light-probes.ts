import { brushBounds, type Brush } from '../../brush/index.ts';
import { uniteBoxes, type Box, type Vec3 } from '../../math/index.ts';
import type { Structure } from '../structure/index.ts';
import type { LightingInput } from './input.ts';
import type { LightFinder } from './light-finder.ts';

/**
 * The light at places all over a map, from every side: for what moves, and for what has no light of its own. It lies on a lattice, twice as
 * dense where light changes.
 */
export interface LightProbes {
  /** Edge of a square of the lattice, cm: probes lie at even places of it, and at odd ones where light changes. */
  readonly step: number;
  /** Places on the lattice. 3 a probe */
  readonly place: Int32Array;
  /** Coefficients of the light in red, green and blue, lux: those of one colour are three apart. 27 a probe */
  readonly light: Float32Array;
  /** What lamps that play can switch add, by the order of `lamps`: of lamp `i` those of `lampFirst[i] … lampFirst[i + 1]`. */
  readonly lamps: readonly string[];
  readonly lampFirst: Uint32Array;
  /** The probe that a lamp adds to. */
  readonly lampProbe: Uint32Array;
  /** As if its light were white, at full strength: lux on what faces it, and the way to it. 4 */
  readonly lampLight: Float32Array;
}

/** Half of the way between probes where light changes little, cm. */
const STEP = 64;

/** More are not made: they lie farther apart instead. */
const MOST = 12_000;

/** Neighbours whose light differs by more than this factor have probes between them. */
const CHANGES = 1.7;

/** No probes at all. */
export const NO_PROBES: LightProbes = {
  step: STEP,
  place: new Int32Array(0),
  light: new Float32Array(0),
  lamps: [],
  lampFirst: new Uint32Array(1),
  lampProbe: new Uint32Array(0),
  lampLight: new Float32Array(0),
};

/** Finds the light at probes all over the inside of a map that was lit. */
export function lightProbes({ structure, brushes }: LightingInput, finder: LightFinder): LightProbes {
  const bounds = insideOf(structure, brushes);
  if (!bounds) return NO_PROBES;
  const step = stepFor(bounds);
  const found = new Map<string, number>();
  const places: number[] = [];
  const light: number[] = [];
  const brightness: number[] = [];
  /** The probe at a place of the lattice, found when it is first asked for; −1 where none can be. */
  const probeAt = (i: number, j: number, k: number): number => {
    const key = `${i} ${j} ${k}`;
    let n = found.get(key);
    if (n !== undefined) return n;
    const p: Vec3 = [i * step, j * step, k * step];
    const at = finder.isOpen(p) ? finder.at(p) : null;
    n = at ? places.length / 3 : -1;
    found.set(key, n);
    if (!at) return n;
    places.push(i, j, k);
    light.push(...at);
    brightness.push(at[0]! + at[1]! + at[2]!);
    return n;
  };
  const even = (from: number, to: number) => {
    const out: number[] = [];
    for (let k = Math.floor(from / step / 2); k <= Math.ceil(to / step / 2); k++) out.push(k * 2);
    return out;
  };
  const [xs, ys, zs] = [0, 1, 2].map((k) => even(bounds.min[k]!, bounds.max[k]!)) as [number[], number[], number[]];
  for (const k of zs) for (const j of ys) for (const i of xs) probeAt(i, j, k);
  // Between neighbours of which one is much brighter, or where one of them lies in a wall.
  const coarse = places.length / 3;
  for (let n = 0; n < coarse && places.length / 3 < MOST; n++) {
    const [i, j, k] = [places[n * 3]!, places[n * 3 + 1]!, places[n * 3 + 2]!];
    for (const [a, b, c] of AXES) {
      const other = found.get(`${i + a * 2} ${j + b * 2} ${k + c * 2}`) ?? -1;
      if (other < 0) {
        // Narrow places may lie between the even ones.
        probeAt(i + a, j + b, k + c);
        continue;
      }
      const [one, two] = [brightness[n]!, brightness[other]!];
      if (Math.max(one, two) < CHANGES * Math.min(one, two)) continue;
      for (let u = -1; u <= 1; u++)
        for (let v = -1; v <= 1; v++)
          if (a) probeAt(i + a, j + u, k + v);
          else if (b) probeAt(i + u, j + b, k + v);
          else probeAt(i + u, j + v, k + c);
    }
  }
  const count = places.length / 3;
  return {
    step,
    place: Int32Array.from(places),
    light: Float32Array.from(light),
    ...finder.lampsAt(
      Array.from({ length: count }, (_, n): Vec3 => [
        places[n * 3]! * step,
        places[n * 3 + 1]! * step,
        places[n * 3 + 2]! * step,
      ]),
    ),
  };
}

const AXES = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
] as const;

/** What the inside fills, as far as there are brushes. */
function insideOf({ cells }: Structure, brushes: readonly Brush[]): Box | null {
  const inside = cells.filter((c) => c.inside);
  if (inside.length === 0 || brushes.length === 0) return null;
  const [a, b] = [uniteBoxes(inside.map((c) => c.bounds)), uniteBoxes(brushes.map(brushBounds))];
  const each = (f: (k: number) => number) => [0, 1, 2].map(f) as unknown as Vec3;
  return { min: each((k) => Math.max(a.min[k]!, b.min[k]!)), max: each((k) => Math.min(a.max[k]!, b.max[k]!)) };
}

/** Probes lie twice as far apart for as long as there would be too many. */
function stepFor({ min, max }: Box): number {
  let step = STEP;
  const count = () => [0, 1, 2].reduce((n, k) => n * Math.max(1, (max[k]! - min[k]!) / (2 * step)), 1);
  while (count() > MOST) step *= 2;
  return step;
}
