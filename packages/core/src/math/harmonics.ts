import type { Vec3 } from './vec3.ts';

/** Real spherical harmonics of a second order: so many. */
export const HARMONICS = 9;

/** The first is the same everywhere. */
export const EVEN_HARMONIC = 0.28209479177387814;

/** Puts the real spherical harmonics up to the second order at a unit vector into `out`. */
export function harmonics(x: number, y: number, z: number, out: Float64Array): void {
  out[0] = EVEN_HARMONIC;
  out[1] = 0.4886025119029199 * y;
  out[2] = 0.4886025119029199 * z;
  out[3] = 0.4886025119029199 * x;
  out[4] = 1.0925484305920792 * x * y;
  out[5] = 1.0925484305920792 * y * z;
  out[6] = 0.31539156525252005 * (3 * z * z - 1);
  out[7] = 1.0925484305920792 * x * z;
  out[8] = 0.5462742152960396 * (x * x - y * y);
}

/** What a cosine makes of each order (Ramamoorthi & Hanrahan, An Efficient Representation for Irradiance Environment Maps, 2001). */
const COSINE = [Math.PI, (2 * Math.PI) / 3, Math.PI / 4] as const;
const ORDER = [0, 1, 1, 1, 2, 2, 2, 2, 2] as const;

const basis = new Float64Array(HARMONICS);

/** What falls on a surface with a normal of light that comes as nine coefficients say, each of `stride` apart in `light` from `at`; not below 0. */
export function irradianceOf(light: ArrayLike<number>, [x, y, z]: Vec3, at = 0, stride = 1): number {
  harmonics(x, y, z, basis);
  let sum = 0;
  for (let k = 0; k < HARMONICS; k++) sum += light[at + k * stride]! * COSINE[ORDER[k]!] * basis[k]!;
  return Math.max(0, sum);
}
