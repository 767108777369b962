import { create } from 'zustand';

/** Dialogs that commands ask for; panels know how they look. */
export type DialogName = 'revisions' | 'copyCommands' | 'keepAssembly' | 'drawing';

interface Dialogs {
  readonly asked: DialogName | null;
  readonly ask: (asked: DialogName | null) => void;
}

export const useDialogs = create<Dialogs>()((set) => ({ asked: null, ask: (asked) => set({ asked }) }));

export const openDialog = (name: DialogName): void => useDialogs.getState().ask(name);
