import { COLLECTIONS, type Collection, type MapDocument } from '../map/index.ts';

/** What one command changed: the items before and after, by id (undefined: not there), and the loose fields. */
export interface Change {
  readonly label: string;
  readonly items: readonly {
    readonly in: Collection;
    readonly id: string;
    readonly before?: unknown;
    readonly after?: unknown;
  }[];
  readonly fields?: {
    readonly before: Pick<MapDocument, 'name' | 'settings'>;
    readonly after: Pick<MapDocument, 'name' | 'settings'>;
  };
}

/** The difference of two documents, found by identity: unchanged items are the same objects in both. */
export function diffDocuments(before: MapDocument, after: MapDocument, label: string): Change {
  const items: Change['items'][number][] = [];
  for (const name of COLLECTIONS) {
    const a = before[name] as ReadonlyMap<string, unknown>;
    const b = after[name] as ReadonlyMap<string, unknown>;
    if (a === b) continue;
    for (const [id, item] of a) if (b.get(id) !== item) items.push({ in: name, id, before: item, after: b.get(id) });
    for (const [id, item] of b) if (!a.has(id)) items.push({ in: name, id, after: item });
  }
  const same = before.name === after.name && before.settings === after.settings;
  const pick = ({ name, settings }: MapDocument) => ({ name, settings });
  return same ? { label, items } : { label, items, fields: { before: pick(before), after: pick(after) } };
}

export const isEmptyChange = (change: Change): boolean => change.items.length === 0 && !change.fields;

/** Takes a change back (`before`) or makes it again (`after`). */
export function applyChange(doc: MapDocument, change: Change, towards: 'before' | 'after'): MapDocument {
  const out: Record<string, unknown> = { ...doc, ...change.fields?.[towards] };
  for (const name of COLLECTIONS) {
    const mine = change.items.filter((item) => item.in === name);
    if (mine.length === 0) continue;
    const map = new Map(doc[name] as ReadonlyMap<string, unknown>);
    for (const item of mine) {
      const value = item[towards];
      if (value === undefined) map.delete(item.id);
      else map.set(item.id, value);
    }
    out[name] = map;
  }
  return out as unknown as MapDocument;
}
