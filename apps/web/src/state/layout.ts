import { keptStore } from './kept.ts';

export type PaneName = 'plan' | 'section' | 'eye';

/** What lies where on the screen. */
export interface Layout {
  /** Which pane fills the centre; null shows all three. */
  readonly full: PaneName | null;
  readonly drawer: 'register' | 'stock' | null;
  readonly particulars: boolean;
  /** The Eye on the left; the Section above the Plan. */
  readonly swapped: { readonly eye: boolean; readonly sheet: boolean };
  /** The flat view of the selected faces is open. */
  readonly flat: boolean;
}

export const useLayout = keptStore<Layout>(
  'layout',
  { full: null, drawer: 'register', particulars: true, swapped: { eye: false, sheet: false }, flat: false },
  ['drawer', 'particulars', 'swapped'],
);
