import type { Brush } from '../brush/index.ts';
import { COLLECTIONS, itemsOf, type MapDocument } from '../map/index.ts';

/** What is in one document and not, or not the same, in another. */
export interface Comparison {
  readonly added: readonly Brush[];
  readonly removed: readonly Brush[];
  readonly changed: readonly { readonly before: Brush; readonly after: Brush }[];
  /** How many items of the other collections were added, removed or changed. */
  readonly others: Readonly<Record<'added' | 'removed' | 'changed', number>>;
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Compares two documents item by item, by id. */
export function compareMaps(before: MapDocument, after: MapDocument): Comparison {
  const added: Brush[] = [];
  const removed: Brush[] = [];
  const changed: { before: Brush; after: Brush }[] = [];
  for (const b of before.brushes.values()) {
    const now = after.brushes.get(b.id);
    if (!now) removed.push(b);
    else if (!same(b, now)) changed.push({ before: b, after: now });
  }
  for (const b of after.brushes.values()) if (!before.brushes.has(b.id)) added.push(b);
  const others = { added: 0, removed: 0, changed: 0 };
  for (const name of COLLECTIONS) {
    if (name === 'brushes') continue;
    const [a, b] = [itemsOf(before, name), itemsOf(after, name)];
    for (const [id, item] of a) {
      if (!b.has(id)) others.removed++;
      else if (!same(item, b.get(id))) others.changed++;
    }
    for (const id of b.keys()) if (!a.has(id)) others.added++;
  }
  return { added, removed, changed, others };
}
