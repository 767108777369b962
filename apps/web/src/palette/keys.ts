import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Command } from './command.ts';

/** Bindings that this browser's user changed, by command id; an empty one unbinds. In react-hotkeys-hook's notation. */
export const useBindings = create<{
  readonly changed: Readonly<Record<string, string>>;
  bind: (command: string, keys: string | null) => void;
  reset: () => void;
}>()(
  persist(
    (set, get) => ({
      changed: {},
      bind: (command, keys) => {
        const { [command]: _, ...rest } = get().changed;
        set({ changed: keys === null ? rest : { ...rest, [command]: keys } });
      },
      reset: () => set({ changed: {} }),
    }),
    { name: 'yesca-keys' },
  ),
);

type Bound = Pick<Command, 'id' | 'keys'>;

/** The keys of a command, as bound here: several are separated by commas; empty when it has none. */
export const boundKeys = (command: Bound): string => useBindings.getState().changed[command.id] ?? command.keys ?? '';

const NAMES: Readonly<Record<string, string>> = {
  mod: 'Ctrl',
  shift: 'Shift',
  alt: 'Alt',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  delete: 'Del',
  backspace: 'Backspace',
  pageup: 'PgUp',
  pagedown: 'PgDn',
  enter: 'Enter',
  home: 'Home',
  end: 'End',
  space: 'Space',
  bracketleft: '[',
  bracketright: ']',
  comma: ',',
  period: '.',
  minus: '-',
  equal: '=',
  slash: '/',
  semicolon: ';',
  quote: "'",
};

/** `mod+shift+z` as people read it. */
export const keyLabel = (keys: string): string =>
  keys
    .split(',')[0]!
    .trim()
    .split('+')
    .map((k) => NAMES[k] ?? k.toUpperCase())
    .join(' ');

/** What a tooltip says of a command's key. */
export const keysOf = (command: Bound): string => (boundKeys(command) ? keyLabel(boundKeys(command)) : 'no key');

/** The binding that a key press means, or null for a lone modifier. */
export function bindingOf(
  event: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>,
): string | null {
  if (['Control', 'Shift', 'Alt', 'Meta'].includes(event.key)) return null;
  const plain = event.code.replace(/^(Key|Digit|Arrow|Numpad)/, '').toLowerCase();
  const mods = [(event.ctrlKey || event.metaKey) && 'mod', event.shiftKey && 'shift', event.altKey && 'alt'];
  return [...mods.filter(Boolean), plain].join('+');
}

/** Which other command already has a binding. */
export const takenBy = (commands: readonly Bound[], keys: string, except: string): string | null =>
  commands.find(
    (c) =>
      c.id !== except &&
      boundKeys(c)
        .split(',')
        .some((k) => k.trim() === keys),
  )?.id ?? null;
