import {
  idsOf,
  membersOf,
  pickedOf,
  type FaceRef,
  type Made,
  type MapDocument,
  type Picked,
  type PickedIds,
} from '@yesca/core';

/** What is selected. Faces are apart: they are selected for dressing, the rest for shaping. */
export interface Selection {
  readonly brushes: ReadonlySet<string>;
  readonly entities: ReadonlySet<string>;
  readonly rooms: ReadonlySet<string>;
  readonly openings: ReadonlySet<string>;
  readonly faces: readonly FaceRef[];
}

export const NOTHING: Selection = {
  brushes: new Set(),
  entities: new Set(),
  rooms: new Set(),
  openings: new Set(),
  faces: [],
};

export type Thing = { readonly type: 'brush' | 'entity' | 'room' | 'opening' | 'group'; readonly id: string };

const KEY = { brush: 'brushes', entity: 'entities', room: 'rooms', opening: 'openings' } as const;
type Single = Thing & { readonly type: keyof typeof KEY };
const isSingle = (t: Thing): t is Single => t.type !== 'group';

/** Groups are selected as what belongs to them. */
export const withMembers = (things: Iterable<Thing>, doc: MapDocument): Single[] =>
  [...things].flatMap((t): Single[] => {
    if (isSingle(t)) return [t];
    const { brushes, entities } = membersOf(doc, t.id);
    return [
      ...brushes.map((id): Single => ({ type: 'brush', id })),
      ...entities.map((id): Single => ({ type: 'entity', id })),
    ];
  });

export const selectOnly = (things: Iterable<Thing>): Selection => {
  const out = {
    brushes: new Set<string>(),
    entities: new Set<string>(),
    rooms: new Set<string>(),
    openings: new Set<string>(),
    faces: [],
  };
  for (const t of things) if (isSingle(t)) out[KEY[t.type]].add(t.id);
  return out;
};

export const thingsOf = (s: Selection): Thing[] => [
  ...[...s.rooms].map((id): Thing => ({ type: 'room', id })),
  ...[...s.openings].map((id): Thing => ({ type: 'opening', id })),
  ...[...s.brushes].map((id): Thing => ({ type: 'brush', id })),
  ...[...s.entities].map((id): Thing => ({ type: 'entity', id })),
];

/** Whether a thing is selected; a group is when all that belongs to it is. */
export const isSelected = (s: Selection, t: Thing, doc?: MapDocument): boolean =>
  isSingle(t) ? s[KEY[t.type]].has(t.id) : !!doc && withMembers([t], doc).every((m) => s[KEY[m.type]].has(m.id));

/** Takes things in, or out when all of them are selected. */
export function toggleThings(s: Selection, things: readonly Thing[]): Selection {
  const all = things.every((t) => isSelected(s, t));
  const gone = new Set(things.map((t) => `${t.type} ${t.id}`));
  return selectOnly(all ? thingsOf(s).filter((t) => !gone.has(`${t.type} ${t.id}`)) : [...thingsOf(s), ...things]);
}

export const toggleThing = (s: Selection, t: Thing): Selection => toggleThings(s, [t]);

/** Whether anything selected can be made larger or smaller: things other than brushes and rooms have no size. */
export const isSized = (s: Selection): boolean => s.brushes.size + s.rooms.size > 0;

export const isEmptySelection = (s: Selection): boolean =>
  s.brushes.size + s.entities.size + s.rooms.size + s.openings.size + s.faces.length === 0;

/** The selection without what is no longer in the map. */
export function stillThere(s: Selection, doc: MapDocument): Selection {
  const keep = (ids: ReadonlySet<string>, map: ReadonlyMap<string, unknown>) =>
    [...ids].every((id) => map.has(id)) ? ids : new Set([...ids].filter((id) => map.has(id)));
  const isThere = ({ brush, face }: FaceRef) => doc.brushes.get(brush)?.faces.some((f) => f.id === face) ?? false;
  const faces = s.faces.every(isThere) ? s.faces : s.faces.filter(isThere);
  return {
    brushes: keep(s.brushes, doc.brushes),
    entities: keep(s.entities, doc.entities),
    rooms: keep(s.rooms, doc.rooms),
    openings: keep(s.openings, doc.openings),
    faces,
  };
}

export const asPicked = (s: Selection): Picked => ({
  brushes: s.brushes,
  entities: s.entities,
  rooms: s.rooms,
  openings: s.openings,
});

export const pickedIds = (s: Selection): PickedIds => idsOf(asPicked(s));

/** What a command made, selected. */
export const selectionOf = ({ faces = [], ...made }: Made): Selection => ({ ...NOTHING, ...pickedOf(made), faces });

/** All brushes that are drawn as selected: the picked ones and those of picked rooms. */
export function selectedBrushes(s: Selection, doc: MapDocument): Set<string> {
  const out = new Set(s.brushes);
  if (s.rooms.size) for (const b of doc.brushes.values()) if (b.room && s.rooms.has(b.room.id)) out.add(b.id);
  return out;
}
