import type { Vec3 } from './vec3.ts';

/** An axis-aligned box, in cm. */
export interface Box {
  readonly min: Vec3;
  readonly max: Vec3;
}

export const EMPTY_BOX: Box = { min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] };

export function boxOf(points: Iterable<Vec3>): Box {
  let [ax, ay, az] = EMPTY_BOX.min;
  let [bx, by, bz] = EMPTY_BOX.max;
  for (const [x, y, z] of points) {
    if (x < ax) ax = x;
    if (y < ay) ay = y;
    if (z < az) az = z;
    if (x > bx) bx = x;
    if (y > by) by = y;
    if (z > bz) bz = z;
  }
  return { min: [ax, ay, az], max: [bx, by, bz] };
}

export const isEmptyBox = (b: Box): boolean => b.min[0] > b.max[0];

export const uniteBoxes = (boxes: Iterable<Box>): Box => {
  let out = EMPTY_BOX;
  for (const b of boxes) {
    out = {
      min: [Math.min(out.min[0], b.min[0]), Math.min(out.min[1], b.min[1]), Math.min(out.min[2], b.min[2])],
      max: [Math.max(out.max[0], b.max[0]), Math.max(out.max[1], b.max[1]), Math.max(out.max[2], b.max[2])],
    };
  }
  return out;
};

export const growBox = (b: Box, by: number): Box => ({
  min: [b.min[0] - by, b.min[1] - by, b.min[2] - by],
  max: [b.max[0] + by, b.max[1] + by, b.max[2] + by],
});

/** Whether two boxes share more than `slack` cm in every direction (a negative slack lets near ones count). */
export const boxesOverlap = (a: Box, b: Box, slack = 0): boolean =>
  a.min[0] < b.max[0] - slack &&
  b.min[0] < a.max[0] - slack &&
  a.min[1] < b.max[1] - slack &&
  b.min[1] < a.max[1] - slack &&
  a.min[2] < b.max[2] - slack &&
  b.min[2] < a.max[2] - slack;

export const boxContains = (b: Box, p: Vec3, slack = 0): boolean =>
  p[0] >= b.min[0] - slack &&
  p[0] <= b.max[0] + slack &&
  p[1] >= b.min[1] - slack &&
  p[1] <= b.max[1] + slack &&
  p[2] >= b.min[2] - slack &&
  p[2] <= b.max[2] + slack;

export const boxSize = (b: Box): Vec3 => [b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2]];
export const boxCenter = (b: Box): Vec3 => [
  (b.min[0] + b.max[0]) / 2,
  (b.min[1] + b.max[1]) / 2,
  (b.min[2] + b.max[2]) / 2,
];

/** The eight corners of a box: bit 0 of a corner's place says the high end along x, bit 1 along y, bit 2 along z. */
export const boxCorners = ({ min, max }: Box): Vec3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map((k) => [k & 1 ? max[0] : min[0], k & 2 ? max[1] : min[1], k & 4 ? max[2] : min[2]]);
