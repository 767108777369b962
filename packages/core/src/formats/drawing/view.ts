import { cosSin, dot, type Box, type Vec3 } from '../../math/index.ts';
import type { SectionLine } from '../../map/index.ts';

/** How a drawing looks at a map. */
export interface DrawingView {
  /** Unit directions: to the right, up, and away from the viewer. */
  readonly right: Vec3;
  readonly up: Vec3;
  readonly away: Vec3;
  /** Where the drawing cuts, along `away`, cm. */
  readonly cut: number;
  /** How far beyond the cut is drawn, cm. */
  readonly reach: number;
}

/** A cut through the very face of a brush shows nothing clear; half a centimetre beside it does. */
const BESIDE = 0.5;

/** The plan that is cut at a height, cm. */
export const planView = (height: number): DrawingView => ({
  right: [1, 0, 0],
  up: [0, 1, 0],
  away: [0, 0, -1],
  cut: -(height + BESIDE),
  reach: Infinity,
});

/** The upright cut along a line. */
export function sectionView({ at, looks, depth }: SectionLine): DrawingView {
  const [x, y] = cosSin(looks);
  return {
    right: [y, -x, 0],
    up: [0, 0, 1],
    away: [x, y, 0],
    cut: x * at[0] + y * at[1] + BESIDE,
    reach: depth ?? Infinity,
  };
}

/** Cm to the right and up on the drawing. */
export const acrossOf = (view: Pick<DrawingView, 'right'>, p: Vec3): number => dot(p, view.right);
export const upOf = (view: Pick<DrawingView, 'up'>, p: Vec3): number => dot(p, view.up);

/** How far beyond the cut (positive) or before it (negative) a point lies, cm. */
export const beyond = (view: Pick<DrawingView, 'away' | 'cut'>, p: Vec3): number => dot(p, view.away) - view.cut;

/** From where to where a box reaches along a direction. */
export function spanAlong({ min, max }: Box, d: Vec3): [number, number] {
  let low = 0;
  let high = 0;
  for (let i = 0; i < 3; i++) {
    const a = min[i]! * d[i]!;
    const b = max[i]! * d[i]!;
    low += a < b ? a : b;
    high += a < b ? b : a;
  }
  return [low, high];
}
