import { COLLECTIONS, itemsOf, withItems, type Collection, type Item, type MapDocument } from '../map/index.ts';

/** What one command changed: the items before and after, by id (undefined: not there), and the loose fields. */
export interface Change {
  readonly label: string;
  readonly items: readonly {
    readonly in: Collection;
    readonly id: string;
    readonly before?: Item;
    readonly after?: Item;
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
    const [a, b] = [itemsOf(before, name), itemsOf(after, name)];
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
export function applyChange(doc: MapDocument, { items, fields }: Change, towards: 'before' | 'after'): MapDocument {
  const fresh: { [C in Collection]?: Map<string, Item> } = {};
  for (const change of items) {
    const map = (fresh[change.in] ??= new Map(itemsOf(doc, change.in)));
    const item = change[towards];
    if (item) map.set(change.id, item);
    else map.delete(change.id);
  }
  return { ...withItems(doc, fresh), ...fields?.[towards] };
}
