import { create } from 'zustand';

/** The assembly in hand: what it is called and its map file's text. */
export interface AssemblyInHand {
  readonly id: string;
  readonly label: string;
  readonly text: string;
}

/** Which assembly of Stock is placed next; null for none. */
export const useAssembly = create<{ readonly inHand: AssemblyInHand | null }>()(() => ({ inHand: null }));
