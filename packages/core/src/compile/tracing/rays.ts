import type { Brush } from '../../brush/index.ts';
import { kernelRays } from './kernel.ts';
import { anyHit, firstHit, makeTracer } from './tracer.ts';

/**
 * Rays against solids, many of them. Origins in cm; directions of any length; parameters from 0 to `far`. A solid that is only
 * touched is not met; one that holds the origin is met at 0. Solids are told by their place in the list they were made from.
 */
export interface Rays {
  readonly brushes: readonly Brush[];
  readonly anyHit: (ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, far: number) => boolean;
  /** The solid met first, or −1. */
  readonly firstHit: (ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, far: number) => number;
  /** The parameter of what `firstHit` met last. */
  readonly lastHitAt: () => number;
  /** Seven numbers a ray: origin, direction, `far`. 1 in `hits` for those that meet anything. */
  readonly anyHits: (rays: Float64Array, count: number, hits: Uint8Array) => void;
  /** The solids met first, or −1, and the parameters. */
  readonly firstHits: (rays: Float64Array, count: number, solids: Int32Array, at: Float64Array) => void;
}

/** Rays by the kernel; by the plain tracer, which is some ten times as slow, where it cannot start. */
export const makeRays = (brushes: readonly Brush[]): Rays => kernelRays(brushes) ?? plainRays(brushes);

/** Rays by the plain tracer, in 64-bit floats: what the kernel is tested against. */
export function plainRays(brushes: readonly Brush[]): Rays {
  const tracer = makeTracer(brushes);
  const places = new Map(brushes.map((brush, i) => [brush, i]));
  let at = 0;
  const rays: Rays = {
    brushes,
    anyHit: (ox, oy, oz, dx, dy, dz, far) => anyHit(tracer, ox, oy, oz, dx, dy, dz, far),
    firstHit: (ox, oy, oz, dx, dy, dz, far) => {
      const hit = firstHit(tracer, [ox, oy, oz], [dx, dy, dz], far);
      at = hit ? hit.at : far;
      return hit ? places.get(hit.brush)! : -1;
    },
    lastHitAt: () => at,
    anyHits: (list, count, hits) => {
      for (let i = 0; i < count; i++) {
        const [ox, oy, oz, dx, dy, dz, far] = list.subarray(i * 7, i * 7 + 7) as unknown as Seven;
        hits[i] = rays.anyHit(ox, oy, oz, dx, dy, dz, far) ? 1 : 0;
      }
    },
    firstHits: (list, count, solids, out) => {
      for (let i = 0; i < count; i++) {
        const [ox, oy, oz, dx, dy, dz, far] = list.subarray(i * 7, i * 7 + 7) as unknown as Seven;
        solids[i] = rays.firstHit(ox, oy, oz, dx, dy, dz, far);
        out[i] = at;
      }
    },
  };
  return rays;
}

type Seven = readonly [number, number, number, number, number, number, number];
