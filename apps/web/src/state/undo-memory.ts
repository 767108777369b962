import { get, set, del } from 'idb-keyval';
import { documentHash, type Change } from '@yesca/core';
import { useEditor } from './editor.ts';

/** How many steps are kept over a reload. */
const KEPT = 100;

interface Memory {
  /** Of the document as the server has it: the steps fit that one and no other. */
  readonly hash: string;
  readonly undo: readonly Change[];
  readonly redo: readonly Change[];
}

const keyOf = (mapId: string): string => `yesca-undo ${mapId}`;

/** After every save the steps that lead to the saved document are kept in this browser. Gives a function that stops it. */
export function keepUndo(): () => void {
  let last: unknown = null;
  return useEditor.subscribe(({ save, doc, undo, redo, mapId }) => {
    if (save !== 'saved' || !mapId || doc === last) return;
    last = doc;
    if (undo.length + redo.length === 0) return void del(keyOf(mapId)).catch(() => undefined);
    const memory: Memory = { hash: documentHash(doc), undo: undo.slice(-KEPT), redo: redo.slice(-KEPT) };
    // A browser without storage still edits; it only cannot undo after a reload.
    set(keyOf(mapId), memory).catch(() => undefined);
  });
}

/** Takes up the steps kept for a map, if they belong to exactly the document that was loaded. */
export async function recallUndo(mapId: string): Promise<void> {
  const memory = await get<Memory>(keyOf(mapId)).catch(() => undefined);
  const { doc, undo, redo, mapId: open } = useEditor.getState();
  if (!memory || open !== mapId || undo.length + redo.length > 0) return;
  if (memory.hash !== documentHash(doc)) return void del(keyOf(mapId)).catch(() => undefined);
  useEditor.setState({ undo: memory.undo, redo: memory.redo });
}
