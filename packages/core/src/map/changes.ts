import { COLLECTIONS, specOf } from './collections.ts';
import { emptyMap, itemDifferences, itemsOf, putItems } from './document.ts';
import { MapFileError } from './errors.ts';
import { assertItem, assertSettings } from './file.ts';
import { MAP_VERSION, migrateItem } from './migrate.ts';
import type { Collection, Item, MapDocument, MapSettings } from './types.ts';
import { comesBack, dangling, namingOf, ring } from './whole.ts';

/** One item put in, put in the place of another, or (null) taken out. */
export interface ItemChange {
  readonly in: Collection;
  readonly id: string;
  readonly item: Item | null;
}

/** What leads from one document to another, as data: what a save sends. */
export interface MapChanges {
  /** The version of the map file whose items these are; 1 when absent. */
  readonly format?: number;
  readonly items: readonly ItemChange[];
  readonly name?: string;
  readonly settings?: MapSettings;
}

/** The differences of two documents. */
export function changesBetween(before: MapDocument, after: MapDocument): MapChanges {
  return {
    format: MAP_VERSION,
    items: itemDifferences(before, after).map((d): ItemChange => ({ in: d.in, id: d.id, item: d.after ?? null })),
    ...(before.name === after.name ? {} : { name: after.name }),
    ...(before.settings === after.settings ? {} : { settings: after.settings }),
  };
}

export const isNoChange = (c: MapChanges): boolean => c.items.length === 0 && c.name === undefined && !c.settings;

export const applyChanges = (doc: MapDocument, { items, name, settings }: MapChanges): MapDocument => ({
  ...putItems(doc, items),
  ...(name === undefined ? {} : { name }),
  ...(settings ? { settings } : {}),
});

/** Changes as this version writes them. */
export function migrateChanges(changes: MapChanges): MapChanges {
  const { format = 1 } = changes;
  if (format >= MAP_VERSION) return changes;
  const items = changes.items.map((c) => ({ ...c, item: migrateItem(c.in, c.item, format) as Item | null }));
  return { ...changes, format: MAP_VERSION, items };
}

/** What has to be known of a document to tell whether changes leave its references whole: of each item what it names, as `collection id`. */
export type References = { readonly [C in Collection]: Map<string, readonly string[]> };

const NONE: readonly string[] = [];

function namedBy(collection: Collection, item: Item): readonly string[] {
  const named = specOf(collection).references.flatMap((r) => r.of(item).map((id) => `${r.to} ${id}`));
  return named.length ? named : NONE;
}

export const referencesOf = (doc: MapDocument): References =>
  Object.fromEntries(
    COLLECTIONS.map((c) => [c, new Map([...itemsOf(doc, c)].map(([id, item]) => [id, namedBy(c, item)]))]),
  ) as unknown as References;

/** What is known after changes that {@link assertChanges} let pass. `known` is changed in place: it may be large. */
export function followChanges(known: References, { items }: MapChanges): void {
  for (const { in: collection, id, item } of items)
    if (item) known[collection].set(id, namedBy(collection, item));
    else known[collection].delete(id);
}

/**
 * Throws {@link MapFileError} unless changes can be applied to a document that refers to what `known` says: each item is
 * checked by itself, and none may name what then is not there.
 */
export function assertChanges({ items, name, settings }: MapChanges, known: References): void {
  const after = new Map<string, ItemChange>();
  items.forEach((change, i) => {
    const place = `items/${i}`;
    const { in: collection, id, item } = change;
    const refuse = (message: string): MapFileError =>
      new MapFileError('changes.unreadable', place, `At ${place}: ${message}`);
    if (!COLLECTIONS.includes(collection) || typeof id !== 'string')
      throw refuse('a change names a collection and an id.');
    if (item !== null) {
      if (typeof item !== 'object' || Array.isArray(item)) throw refuse('"item" is an object, or null to take it out.');
      if (item.id !== id) throw refuse('the item has another id.');
      assertItem(collection, item, place);
    }
    after.set(`${collection} ${id}`, change);
  });
  const isThere = (key: string): boolean => {
    const change = after.get(key);
    if (change) return change.item !== null;
    const gap = key.indexOf(' ');
    return known[key.slice(0, gap) as Collection].has(key.slice(gap + 1));
  };
  const refuseMissing = (collection: Collection, id: string, named: readonly string[]): void => {
    const missing = named.find((key) => !isThere(key));
    if (missing === undefined) return;
    const gap = missing.indexOf(' ');
    throw dangling(collection, id, missing.slice(0, gap) as Collection, missing.slice(gap + 1), `${collection}/${id}`);
  };
  /** Those of its own collection that an item names, afterwards: what it hangs on. */
  const hangsOn = (key: string): readonly string[] => {
    const [collection, ...rest] = key.split(' ') as [Collection, ...string[]];
    const item = after.get(key)?.item;
    const named = item ? namedBy(collection, item) : known[collection].get(rest.join(' '));
    return (named ?? NONE).filter((k) => k.startsWith(`${collection} `));
  };
  for (const [key, { in: collection, id, item }] of after) {
    if (!item) continue;
    refuseMissing(collection, id, namedBy(collection, item));
    if (comesBack(key, hangsOn)) throw ring(collection, id, `${collection}/${id}`);
  }
  const gone = [...after.values()].filter((c) => c.item === null).map((c) => c.in);
  for (const collection of new Set(gone.flatMap((c) => namingOf(c))))
    for (const [id, named] of known[collection])
      if (!after.has(`${collection} ${id}`)) refuseMissing(collection, id, named);
  assertSettings(name ?? 'map', settings ?? emptyMap('map').settings);
}
