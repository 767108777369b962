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
