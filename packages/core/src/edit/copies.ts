import { newId, specOf, type Collection, type Item, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { addBrushes, movePicked, type Picked } from './brushes.ts';
import { withParts } from './parts.ts';
import { groupChain, wholeGroups } from './groups.ts';

export interface Copied {
  readonly doc: MapDocument;
  readonly picked: Required<Pick<Picked, 'brushes' | 'entities'>>;
}

/** What is copied, by ids: brushes, things and the groups that are copied with all that belongs to them. */
export interface Originals {
  readonly brushes: Iterable<string>;
  readonly entities: Iterable<string>;
  readonly groups: ReadonlySet<string>;
}

/**
 * Adds copies of brushes and things of a map, this or another, under new ids. Copies name copies, and what was not copied where
 * that is in this map; they are in no room. Wires between copied things are copied.
 */
export function addCopies(doc: MapDocument, from: MapDocument, { brushes, entities, groups }: Originals): Copied {
  const originals = {
    brushes: there(from, 'brushes', brushes),
    entities: there(from, 'entities', entities),
    groups: there(from, 'groups', groups),
  };
  const names: { readonly [C in Collection]?: ReadonlyMap<string, string> } = {
    brushes: newNames(originals.brushes),
    entities: newNames(originals.entities),
    groups: newNames(originals.groups),
  };
  /** What a copy says in place of an id that its original says. */
  const name = (to: Collection, id: string): string | undefined => {
    // The nearest of the groups around it that is copied too.
    if (to === 'groups') return groupChain(from, id).flatMap((g) => names.groups!.get(g) ?? [])[0];
    if (to === 'rooms') return undefined;
    return names[to]?.get(id) ?? (doc[to].has(id) ? id : undefined);
  };
  const copy = <C extends Collection>(
    collection: C,
    items: readonly Item[],
    of = names[collection],
  ): Map<string, never> =>
    new Map(
      items.flatMap((item) => {
        const renamed = specOf(collection).references.reduce<Item | null>(
          (copied, r) => copied && r.renamed(copied, (id) => name(r.to, id)),
          item,
        );
        const id = of?.get(item.id) ?? newId();
        return renamed ? [[id, { ...renamed, id } as never]] : [];
      }),
    );
  const made = {
    brushes: copy('brushes', originals.brushes),
    entities: copy('entities', originals.entities),
    groups: copy('groups', originals.groups),
    wires: copy(
      'wires',
      [...from.wires.values()].filter((w) => [w.from, w.to].every((end) => names.entities!.has(end.thing))),
    ),
  };
  const put = <T>(items: ReadonlyMap<string, T>, more: ReadonlyMap<string, T>) =>
    more.size ? new Map([...items, ...more]) : items;
  return {
    doc: {
      ...addBrushes(doc, [...made.brushes.values()]),
      entities: put(doc.entities, made.entities),
      groups: put(doc.groups, made.groups),
      wires: put(doc.wires, made.wires),
    },
    picked: { brushes: new Set(made.brushes.keys()), entities: new Set(made.entities.keys()) },
  };
}

const there = (from: MapDocument, collection: 'brushes' | 'entities' | 'groups', ids: Iterable<string>): Item[] =>
  [...ids].flatMap((id) => from[collection].get(id) ?? []);

const newNames = (items: readonly Item[]): Map<string, string> => new Map(items.map((item) => [item.id, newId()]));

/** Copies of what is picked, moved by a vector. Gives the new document and the copies' ids. */
export function duplicatePicked(doc: MapDocument, picked: Picked, by: Vec3): Copied {
  const { brushes = [], entities = [] } = withParts(doc, picked);
  const copied = addCopies(doc, doc, { brushes, entities, groups: wholeGroups(doc, picked) });
  return { ...copied, doc: movePicked(copied.doc, copied.picked, by) };
}
