import type { Box, Vec3 } from '@yesca/core';

/** Copies in a row at most. */
const MOST = 200;

/** Copies that fill a way, each flush with the one before: how many, and the step from one to the next. Null where a box has no size that way. */
export function rowAlong({ min, max }: Box, by: Vec3): { readonly count: number; readonly step: Vec3 } | null {
  const axis = ([0, 1, 2] as const).reduce((most, k) => (Math.abs(by[k]) > Math.abs(by[most]) ? k : most));
  const size = max[axis] - min[axis];
  if (size < 1 || by[axis] === 0) return null;
  const step: [number, number, number] = [0, 0, 0];
  step[axis] = Math.sign(by[axis]) * size;
  return { count: Math.min(MOST, Math.max(1, Math.round(Math.abs(by[axis]) / size))), step };
}
