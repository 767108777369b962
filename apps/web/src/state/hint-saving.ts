import { Cancelled, type Brush } from '@yesca/core';
import { Mirror } from '../workers/mirror.ts';
import { HINT_SAVING, type HintQuestion, type HintSaving } from '../workers/sight.ts';
import { useEditor } from './editor.ts';
import { sightKnowledge } from './library.ts';
import { notifyError } from './notify.ts';
import { openSightWorker } from './sighting.ts';

/** A thread that nobody asked for so long is ended, ms. */
const IDLE = 30_000;

/** What a hint would save: not known yet, or that the map is open. */
export type Saving = HintSaving | 'working' | 'open';

/**
 * Tells what the hint that is drawn would save. It may be asked at every movement: one question is worked on at a time, and the
 * newest is the next. Gives functions that ask and that stop.
 */
export function hintSavings(tell: (saving: Saving) => void) {
  let mirror: Mirror | null = null;
  let next: Brush | null = null;
  let at = 0;
  let busy = false;
  let idle: ReturnType<typeof setTimeout> | undefined;
  const stop = (): void => {
    at++;
    clearTimeout(idle);
    mirror?.end();
    [mirror, next, busy] = [null, null, false];
  };
  const work = async (): Promise<void> => {
    const began = at;
    busy = true;
    while (next && began === at) {
      const hint = next;
      next = null;
      const { doc, mapId } = useEditor.getState();
      if (!mapId) break;
      mirror ??= new Mirror(openSightWorker);
      try {
        const question = { hint, known: sightKnowledge(doc) };
        const found = await mirror.ask<HintQuestion, HintSaving | null>(HINT_SAVING, { mapId, doc }, question);
        if (began === at) tell(found ?? 'open');
      } catch (error) {
        if (began !== at || error instanceof Cancelled) return;
        notifyError(error);
        break;
      }
    }
    if (began !== at) return;
    busy = false;
    idle = setTimeout(stop, IDLE);
  };
  return {
    ask: (hint: Brush): void => {
      clearTimeout(idle);
      next = hint;
      if (!busy) void work();
    },
    stop,
  };
}
