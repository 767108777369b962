import {
  COLLECTIONS,
  itemsOf,
  letGoOfMissing,
  specOf,
  type Collection,
  type Item,
  type MapDocument,
  type MapSettings,
} from '../map/index.ts';
import { rootGroup } from './groups.ts';
import { remakeAround } from './remake.ts';

type Side = 'mine' | 'theirs';

/** Something that two people changed in different ways. What makes up one thing, such as a room with its brushes, is one. */
export interface Conflict {
  /** Stable name of the thing: what a choice is made for. */
  readonly key: string;
  /** What it is, in words. */
  readonly label: string;
  readonly mine: 'changed' | 'removed' | 'added';
  readonly theirs: 'changed' | 'removed' | 'added';
}

export interface Merged {
  readonly doc: MapDocument;
  /** What both changed: the choice decides, and theirs where there is none. */
  readonly conflicts: readonly Conflict[];
  /** Openings that were left out because a room of theirs is gone. */
  readonly dropped: readonly string[];
}

const same = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The thing an item belongs to: brushes and openings to their room, members to their outermost group, others to themselves. */
function unitOf(doc: MapDocument, collection: Collection, item: Item): string {
  const { room, group, rooms } = item as { room?: { id: string }; group?: string; rooms?: readonly string[] };
  if (collection === 'rooms') return `room ${item.id}`;
  if (collection === 'openings') return `room ${rooms?.[0]}`;
  if (collection === 'brushes' && room) return `room ${room.id}`;
  if (collection === 'groups') return `group ${rootGroup(doc, item.id)}`;
  const root = rootGroup(doc, group);
  return root ? `group ${root}` : `${collection} ${item.id}`;
}

function labelOf(key: string, docs: readonly MapDocument[]): string {
  const [kind, id] = key.split(' ') as [string, string];
  const collection = kind === 'room' ? 'rooms' : kind === 'group' ? 'groups' : (kind as Collection);
  const item = docs.map((d) => itemsOf(d, collection).get(id)).find(Boolean) as
    { name?: string; kind?: string } | undefined;
  return `${specOf(collection).label} ${item?.name ?? item?.kind ?? id.slice(0, 6)}`;
}

/**
 * Merges two documents that began as one, thing by thing: what only one of them changed is taken from that one, what both
 * changed alike is taken once, and of what they changed in different ways `choices` says whose is kept. Nothing but whole
 * things is taken, so that a room never gets one person's footprint and another's walls.
 */
export function mergeMaps(
  base: MapDocument,
  mine: MapDocument,
  theirs: MapDocument,
  choices: ReadonlyMap<string, Side> = new Map(),
): Merged {
  interface Touched {
    readonly in: Collection;
    readonly id: string;
    readonly b?: Item;
    readonly m?: Item;
    readonly t?: Item;
  }
  const units = new Map<string, Touched[]>();
  for (const collection of COLLECTIONS) {
    const [b, m, t] = [base, mine, theirs].map((d) => itemsOf(d, collection));
    for (const id of new Set([...b!.keys(), ...m!.keys(), ...t!.keys()])) {
      const item: Touched = { in: collection, id, b: b!.get(id), m: m!.get(id), t: t!.get(id) };
      if (item.b === item.m && item.b === item.t) continue;
      const [doc, known] = item.m ? [mine, item.m] : item.t ? [theirs, item.t] : [base, item.b!];
      const key = unitOf(doc, collection, known);
      units.set(key, [...(units.get(key) ?? []), item]);
    }
  }
  const out = Object.fromEntries(COLLECTIONS.map((c) => [c, new Map(base[c] as ReadonlyMap<string, unknown>)]));
  const conflicts: Conflict[] = [];
  const roomsBy: Record<Side, string[]> = { mine: [], theirs: [] };
  for (const [key, items] of units) {
    const touchedBy = (side: 'm' | 't') => items.some((x) => !same(x.b, x[side]));
    const both = touchedBy('m') && touchedBy('t') && items.some((x) => !same(x.m, x.t));
    const how = (side: 'm' | 't') => {
      const main = items.find((x) => key.endsWith(` ${x.id}`)) ?? items[0]!;
      return main.b && !main[side] ? 'removed' : !main.b && main[side] ? 'added' : 'changed';
    };
    // Two who both only added to or took from different places of one thing did not touch the same.
    const clash = both && items.some((x) => !same(x.b, x.m) && !same(x.b, x.t) && !same(x.m, x.t));
    const entangled = both && !clash && key.startsWith('room ');
    if (clash || entangled)
      conflicts.push({ key, label: labelOf(key, [mine, theirs, base]), mine: how('m'), theirs: how('t') });
    if (key.startsWith('room ')) {
      const [m, t] = [touchedBy('m'), touchedBy('t')];
      roomsBy[m && (!t || choices.get(key) === 'mine') ? 'mine' : 'theirs'].push(key.slice('room '.length));
    }
    for (const x of items) {
      const taken =
        clash || entangled ? ((choices.get(key) ?? 'theirs') === 'mine' ? x.m : x.t) : same(x.b, x.m) ? x.t : x.m;
      if (taken) out[x.in]!.set(x.id, taken);
      else out[x.in]!.delete(x.id);
    }
  }
  const settings = { ...base.settings } as Record<string, unknown>;
  const keys = new Set([base, mine, theirs].flatMap((d) => Object.keys(d.settings))) as Set<keyof MapSettings>;
  for (const key of keys) {
    const [b, m, t] = [base.settings[key], mine.settings[key], theirs.settings[key]];
    const value = b === m ? t : b === t ? m : (choices.get('settings') ?? 'theirs') === 'mine' ? m : t;
    if (b !== m && b !== t && m !== t && !conflicts.some((c) => c.key === 'settings'))
      conflicts.push({ key: 'settings', label: 'Map settings', mine: 'changed', theirs: 'changed' });
    if (value === undefined) delete settings[key];
    else settings[key] = value;
  }
  const name =
    base.name === mine.name
      ? theirs.name
      : base.name === theirs.name
        ? mine.name
        : (choices.get('name') ?? 'theirs') === 'mine'
          ? mine.name
          : theirs.name;
  if (base.name !== mine.name && base.name !== theirs.name && mine.name !== theirs.name)
    conflicts.push({ key: 'name', label: 'Name of the map', mine: 'changed', theirs: 'changed' });
  // One may have removed what the other has come to name.
  const all = { ...theirs, ...out, name, settings } as unknown as MapDocument;
  const doc = letGoOfMissing(all);
  const dropped = [...all.openings.values()].filter((o) => !doc.openings.has(o.id));
  // Rooms of one beside rooms of the other share walls that neither of them made.
  const beside = roomsBy.mine.length && roomsBy.theirs.length ? [...roomsBy.mine, ...roomsBy.theirs] : [];
  const anew = [...new Set([...beside, ...dropped.flatMap((o) => o.rooms)])].filter((id) => doc.rooms.has(id));
  return { doc: anew.length ? remakeAround(doc, anew) : doc, conflicts, dropped: dropped.map((o) => o.id) };
}
