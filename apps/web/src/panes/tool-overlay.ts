import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { MapDocument } from '@yesca/core';
import type { SheetView } from '../geometry/projection.ts';
import { useCurrent } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import type { Overlay, OverlayLine, OverlayMark } from '../state/overlay.ts';
import { useWatched, type Watched } from '../state/watched.ts';
import { toolNamed } from '../tools/index.ts';
import type { PaneName } from '../state/layout.ts';

const NO_STORES: readonly Watched[] = [];
const NOTHING: Overlay = {};
const NO_LINES: readonly OverlayLine[] = [];
const NO_MARKS: readonly OverlayMark[] = [];

/** Two lists after one another; where one of them is empty, the other itself, so that what draws it sees that nothing changed. */
const both = <T>(a: readonly T[], b: readonly T[]): readonly T[] =>
  a.length === 0 ? b : b.length === 0 ? a : [...a, ...b];
/** An empty list is always the same. */
const same = <T>(list: readonly T[] | undefined, none: readonly T[]): readonly T[] => (list?.length ? list : none);

/** The lines that one pane shows. */
const linesOn = (lines: readonly OverlayLine[] | undefined, pane: PaneName): readonly OverlayLine[] =>
  same(
    lines?.filter((line) => (line.on ?? pane) === pane),
    NO_LINES,
  );

/** Lines and handles of the active tool in one pane: what it shows of a document, and what its gesture adds. In the Eye without a view. */
export function useToolOverlay(
  doc: MapDocument,
  view?: SheetView,
): { readonly lines: readonly OverlayLine[]; readonly marks: readonly OverlayMark[] } {
  const tool = toolNamed(useCurrent((s) => s.tool));
  const selection = useEditor((s) => s.selection);
  const pane = view?.kind ?? 'eye';
  const lines = useEditor(useShallow((s) => linesOn(s.overlay.lines, pane)));
  const marks = useEditor((s) => same(s.overlay.marks, NO_MARKS));
  const changes = useWatched(tool.watch ?? NO_STORES);
  const shown = useMemo(() => {
    // Counted, so that it is asked again when its options change.
    void changes;
    return tool.shows?.(doc, selection, view) ?? NOTHING;
  }, [tool, doc, selection, view, changes]);
  return useMemo(
    () => ({
      lines: both(linesOn(shown.lines, pane), lines),
      marks: both(same(shown.marks, NO_MARKS), marks),
    }),
    [shown, lines, marks, pane],
  );
}
