import type { Point2, Vec3 } from '@yesca/core';
import type { OverlayLine } from '../state/overlay.ts';

/** Whether a click closes an outline of clicked corners: it is on the first or the last of them. */
export const closesOutline = (corners: readonly Point2[], at: Point2): boolean =>
  [corners[0]!, corners.at(-1)!].some((c) => c[0] === at[0] && c[1] === at[1]);

/** The corners clicked so far, and the pointer as the next one, at some height on the Plan. */
export const cornersLine = (corners: readonly Point2[], pointer: Point2 | null, height: number): OverlayLine => ({
  points: (pointer ? [...corners, pointer] : corners).map(([x, y]): Vec3 => [x, y, height]),
  ink: 'indigo',
  ends: 'dots',
  on: 'plan',
});
