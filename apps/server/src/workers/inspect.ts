import { materialCounts, parseMap, planDrawing, writeMap } from '@yesca/core';
import type { MapSummary } from '@yesca/contract';
import { errorBody } from '../errors.ts';
import type { ErrorBody } from '@yesca/contract';

export type Inspected =
  | {
      readonly ok: true;
      readonly name: string;
      readonly text: string;
      readonly summary: MapSummary;
      readonly drawing: string | null;
    }
  | { readonly ok: false; readonly status: number; readonly body: ErrorBody };

/** Reads a map file from somebody: checked, in its stable order, with what a card shows of it. A name may be put in its place. */
export default function inspect({ text, name }: { text: string; name?: string }): Inspected {
  try {
    const read = parseMap(text);
    const doc = name ? { ...read, name } : read;
    const drawing = planDrawing(doc);
    return {
      ok: true,
      name: doc.name,
      text: writeMap(doc),
      summary: {
        brushes: doc.brushes.size,
        entities: doc.entities.size,
        materials: Object.fromEntries(materialCounts(doc)),
      },
      drawing: drawing && JSON.stringify(drawing),
    };
  } catch (error) {
    return { ok: false, ...errorBody(error) };
  }
}
