import type { Vec3 } from '@yesca/core';
import type { SheetHit } from '../panes/sheet-geometry.ts';
import type { SheetView } from '../panes/projection.ts';

/** A pointer over a pane, in world terms. */
export interface PanePointer {
  readonly pane: 'plan' | 'section' | 'eye';
  /** The point meant: under the pointer, at the pane's working depth (drawings) or on the surface hit (Eye). */
  readonly raw: Vec3;
  readonly snapped: Vec3;
  /** What lies under the pointer, front to back. */
  readonly hits: readonly SheetHit[];
  /** The surface's outward direction where the Eye's ray met one. */
  readonly normal?: Vec3;
  /** The drawing's view; the Eye has none. */
  readonly view?: SheetView;
  readonly x: number;
  readonly y: number;
  readonly shift: boolean;
  readonly ctrl: boolean;
  readonly alt: boolean;
}

/** A tool: a small state machine that previews with a draft document and commits one command. */
export interface Tool {
  readonly down: (p: PanePointer) => void;
  readonly move: (p: PanePointer) => void;
  readonly up: (p: PanePointer) => void;
  /** Esc: drops the gesture. Gives false when there was none. */
  readonly cancel: () => boolean;
  /** Enter: commits what is shown. Gives false when there was nothing. */
  readonly commit: () => boolean;
  /** Numbers typed during a gesture. Gives false when no gesture takes them. */
  readonly type?: (text: string) => boolean;
  readonly cursor: (p: PanePointer) => string;
}

export const samePixel = (a: { x: number; y: number }, b: { x: number; y: number }, within = 4): boolean =>
  Math.hypot(a.x - b.x, a.y - b.y) <= within;

/** Reads sizes typed in a gesture: `600 400 272`, each an expression of its own. */
export const typedSizes = (text: string, read: (part: string) => number | null): (number | null)[] => text.trim().split(/\s+/).filter(Boolean).map(read); // prettier-ignore
