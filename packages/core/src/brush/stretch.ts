import { dot, growBox, type Plane, type Vec3 } from '../math/index.ts';
import { solidFromPlanes } from './planes.ts';
import { brushBounds, brushPlanes, faceWinding } from './solid.ts';
import type { Brush, Solid } from './types.ts';

/**
 * A brush stretched on one side with its slopes kept: the faces that look to that side and reach its end move by `by` cm
 * along the axis, all other planes stay. `side` is 1 for the high end of the axis, −1 for the low one; a positive `by`
 * moves outward.
 */
export function stretchSide(brush: Brush, axis: 0 | 1 | 2, side: 1 | -1, by: number): Solid {
  const bounds = brushBounds(brush);
  const end = side > 0 ? bounds.max[axis] : bounds.min[axis];
  const direction: [number, number, number] = [0, 0, 0];
  direction[axis] = side;
  const planes = brushPlanes(brush).map((plane, i): Plane => {
    const faces = dot(plane.normal, direction as Vec3);
    const reaches = faceWinding(brush, i).some((p) => Math.abs(p[axis] - end) < 1e-6);
    return faces > 1e-6 && reaches ? { normal: plane.normal, distance: plane.distance + faces * by } : plane;
  });
  return solidFromPlanes(planes, growBox(bounds, Math.abs(by) * 16 + 1));
}
