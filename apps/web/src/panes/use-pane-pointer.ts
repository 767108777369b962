import { useRef, type DragEvent, type PointerEvent as ReactPointerEvent, type RefObject } from 'react';
import { lastPane } from '../state/last-pane.ts';
import { pointerTool } from '../tools/index.ts';
import type { PanePointer } from '../tools/tool.ts';
import { allowDrop, drop } from './drop.ts';
import type { PointerKeys } from './pointer.ts';

/** A drag that is the pane's own: its paper slides, its camera turns, a line of it is moved. */
export interface PaneDrag {
  readonly move: (event: PointerKeys) => void;
  readonly end?: (event: PointerKeys) => void;
}

interface Pane {
  readonly ref: RefObject<HTMLDivElement | null>;
  /** The pointer in world terms; null while the pane cannot say. */
  readonly pointerAt: (event: PointerKeys) => PanePointer | null;
  /** What a press means to the pane itself; null leaves the left button to the tool. */
  readonly grab: (event: ReactPointerEvent) => PaneDrag | null;
  /** After the tool has seen it: the pointer moved and nothing is pressed. */
  readonly hover?: (p: PanePointer) => void;
  /** After the tool has seen it: it drags on. */
  readonly toolDrags?: (event: PointerKeys) => void;
}

/** What a pane does with the pointer: one way for drawings and Eye. Its own drags go first, the rest is the tool's. */
export function usePanePointer({ ref, pointerAt, grab, hover, toolDrags }: Pane) {
  const drag = useRef<PaneDrag | 'tool' | null>(null);
  return {
    /** Whether the tool drags right now. */
    toolHolds: () => drag.current === 'tool',
    handlers: {
      onPointerDown: (event: ReactPointerEvent) => {
        ref.current!.focus({ preventScroll: true });
        drag.current = grab(event);
        const p = drag.current || event.button !== 0 ? null : pointerAt(event);
        if (p) {
          drag.current = 'tool';
          pointerTool().down(p);
        }
        if (drag.current) event.currentTarget.setPointerCapture(event.pointerId);
      },
      onPointerMove: (event: ReactPointerEvent) => {
        const own = drag.current;
        if (own && own !== 'tool') return own.move(event);
        const p = pointerAt(event);
        if (!p) return;
        lastPane.at = p.raw;
        lastPane.normal = p.normal;
        pointerTool().move(p);
        if (own) toolDrags?.(event);
        else hover?.(p);
      },
      onPointerUp: (event: ReactPointerEvent) => {
        const own = drag.current;
        drag.current = null;
        if (own === 'tool') {
          const p = pointerAt(event);
          if (p) pointerTool().up(p);
        } else own?.end?.(event);
      },
      onDragOver: allowDrop,
      onDrop: (event: DragEvent) => {
        const p = pointerAt(event);
        if (p) drop(event, p);
      },
    },
  };
}
