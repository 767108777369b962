import { api, ApiError } from '../api/client.ts';
import { changesBetween, isNoChange } from '@yesca/core';
import { useEditor } from './editor.ts';
import { notifyError } from './notify.ts';

/** Quiet time after an edit before it is sent, ms. */
const DELAY = 500;
/** Time between tries while the server does not answer, ms. */
const RETRY = 3000;

let timer: ReturnType<typeof setTimeout> | undefined;
let sending = false;

/** Saves the document after every edit, one request at a time, again and again while the server is away. Gives a function that stops it. */
export function keepSaved(): () => void {
  const stop = useEditor.subscribe((now, before) => {
    if (now.save === 'unsaved' && (now.doc !== before.doc || before.save !== 'unsaved')) schedule(DELAY);
  });
  const warn = (event: BeforeUnloadEvent) => {
    if (useEditor.getState().save !== 'saved') event.preventDefault();
  };
  window.addEventListener('beforeunload', warn);
  return () => {
    stop();
    window.removeEventListener('beforeunload', warn);
    if (useEditor.getState().save === 'unsaved') void saveNow();
  };
}

function schedule(delay: number): void {
  clearTimeout(timer);
  timer = setTimeout(() => void saveNow(), delay);
}

/** Saves what is left, waiting for a save on its way. Gives whether everything is saved. */
export async function saveBeforeLeaving(): Promise<boolean> {
  for (let i = 0; sending && i < 100; i++) await new Promise((done) => setTimeout(done, 50));
  await saveNow();
  return useEditor.getState().save === 'saved';
}

export async function saveNow(): Promise<void> {
  clearTimeout(timer);
  const { mapId, version, base, doc, save, set } = useEditor.getState();
  if (sending || !mapId || save === 'saved' || save === 'stale' || save === 'gone') return;
  const changes = changesBetween(base, doc);
  // Done and undone again: there is nothing to send.
  if (isNoChange(changes)) return set({ save: 'saved' });
  sending = true;
  set({ save: 'saving' });
  try {
    const saved = await api<{ version: number }>('POST', `/api/maps/${mapId}/changes`, {
      baseVersion: version,
      ...changes,
    });
    const now = useEditor.getState();
    if (now.mapId === mapId)
      now.set({ version: saved.version, base: doc, save: now.doc === doc ? 'saved' : 'unsaved' });
  } catch (error) {
    const now = useEditor.getState();
    if (now.mapId !== mapId) return;
    if (error instanceof ApiError && error.status === 409) now.set({ save: 'stale' });
    else if (error instanceof ApiError && error.status === 404) now.set({ save: 'gone' });
    else {
      now.set({ save: 'offline' });
      if (!(error instanceof ApiError && error.status === 0)) notifyError(error);
    }
  } finally {
    sending = false;
    const { save: left } = useEditor.getState();
    if (left === 'unsaved') schedule(DELAY);
    else if (left === 'offline') schedule(RETRY);
  }
}
