import { COLLECTIONS } from './collections.ts';
import { INITIAL_SETTINGS, type Collection, type Item, type MapDocument } from './types.ts';

export const emptyMap = (name: string): MapDocument =>
  withItems(
    { name, settings: INITIAL_SETTINGS, extra: {} } as MapDocument,
    Object.fromEntries(COLLECTIONS.map((c) => [c, new Map()])),
  );

/** The items of a collection whose name is not known beforehand. */
export const itemsOf = (doc: MapDocument, collection: Collection): ReadonlyMap<string, Item> => doc[collection];

/** A document with other items in some collections. */
export const withItems = (
  doc: MapDocument,
  items: { readonly [C in Collection]?: ReadonlyMap<string, Item> },
): MapDocument => ({ ...doc, ...items }) as MapDocument;

/** An item that is not the same in two documents: before and after, undefined where it is not there. */
export interface ItemDifference {
  readonly in: Collection;
  readonly id: string;
  readonly before?: Item;
  readonly after?: Item;
}

/** The items that differ, found by identity: unchanged items are the same objects in both. */
export function itemDifferences(before: MapDocument, after: MapDocument): ItemDifference[] {
  const out: ItemDifference[] = [];
  for (const collection of COLLECTIONS) {
    const [a, b] = [itemsOf(before, collection), itemsOf(after, collection)];
    if (a === b) continue;
    for (const [id, item] of a)
      if (b.get(id) !== item) out.push({ in: collection, id, before: item, after: b.get(id) });
    for (const [id, item] of b) if (!a.has(id)) out.push({ in: collection, id, after: item });
  }
  return out;
}

/** A document with some items put in, in the place of others, or (null or undefined) taken out. */
export function putItems(
  doc: MapDocument,
  items: Iterable<{ readonly in: Collection; readonly id: string; readonly item: Item | null | undefined }>,
): MapDocument {
  const fresh: { [C in Collection]?: Map<string, Item> } = {};
  for (const { in: collection, id, item } of items) {
    const map = (fresh[collection] ??= new Map(itemsOf(doc, collection)));
    if (item) map.set(id, item);
    else map.delete(id);
  }
  return withItems(doc, fresh);
}
