import { parseMap, planDrawing, propBrushes, writeMap, type MapDocument } from '@yesca/core';
import type { MapSummary } from '@yesca/contract';
import { errorBody } from '../errors.ts';
import type { ErrorBody } from '@yesca/contract';
import { summaryOf } from './summary.ts';

export type Inspected =
  | {
      readonly ok: true;
      readonly name: string;
      readonly text: string;
      readonly summary: MapSummary;
      readonly drawing: string | null;
    }
  | { readonly ok: false; readonly status: number; readonly body: ErrorBody };

/** The map with the boxes of its props as brushes, for its drawing. */
const withPropBoxes = (doc: MapDocument): MapDocument => ({
  ...doc,
  brushes: new Map([...doc.brushes, ...propBrushes(doc, () => undefined).map((b) => [b.id, b] as const)]),
});

/** Reads a map file from somebody: checked, in its stable order, with what a card shows of it. A name may be put in its place. */
export default function inspect({
  text,
  name,
  props = false,
}: {
  text: string;
  name?: string;
  props?: boolean;
}): Inspected {
  try {
    const read = parseMap(text);
    const doc = name ? { ...read, name } : read;
    const drawing = planDrawing(props ? withPropBoxes(doc) : doc);
    return {
      ok: true,
      name: doc.name,
      text: writeMap(doc),
      summary: summaryOf(doc),
      drawing: drawing && JSON.stringify(drawing),
    };
  } catch (error) {
    return { ok: false, ...errorBody(error) };
  }
}
