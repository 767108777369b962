import { dot, growBox, type Plane, type Vec3 } from '../math/index.ts';
import { solidFromPlanes } from './planes.ts';
import { brushBounds, brushPlanes, faceWinding } from './solid.ts';
import type { Brush, Solid } from './types.ts';

const directionOf = (axis: 0 | 1 | 2, side: 1 | -1): Vec3 =>
  [0, 1, 2].map((i) => (i === axis ? side : 0)) as unknown as Vec3;

/** The faces that move along when a brush is stretched on one side: those that look to it and reach its end. */
export function stretchedFaces(brush: Brush, axis: 0 | 1 | 2, side: 1 | -1): boolean[] {
  const bounds = brushBounds(brush);
  const end = side > 0 ? bounds.max[axis] : bounds.min[axis];
  return brushPlanes(brush).map(
    (plane, i) =>
      dot(plane.normal, directionOf(axis, side)) > 1e-6 &&
      faceWinding(brush, i).some((p) => Math.abs(p[axis] - end) < 1e-6),
  );
}

/**
 * A brush stretched on one side with its slopes kept: the faces that look to that side and reach its end move by `by` cm
 * along the axis, all other planes stay. `side` is 1 for the high end of the axis, −1 for the low one; a positive `by`
 * moves outward.
 */
export function stretchSide(brush: Brush, axis: 0 | 1 | 2, side: 1 | -1, by: number): Solid {
  const moving = stretchedFaces(brush, axis, side);
  const planes = brushPlanes(brush).map((plane, i): Plane => {
    const along = dot(plane.normal, directionOf(axis, side)) * by;
    return moving[i] ? { normal: plane.normal, distance: plane.distance + along } : plane;
  });
  return solidFromPlanes(planes, growBox(brushBounds(brush), Math.abs(by) * 16 + 1));
}
