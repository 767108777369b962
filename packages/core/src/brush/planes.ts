import { boxContains, clipBehind, growBox, planeSquare, type Box, type Plane, type Vec3 } from '../math/index.ts';
import { hullOf } from './hull.ts';
import { BrushError } from './errors.ts';
import { assertValid } from './solid.ts';
import type { Solid } from './types.ts';

/** Corners computed from planes this near (cm) to whole hundredths are put there, so that grid points stay grid points. */
const ROUNDING = 1e-8;
const settle = (c: number): number => {
  const near = Math.round(c * 100) / 100;
  return Math.abs(near - c) < ROUNDING ? near : c;
};

/**
 * The convex solid behind all of some planes. Throws `brush.empty` when nothing is left, and `brush.unbounded` when it
 * reaches out of `within`.
 */
export function solidFromPlanes(planes: readonly Plane[], within: Box): Solid {
  const corners: Vec3[] = [];
  planes.forEach((plane, i) => {
    let winding = clipBehind(planeSquare(plane), { normal: [0, 0, 1], distance: 4e5 }, true);
    for (let k = 0; k < planes.length && winding; k++)
      if (k !== i) winding = clipBehind(winding, planes[k]!, true, 1e-6);
    for (const p of winding ?? []) corners.push([settle(p[0]), settle(p[1]), settle(p[2])]);
  });
  if (corners.length < 4) throw new BrushError('brush.empty', 'Nothing would be left. Take a smaller distance.');
  const room = growBox(within, 1e-6);
  if (!corners.every((p) => boxContains(room, p)))
    throw new BrushError('brush.unbounded', 'A sharp corner would reach too far. Take a smaller distance.');
  const solid = hullOf(corners);
  assertValid(solid);
  return solid;
}
