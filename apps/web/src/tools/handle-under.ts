import { cross, dot, length, sub, type Vec3 } from '@yesca/core';
import { toScreen } from '../geometry/projection.ts';
import type { PanePointer } from './tool.ts';

/** On a drawing handles are taken within so many pixels, in Eye within so many radians of the line of sight: about as far. */
const REACH = { pixels: 9, radians: 0.022 };

/** How far a place is from the pointer, as a share of the reach within which it is taken: over one is too far. */
export function reachTo(p: PanePointer, at: Vec3): number {
  if (p.view) {
    const [x, y] = toScreen(p.view, at);
    return Math.hypot(x - p.x, y - p.y) / REACH.pixels;
  }
  if (!p.ray) return Infinity;
  const to = sub(at, p.ray.from);
  const along = dot(to, p.ray.towards);
  return along <= 0 ? Infinity : length(cross(to, p.ray.towards)) / along / REACH.radians;
}

/** The handle nearest to the pointer, of those within reach; null for none. The first of equals is taken. */
export function handleUnder<H extends { readonly at: Vec3 }>(p: PanePointer, all: readonly H[]): H | null {
  let best: H | null = null;
  let least = 1;
  for (const handle of all) {
    const reach = reachTo(p, handle.at);
    if (reach < least) [best, least] = [handle, reach];
  }
  return best;
}
