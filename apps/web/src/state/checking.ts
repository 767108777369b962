import * as Comlink from 'comlink';
import { diffDocuments, isEmptyChange, type Change, type MapDocument } from '@yesca/core';
import type { Checker } from '../workers/check.worker.ts';
import { useEditor } from './editor.ts';
import { useLibrary, type LibraryState } from './library.ts';

/** Quiet time after an edit before the check starts, ms: a leak is to show within a second. */
const DELAY = 150;

/** A change without what was before it: half as much to hand over. */
const newSide = (change: Change): Change => ({
  ...change,
  items: change.items.map((item) => ({ in: item.in, id: item.id, after: item.after })),
});

/** Runs the live check in a worker after every edit. Gives a function that stops it. */
export function keepChecked(): () => void {
  const worker = new Worker(new URL('../workers/check.worker.ts', import.meta.url), { type: 'module' });
  const checker = Comlink.wrap<Checker>(worker);
  let known: MapDocument | null = null;
  let knownMaterials: LibraryState['materials'] | null = null;
  let knownMap: string | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;

  const check = async (): Promise<void> => {
    const { doc, mapId } = useEditor.getState();
    if (running || !mapId) return;
    running = true;
    try {
      const { materials } = useLibrary.getState();
      if (knownMaterials !== materials) await checker.know((knownMaterials = materials));
      if (knownMap !== mapId || !known) await checker.reset(doc);
      else {
        const change = diffDocuments(known, doc, '');
        if (!isEmptyChange(change)) await checker.follow(newSide(change));
      }
      known = doc;
      knownMap = mapId;
      const answer = await checker.run();
      const now = useEditor.getState();
      if (answer && now.mapId === mapId && now.doc === doc) {
        now.set({
          sealing: { state: answer.state, leak: answer.leak },
          findings: answer.findings,
          trail: answer.leak?.trail ?? null,
        });
      }
    } finally {
      running = false;
      if (useEditor.getState().doc !== known) schedule();
    }
  };
  const schedule = () => {
    clearTimeout(timer);
    timer = setTimeout(() => void check(), DELAY);
  };
  const stop = useEditor.subscribe((now, before) => {
    if (now.doc === before.doc && now.mapId === before.mapId) return;
    schedule();
  });
  const stopLibrary = useLibrary.subscribe((now, before) => now.materials !== before.materials && schedule());
  schedule();
  return () => {
    stop();
    stopLibrary();
    clearTimeout(timer);
    worker.terminate();
  };
}
