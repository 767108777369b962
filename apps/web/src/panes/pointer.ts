/** What of a pointer event the tools care about. */
export interface PointerKeys {
  readonly clientX: number;
  readonly clientY: number;
  readonly shiftKey: boolean;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly altKey: boolean;
}

export const modifiers = (e: PointerKeys): { shift: boolean; ctrl: boolean; alt: boolean } => ({
  shift: e.shiftKey,
  ctrl: e.ctrlKey || e.metaKey,
  alt: e.altKey,
});
