import type { mat4 } from '@gltf-transform/core';
import { cross, length, normalize, type Vec3 } from '@yesca/core';

/** Where a place of a node's space lies in that of its scene. */
export const moved = (m: mat4, [x, y, z]: Vec3): Vec3 => [
  m[0] * x + m[4] * y + m[8] * z + m[12],
  m[1] * x + m[5] * y + m[9] * z + m[13],
  m[2] * x + m[6] * y + m[10] * z + m[14],
];

/** The way that a normal looks after a map: by what the map makes of the plane across it. */
export function turned(m: mat4, [x, y, z]: Vec3, flips: number): Vec3 {
  const [a, b, c]: [Vec3, Vec3, Vec3] = [
    [m[0], m[1], m[2]],
    [m[4], m[5], m[6]],
    [m[8], m[9], m[10]],
  ];
  const [p, q, r] = [cross(b, c), cross(c, a), cross(a, b)];
  const way: Vec3 = [0, 1, 2].map((k) => (p[k]! * x + q[k]! * y + r[k]! * z) * flips) as unknown as Vec3;
  return length(way) > 1e-12 ? normalize(way) : [0, 1, 0];
}

/** From m with y up to cm with z up. */
export const upright = ([x, y, z]: Vec3): Vec3 => [x * 100 + 0, -z * 100 + 0, y * 100 + 0];

/** From cm with z up to m with y up. */
export const inMetres = ([x, y, z]: Vec3): [number, number, number] => [x / 100, z / 100, -y / 100];
