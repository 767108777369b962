import type { Brush } from '../brush/index.ts';
import { itemDifferences, type MapDocument } from '../map/index.ts';

/** What is in one document and not, or not the same, in another. */
export interface Comparison {
  readonly added: readonly Brush[];
  readonly removed: readonly Brush[];
  readonly changed: readonly { readonly before: Brush; readonly after: Brush }[];
  /** How many items of the other collections were added, removed or changed. */
  readonly others: Readonly<Record<'added' | 'removed' | 'changed', number>>;
}

/** Compares two documents item by item, by id. */
export function compareMaps(before: MapDocument, after: MapDocument): Comparison {
  const added: Brush[] = [];
  const removed: Brush[] = [];
  const changed: { before: Brush; after: Brush }[] = [];
  const others = { added: 0, removed: 0, changed: 0 };
  for (const d of itemDifferences(before, after)) {
    if (d.before && d.after && JSON.stringify(d.before) === JSON.stringify(d.after)) continue;
    if (d.in !== 'brushes') others[!d.before ? 'added' : d.after ? 'changed' : 'removed']++;
    else if (!d.before) added.push(d.after as Brush);
    else if (!d.after) removed.push(d.before as Brush);
    else changed.push({ before: d.before as Brush, after: d.after as Brush });
  }
  return { added, removed, changed, others };
}
