import type { Box, Vec3 } from '@yesca/core';
import type { HANDLES } from '../../geometry/handle-places.ts';
import type { HandleDrag, ThingHandle } from '../thing-handles.ts';
import type { Thing } from '../../state/selection.ts';
import type { PanePointer } from '../tool.ts';

type Handle = (typeof HANDLES)[number];
/** What a handle does. */
export type Grip =
  | { readonly kind: 'handle'; readonly of: ThingHandle }
  | { readonly kind: 'wire'; readonly thing: string }
  | { readonly kind: 'side'; readonly handle: Handle }
  | { readonly kind: 'turn' }
  | { readonly kind: 'skew'; readonly along: 'h' | 'v' };
/** A plane across an axis, cm, that sides become flush with. */
export type Guide = { readonly axis: 0 | 1 | 2; readonly at: number };

/** What the tool is at. */
export type State =
  | { readonly name: 'idle' }
  | {
      readonly name: 'pressed';
      readonly start: PanePointer;
      readonly grip: Grip | null;
      readonly thing: Thing | null;
    }
  | {
      readonly name: 'moving';
      readonly start: PanePointer;
      readonly box: Box;
      /** The same with what its props fill: what comes to lie flush with neighbours. */
      readonly filled: Box;
      readonly by: Vec3;
      readonly copy: boolean;
      /** Copies fill the way, one after another. */
      readonly row: boolean;
      readonly guides: readonly Guide[];
      readonly typed: string;
    }
  | {
      readonly name: 'resizing';
      readonly start: PanePointer;
      readonly box: Box;
      readonly to: Box;
      /** Of the axes both boxes lie in, degrees. */
      readonly turn: number;
      readonly handle: Handle;
      readonly guides: readonly Guide[];
      readonly typed: string;
    }
  | {
      readonly name: 'turning' | 'skewing';
      readonly start: PanePointer;
      readonly box: Box;
      readonly along: 'h' | 'v';
      /** Degrees turned, or cm skewed. */
      readonly by: number;
      readonly typed: string;
    }
  /** Decals in the Eye, or copies of them, from surface to surface. */
  | {
      readonly name: 'laying';
      readonly things: readonly string[];
      readonly to: PanePointer;
      readonly copy: boolean;
    }
  | ({ readonly name: 'handling' } & HandleDrag)
  | { readonly name: 'wiring'; readonly thing: string; readonly to: PanePointer }
  | { readonly name: 'marquee'; readonly start: PanePointer };

/** The tool in one of its states. */
export type Gesture<N extends State['name']> = Extract<State, { name: N }>;
