import type { FaceRef } from '@yesca/core';
import { useEditor } from '../state/editor.ts';

let last: FaceRef | null = null;

export const rememberPainted = (face: FaceRef): void => void (last = face);

/** The face that was painted or picked up last, while it is there: where a flow starts. */
export function lastPainted(): FaceRef | null {
  const face = last;
  if (!face) return null;
  const brush = useEditor.getState().doc.brushes.get(face.brush);
  return brush?.faces.some((f) => f.id === face.face) ? face : null;
}
