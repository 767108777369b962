import { add, addScaled, scale, sub, windingCentroid, type Vec3 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { hullOf } from './hull.ts';
import { assertValid, brushPlanes, faceWinding } from './solid.ts';
import type { Brush, Solid } from './types.ts';

/**
 * The solid pulled out of a face: the face moved along its normal by `distance` cm, or by a vector, and drawn together
 * about its middle by `taper` (1 straight, 0 to a point).
 */
export function pullOut(brush: Brush, face: number, distance: number | Vec3, taper = 1): Solid {
  const at = brush.faces.findIndex((f) => f.id === face);
  if (at < 0) throw new BrushError('face.unknown', 'That face is no longer there.');
  const { normal } = brushPlanes(brush)[at]!;
  const base = faceWinding(brush, at);
  const by: Vec3 = typeof distance === 'number' ? scale(normal, distance) : distance;
  const out = by[0] * normal[0] + by[1] * normal[1] + by[2] * normal[2];
  if (!(out >= 0.25))
    throw new BrushError('pull.distance', 'A face is pulled outward by 0.25 cm or more. Pull further.');
  if (!(taper >= 0 && taper <= 16))
    throw new BrushError('pull.taper', 'The taper is 0 (to a point) to 16. Type a number in that range.');
  const centre = windingCentroid(base);
  const far = base.map((p) => (taper === 1 ? add(p, by) : add(addScaled(centre, sub(p, centre), taper), by)));
  const solid = hullOf([...base, ...far]);
  assertValid(solid);
  return solid;
}
