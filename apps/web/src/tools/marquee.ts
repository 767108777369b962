import { acrossOf, upOf, type Vec3 } from '@yesca/core';
import { toScreen, toWorld, type SheetView } from '../geometry/projection.ts';
import type { OverlayLine } from '../state/overlay.ts';
import type { PanePointer } from './tool.ts';

/** The rectangle of a drag over a drawing. */
export function marqueeLine(start: PanePointer, now: PanePointer): OverlayLine {
  const view = now.view!;
  // The drawing may have slid along since the drag began: its beginning stays where it was in the world.
  const from: Vec3 = start.raw;
  const [x, y] = [now.x, now.y];
  const [x0, y0] = toScreen(view, from);
  const at = (px: number, py: number) => toWorld(view, px, py, from);
  return { points: [at(x0, y0), at(x, y0), at(x, y), at(x0, y)], ink: 'indigo', style: 'area', on: now.pane };
}

/** A rectangle on a drawing, cm across and up. */
export interface Marquee {
  readonly across: readonly [number, number];
  readonly up: readonly [number, number];
}

const sorted = (p: number, q: number) => [Math.min(p, q), Math.max(p, q)] as const;

export const marqueeBetween = (view: SheetView, a: Vec3, b: Vec3): Marquee => ({
  across: sorted(acrossOf(view, a), acrossOf(view, b)),
  up: sorted(upOf(view, a), upOf(view, b)),
});

/** Whether a point lies within a marquee on a drawing. */
export function isWithin(view: SheetView, { across, up }: Marquee, p: Vec3): boolean {
  const [x, y] = [acrossOf(view, p), upOf(view, p)];
  return x >= across[0] && x <= across[1] && y >= up[0] && y <= up[1];
}
