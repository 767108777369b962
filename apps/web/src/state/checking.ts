import * as Comlink from 'comlink';
import { diffDocuments, isEmptyChange, type Change, type MapDocument } from '@yesca/core';
import type { Checker } from '../workers/check.worker.ts';
import { useEditor } from './editor.ts';
import { notify, notifyError } from './notify.ts';
import { useLibrary, type LibraryState } from './library.ts';

/** A worker that dies this often is let be. */
const STARTS = 5;

/** Quiet time after an edit before the check starts, ms: a leak is to show within a second. */
const DELAY = 150;

/** A change without what was before it: half as much to hand over. */
const newSide = (change: Change): Change => ({
  ...change,
  items: change.items.map((item) => ({ in: item.in, id: item.id, after: item.after })),
});

/** Runs the live check in a worker after every edit. Gives a function that stops it. */
export function keepChecked(): () => void {
  let known: MapDocument | null = null;
  let knownMaterials: LibraryState['materials'] | null = null;
  let knownMap: string | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  let worker: Worker;
  let checker: Comlink.Remote<Checker>;
  /** How often it was started: what an earlier one still answers is not wanted. */
  let start = 0;

  const open = (): void => {
    const mine = ++start;
    worker = new Worker(new URL('../workers/check.worker.ts', import.meta.url), { type: 'module' });
    checker = Comlink.wrap<Checker>(worker);
    worker.onerror = (event) => {
      event.preventDefault();
      if (mine !== start) return;
      worker.terminate();
      if (mine >= STARTS)
        return notify('The checks stopped and do not start again. Reload the page; nothing is lost.', 'checks');
      notify('The checks stopped and were started again.', 'checks');
      known = null;
      knownMaterials = null;
      running = false;
      open();
      schedule();
    };
  };

  const check = async (): Promise<void> => {
    const { doc, mapId } = useEditor.getState();
    if (running || !mapId) return;
    running = true;
    const mine = start;
    try {
      const { materials } = useLibrary.getState();
      if (knownMaterials !== materials) await checker.know((knownMaterials = materials));
      if (knownMap !== mapId || !known) await checker.reset(doc);
      else {
        const change = diffDocuments(known, doc, '');
        if (!isEmptyChange(change)) await checker.follow(newSide(change));
      }
      if (mine !== start) return;
      known = doc;
      knownMap = mapId;
      const answer = await checker.run();
      const now = useEditor.getState();
      if (answer && mine === start && now.mapId === mapId && now.doc === doc) {
        now.set({
          sealing: { state: answer.state, leak: answer.leak },
          findings: answer.findings,
          trail: answer.leak?.trail ?? null,
        });
      }
    } catch (error) {
      if (mine === start) notifyError(error);
    } finally {
      if (mine === start) {
        running = false;
        if (useEditor.getState().doc !== known) schedule();
      }
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
  open();
  schedule();
  return () => {
    start = Infinity;
    stop();
    stopLibrary();
    clearTimeout(timer);
    worker.terminate();
  };
}
