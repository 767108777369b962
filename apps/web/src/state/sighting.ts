import { Cancelled, type Sight } from '@yesca/core';
import { Mirror } from '../workers/mirror.ts';
import { pageThread } from '../workers/page-thread.ts';
import { SIGHT, type SightKnowledge } from '../workers/sight.ts';
import { useEditor } from './editor.ts';
import { sightKnowledge } from './library.ts';
import { notify, notifyError } from './notify.ts';
import { useSight } from './sight.ts';

/** Quiet time after an edit before sight is worked out anew, ms. */
const DELAY = 400;

/** A thread that works out sight, and what would make it cheaper. */
export const openSightWorker = () =>
  pageThread(new Worker(new URL('../workers/sight.worker.ts', import.meta.url), { type: 'module' }));

/** Shows what is seen from where; what was pointed at or picked of another sight goes. */
export const showSight = (sight: Sight | null): void => useSight.setState({ sight, hovered: -1, line: null });

/** How far live sight is: at work, there, or that the map is open. */
export type Sighting = { readonly state: 'working'; readonly done: number } | { readonly state: 'shown' | 'open' };

/** Works sight out from the map as it is, now and after every edit. Gives a function that stops it. */
export function keepSight(tell: (now: Sighting) => void = () => undefined): () => void {
  const mirror = new Mirror(
    openSightWorker,
    (again) => again || notify('The helper that works out sight stopped. Reload the page; nothing is lost.', 'sight'),
  );
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: AbortController | null = null;
  const ask = () => {
    running?.abort();
    const control = (running = new AbortController());
    const { doc, mapId } = useEditor.getState();
    if (!mapId) return;
    tell({ state: 'working', done: 0 });
    mirror
      .ask<SightKnowledge, Sight | null>(SIGHT, { mapId, doc }, sightKnowledge(doc), {
        signal: control.signal,
        progress: (done) => control.signal.aborted || tell({ state: 'working', done }),
      })
      .then((sight) => {
        showSight(sight);
        tell({ state: sight ? 'shown' : 'open' });
      })
      .catch((error: unknown) => error instanceof Cancelled || control.signal.aborted || notifyError(error));
  };
  const stop = useEditor.subscribe((now, before) => {
    if (now.doc === before.doc) return;
    clearTimeout(timer);
    timer = setTimeout(ask, DELAY);
  });
  ask();
  return () => {
    stop();
    clearTimeout(timer);
    running?.abort();
    mirror.end();
  };
}
