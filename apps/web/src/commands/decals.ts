import { call } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { pickedIds } from '../state/selection.ts';

/** Lets the decals that are selected fall on the rest of the selection, and on nothing else. */
export function aimDecals(): void {
  const { run, selection } = useEditor.getState();
  run(call('decal.target', { picked: pickedIds(selection) }));
}
