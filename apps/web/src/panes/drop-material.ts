import type { DragEvent } from 'react';
import { MATERIAL_DRAG } from '../state/drag.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes } from '../state/selection.ts';
import { paintAt, paintBrushes } from '../tools/paint.ts';
import type { PanePointer } from '../tools/tool.ts';

/** Lets a material from Stock be dropped on a pane. */
export function allowMaterial(event: DragEvent): void {
  if (!event.dataTransfer.types.includes(MATERIAL_DRAG)) return;
  event.preventDefault();
  event.dataTransfer.dropEffect = 'copy';
}

/** A material dropped on a pane goes on the face there, with Shift on the whole brush, on all that is selected if that was hit. */
export function dropMaterial(event: DragEvent, p: PanePointer | null): void {
  const name = event.dataTransfer.getData(MATERIAL_DRAG);
  if (!name || !p) return;
  event.preventDefault();
  const { doc, selection } = useEditor.getState();
  const hit = p.hits.find((h) => h.thing.type === 'brush');
  const all = selectedBrushes(selection, doc);
  if (hit && !event.shiftKey && all.has(hit.thing.id)) paintBrushes(all, name);
  else paintAt(p, name, event.shiftKey ? 'brush' : 'face');
}
