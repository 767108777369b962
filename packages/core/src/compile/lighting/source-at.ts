import type { Brush } from '../../brush/index.ts';
import { type Vec3, type Winding } from '../../math/index.ts';
import { FAR, reachOfSky } from './lights.ts';
import type { Luxels } from './luxels.ts';

/** A place, with the last number 1; or a direction, with 0. */
export type Homogeneous = readonly [number, number, number, number];

/** A light as the tiles of a chart see it. Places are lattice coordinates of the chart, light is lux for a strength of 1. */
export interface SourceAt {
  /** What holds it. */
  readonly points: readonly Homogeneous[];
  /** Light at a place that sees all of it. */
  readonly lux: (a: number, b: number) => number;
  /** Whether nothing that counts comes anywhere within a rectangle. */
  readonly isWeak: (a0: number, b0: number, a1: number, b1: number) => boolean;
  /** Whether the light at the middle of a square tells the mean over it. */
  readonly isFar: (a0: number, b0: number, size: number) => boolean;
  /** Whether not even a few places of a square tell the mean over it: then `over` does. */
  readonly isNear: (a0: number, b0: number, size: number) => boolean;
  /** The mean over a convex polygon that sees all of it. */
  readonly over: (polygon: readonly (readonly [number, number])[]) => number;
  /**
   * Where rays are sent from a place where something may be in the way, the `n`-th of a luxel: fills `targets` with places and the light
   * that comes from each, five numbers, and gives how many. They hold until the next place is aimed from, by whatever light.
   */
  readonly aim: (n: number, a: number, b: number) => number;
  readonly targets: Float64Array;
  /** For what has some size: how it looks from places where something may be in the way. */
  readonly shape?: Shape;
}

/** What of a light can be seen as flat convex faces, past which solids cast their shadows. */
export interface Shape {
  /** Whether it is near enough to a place to be looked at whole; else a few rays tell. */
  readonly isClose: (a: number, b: number) => boolean;
  /** So large that one place of a luxel tells the mean over it. */
  readonly broad?: boolean;
  /** The direction of what is as far away as the sky: `far` cm. Absent of what stands in the world. */
  readonly towards?: Vec3;
  readonly faces: (p: Vec3, far: number) => readonly Winding[];
  /** The light at a place of what {@link faces} are left, by the sum of their pieces: {@link rowLight} with a normal. */
  readonly normal: (p: Vec3) => Vec3;
  readonly light: (a: number, b: number, p: Vec3, sum: number) => number;
}

/** A chart, and how finely it is sampled. */
export type Sampled = Pick<Luxels, 'chart' | 'samples'>;

/**
 * The light that rays from a place to a light's targets bring, of the first `count`; `isStopped` says which meet something before
 * their end. Rays to what is as far away as the sky must go out through a face of it, where there are any.
 */
export function rayLight(
  targets: Float64Array,
  count: number,
  [x, y, z]: Vec3,
  skies: readonly Brush[],
  isStopped: (dx: number, dy: number, dz: number, far: number) => boolean,
): number {
  let seen = 0;
  for (let g = 0; g < count * 5; g += 5) {
    if (targets[g + 4] === 0) continue;
    const w = targets[g + 3]!;
    const dx = targets[g]! - w * x;
    const dy = targets[g + 1]! - w * y;
    const dz = targets[g + 2]! - w * z;
    let far = w ? 1 : FAR;
    if (w === 0 && skies.length > 0) {
      far = reachOfSky(skies, [x, y, z], [dx, dy, dz]);
      if (far < 0) continue;
    }
    if (!isStopped(dx, dy, dz, far)) seen += targets[g + 4]!;
  }
  return seen;
}

/** So many times its edge away, a square's middle tells the mean of a lamp's light over it to a thousandth. */
export const FAR_AWAY = 24;
