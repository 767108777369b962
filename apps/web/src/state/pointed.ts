import { create } from 'zustand';

/** The thing under the pointer. */
export const usePointed = create<{ id: string | null }>()(() => ({ id: null }));
export const setPointed = (id: string | null): void => {
  if (usePointed.getState().id !== id) usePointed.setState({ id });
};
