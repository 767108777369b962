import type { DragEvent } from 'react';
import { MATERIAL_DRAG } from '../panels/MaterialSwatch.tsx';
import { paintAt } from '../tools/paint.ts';
import type { PanePointer } from '../tools/tool.ts';

/** Lets a material from Stock be dropped on a pane. */
export function allowMaterial(event: DragEvent): void {
  if (!event.dataTransfer.types.includes(MATERIAL_DRAG)) return;
  event.preventDefault();
  event.dataTransfer.dropEffect = 'copy';
}

/** A material dropped on a pane goes on the face there, with Shift on the whole brush. */
export function dropMaterial(event: DragEvent, p: PanePointer | null): void {
  const name = event.dataTransfer.getData(MATERIAL_DRAG);
  if (!name || !p) return;
  event.preventDefault();
  paintAt(p, name, event.shiftKey ? 'brush' : 'face');
}
