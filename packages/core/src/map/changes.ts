import { emptyMap, COLLECTIONS, type Collection, type MapDocument, type MapSettings } from './types.ts';
import { assertItem, assertSettings, MapFileError } from './file.ts';

/** One item put in, put in the place of another, or (null) taken out. */
export interface ItemChange {
  readonly in: Collection;
  readonly id: string;
  readonly item: { readonly id: string } | null;
}

/** What leads from one document to another, as data: what a save sends. */
export interface MapChanges {
  readonly items: readonly ItemChange[];
  readonly name?: string;
  readonly settings?: MapSettings;
}

/** The differences of two documents, found by identity: unchanged items are the same objects in both. */
export function changesBetween(before: MapDocument, after: MapDocument): MapChanges {
  const items: ItemChange[] = [];
  for (const collection of COLLECTIONS) {
    const a = before[collection] as ReadonlyMap<string, { id: string }>;
    const b = after[collection] as ReadonlyMap<string, { id: string }>;
    if (a === b) continue;
    for (const id of a.keys()) if (!b.has(id)) items.push({ in: collection, id, item: null });
    for (const [id, item] of b) if (a.get(id) !== item) items.push({ in: collection, id, item });
  }
  return {
    items,
    ...(before.name === after.name ? {} : { name: after.name }),
    ...(before.settings === after.settings ? {} : { settings: after.settings }),
  };
}

export const isNoChange = (c: MapChanges): boolean => c.items.length === 0 && c.name === undefined && !c.settings;

export function applyChanges(doc: MapDocument, { items, name, settings }: MapChanges): MapDocument {
  const out: Record<string, unknown> = {
    ...doc,
    ...(name === undefined ? {} : { name }),
    ...(settings ? { settings } : {}),
  };
  const fresh = new Map<Collection, Map<string, unknown>>();
  for (const { in: collection, id, item } of items) {
    let map = fresh.get(collection);
    if (!map) {
      fresh.set(collection, (map = new Map(doc[collection] as ReadonlyMap<string, unknown>)));
      out[collection] = map;
    }
    if (item) map.set(id, item);
    else map.delete(id);
  }
  return out as unknown as MapDocument;
}

/** What has to be known of a document to tell whether changes leave its references whole. */
export interface References {
  readonly rooms: ReadonlySet<string>;
  /** The rooms of each opening. */
  readonly openings: ReadonlyMap<string, readonly string[]>;
}

export const referencesOf = (doc: Pick<MapDocument, 'rooms' | 'openings'>): References => ({
  rooms: new Set(doc.rooms.keys()),
  openings: new Map([...doc.openings.values()].map((o) => [o.id, o.rooms])),
});

/**
 * Throws {@link MapFileError} unless changes can be applied to a document that refers to what `known` says: each item is
 * checked by itself, and no opening may name a room that then is not there. Gives the references afterwards.
 */
export function assertChanges({ items, name, settings }: MapChanges, known: References): References {
  const rooms = new Set(known.rooms);
  const openings = new Map(known.openings);
  items.forEach((change, i) => {
    const place = `items/${i}`;
    const { in: collection, id, item } = change;
    if (!COLLECTIONS.includes(collection) || typeof id !== 'string')
      throw new MapFileError('changes.unreadable', place, `At ${place}: a change names a collection and an id.`);
    if (item !== null) {
      if (typeof item !== 'object' || Array.isArray(item))
        throw new MapFileError(
          'changes.unreadable',
          place,
          `At ${place}: "item" is an object, or null to take it out.`,
        );
      if (item.id !== id) throw new MapFileError('changes.unreadable', place, `At ${place}: the item has another id.`);
      assertItem(collection, item, place);
    }
    if (collection === 'rooms') void (item ? rooms.add(id) : rooms.delete(id));
    if (collection === 'openings') void (item ? openings.set(id, (item as unknown as { rooms: string[] }).rooms) : openings.delete(id)); // prettier-ignore
  });
  for (const [id, named] of openings)
    if (!named.every((r) => rooms.has(r)))
      throw new MapFileError('map.dangling', `openings/${id}`, `Opening ${id} names a room that is not in the map. Remove the opening.`); // prettier-ignore
  assertSettings(name ?? 'map', settings ?? emptyMap('map').settings);
  return { rooms, openings };
}
