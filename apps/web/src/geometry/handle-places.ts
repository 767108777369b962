import type { Box } from '@yesca/core';
import { inAxes } from './own-axes.ts';
import { toScreen, type SheetView } from './projection.ts';

/** Handles of the transform box: which side of each axis they move (−1 low, 1 high, 0 none). */
export const HANDLES: readonly (readonly [-1 | 0 | 1, -1 | 0 | 1])[] = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
];

/** Where a handle of a box in axes turned by some degrees lies on screen. */
export function handleAt(view: SheetView, box: Box, [a, b]: readonly [number, number], turn = 0): [number, number] {
  const p: [number, number, number] = [0, 0, 0];
  p[view.h] = a < 0 ? box.min[view.h] : a > 0 ? box.max[view.h] : (box.min[view.h] + box.max[view.h]) / 2;
  p[view.v] = b < 0 ? box.min[view.v] : b > 0 ? box.max[view.v] : (box.min[view.v] + box.max[view.v]) / 2;
  return toScreen(view, inAxes(p, -turn));
}

/** Where the knob lies that turns the selection: above the middle of the box. */
export function turnKnob(view: SheetView, box: Box, turn = 0): [number, number] {
  const ends = ([-1, 1] as const).map((side) => handleAt(view, box, [0, side], turn));
  const [far, near] = ends[0]![1] < ends[1]![1] ? [ends[0]!, ends[1]!] : [ends[1]!, ends[0]!];
  const length = Math.hypot(far[0] - near[0], far[1] - near[1]);
  const way = length > 1 ? [(far[0] - near[0]) / length, (far[1] - near[1]) / length] : [0, -1];
  return [far[0] + way[0]! * 26, far[1] + way[1]! * 26];
}

/** Where the tabs lie that skew the selection: outside the middles of the lower and right sides, clear of every handle. */
export function skewTabs(view: SheetView, box: Box): { at: [number, number]; along: 'h' | 'v' }[] {
  const [xb, yb] = handleAt(view, box, [0, -1]);
  const [xr, yr] = handleAt(view, box, [1, 0]);
  return [
    { at: [xb, yb + 18], along: 'h' },
    { at: [xr + 18, yr], along: 'v' },
  ];
}
