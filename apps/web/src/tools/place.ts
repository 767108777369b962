import { entityKind, newId, placeEntity, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { selectOnly } from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { surfaceUnder } from './surface-under.ts';
import type { PanePointer, Tool } from './tool.ts';

/** Where a new entity goes: standing on the surface under the pointer, at its kind's height; lights off walls and ceilings. */
function placeFor(p: PanePointer, standsAt: number): Vec3 | null {
  const { doc } = useEditor.getState();
  if (p.pane === 'plan') {
    const [x, y] = p.snapped;
    return [x, y, surfaceUnder(doc, [x, y, 0]) + standsAt];
  }
  // The Section's points lie on the section line.
  if (p.pane === 'section') return p.snapped;
  if (!p.normal) return null;
  const away = p.normal[2] > 0.7 ? standsAt : 24;
  return [p.raw[0] + p.normal[0] * away, p.raw[1] + p.normal[1] * away, p.raw[2] + p.normal[2] * away].map((c) =>
    Math.round(c),
  ) as unknown as Vec3;
}

/** Click puts the active kind of entity on the surface under the pointer. */
export const placeTool: Tool = {
  down: (p) => {
    const kind = entityKind(useView.getState().entityKind);
    const at = kind && placeFor(p, kind.standsAt);
    if (!kind || !at) return;
    const id = newId();
    if (
      useEditor.getState().run(`Place ${kind.label.toLowerCase()}`, (doc) => placeEntity(doc, kind.kind, at, 0, id))
    ) {
      useEditor.getState().select(selectOnly([{ type: 'entity', id }]));
    }
  },
  move: () => undefined,
  up: () => undefined,
  cancel: () => false,
  commit: () => false,
  cursor: () => 'crosshair',
};
