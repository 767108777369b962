import type { Vec3 } from '@yesca/core';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { useEditor } from '../state/editor.ts';
import type { PanePointer } from './tool.ts';

/** The surface that a thin sheet, a prop or a decal is put on. */
export function placeOn(p: PanePointer): { at: Vec3; normal: Vec3 } | null {
  if (p.pane === 'eye') return p.normal ? { at: p.raw, normal: p.normal } : null;
  const [x, y] = p.snapped;
  return { at: [x, y, surfaceUnder(useEditor.getState().doc, p.snapped)], normal: [0, 0, 1] };
}
