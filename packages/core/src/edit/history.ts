import { itemDifferences, putItems, type ItemDifference, type MapDocument } from '../map/index.ts';

/** What one command changed: the items before and after, by id (undefined: not there), and the loose fields. */
export interface Change {
  readonly label: string;
  readonly items: readonly ItemDifference[];
  readonly fields?: {
    readonly before: Pick<MapDocument, 'name' | 'settings'>;
    readonly after: Pick<MapDocument, 'name' | 'settings'>;
  };
}

/** The difference of two documents. */
export function diffDocuments(before: MapDocument, after: MapDocument, label: string): Change {
  const items = itemDifferences(before, after);
  const same = before.name === after.name && before.settings === after.settings;
  const pick = ({ name, settings }: MapDocument) => ({ name, settings });
  return same ? { label, items } : { label, items, fields: { before: pick(before), after: pick(after) } };
}

export const isEmptyChange = (change: Change): boolean => change.items.length === 0 && !change.fields;

/** Takes a change back (`before`) or makes it again (`after`). */
export const applyChange = (doc: MapDocument, { items, fields }: Change, towards: 'before' | 'after'): MapDocument => ({
  ...putItems(
    doc,
    items.map((d) => ({ in: d.in, id: d.id, item: d[towards] })),
  ),
  ...fields?.[towards],
});
