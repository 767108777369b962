import {
  add,
  arcTangent2,
  type Box,
  cross,
  dot,
  ON_PLANE,
  type Plane,
  planeFromPointNormal,
  planeHull,
  SAME_POINT,
  signedDistance,
  splitWinding,
  sub,
  type Vec3,
  type Winding,
} from '../../math/index.ts';

/** A face of a convex piece of space: its corners (counter-clockwise from outside), its plane's index and which way it looks. */
export interface PolyFace {
  readonly winding: Winding;
  /** Index into the block's plane table; −1 for sides of the block itself. */
  readonly plane: number;
  /** Whether the face looks along the table's plane (true) or against it. */
  readonly along: boolean;
  /** Whether the plane may still divide space here; false once a node of the tree lies on it. */
  readonly open: boolean;
}

/** A convex piece of space: closed faces looking outward. */
export interface Polyhedron {
  readonly faces: readonly PolyFace[];
  readonly bounds: Box;
}

export function makePolyhedron(faces: readonly PolyFace[]): Polyhedron {
  let [ax, ay, az] = [Infinity, Infinity, Infinity];
  let [bx, by, bz] = [-Infinity, -Infinity, -Infinity];
  for (const f of faces)
    for (const [x, y, z] of f.winding) {
      if (x < ax) ax = x;
      if (y < ay) ay = y;
      if (z < az) az = z;
      if (x > bx) bx = x;
      if (y > by) by = y;
      if (z > bz) bz = z;
    }
  return { faces, bounds: { min: [ax, ay, az], max: [bx, by, bz] } };
}

/** A box as a polyhedron whose faces belong to no plane of the table. */
export function boxPolyhedron({ min, max }: Box): Polyhedron {
  const [a, b, c] = min;
  const [x, y, z] = max;
  const side = (...winding: Vec3[]): PolyFace => ({ winding, plane: -1, along: true, open: false });
  return makePolyhedron([
    side([a, b, c], [a, b, z], [a, y, z], [a, y, c]),
    side([x, b, c], [x, y, c], [x, y, z], [x, b, z]),
    side([a, b, c], [x, b, c], [x, b, z], [a, b, z]),
    side([a, y, c], [a, y, z], [x, y, z], [x, y, c]),
    side([a, b, c], [a, y, c], [x, y, c], [x, b, c]),
    side([a, b, z], [x, b, z], [x, y, z], [a, y, z]),
  ]);
}

/** Where a piece lies: 1 in front of a plane, −1 behind it, 0 across it, 2 too thin to count on either side. */
export function sideOfPlane(piece: Polyhedron, plane: Plane, tolerance = ON_PLANE): 1 | -1 | 0 | 2 {
  const { min, max } = piece.bounds;
  const n = plane.normal;
  // The box's nearest and farthest corner along the normal settle nearly every case.
  const low =
    (n[0] > 0 ? min[0] : max[0]) * n[0] +
    (n[1] > 0 ? min[1] : max[1]) * n[1] +
    (n[2] > 0 ? min[2] : max[2]) * n[2] -
    plane.distance;
  const high =
    (n[0] > 0 ? max[0] : min[0]) * n[0] +
    (n[1] > 0 ? max[1] : min[1]) * n[1] +
    (n[2] > 0 ? max[2] : min[2]) * n[2] -
    plane.distance;
  if (low >= -tolerance) return high <= tolerance ? 2 : 1;
  if (high <= tolerance) return -1;
  if (n[0] === 1 || n[1] === 1 || n[2] === 1) return 0;
  let front = false;
  let back = false;
  for (const f of piece.faces)
    for (const p of f.winding) {
      const d = signedDistance(plane, p);
      if (d > tolerance) front = true;
      else if (d < -tolerance) back = true;
      if (front && back) return 0;
    }
  return front ? 1 : back ? -1 : 2;
}

