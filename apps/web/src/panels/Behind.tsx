import { useDeferredValue, type ReactNode } from 'react';
import type { MapDocument } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import type { Selection } from '../state/selection.ts';

/** A map and what is selected in it, for panels that follow when there is time; and whether they are behind. */
export function useFollowed(now: MapDocument): { doc: MapDocument; selection: Selection; behind: boolean } {
  const chosen = useEditor((s) => s.selection);
  const doc = useDeferredValue(now);
  const selection = useDeferredValue(chosen);
  return { doc, selection, behind: doc !== now || selection !== chosen };
}

/** Round a panel that follows: while it is behind, it says so to who looks at the page from outside. */
export function Behind({ when, children }: { when: boolean; children: ReactNode }) {
  return (
    <div style={{ display: 'contents' }} data-behind={when || undefined}>
      {children}
    </div>
  );
}
