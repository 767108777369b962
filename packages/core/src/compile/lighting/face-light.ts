import { arcTangent2, cross, dot, length, sub, type Vec3, type Winding } from '../../math/index.ts';

/** {@link faceLight} of corners in a row: three numbers each. */
export function rowLight(row: Float64Array, from: number, to: number, [px, py, pz]: Vec3, [nx, ny, nz]: Vec3): number {
  let sum = 0;
  let [ax, ay, az] = [row[to - 3]! - px, row[to - 2]! - py, row[to - 1]! - pz];
  for (let k = from; k < to; k += 3) {
    const [bx, by, bz] = [row[k]! - px, row[k + 1]! - py, row[k + 2]! - pz];
    const x = ay * bz - az * by;
    const y = az * bx - ax * bz;
    const z = ax * by - ay * bx;
    const long = Math.sqrt(x * x + y * y + z * z);
    if (long > 1e-12) sum += (arcTangent2(long, ax * bx + ay * by + az * bz) * (x * nx + y * ny + z * nz)) / long;
    [ax, ay, az] = [bx, by, bz];
  }
  return Math.max(0, -sum / 2);
}

/** What falls on a place with a normal of a convex face that it sees all of, for a luminance of 1. */
export function faceLight(face: Winding, p: Vec3, normal: Vec3): number {
  let sum = 0;
  let from = sub(face[face.length - 1]!, p);
  for (const corner of face) {
    const to = sub(corner, p);
    const across = cross(from, to);
    const long = length(across);
    if (long > 1e-12) sum += (arcTangent2(long, dot(from, to)) * dot(across, normal)) / long;
    from = to;
  }
  // Seen from before it a face runs clockwise.
  return Math.max(0, -sum / 2);
}

/**
 * The solid angle (sr) under which a convex polygon is seen from the origin: of its triangles (Van Oosterom & Strackee, The Solid Angle
 * of a Plane Triangle, 1983).
 */
export function solidAngle(polygon: readonly Vec3[]): number {
  const [a, ...rest] = polygon;
  let sum = 0;
  for (let i = 0; i + 1 < rest.length; i++) {
    const [b, c] = [rest[i]!, rest[i + 1]!];
    const [x, y, z] = [length(a!), length(b), length(c)];
    sum += 2 * arcTangent2(Math.abs(dot(a!, cross(b, c))), x * y * z + dot(a!, b) * z + dot(a!, c) * y + dot(b, c) * x);
  }
  return sum;
}