/** Both halves of a piece that lies across a plane. The cut is closed with faces of that plane. */
export function splitPolyhedron(
  piece: Polyhedron,
  plane: Plane,
  index: number,
): { front: Polyhedron; back: Polyhedron } {
  const front: PolyFace[] = [];
  const back: PolyFace[] = [];
  const rim: Vec3[] = [];
  for (const f of piece.faces) {
    const parts = splitWinding(f.winding, plane);
    if (parts.front) front.push(parts.front === f.winding ? f : { ...f, winding: parts.front });
    if (parts.back) {
      back.push(parts.back === f.winding ? f : { ...f, winding: parts.back });
      for (const p of parts.back) if (Math.abs(signedDistance(plane, p)) <= ON_PLANE) addOnce(rim, p);
    }
  }
  const cap = orderRound(rim, plane.normal);
  if (cap.length >= 3) {
    back.push({ winding: cap, plane: index, along: true, open: false });
    front.push({ winding: [...cap].reverse(), plane: index, along: false, open: false });
  }
  return { front: makePolyhedron(front), back: makePolyhedron(back) };
}

/** Volume of a convex piece told by its sides, cm³, by the divergence theorem. */
export function cellVolume(sides: readonly Winding[]): number {
  const origin = sides[0]?.[0];
  if (!origin) return 0;
  let v = 0;
  for (const w of sides)
    for (let i = 2; i < w.length; i++)
      v += dot(sub(w[0]!, origin), cross(sub(w[i - 1]!, w[0]!), sub(w[i]!, w[0]!))) / 6;
  return Math.abs(v);
}

/** What of a convex piece lies behind all of some planes, as its sides; none where nothing does. */
export function clipCell(sides: readonly Winding[], planes: readonly Plane[]): readonly Winding[] {
  let piece = makePolyhedron(sides.map((winding) => ({ winding, plane: -1, along: true, open: false })));
  for (const plane of planes) {
    const side = sideOfPlane(piece, plane);
    if (side === 1 || side === 2) return [];
    if (side === 0) piece = splitPolyhedron(piece, plane, -1).back;
  }
  return piece.faces.map((f) => f.winding);
}

function addOnce(points: Vec3[], p: Vec3): void {
  for (const q of points)
    if (
      Math.abs(q[0] - p[0]) <= SAME_POINT &&
      Math.abs(q[1] - p[1]) <= SAME_POINT &&
      Math.abs(q[2] - p[2]) <= SAME_POINT
    )
      return;
  points.push(p);
}

/** Corners of a convex polygon in counter-clockwise order seen from the normal's tip. */
export function orderRound(points: readonly Vec3[], normal: Vec3): Vec3[] {
  if (points.length < 3) return [...points];
  let c: Vec3 = [0, 0, 0];
  for (const p of points) c = add(c, p);
  c = [c[0] / points.length, c[1] / points.length, c[2] / points.length];
  const s = sub(points[0]!, c);
  const t = cross(normal, s);
  return points
    .map((p) => ({ p, angle: arcTangent2(dot(sub(p, c), t), dot(sub(p, c), s)) }))
    .sort((a, b) => a.angle - b.angle)
    .map(({ p }) => p);
}

/** The convex hull of coplanar points, counter-clockwise seen from the normal's tip. */
export function flatHull(points: readonly Vec3[], normal: Vec3): Vec3[] {
  const plane = planeFromPointNormal(points[0]!, normal);
  const drop = [0, 1, 2].reduce((a, b) => (Math.abs(plane.normal[b]!) > Math.abs(plane.normal[a]!) ? b : a), 0);
  const [i, j] = [(drop + 1) % 3, (drop + 2) % 3];
  const flip = plane.normal[drop]! < 0;
  const hull = planeHull(points.map((p) => ({ p, x: p[i]!, y: p[j]! }))).map(({ p }) => p);
  // What then stands out by no more than rounding is no corner.
  for (let k = 0; k < hull.length && hull.length > 2;) {
    const [a, b, c] = [hull.at(k - 1)!, hull[k]!, hull[(k + 1) % hull.length]!];
    const area = (b[i]! - a[i]!) * (c[j]! - a[j]!) - (b[j]! - a[j]!) * (c[i]! - a[i]!);
    if (area > SAME_POINT * 0.1) k++;
    else {
      hull.splice(k, 1);
      k = Math.max(0, k - 1);
    }
  }
  return flip ? hull.reverse() : hull;
}
