import type { KeyboardEvent } from 'react';
import { lastPane } from '../state/last-pane.ts';

/** Gives the keyboard back to the pane that was used last, where tools and arrows work. */
export const focusPane = (): void =>
  document.querySelector<HTMLElement>(`[data-pane=${lastPane.kind}]`)?.focus({ preventScroll: true });

/** Of a search field: keys are its own, and Esc leaves it. */
export function searchKeys(event: KeyboardEvent<HTMLInputElement>): void {
  event.stopPropagation();
  if (event.key !== 'Escape') return;
  event.currentTarget.blur();
  focusPane();
}
