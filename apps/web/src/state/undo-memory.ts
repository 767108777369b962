import { get, set, del } from 'idb-keyval';
import { useEditor, type Step } from './editor.ts';
import { NOTHING } from './selection.ts';

/** How many steps are kept over a reload. */
const KEPT = 100;

interface Memory {
  /** The version the server gave the document: the steps fit that one and no other. */
  readonly version: number;
  readonly undo: readonly Step[];
  readonly redo: readonly Step[];
}

const keyOf = (mapId: string): string => `yesca-undo ${mapId}`;

/** After every save the steps that lead to the saved document are kept in this browser. Gives a function that stops it. */
export function keepUndo(): () => void {
  let last: unknown = null;
  let lastMap: string | null = null;
  return useEditor.subscribe(({ save, doc, undo, redo, mapId, version }) => {
    if (save !== 'saved' || !mapId || doc === last) return;
    last = doc;
    // A map that was just opened has no steps yet: those kept from before are still to be taken up.
    if (mapId !== lastMap) return void (lastMap = mapId);
    if (undo.length + redo.length === 0) return void del(keyOf(mapId)).catch(() => undefined);
    const memory: Memory = { version, undo: undo.slice(-KEPT), redo: redo.slice(-KEPT) };
    // A browser without storage still edits; it only cannot undo after a reload.
    set(keyOf(mapId), memory).catch(() => undefined);
  });
}

/** Takes up the steps kept for a map, if they belong to exactly the version that was loaded: after somebody else's save they do not. */
export async function recallUndo(mapId: string): Promise<void> {
  const memory = await get<Memory>(keyOf(mapId)).catch(() => undefined);
  const { version, undo, redo, mapId: open } = useEditor.getState();
  if (!memory || open !== mapId || undo.length + redo.length > 0) return;
  if (memory.version !== version) return void del(keyOf(mapId)).catch(() => undefined);
  // Steps kept by an older version know of no selection.
  const whole = (steps: readonly Step[]) => steps.map((s) => (s.selection ? s : { ...s, selection: NOTHING }));
  useEditor.setState({ undo: whole(memory.undo), redo: whole(memory.redo) });
}
