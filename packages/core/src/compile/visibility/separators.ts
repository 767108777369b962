import {
  clipBehind,
  cross,
  dot,
  flipPlane,
  length,
  ON_PLANE,
  scale,
  sub,
  type Plane,
  type Vec3,
  type Winding,
} from '../../math/index.ts';

/** How far (cm) separating planes are pushed out, so that rounding never hides what can be seen. */
export const SEPARATOR_SLACK = 0.05;

/**
 * The part of `target` that can be seen from some point of `source` through `pass` (all convex).
 * Every plane through an edge of one and a corner of the other that has the source on one side and the pass on the other
 * bounds the beam (Teller, Visibility Computations in Densely Occluded Polyhedral Environments, 1992).
 * Errs towards too much: planes are pushed outward and unclear ones left out. Null when nothing remains.
 */
export function clipToBeam(source: Winding, pass: Winding, target: Winding): Winding | null {
  let out: Winding | null = target;
  for (let i = 0; i < source.length && out; i++) {
    const a = source[i]!;
    const edge = sub(source[(i + 1) % source.length]!, a);
    for (const p of pass) {
      const plane = separator(a, edge, p, source, pass);
      if (!plane) continue;
      // The beam lies on the pass's side; keep a little beyond the plane as well.
      out = clipBehind(out, { normal: plane.normal, distance: plane.distance + SEPARATOR_SLACK }, true);
      if (!out) return null;
    }
  }
  return out;
}

/** The plane through an edge of the source and a corner of the pass with the pass behind and the source in front, or null. */
function separator(a: Vec3, edge: Vec3, p: Vec3, source: Winding, pass: Winding): Plane | null {
  const n = cross(edge, sub(p, a));
  const l = length(n);
  if (l < 1e-3) return null;
  const normal = scale(n, 1 / l);
  let plane: Plane = { normal, distance: dot(normal, p) };
  let side = 0;
  for (const s of source) {
    const d = dot(plane.normal, s) - plane.distance;
    if (Math.abs(d) <= ON_PLANE) continue;
    if (side === 0) side = Math.sign(d);
    else if (Math.sign(d) !== side) return null;
  }
  if (side === 0) return null;
  if (side < 0) plane = flipPlane(plane);
  let behind = false;
  for (const q of pass) {
    const d = dot(plane.normal, q) - plane.distance;
    if (d > ON_PLANE) return null;
    if (d < -ON_PLANE) behind = true;
  }
  return behind ? plane : null;
}
