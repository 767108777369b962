import type { Vec3 } from '../../math/index.ts';

/**
 * All directions on a square: the sphere as an octahedron that is unfolded, up in the middle (Praun & Hoppe, Spherical Parametrization and
 * Remeshing, 2003).
 */

/** The direction of a place of the square, 0 to 1 each way; of unit length. */
export function octahedralDirection(u: number, v: number): Vec3 {
  let x = 2 * u - 1;
  let y = 2 * v - 1;
  const z = 1 - Math.abs(x) - Math.abs(y);
  if (z < 0) {
    const across = (1 - Math.abs(y)) * (x < 0 ? -1 : 1);
    y = (1 - Math.abs(x)) * (y < 0 ? -1 : 1);
    x = across;
  }
  const long = Math.sqrt(x * x + y * y + z * z);
  return [x / long, y / long, z / long];
}

/** The place of a direction, which need not be of unit length. */
export function octahedralPlace([x, y, z]: Vec3): [u: number, v: number] {
  const all = Math.abs(x) + Math.abs(y) + Math.abs(z);
  let a = x / all;
  let b = y / all;
  if (z < 0) {
    const across = (1 - Math.abs(b)) * (a < 0 ? -1 : 1);
    b = (1 - Math.abs(a)) * (b < 0 ? -1 : 1);
    a = across;
  }
  return [a / 2 + 0.5, b / 2 + 0.5];
}

/** What a small piece of the square about a place takes up of all directions, sr for its area. */
export function octahedralMeasure(u: number, v: number): number {
  const x = Math.abs(2 * u - 1);
  const y = Math.abs(2 * v - 1);
  // On the unfolded half the coordinates lie mirrored, as far from the middle.
  const [a, b] = x + y <= 1 ? [x, y] : [1 - y, 1 - x];
  const c = 1 - a - b;
  return 4 / (a * a + b * b + c * c) ** 1.5;
}
