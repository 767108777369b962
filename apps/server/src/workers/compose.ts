import {
  applyChanges,
  assertChanges,
  letGoOfMissing,
  mapFromChecked,
  MAP_VERSION,
  migrateChanges,
  planDrawing,
  referencesOf,
  writeMap,
  type MapChanges,
  type References,
} from '@yesca/core';
import type { MapSummary } from '@yesca/contract';
import { errorBody } from '../errors.ts';
import type { ErrorBody } from '@yesca/contract';
import { summaryOf } from './summary.ts';

/** A map file and the changes that were saved since, as JSON, in order. */
export interface ComposeTask {
  readonly text: string;
  readonly changes: readonly string[];
  /** What a card shows is asked for too. */
  readonly summary?: boolean;
}

export interface Composed {
  readonly text: string;
  readonly name: string;
  readonly references?: References;
  readonly summary?: MapSummary;
  /** The plan for the card, as JSON. */
  readonly drawing?: string;
}

export interface CheckTask {
  readonly check: string;
  readonly references: References;
}
export type Checked = { readonly ok: true } | { readonly ok: false; readonly status: number; readonly body: ErrorBody };

/** Puts a map together from its last whole file and what was saved since, or checks changes too large to be checked in passing. */
export default function compose(task: ComposeTask | CheckTask): Composed | Checked {
  if ('check' in task) {
    try {
      assertChanges(migrateChanges(JSON.parse(task.check) as MapChanges), task.references);
      return { ok: true };
    } catch (error) {
      return { ok: false, ...errorBody(error) };
    }
  }
  const changes = task.changes.map((text) => JSON.parse(text) as MapChanges);
  const put = changes.map(migrateChanges).reduce(applyChanges, mapFromChecked(JSON.parse(task.text)));
  // What older versions saved was not looked at for all that it names.
  const doc = changes.some((c) => c.format !== MAP_VERSION) ? letGoOfMissing(put) : put;
  const drawing = task.summary ? planDrawing(doc) : null;
  return {
    text: writeMap(doc),
    name: doc.name,
    ...(task.summary
      ? {
          references: referencesOf(doc),
          summary: summaryOf(doc),
          ...(drawing ? { drawing: JSON.stringify(drawing) } : {}),
        }
      : {}),
  };
}
