import { create } from 'zustand';
import type { MapDocument } from '@yesca/core';

/** What is being tried in the editor: the map with everything where it is at this moment. Never saved, never an undo step. */
export const useTrial = create<{
  readonly running: boolean;
  /** Null while everything stands as drawn. */
  readonly doc: MapDocument | null;
}>()(() => ({ running: false, doc: null }));
