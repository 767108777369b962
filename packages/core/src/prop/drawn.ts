import { BrushError, hullOf, type Solid } from '../brush/index.ts';
import type { Vec3 } from '../math/index.ts';

/** So many solids may be drawn for a prop to collide as, each of so many corners. */
export const DRAWN_LIMITS = { solids: 64, corners: 128 } as const;

/** The solids that were drawn for a prop, each told by its corners: their hulls. Throws `BrushError` where corners hold nothing between them. */
export function drawnSolids(corners: readonly (readonly Vec3[])[]): Solid[] {
  return corners.map((points) => {
    if (points.length < 4) throw new BrushError('brush.flat', 'A solid has four corners or more.');
    return hullOf(points);
  });
}
