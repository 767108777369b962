/** Width and height of a pane on screen, pixels. */
export type PaneSize = readonly [width: number, height: number];

const sizes = new Map<string, PaneSize>();
const waiting = new Set<() => void>();

/** How large a pane is; null while it is not on screen. */
export const paneSize = (pane: string): PaneSize | null => sizes.get(pane) ?? null;

/** A pane tells its size, or that it is gone. */
export function setPaneSize(pane: string, size: PaneSize | null): void {
  if (!size) return void sizes.delete(pane);
  sizes.set(pane, size);
  for (const run of waiting) run();
  waiting.clear();
}

/** Does something as soon as a drawing has a size: at once, or when the page with the panes has come. */
export function whenLaidOut(run: () => void): void {
  if (sizes.size > 0) run();
  else waiting.add(run);
}
