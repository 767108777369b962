import { COLLECTIONS, specOf } from './collections.ts';
import { itemsOf, withItems } from './document.ts';
import { MapFileError } from './errors.ts';
import type { Reference } from './references.ts';
import type { Collection, Item, MapDocument } from './types.ts';

/** The collections whose items name items of another. */
export const namingOf = (to: Collection): readonly Collection[] => NAMING.get(to) ?? [];
const NAMING: ReadonlyMap<Collection, readonly Collection[]> = new Map(
  COLLECTIONS.map((to) => [to, COLLECTIONS.filter((c) => specOf(c).references.some((r) => r.to === to))]),
);

export const dangling = (
  collection: Collection,
  id: string,
  to: Collection,
  missing: string,
  place: string,
): MapFileError =>
  new MapFileError(
    'map.dangling',
    place,
    `${specOf(collection).label} ${id} names a ${specOf(to).label.toLowerCase()} that is not in the map (${missing}). Remove the one or the other.`,
  );

export const ring = (collection: Collection, id: string, place: string): MapFileError =>
  new MapFileError(
    'map.cycle',
    place,
    `${specOf(collection).label} ${id} would hang on itself, through others. Take it off one of them.`,
  );

/** Throws {@link MapFileError} when an item of a document names something that is not there, or what leads back to itself. */
export function assertReferences(doc: MapDocument, collection: Collection, item: Item, place: string): void {
  for (const reference of specOf(collection).references) {
    for (const id of reference.of(item))
      if (!itemsOf(doc, reference.to).has(id)) throw dangling(collection, item.id, reference.to, id, place);
    if (reference.acyclic && leadsBack(doc, collection, reference, item)) throw ring(collection, item.id, place);
  }
}

const leadsBack = (doc: MapDocument, collection: Collection, reference: Reference<Item>, item: Item): boolean =>
  comesBack(item.id, (id) => {
    const next = itemsOf(doc, collection).get(id);
    return next ? reference.of(next) : [];
  });

/** Whether going from one to those it names, and on, leads back to it. */
export function comesBack<T>(start: T, named: (at: T) => readonly T[]): boolean {
  const seen = new Set<T>();
  const open = [...named(start)];
  for (let at = open.pop(); at !== undefined; at = open.pop()) {
    if (at === start) return true;
    if (seen.has(at)) continue;
    seen.add(at);
    open.push(...named(at));
  }
  return false;
}

/**
 * A document in which every name leads to something: items let go of what is not there and of what leads back to themselves, and
 * those that are nothing without it leave. The same document when nothing was wrong.
 */
export function letGoOfMissing(doc: MapDocument): MapDocument {
  let out = doc;
  // What leaves may have been named itself.
  for (let before: MapDocument | null = null; before !== out;) {
    before = out;
    for (const collection of COLLECTIONS) out = lettingGo(out, collection);
  }
  return out;
}

function lettingGo(doc: MapDocument, collection: Collection): MapDocument {
  let out = doc;
  for (const reference of specOf(collection).references) {
    const targets = itemsOf(out, reference.to);
    const items = itemsOf(out, collection);
    let changed: Map<string, Item> | null = null;
    for (const [id, item] of items) {
      const named = reference.of(item);
      if (named.length === 0) continue;
      const back = reference.acyclic && leadsBack(out, collection, reference, item);
      if (!back && named.every((n) => targets.has(n))) continue;
      const now = reference.renamed(item, (n) => (targets.has(n) && !back ? n : undefined));
      changed ??= new Map(items);
      if (now) changed.set(id, now);
      else changed.delete(id);
      // One link less is enough to open a ring.
      if (back) out = withItems(out, { [collection]: changed });
    }
    if (changed) out = withItems(out, { [collection]: changed });
  }
  return out;
}
