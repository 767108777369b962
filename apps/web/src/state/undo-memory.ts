import { del, delMany, get, getMany, setMany } from 'idb-keyval';
import { useEditor, type Step } from './editor.ts';
import { NOTHING } from './selection.ts';

/** How many steps are kept over a reload. */
const KEPT = 100;

/** The names under which steps are kept, each by itself: a save writes the steps that came since, not all of them again. */
interface Memory {
  /** The version the server gave the document: the steps fit that one and no other. */
  readonly version: number;
  readonly undo: readonly string[];
  readonly redo: readonly string[];
}

const keyOf = (mapId: string): string => `yesca-undo ${mapId}`;

const names = new WeakMap<Step, string>();
let named = 0;
const nameOf = (mapId: string, step: Step): string => {
  let name = names.get(step);
  if (!name) names.set(step, (name = `yesca-step ${mapId} ${Date.now().toString(36)} ${(named++).toString(36)}`));
  return name;
};

/** Names of older versions' memories are the steps themselves, which are let go. */
const stepsOf = (memory: Memory | undefined): string[] =>
  memory ? [...memory.undo, ...memory.redo].filter((name) => typeof name === 'string') : [];

/** After every save the steps that lead to the saved document are kept in this browser. Gives a function that stops it. */
export function keepUndo(): () => void {
  let last: unknown = null;
  let lastMap: string | null = null;
  /** What is written waits for what was written before, so that the two agree on what is kept. */
  let writing: Promise<void> = Promise.resolve();
  return useEditor.subscribe(({ save, doc, undo, redo, mapId, version }) => {
    if (save !== 'saved' || !mapId || doc === last) return;
    last = doc;
    // A map that was just opened has no steps yet: those kept from before are still to be taken up.
    if (mapId !== lastMap) return void (lastMap = mapId);
    const steps = [undo.slice(-KEPT), redo.slice(-KEPT)] as const;
    // A browser without storage still edits; it only cannot undo after a reload.
    writing = writing.then(() => write(mapId, version, steps)).catch(() => undefined);
  });
}

async function write(
  mapId: string,
  version: number,
  [undo, redo]: readonly [readonly Step[], readonly Step[]],
): Promise<void> {
  // prettier-ignore
  const kept = new Set(stepsOf(await get<Memory>(keyOf(mapId))));
  const nameAll = (steps: readonly Step[]) => steps.map((s) => nameOf(mapId, s));
  const memory: Memory = { version, undo: nameAll(undo), redo: nameAll(redo) };
  const fresh = [...undo, ...redo].filter((s) => !kept.has(nameOf(mapId, s)));
  await setMany([[keyOf(mapId), memory], ...fresh.map((s): [string, Step] => [nameOf(mapId, s), s])]);
  for (const name of stepsOf(memory)) kept.delete(name);
  await delMany([...kept]);
}

async function forget(mapId: string, memory: Memory): Promise<void> {
  await del(keyOf(mapId));
  await delMany(stepsOf(memory));
}

/** Takes up the steps kept for a map, if they belong to exactly the version that was loaded: after somebody else's save they do not. */
export async function recallUndo(mapId: string): Promise<void> {
  const memory = await get<Memory>(keyOf(mapId)).catch(() => undefined);
  if (!memory) return;
  const open = useEditor.getState();
  if (open.mapId !== mapId || open.undo.length + open.redo.length > 0) return;
  if (memory.version !== open.version) return void forget(mapId, memory).catch(() => undefined);
  const all = stepsOf(memory);
  const steps = await getMany<Step | undefined>(all).catch(() => []);
  const now = useEditor.getState();
  if (now.mapId !== mapId || now.version !== memory.version || now.undo.length + now.redo.length > 0) return;
  // A step is worth nothing without those between it and the document: all are taken up or none.
  if (steps.length !== all.length || steps.some((s) => !s)) return;
  const whole = steps.map((step, i): Step => {
    // Steps kept by an older version know of no selection.
    const s = step!.selection ? step! : { ...step!, selection: NOTHING };
    names.set(s, all[i]!);
    return s;
  });
  const undos = memory.undo.length;
  useEditor.setState({ undo: whole.slice(0, undos), redo: whole.slice(undos) });
}
