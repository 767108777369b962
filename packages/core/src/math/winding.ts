import { ON_PLANE, SAME_POINT } from './tolerances.ts';
import { signedDistance, type Plane } from './plane.ts';
import { add, addScaled, cross, distance, dot, length, normalize, scale, sub, type Vec3 } from './vec3.ts';

/** A convex polygon in space: its corners, counter-clockwise seen from the front. */
export type Winding = readonly Vec3[];

/** The point where an edge meets a plane; on axis planes the coordinate is exact. */
export function meetPlane(plane: Plane, a: Vec3, b: Vec3, da: number, db: number): Vec3 {
  const t = da / (da - db);
  const n = plane.normal;
  const at = (i: 0 | 1 | 2): number =>
    n[i] === 1 ? plane.distance : n[i] === -1 ? -plane.distance : a[i] + (b[i] - a[i]) * t;
  return [at(0), at(1), at(2)];
}

/**
 * Splits a winding by a plane. Corners within `tolerance` of the plane belong to both sides.
 * A side without area in front or behind is null; a winding that lies in the plane is on neither side.
 */
export function splitWinding(
  w: Winding,
  plane: Plane,
  tolerance = ON_PLANE,
): { front: Winding | null; back: Winding | null } {
  const n = w.length;
  const d = new Array<number>(n);
  let front = false;
  let back = false;
  for (let i = 0; i < n; i++) {
    const v = signedDistance(plane, w[i]!);
    d[i] = v;
    if (v > tolerance) front = true;
    else if (v < -tolerance) back = true;
  }
  if (!back) return { front: front ? w : null, back: null };
  if (!front) return { front: null, back: w };
  const f: Vec3[] = [];
  const b: Vec3[] = [];
  for (let i = 0; i < n; i++) {
    const p = w[i]!;
    const v = d[i]!;
    if (v >= -tolerance) f.push(p);
    if (v <= tolerance) b.push(p);
    const j = i + 1 === n ? 0 : i + 1;
    const u = d[j]!;
    if ((v > tolerance && u < -tolerance) || (v < -tolerance && u > tolerance)) {
      // Always from the front to the back, so that both users of an edge compute the same point.
      const q = v > 0 ? meetPlane(plane, p, w[j]!, v, u) : meetPlane(plane, w[j]!, p, u, v);
      f.push(q);
      b.push(q);
    }
  }
  return { front: f.length >= 3 ? f : null, back: b.length >= 3 ? b : null };
}

/** The part of a winding behind a plane, or null. A winding in the plane counts as behind when `keepOn`. */
export function clipBehind(w: Winding, plane: Plane, keepOn = false, tolerance = ON_PLANE): Winding | null {
  const { front, back } = splitWinding(w, plane, tolerance);
  return back ?? (keepOn && front === null ? w : null);
}

/** Twice-area vector of a winding: its length is twice the area, its direction the normal. */
export function areaVector(w: Winding): Vec3 {
  let s: Vec3 = [0, 0, 0];
  for (let i = 2; i < w.length; i++) s = add(s, cross(sub(w[i - 1]!, w[0]!), sub(w[i]!, w[0]!)));
  return s;
}

/** Area in cm². */
export const windingArea = (w: Winding): number => length(areaVector(w)) / 2;

/** The centre of area. */
export function windingCentroid(w: Winding): Vec3 {
  let total = 0;
  let c: Vec3 = [0, 0, 0];
  const n = normalize(areaVector(w));
  for (let i = 2; i < w.length; i++) {
    const a = dot(n, cross(sub(w[i - 1]!, w[0]!), sub(w[i]!, w[0]!)));
    total += a;
    c = addScaled(c, add(add(w[0]!, w[i - 1]!), w[i]!), a / 3);
  }
  return total > 1e-12 ? scale(c, 1 / total) : w[0]!;
}

/** A very large square in a plane, to be clipped down. */
export function planeSquare(plane: Plane, half = 400_000): Winding {
  const n = plane.normal;
  const up: Vec3 = Math.abs(n[2]) > 0.7 ? [1, 0, 0] : [0, 0, 1];
  const s = normalize(cross(up, n));
  const t = cross(n, s);
  const o = scale(n, plane.distance);
  const corner = (a: number, b: number) => addScaled(addScaled(o, s, a * half), t, b * half);
  return [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)];
}

/** Drops corners that repeat or lie on the line between their neighbours; null when fewer than three remain. */
export function tidyWinding(w: Winding, tolerance = SAME_POINT): Winding | null {
  let out: Vec3[] = w.filter((p, i) => distance(p, w[(i + 1) % w.length]!) > tolerance);
  out = out.filter((p, i) => {
    const a = out[(i + out.length - 1) % out.length]!;
    const b = out[(i + 1) % out.length]!;
    return length(cross(sub(p, a), sub(b, p))) > tolerance * Math.max(1, distance(a, b));
  });
  return out.length >= 3 ? out : null;
}

/** The plane through an edge of a winding, square to the winding's plane, facing outward. */
export function edgePlane(w: Winding, normal: Vec3, i: number): Plane {
  const a = w[i]!;
  const b = w[(i + 1) % w.length]!;
  const n = normalize(cross(sub(b, a), normal));
  return { normal: n, distance: dot(n, a) };
}

/** What two windings in one plane share, or null; `normal` is the first one's. */
export function intersectWindings(a: Winding, b: Winding, normal: Vec3, tolerance = ON_PLANE): Winding | null {
  let out: Winding | null = b;
  for (let i = 0; i < a.length && out; i++) out = clipBehind(out, edgePlane(a, normal, i), false, tolerance);
  return out;
}

/** `w` without `hole`, both convex and in one plane: convex pieces. */
export function subtractWinding(w: Winding, hole: Winding, normal: Vec3): Winding[] {
  const pieces: Winding[] = [];
  let rest: Winding | null = w;
  const forward = dot(areaVector(hole), normal) >= 0 ? hole : [...hole].reverse();
  for (let i = 0; i < forward.length && rest; i++) {
    const { front, back }: { front: Winding | null; back: Winding | null } = splitWinding(
      rest,
      edgePlane(forward, normal, i),
    );
    if (front) pieces.push(front);
    rest = back;
  }
  return rest ? pieces : [w];
}
