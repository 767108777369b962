import type { DragEvent } from 'react';
import { entityKind } from '@yesca/core';
import { DECAL_DRAG, KIND_DRAG, MATERIAL_DRAG, PROP_DRAG } from '../state/drag.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes } from '../state/selection.ts';
import { placeKind, placeProp } from '../tools/place.ts';
import { placeDecal } from '../tools/decals.ts';
import { paintAt, paintBrushes } from '../tools/paint.ts';
import type { PanePointer } from '../tools/tool.ts';

/** Lets a material or a thing from Stock be dropped on a pane. */
export function allowDrop(event: DragEvent): void {
  const { types } = event.dataTransfer;
  if (![MATERIAL_DRAG, KIND_DRAG, PROP_DRAG, DECAL_DRAG].some((t) => types.includes(t))) return;
  event.preventDefault();
  event.dataTransfer.dropEffect = 'copy';
}

/** What was dropped on a pane: a thing stands there then; a material is put on. */
export function drop(event: DragEvent, p: PanePointer): void {
  const prop = event.dataTransfer.getData(PROP_DRAG);
  if (prop) {
    event.preventDefault();
    placeProp(prop, p);
    return;
  }
  const [material, region = ''] = event.dataTransfer.getData(DECAL_DRAG).split('\n');
  if (material) {
    event.preventDefault();
    placeDecal({ material, region }, p);
    return;
  }
  const kind = entityKind(event.dataTransfer.getData(KIND_DRAG));
  if (!kind) return dropMaterial(event, p);
  event.preventDefault();
  placeKind(kind, p);
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
