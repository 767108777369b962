import { useMemo } from 'react';
import type { MapDocument } from '@yesca/core';
import type { SheetView } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import type { Overlay } from '../state/overlay.ts';
import { useWatched, type Watched } from '../state/watched.ts';
import { toolNamed } from '../tools/index.ts';
import { useCurrent } from '../state/current.ts';

const NONE: readonly Watched[] = [];
const NOTHING: Overlay = {};

/** What the active tool shows over a document, and what its gesture adds: on a drawing, or without a view in the Eye. */
export function useToolOverlay(doc: MapDocument, view?: SheetView): Overlay {
  const tool = toolNamed(useCurrent((s) => s.tool));
  const selection = useEditor((s) => s.selection);
  const gesture = useEditor((s) => s.overlay);
  const changes = useWatched(tool.watch ?? NONE);
  const shown = useMemo(() => {
    // Counted, so that it is asked again when its options change.
    void changes;
    return tool.shows?.(doc, selection, view) ?? NOTHING;
  }, [tool, doc, selection, view, changes]);
  return useMemo(
    () => ({
      ...gesture,
      lines: [...(shown.lines ?? []), ...(gesture.lines ?? [])],
      marks: [...(shown.marks ?? []), ...(gesture.marks ?? [])],
    }),
    [shown, gesture],
  );
}
