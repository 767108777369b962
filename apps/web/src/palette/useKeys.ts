import { endTrial } from '../scene/trial.ts';
import { useDisplay } from '../state/display.ts';
import { useTrial } from '../state/trial.ts';
import { useEffect, useMemo } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useWiring } from '../tools/wiring.ts';
import { activeTool, pickup } from '../tools/index.ts';
import { COMMANDS } from './commands.ts';
import { boundKeys, useBindings } from './keys.ts';
import { copyHere, pasteHere } from '../commands/clipboard.ts';
import { openShortcuts } from './Shortcuts.tsx';

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/**
 * Whether a key is for the field that has the focus. A list of choices that is closed keeps the focus after a choice was made, and takes
 * only what opens it and leads on from it: letters, numbers and Esc are commands there as everywhere. In one that is searched by typing
 * letters are for the search, but what was chosen is undone.
 */
export function fieldTakes(event: Pick<KeyboardEvent, 'target' | 'key' | 'ctrlKey' | 'metaKey'>): boolean {
  const { target, key } = event;
  if (!inField(target)) return false;
  if (!(target instanceof HTMLInputElement) || target.dataset.expanded !== undefined) return true;
  if (target.readOnly) return !(key === 'Escape' || /^\S$/.test(key));
  const isList = target.getAttribute('aria-haspopup') === 'listbox';
  return !(isList && (event.ctrlKey || event.metaKey) && /^[zy]$/i.test(key));
}

/** The keys of Shape: commands, and what a gesture takes (numbers, Enter, Esc). */
export function useKeys(): void {
  const changed = useBindings((s) => s.changed);
  const byKeys = useMemo(() => {
    void changed;
    const all = COMMANDS.flatMap((c) =>
      boundKeys(c)
        .split(',')
        .map((keys) => [keys.trim(), c.run] as const),
    );
    return new Map(all.filter(([keys]) => keys));
  }, [changed]);
  useHotkeys(
    [...byKeys.keys()],
    (event, handler) => {
      const mods = [handler.mod && 'mod', handler.shift && 'shift', handler.alt && 'alt'].filter(Boolean);
      const name = [...mods, ...(handler.keys ?? [])].join('+').replace('arrow', '');
      const run = byKeys.get(name);
      if (!run) return;
      event.preventDefault();
      run();
    },
    { preventDefault: false, enableOnFormTags: true, ignoreEventWhen: fieldTakes },
    [byKeys],
  );
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      if (fieldTakes(event)) return;
      if (event.key === '?') return openShortcuts();
      if (event.key === 'i') pickup.held = true;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const tool = activeTool();
      const taken =
        event.key === 'Escape'
          ? stopWiring() || stopTrial() || tool.cancel()
          : event.key === 'Enter'
            ? tool.commit()
            : /^[\d.+*/() mc-]$/.test(event.key) || event.key === 'Backspace'
              ? (tool.type?.(event.key) ?? false)
              : false;
      if (taken) {
        event.preventDefault();
        event.stopImmediatePropagation();
      }
    };
    const up = (event: KeyboardEvent) => {
      if (event.key === 'i') pickup.held = false;
    };
    window.addEventListener('keydown', down, true);
    window.addEventListener('keyup', up, true);
    const clipboard = (event: ClipboardEvent) => {
      if (inField(event.target)) return;
      const done =
        event.type === 'paste'
          ? pasteHere(event.clipboardData?.getData('text/plain') ?? '')
          : copyHere(event.clipboardData, event.type === 'cut');
      if (done) event.preventDefault();
    };
    for (const type of ['copy', 'cut', 'paste'] as const) window.addEventListener(type, clipboard);
    return () => {
      for (const type of ['copy', 'cut', 'paste'] as const) window.removeEventListener(type, clipboard);
      window.removeEventListener('keydown', down, true);
      window.removeEventListener('keyup', up, true);
    };
  }, []);
}

/** Whether a wire was begun; it is dropped. */
function stopWiring(): boolean {
  const { thing, end } = useWiring.getState();
  if (thing !== null) end();
  return thing !== null;
}

/** Whether something was being tried; then everything stands as before. */
function stopTrial(): boolean {
  const running = useTrial.getState().running && !useDisplay.getState().walking;
  if (running) endTrial();
  return running;
}
