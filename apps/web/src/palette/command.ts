/** One thing that can be done: found in the palette, shown on the shortcut sheet, bound to a key. */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly group: 'Tools' | 'Edit' | 'Shape' | 'Surface' | 'Select' | 'View';
  /** In react-hotkeys-hook's notation. */
  readonly keys?: string;
  readonly run: () => void;
}
