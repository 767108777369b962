import type { PaneName } from './layout.ts';
import type { Box, Vec3 } from '@yesca/core';

/** A line that a tool shows, in every pane unless it names one. */
export interface OverlayLine {
  readonly points: readonly Vec3[];
  readonly ink: 'indigo' | 'ember';
  /** Dashes, fine or coarse; or closed and washed within. Absent: drawn through. */
  readonly style?: 'fine' | 'dashed' | 'area';
  readonly ends?: 'dots' | 'ticks';
  /** Written over its middle. */
  readonly text?: string;
  readonly on?: PaneName;
}

/** A handle: what can be taken and dragged, of a fixed size on screen. */
export interface OverlayMark {
  readonly at: Vec3;
  readonly shape: 'square' | 'oval' | 'disc' | 'diamond' | 'bar' | 'tab' | 'cross';
  /** Which way a bar or a tab lies on the paper. */
  readonly along?: 'h' | 'v';
  readonly chosen?: boolean;
}

/** What a tool shows over the map: its handles, and in a gesture lines, a box whose sizes are written beside it, and words. */
export interface Overlay {
  readonly lines?: readonly OverlayLine[];
  readonly marks?: readonly OverlayMark[];
  readonly sizes?: Box;
  /** Where something lies flush with a neighbour. */
  readonly guides?: readonly { readonly axis: 0 | 1 | 2; readonly at: number }[];
  /** A sentence about what would happen. */
  readonly note?: string;
  /** Numbers typed during the gesture. */
  readonly typed?: string;
}
