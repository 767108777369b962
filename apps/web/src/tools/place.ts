import { call, entityKind, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { useView } from '../state/view.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import type { PanePointer, Tool } from './tool.ts';
import { placeSheet } from '../commands/surfaces.ts';

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

/** The surface that a thin sheet stands on or hangs from. */
function sheetPlace(p: PanePointer): { at: Vec3; normal: Vec3 } | null {
  if (p.pane === 'eye') return p.normal ? { at: p.raw, normal: p.normal } : null;
  const [x, y] = p.snapped;
  return { at: [x, y, surfaceUnder(useEditor.getState().doc, p.snapped)], normal: [0, 0, 1] };
}

/** Click puts the active kind of entity on the surface under the pointer. */
export const placeTool: Tool = {
  down: (p) => {
    if (useView.getState().placing === 'sheet') {
      const on = sheetPlace(p);
      if (on) placeSheet(on.at, on.normal);
      return;
    }
    const kind = entityKind(useView.getState().entityKind);
    const at = kind && placeFor(p, kind.standsAt);
    if (kind && at) useEditor.getState().run(call('thing.place', { kind: kind.kind, at }));
  },
  move: () => undefined,
  up: () => undefined,
  cancel: () => false,
  commit: () => false,
  cursor: () => 'crosshair',
};
