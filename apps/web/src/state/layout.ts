import { keptStore } from './kept.ts';

export type PaneName = 'plan' | 'section' | 'eye';

/** What lies where on the screen. */
export interface Layout {
  /** Which pane fills the centre; null shows all three. */
  readonly full: PaneName | null;
  readonly drawer: 'register' | 'stock' | 'lights' | null;
  readonly particulars: boolean;
  /** The Eye on the left; the Section above the Plan. */
  readonly swapped: { readonly eye: boolean; readonly sheet: boolean };
  /** The flat view of the selected faces is open. */
  readonly flat: boolean;
}

export type Drawer = NonNullable<Layout['drawer']>;

export const useLayout = keptStore<Layout>(
  'layout',
  { full: null, drawer: 'register', particulars: true, swapped: { eye: false, sheet: false }, flat: false },
  ['drawer', 'particulars', 'swapped'],
);

/** Opens a drawer, or closes it when it is the one that is open. */
export const toggleDrawer = (drawer: Drawer): void =>
  useLayout.setState({ drawer: useLayout.getState().drawer === drawer ? null : drawer });
