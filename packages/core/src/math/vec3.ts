/** Points and directions in cm; X east, Y north, Z up, right-handed. */
export type Vec3 = readonly [number, number, number];

export const vec3 = (x: number, y: number, z: number): Vec3 => [x, y, z];
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
/** `a + b·s`. */
export const addScaled = (a: Vec3, b: Vec3, s: number): Vec3 => [a[0] + b[0] * s, a[1] + b[1] * s, a[2] + b[2] * s];
export const negate = (a: Vec3): Vec3 => [-a[0], -a[1], -a[2]];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vec3): number => Math.sqrt(dot(a, a));
export const distance = (a: Vec3, b: Vec3): number => length(sub(a, b));
/** The unit vector along `a`; the zero vector stays zero. */
export const normalize = (a: Vec3): Vec3 => {
  const l = length(a);
  return l > 0 ? scale(a, 1 / l) : a;
};
export const lerp = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
/** The place between two points that is nearest to a third. */
export function nearestBetween(a: Vec3, b: Vec3, p: Vec3): Vec3 {
  const way = sub(b, a);
  const long2 = dot(way, way);
  return long2 > 0 ? lerp(a, b, Math.max(0, Math.min(1, dot(sub(p, a), way) / long2))) : a;
}
export const isFiniteVec = (a: Vec3): boolean =>
  Number.isFinite(a[0]) && Number.isFinite(a[1]) && Number.isFinite(a[2]);
export const sameVec = (a: Vec3, b: Vec3, tolerance = 0): boolean =>
  Math.abs(a[0] - b[0]) <= tolerance && Math.abs(a[1] - b[1]) <= tolerance && Math.abs(a[2] - b[2]) <= tolerance;
/** The mean of some points. */
export const centroid = (points: readonly Vec3[]): Vec3 => {
  let x = 0;
  let y = 0;
  let z = 0;
  for (const p of points) {
    x += p[0];
    y += p[1];
    z += p[2];
  }
  return [x / points.length, y / points.length, z / points.length];
};
/** The axis (0, 1 or 2) along which `a` is longest; ties go to the later axis, so that slopes count as floors. */
export const dominantAxis = (a: Vec3): 0 | 1 | 2 => {
  const x = Math.abs(a[0]);
  const y = Math.abs(a[1]);
  const z = Math.abs(a[2]);
  if (z >= x - 1e-9 && z >= y - 1e-9) return 2;
  return y >= x - 1e-9 ? 1 : 0;
};
