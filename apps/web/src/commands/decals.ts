import { call, decalOf, isPatch } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
import { pickedIds } from '../state/selection.ts';

/** Lets the decals that are selected fall on the rest of the selection, and on nothing else. */
export function aimDecals(): void {
  const { run, selection } = useEditor.getState();
  run(call('decal.target', { picked: pickedIds(selection) }));
}

/** The decals that are selected, or where there are none the patches. */
export function pickedPatchable(): { decals: string[] } | { patches: string[] } | null {
  const { doc, selection } = useEditor.getState();
  const decals = [...selection.entities].filter((id) => {
    const thing = doc.entities.get(id);
    return thing && decalOf(thing);
  });
  if (decals.length > 0) return { decals };
  const patches = [...selection.brushes].filter((id) => {
    const brush = doc.brushes.get(id);
    return brush && isPatch(brush);
  });
  return patches.length > 0 ? { patches } : null;
}

/** Turns the selected decals into patches that are aligned like faces, or the selected patches into decals. */
export function turnPatches(): void {
  const picked = pickedPatchable();
  const { run } = useEditor.getState();
  if (!picked) notify('Select decals, or patches: thin brushes of which one face is seen.');
  else if ('decals' in picked) run(call('decal.toPatch', { things: picked.decals }));
  else run(call('patch.toDecal', { brushes: picked.patches }));
}
