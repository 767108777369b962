import { Cancelled, hasProps } from '@yesca/core';
import { CHECKS, type CheckAnswer, type CheckInput } from '../workers/checks.ts';
import { Mirror } from '../workers/mirror.ts';
import { pageThread } from '../workers/page-thread.ts';
import { useEditor } from './editor.ts';
import { useLibrary } from './library.ts';
import { notify, notifyError } from './notify.ts';

/** Quiet time after an edit before the check starts, ms: a leak is to show within a second. */
const DELAY = 150;

const openWorker = () =>
  pageThread(new Worker(new URL('../workers/mirror.worker.ts', import.meta.url), { type: 'module' }));

/** Runs the live check in a worker after every edit. Gives a function that stops it. */
export function keepChecked(open = openWorker): () => void {
  let knownMaterials: unknown = null;
  let knownProps: unknown = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  let stopped = false;
  const mirror = new Mirror(open, (replaced) => {
    knownMaterials = knownProps = null;
    if (replaced) notify('The checks stopped and were started again.', 'checks');
    else notify('The checks stopped and do not start again. Reload the page; nothing is lost.', 'checks');
  });

  const check = async (): Promise<void> => {
    const { doc, mapId } = useEditor.getState();
    if (running || !mapId) return;
    running = true;
    const { materials, props } = useLibrary.getState();
    const input: CheckInput = {
      ...(knownMaterials !== materials && { materials }),
      ...(knownProps !== props && { props }),
    };
    try {
      const answer = await mirror.ask<CheckInput, CheckAnswer>(CHECKS, { mapId, doc }, input);
      knownMaterials = materials;
      knownProps = props;
      const now = useEditor.getState();
      if (now.mapId === mapId && now.doc === doc)
        now.set({
          sealing: { state: answer.state, leak: answer.leak },
          findings: answer.findings,
          trail: answer.leak?.trail ?? null,
        });
    } catch (error) {
      if (!stopped && !(error instanceof Cancelled)) notifyError(error);
    } finally {
      running = false;
      const now = useEditor.getState();
      const library = useLibrary.getState();
      if (
        !stopped &&
        (now.doc !== doc || library.materials !== materials || (library.props !== props && hasProps(doc)))
      )
        schedule();
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
  // What is known of props matters to maps that have some.
  const stopLibrary = useLibrary.subscribe(
    (now, before) =>
      (now.materials !== before.materials || (now.props !== before.props && hasProps(useEditor.getState().doc))) &&
      schedule(),
  );
  schedule();
  return () => {
    stopped = true;
    stop();
    stopLibrary();
    clearTimeout(timer);
    mirror.end();
  };
}
