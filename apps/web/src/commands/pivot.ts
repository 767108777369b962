import type { Box, Vec3 } from '@yesca/core';
import { snapTo } from '../geometry/projection.ts';
import { gridStep } from '../geometry/snap.ts';
import { useCurrent } from '../state/current.ts';

const middleOf = (box: Box): Vec3 => [
  (box.min[0] + box.max[0]) / 2,
  (box.min[1] + box.max[1]) / 2,
  (box.min[2] + box.max[2]) / 2,
];

/** The point a turn goes round: the one that was set, else the middle of the box, on the grid where that is on, so that quarter turns stay on it. */
export function pivotOf(box: Box): Vec3 {
  const { pivot } = useCurrent.getState();
  if (pivot) return pivot;
  const grid = gridStep();
  const c = middleOf(box);
  return grid === null ? c : [snapTo(c[0], grid), snapTo(c[1], grid), snapTo(c[2], grid)];
}
