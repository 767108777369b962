import { cosSinOf, hypot } from './exact.ts';
import { wrapDegrees } from './degrees.ts';
import { type Vec3 } from './vec3.ts';

/** An affine map of space, row by row: `p' = M·p + t` with `[m00 m01 m02 t0, m10 … t1, m20 … t2]`. */
export type Affine = readonly [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];

export const IDENTITY: Affine = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

export const applyAffine = (m: Affine, p: Vec3): Vec3 => [
  m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3],
  m[4] * p[0] + m[5] * p[1] + m[6] * p[2] + m[7],
  m[8] * p[0] + m[9] * p[1] + m[10] * p[2] + m[11],
];

export const translation = (t: Vec3): Affine => [1, 0, 0, t[0], 0, 1, 0, t[1], 0, 0, 1, t[2]];

/** Stretch by a factor an axis about a fixed point. */
export const scaling = (s: Vec3, about: Vec3): Affine => [
  s[0],
  0,
  0,
  about[0] * (1 - s[0]),
  0,
  s[1],
  0,
  about[1] * (1 - s[1]),
  0,
  0,
  s[2],
  about[2] * (1 - s[2]),
];

/** Cosine and sine in degrees, exact at multiples of 90°, so that quarter turns keep grid points on the grid. */
export function cosSin(degrees: number): [number, number] {
  const turn = wrapDegrees(degrees);
  if (turn === 0) return [1, 0];
  if (turn === 90) return [0, 1];
  if (turn === 180) return [-1, 0];
  if (turn === 270) return [0, -1];
  const r = (turn * Math.PI) / 180;
  return cosSinOf(r);
}

/** Turn about an axis (0 x, 1 y, 2 z) through a point, in degrees, counter-clockwise seen from the axis's tip. */
export function rotation(axis: 0 | 1 | 2, degrees: number, about: Vec3): Affine {
  const [c, s] = cosSin(degrees);
  const a = (axis + 1) % 3;
  const b = (axis + 2) % 3;
  const m = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
  m[a * 4 + a] = c;
  m[a * 4 + b] = -s;
  m[b * 4 + a] = s;
  m[b * 4 + b] = c;
  const pa = about[a]!;
  const pb = about[b]!;
  m[a * 4 + 3] = pa - c * pa + s * pb;
  m[b * 4 + 3] = pb - s * pa - c * pb;
  return m as unknown as Affine;
}

/** Turn about any axis (its length does not count; a null one turns nothing) through a point, in degrees, counter-clockwise seen from its tip. */
export function rotationAbout(axis: Vec3, degrees: number, about: Vec3): Affine {
  const l = hypot(...axis);
  if (l < 1e-12) return IDENTITY;
  const [x, y, z] = [axis[0] / l, axis[1] / l, axis[2] / l];
  const [c, s] = cosSin(degrees);
  const k = 1 - c;
  // Rodrigues' formula, row by row.
  const r = [
    [c + x * x * k, x * y * k - z * s, x * z * k + y * s],
    [y * x * k + z * s, c + y * y * k, y * z * k - x * s],
    [z * x * k - y * s, z * y * k + x * s, c + z * z * k],
  ] as const;
  return r.flatMap((row, i) => [
    ...row,
    about[i]! - (row[0] * about[0] + row[1] * about[1] + row[2] * about[2]),
  ]) as unknown as Affine;
}

/** The mirror image across the plane `axis = at`. */
export function mirror(axis: 0 | 1 | 2, at: number): Affine {
  const m = [...IDENTITY];
  m[axis * 5] = -1;
  m[axis * 4 + 3] = 2 * at;
  return m as unknown as Affine;
}

/** The map that does `b` first and `a` after it. */
export function composeAffine(a: Affine, b: Affine): Affine {
  const at = (r: number, c: number) =>
    a[r * 4]! * b[c]! + a[r * 4 + 1]! * b[4 + c]! + a[r * 4 + 2]! * b[8 + c]! + (c === 3 ? a[r * 4 + 3]! : 0);
  return [0, 1, 2].flatMap((r) => [0, 1, 2, 3].map((c) => at(r, c))) as unknown as Affine;
}

/** Skew: points move along one axis in proportion to where they are on another, those at `about` stay. */
export function shear(along: 0 | 1 | 2, by: 0 | 1 | 2, factor: number, about: number): Affine {
  const m = [...IDENTITY];
  m[along * 4 + by] = factor;
  m[along * 4 + 3] = -factor * about;
  return m as unknown as Affine;
}

export const determinant = (m: Affine): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);

/** The inverse map; null when the map flattens space. */
export function invertAffine(m: Affine): Affine | null {
  const d = determinant(m);
  if (!(Math.abs(d) > 1e-12)) return null;
  const r = [
    (m[5] * m[10] - m[6] * m[9]) / d,
    (m[2] * m[9] - m[1] * m[10]) / d,
    (m[1] * m[6] - m[2] * m[5]) / d,
    (m[6] * m[8] - m[4] * m[10]) / d,
    (m[0] * m[10] - m[2] * m[8]) / d,
    (m[2] * m[4] - m[0] * m[6]) / d,
    (m[4] * m[9] - m[5] * m[8]) / d,
    (m[1] * m[8] - m[0] * m[9]) / d,
    (m[0] * m[5] - m[1] * m[4]) / d,
  ] as const;
  const t = (i: number) => -(r[i]! * m[3] + r[i + 1]! * m[7] + r[i + 2]! * m[11]);
  return [r[0], r[1], r[2], t(0), r[3], r[4], r[5], t(3), r[6], r[7], r[8], t(6)];
}
