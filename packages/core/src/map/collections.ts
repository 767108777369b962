import { renameReferences } from '../entity/index.ts';
import { assertBrush, assertEntity } from './contents.ts';
import { reference, referenceIn, references, type Reference } from './references.ts';
import * as schemas from './item-schemas.ts';
import type { Collection, Item, Items } from './types.ts';

/** All that is to be known of the items of one kind in a document. What reads, writes, compares, copies, merges or removes items asks here. */
export interface CollectionSpec<T extends Item> {
  /** What one of them is called. */
  readonly label: string;
  /** JSON Schema of an item. */
  readonly schema: { readonly type: 'object'; readonly required: readonly string[]; readonly properties: object };
  /** A file may lack it: an empty one is not written. */
  readonly optional?: true;
  /** Which other items an item names. */
  readonly references: readonly Reference<T>[];
  /** Throws what a schema cannot say, such as geometry that is no brush; `place` says where. */
  readonly assert?: (item: T, place: string) => void;
}

/** The collections of a document, in the order of the file. */
export const COLLECTION_SPECS: { readonly [C in Collection]: CollectionSpec<Items[C]> } = {
  rooms: {
    label: 'Room',
    schema: schemas.room,
    references: [reference('layer', 'layers')],
  },
  openings: {
    label: 'Opening',
    schema: schemas.opening,
    references: [references('rooms', 'rooms')],
  },
  brushes: {
    label: 'Brush',
    schema: schemas.brush,
    references: [
      referenceIn('room', 'id', 'rooms', 'clear'),
      referenceIn('owner', 'id', 'entities', 'clear'),
      reference('group', 'groups'),
      reference('layer', 'layers'),
      {
        to: 'entities',
        of: ({ faces }) => faces.flatMap((f) => f.reflection ?? []),
        renamed: (brush, name) => {
          let same = true;
          const faces = brush.faces.map(({ reflection, ...face }) => {
            const now = reflection === undefined ? undefined : name(reflection);
            same &&= now === reflection;
            return now === undefined ? face : { ...face, reflection: now };
          });
          return same ? brush : { ...brush, faces };
        },
      },
    ],
    assert: assertBrush,
  },
  entities: {
    label: 'Thing',
    schema: schemas.entity,
    references: [
      referenceIn('carrier', 'id', 'entities', 'clear', { acyclic: true }),
      reference('group', 'groups'),
      reference('layer', 'layers'),
      // What a parameter names may be gone: the checks say so, since only a person knows what it should be instead.
      { to: 'entities', of: () => [], renamed: (e, name) => renameReferences(e, 'thing', name) },
      { to: 'brushes', of: () => [], renamed: (e, name) => renameReferences(e, 'brush', name) },
    ],
    assert: assertEntity,
  },
  groups: {
    label: 'Group',
    schema: schemas.group,
    optional: true,
    references: [reference('parent', 'groups', { acyclic: true })],
  },
  layers: { label: 'Layer', schema: schemas.layer, optional: true, references: [] },
  storeys: { label: 'Storey', schema: schemas.storey, optional: true, references: [] },
  views: { label: 'View', schema: schemas.view, optional: true, references: [] },
  wires: {
    label: 'Wire',
    schema: schemas.wire,
    optional: true,
    references: [referenceIn('from', 'thing', 'entities', 'remove'), referenceIn('to', 'thing', 'entities', 'remove')],
  },
  moods: {
    label: 'Mood',
    schema: schemas.mood,
    optional: true,
    references: [
      {
        to: 'entities',
        of: ({ lights }) => lights.map((l) => l.thing),
        // A mood goes on without lights that are gone; without any it is none.
        renamed: (mood, name) => {
          const lights = mood.lights.flatMap((l) => {
            const thing = name(l.thing);
            return thing === undefined ? [] : [thing === l.thing ? l : { ...l, thing }];
          });
          if (lights.length === 0) return null;
          const same = lights.length === mood.lights.length && lights.every((l, i) => l === mood.lights[i]);
          return same ? mood : { ...mood, lights };
        },
      },
    ],
  },
};

export const COLLECTIONS = Object.keys(COLLECTION_SPECS) as readonly Collection[];

/** What is to be known of a collection whose name is not known beforehand. */
export const specOf = (collection: Collection): CollectionSpec<Item> =>
  COLLECTION_SPECS[collection] as unknown as CollectionSpec<Item>;
