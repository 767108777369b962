import { allFaces, paintFaces, type FaceRef } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useView } from '../state/view.ts';
import { notify } from '../state/notify.ts';
import type { PanePointer, Tool } from './tool.ts';

/** Held while `I` is down: a click then picks a material up instead of putting it down. */
export const pickup = { held: false };

const editor = () => useEditor.getState();

/** The face under the pointer. On a cut, where no face shows, the whole brush stands in for it. */
function faceUnder(p: PanePointer): { refs: FaceRef[]; material: string } | null {
  const hit = p.hits.find((h) => h.thing.type === 'brush');
  const brush = hit && editor().doc.brushes.get(hit.thing.id);
  if (!brush) return null;
  const face = brush.faces[Math.max(0, hit.face)]!;
  return {
    refs: hit.face >= 0 ? [{ brush: brush.id, face: face.id }] : allFaces(editor().doc, [brush.id]),
    material: face.material,
  };
}

/** Click puts the active material on a face; with Shift on the whole brush; with I held it picks the face's material up. */
export const paintTool: Tool = {
  down: (p) => {
    const under = faceUnder(p);
    if (!under) return;
    const { material, paintWhole, set } = useView.getState();
    if (pickup.held || p.alt) {
      set({ material: under.material });
      notify(`Picked up ${under.material}`, 'pickup');
      return;
    }
    const { selection, doc } = editor();
    const one = under.refs[0]!;
    // A click on one of several selected faces paints them all.
    const chosen = selection.faces.some((f) => f.brush === one.brush && f.face === one.face)
      ? selection.faces
      : under.refs;
    const refs = paintWhole || p.shift ? allFaces(doc, [one.brush]) : chosen;
    editor().run('Paint', (d) => paintFaces(d, refs, material));
  },
  move: () => undefined,
  up: () => undefined,
  cancel: () => false,
  commit: () => false,
  cursor: () => (pickup.held ? 'copy' : 'cell'),
};
