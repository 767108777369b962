import { del, delMany, get, getMany, setMany } from 'idb-keyval';
import { MAP_VERSION, migrateItem, type Change } from '@yesca/core';
import { useEditor, type Step } from './editor.ts';
import { selectOnly, thingsOf, type Selection, type Thing } from './selection.ts';

/** How many steps are kept over a reload. */
const KEPT = 100;

/** The names under which steps are kept, each by itself: a save writes the steps that came since, not all of them again. */
interface Memory {
  /** The version the server gave the document: the steps fit that one and no other. */
  readonly version: number;
  /** The version of the map file whose items the steps hold; 1 when absent. */
  readonly format?: number;
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
  const kept = new Set(stepsOf(await get<Memory>(keyOf(mapId))));
  const nameAll = (steps: readonly Step[]) => steps.map((s) => nameOf(mapId, s));
  const memory: Memory = { version, format: MAP_VERSION, undo: nameAll(undo), redo: nameAll(redo) };
  const fresh = [...undo, ...redo].filter((s) => !kept.has(nameOf(mapId, s)));
  // As text: thousands of things are written as one in half the time that copying each of them takes.
  await setMany([[keyOf(mapId), memory], ...fresh.map((s): [string, string] => [nameOf(mapId, s), asText(s)])]);
  for (const name of stepsOf(memory)) kept.delete(name);
  await delMany([...kept]);
}

/** A step with what was selected as lists: JSON knows no sets. */
const asText = ({ selection, ...change }: Step): string =>
  JSON.stringify({ ...change, selection: thingsOf(selection), faces: selection.faces });

function asStep(text: string, format: number): Step {
  const { selection, faces, ...change } = JSON.parse(text) as Change & {
    selection: Thing[];
    faces: Selection['faces'];
  };
  const now = (item: Change['items'][number], side: 'before' | 'after') =>
    side in item ? { [side]: migrateItem(item.in, item[side], format) } : {};
  const items = change.items.map((item) => ({ ...item, ...now(item, 'before'), ...now(item, 'after') }));
  return { ...change, items, selection: { ...selectOnly(selection), faces } };
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
  const texts = await getMany<string | undefined>(all).catch(() => []);
  const now = useEditor.getState();
  if (now.mapId !== mapId || now.version !== memory.version || now.undo.length + now.redo.length > 0) return;
  // A step is worth nothing without those between it and the document: all are taken up or none.
  if (texts.length !== all.length || texts.some((t) => typeof t !== 'string')) return;
  const whole = texts.map((text, i): Step => {
    const step = asStep(text!, memory.format ?? 1);
    names.set(step, all[i]!);
    return step;
  });
  const undos = memory.undo.length;
  useEditor.setState({ undo: whole.slice(0, undos), redo: whole.slice(undos) });
}
