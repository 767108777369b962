import { SAME_DISTANCE, SAME_NORMAL } from './tolerances.ts';
import { cross, dot, length, scale, sub, type Vec3 } from './vec3.ts';

/** The points `p` with `normal · p = distance` (cm); the normal has unit length and points to the front. */
export interface Plane {
  readonly normal: Vec3;
  readonly distance: number;
}

/** How far (cm) a point lies in front of a plane; negative behind. */
export const signedDistance = (plane: Plane, p: Vec3): number => dot(plane.normal, p) - plane.distance;

export const flipPlane = (plane: Plane): Plane => ({
  normal: [-plane.normal[0], -plane.normal[1], -plane.normal[2]],
  distance: -plane.distance,
});

/** As long as its greatest part is, a normal that is off an axis by four times what tells two directions apart. */
const ON_AXIS = 1 - (SAME_NORMAL * 4) ** 2 / 2;

/** Makes a unit normal exactly parallel to an axis that it is off by less than four times {@link SAME_NORMAL}: walls then keep exact planes. */
export function snapNormal(n: Vec3): Vec3 {
  for (let axis = 0; axis < 3; axis++) {
    const c = n[axis]!;
    if (Math.abs(c) > ON_AXIS) {
      const out: [number, number, number] = [0, 0, 0];
      out[axis] = c > 0 ? 1 : -1;
      return out;
    }
  }
  return n;
}

/** The plane through a point with a normal that need not be of unit length. */
export function planeFromPointNormal(p: Vec3, normal: Vec3): Plane {
  const n = snapNormal(scale(normal, 1 / length(normal)));
  for (let axis = 0; axis < 3; axis++)
    if (Math.abs(n[axis]!) === 1) return { normal: n, distance: n[axis]! * p[axis]! };
  return { normal: n, distance: dot(n, p) };
}

/** The plane through three points, counter-clockwise seen from its front; null when they lie on a line. */
export function planeFromPoints(a: Vec3, b: Vec3, c: Vec3): Plane | null {
  const n = cross(sub(b, a), sub(c, a));
  return length(n) < 1e-9 ? null : planeFromPointNormal(a, n);
}

/**
 * The plane of a loop of points, counter-clockwise seen from its front, by Newell's method
 * (Newell, Newell, Sancha: A Solution to the Hidden Surface Problem, 1972), which weighs all corners alike.
 * Null when the loop has no area.
 */
export function planeFromLoop(points: readonly Vec3[]): Plane | null {
  let x = 0;
  let y = 0;
  let z = 0;
  let cx = 0;
  let cy = 0;
  let cz = 0;
  // Relative to the first corner: coordinates of a kilometre would otherwise cost digits.
  const o = points[0]!;
  for (let i = 0; i < points.length; i++) {
    const a = points[i]!;
    const b = points[(i + 1) % points.length]!;
    x += (a[1] - b[1]) * (a[2] - o[2] + b[2] - o[2]);
    y += (a[2] - b[2]) * (a[0] - o[0] + b[0] - o[0]);
    z += (a[0] - b[0]) * (a[1] - o[1] + b[1] - o[1]);
    cx += a[0];
    cy += a[1];
    cz += a[2];
  }
  const n: Vec3 = [x, y, z];
  if (!(length(n) > 1e-9)) return null;
  const unit = scale(n, 1 / length(n));
  const snapped = snapNormal(unit);
  for (let axis = 0; axis < 3; axis++)
    // A long face may lean by less than can be told from its direction, and yet leave the axis' plane.
    if (Math.abs(snapped[axis]!) === 1 && points.every((p) => Math.abs(p[axis]! - o[axis]!) <= SAME_DISTANCE))
      return { normal: snapped, distance: snapped[axis]! * o[axis]! };
  const k = points.length;
  return { normal: unit, distance: dot(unit, [cx / k, cy / k, cz / k]) };
}

export const samePlane = (a: Plane, b: Plane): boolean =>
  Math.abs(a.distance - b.distance) <= SAME_DISTANCE &&
  Math.abs(a.normal[0] - b.normal[0]) <= SAME_NORMAL &&
  Math.abs(a.normal[1] - b.normal[1]) <= SAME_NORMAL &&
  Math.abs(a.normal[2] - b.normal[2]) <= SAME_NORMAL;

/** How far along a ray (in lengths of its direction) it meets a plane; null when it runs beside or away from it. */
export function rayPlane(from: Vec3, towards: Vec3, plane: Plane): number | null {
  const speed = dot(plane.normal, towards);
  if (Math.abs(speed) < 1e-9) return null;
  const t = -signedDistance(plane, from) / speed;
  return t > 0 ? t : null;
}
