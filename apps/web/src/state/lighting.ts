import { Cancelled, hasProps, type MapDocument, type Fineness, type PropMesh } from '@yesca/core';
import { FINE, LIGHT, type LightAnswer, type LightInput } from '../workers/light.ts';
import { Mirror } from '../workers/mirror.ts';
import { pageThread } from '../workers/page-thread.ts';
import { useEditor } from './editor.ts';
import { useLibrary } from './library.ts';
import { isOf, readLit, sameButStrengths, useLit } from './lit.ts';
import { notify, notifyError } from './notify.ts';

/** Quiet time after an edit before the map is lit again, ms. */
const DELAY = 120;

/** The presets that live light goes through: coarse at once, then fine. */
const STEPS: readonly Fineness[] = ['glimpse', 'glance', 'review'];

const openWorker = () =>
  pageThread(new Worker(new URL('../workers/light.worker.ts', import.meta.url), { type: 'module' }));

/** What some props of a map look like. */
export type MeshesOf = (doc: MapDocument) => Promise<ReadonlyMap<string, PropMesh>>;

/**
 * Keeps the light of the map up with it, in a worker: after an edit that changes more than the strength or colour of lamps all that it
 * touches is lit anew, coarse first. `meshesOf` gives what props of a map look like that are lit on themselves, for its fine light. Gives a
 * function that stops it.
 */
export function keepLit(meshesOf: MeshesOf, open = openWorker): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let stopped = false;
  let knownMaterials: unknown = null;
  let knownProps: unknown = null;
  /** What is lit, or being lit. */
  let lit: {
    readonly mapId: string;
    readonly doc: MapDocument;
    readonly materials: unknown;
    readonly props: unknown;
  } | null = null;
  let cancel = new AbortController();
  const mirror = new Mirror(open, (replaced) => {
    knownMaterials = knownProps = null;
    if (!replaced) notify('Live light stopped and does not start again. Reload the page; nothing is lost.', 'light');
  });

  const light = async (): Promise<void> => {
    const { doc, mapId } = useEditor.getState();
    const { materials, props } = useLibrary.getState();
    if (!mapId || doc.brushes.size === 0) return;
    cancel.abort();
    const mine = (cancel = new AbortController());
    lit = { mapId, doc, materials, props };
    useLit.setState({ done: 0 });
    try {
      for (const [step, preset] of STEPS.entries()) {
        const meshes = FINE.has(preset) ? await meshesOf(doc) : null;
        if (mine.signal.aborted) return;
        const input: LightInput = {
          preset,
          ...(meshes?.size && { meshes }),
          ...(knownMaterials !== materials && { materials }),
          ...(knownProps !== props && { props }),
        };
        const progress = (done: number) =>
          !mine.signal.aborted && useLit.setState({ done: (step + done) / STEPS.length });
        const answer = await mirror.ask<LightInput, LightAnswer>(LIGHT, { mapId, doc }, input, {
          signal: mine.signal,
          progress,
        });
        knownMaterials = materials;
        knownProps = props;
        if (mine.signal.aborted || useEditor.getState().mapId !== mapId) return;
        useLit.setState({ lit: readLit(answer, { mapId, from: 'live', preset, doc }) });
      }
    } catch (error) {
      if (!stopped && !(error instanceof Cancelled)) notifyError(error);
    } finally {
      if (cancel === mine) useLit.setState({ done: null });
    }
  };
  const schedule = () => {
    clearTimeout(timer);
    timer = setTimeout(() => void light(), DELAY);
  };
  /** Starts anew when what is lit is no longer what there is. */
  const follow = () => {
    const { doc, mapId } = useEditor.getState();
    const { materials, props } = useLibrary.getState();
    if (
      lit?.mapId === mapId &&
      lit?.materials === materials &&
      (lit?.props === props || !hasProps(doc)) &&
      sameButStrengths(lit.doc, doc)
    )
      return;
    schedule();
  };
  const stop = useEditor.subscribe((now, before) => {
    if (now.doc !== before.doc || now.mapId !== before.mapId) follow();
  });
  const stopLibrary = useLibrary.subscribe(
    (now, before) => (now.materials !== before.materials || now.props !== before.props) && follow(),
  );
  /** A build of the map as it is has as fine a light as would come of it. */
  const found = useLit.getState().lit;
  const { doc, mapId } = useEditor.getState();
  if (found && mapId && found.mapId === mapId && FINE.has(found.preset) && isOf(found, doc))
    lit = { mapId, doc, ...useLibrary.getState() };
  else schedule();
  return () => {
    stopped = true;
    stop();
    stopLibrary();
    clearTimeout(timer);
    cancel.abort();
    mirror.end();
    useLit.setState({ done: null });
  };
}
