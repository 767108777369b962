import { addScaled, cross, distance, dot, nearestBetween, sub, type Vec3 } from '../math/index.ts';
import { brushPlanes, faceWinding } from './solid.ts';
import type { Brush } from './types.ts';

/** How far a point is from a brush, cm; 0 within it. */
export function awayFrom(brush: Brush, p: Vec3): number {
  let inside = true;
  let least = Infinity;
  brushPlanes(brush).forEach(({ normal, distance: d }, face) => {
    const above = dot(normal, p) - d;
    if (above <= 0) return;
    inside = false;
    // The nearest point is on a face that looks at it: within its outline, or on its edges.
    const winding = faceWinding(brush, face);
    const on = addScaled(p, normal, -above);
    let over = true;
    winding.forEach((a, k) => {
      const b = winding[(k + 1) % winding.length]!;
      if (dot(cross(sub(b, a), sub(on, a)), normal) >= 0) return;
      over = false;
      least = Math.min(least, distance(p, nearestBetween(a, b, p)));
    });
    if (over) least = Math.min(least, above);
  });
  return inside ? 0 : least;
}
