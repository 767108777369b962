import { entityKind, entityName, partBox, type Entity } from '../entity/index.ts';
import { aroundIn, newId, partsOf, propCorners, propsOf, type MapDocument, type Wire } from '../map/index.ts';
import { boxCenter, dot, length, normalize, scale, sub, type Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import { changeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { addWire } from './wires.ts';

type Entry = Readonly<Record<string, ParamValue>>;

interface PartList {
  readonly key: string;
  readonly entries: readonly Entry[];
  readonly moved: (entry: Entry, by: Vec3) => Entry;
}

/** The list of a thing's parameters that has an entry for each of its parts, and the entries. */
function partList(e: Entity): PartList | null {
  const parted = entityKind(e.kind)?.parted;
  if (!parted) return null;
  const entries = (e.params[parted.list] ??
    entityKind(e.kind)!.params[parted.list]!.initial) as unknown as readonly Entry[];
  return { key: parted.list, entries, moved: parted.moved as (entry: Entry, by: Vec3) => Entry };
}

function thing(doc: MapDocument, id: string): Entity {
  const e = doc.entities.get(id);
  if (!e) throw new EditError('parts.unknown', 'That thing is no longer in the map. Select it again.');
  return e;
}

/**
 * Makes of each part of a thing a thing of its own, that acts by itself: what was wired to it is wired to each of them. The first
 * keeps its id, its own signals, and what rides on it.
 */
export function separateParts(doc: MapDocument, id: string): { doc: MapDocument; things: string[] } {
  const e = thing(doc, id);
  const list = partList(e);
  if (!list || list.entries.length < 2)
    throw new EditError('parts.single', `${entityName(e)} has one part. Select a door with several leaves.`);
  const parts = partsOf(doc, id);
  const entities = new Map(doc.entities);
  const brushes = new Map(doc.brushes);
  const made = list.entries.map((entry, k) => {
    const own = parts[k] ?? [];
    // Each stands under the middle of what it consists of, where it can be taken.
    const box = partBox(aroundIn(doc), e, k);
    const middle = box ? boxCenter(box) : e.at;
    const at: Vec3 = [middle[0], middle[1], e.at[2]];
    const other = k === 0 ? id : newId();
    const { name, ...rest } = e;
    entities.set(other, {
      ...rest,
      ...(name === undefined ? {} : { name: k === 0 ? name : `${name} ${k + 1}` }),
      id: other,
      at,
      params: { ...e.params, [list.key]: [list.moved(entry, sub(at, e.at))] as unknown as ParamValue },
    });
    for (const b of own) brushes.set(b.id, { ...b, owner: { id: other } });
    // What rode on no part in particular stays with the first.
    for (const rider of doc.entities.values())
      if (rider.carrier?.id === id && (rider.carrier.part ?? 0) === k)
        entities.set(rider.id, { ...entities.get(rider.id)!, carrier: { id: other } });
    return other;
  });
  let out: MapDocument = { ...doc, entities, brushes };
  for (const wire of doc.wires.values())
    if (wire.to.thing === id)
      for (const other of made.slice(1)) out = addWire(out, again(wire, { to: { ...wire.to, thing: other } }));
  return { doc: out, things: made };
}

/** A wire like another one, without its id. */
const again = ({ id: _, ...wire }: Wire, other: Partial<Wire>): Omit<Wire, 'id'> => ({ ...wire, ...other });

/** Makes one thing of several of a kind whose parts then act together, as the first says. Wires and what rides go over to it. */
export function joinThings(doc: MapDocument, ids: readonly string[]): MapDocument {
  const [first, ...others] = ids.map((id) => thing(doc, id));
  const list = first && partList(first);
  if (!list || others.length === 0 || others.some((o) => o.kind !== first.kind))
    throw new EditError('parts.join', 'Select two doors or more, whose leaves should act together.');
  const entries = [...list.entries];
  const brushes = new Map(doc.brushes);
  const entities = new Map(doc.entities);
  const gone = new Set(others.map((o) => o.id));
  for (const o of others) {
    const theirs = partList(o)!;
    const before = entries.length;
    partsOf(doc, o.id).forEach((part, k) =>
      part.forEach((b) => brushes.set(b.id, { ...b, owner: { id: first.id, part: before + k } })),
    );
    for (const rider of doc.entities.values())
      if (rider.carrier?.id === o.id && rider.id !== first.id && !gone.has(rider.id))
        entities.set(rider.id, { ...rider, carrier: { id: first.id, part: before + (rider.carrier.part ?? 0) } });
    entries.push(...theirs.entries.map((entry) => theirs.moved(entry, sub(first.at, o.at))));
    entities.delete(o.id);
  }
  const most = entityKind(first.kind)!.params[list.key]!;
  if (most.type === 'list' && entries.length > most.most)
    throw new EditError(
      'parts.many',
      `One thing has at most ${most.most} parts; these are ${entries.length}. Select fewer.`,
    );
  const { carrier, ...alone } = first;
  entities.set(first.id, {
    ...alone,
    ...(carrier && !gone.has(carrier.id) ? { carrier } : {}),
    params: { ...first.params, [list.key]: entries as unknown as ParamValue },
  });
  const kept = (id: string) => (gone.has(id) ? first.id : id);
  let out: MapDocument = { ...doc, entities, brushes, wires: new Map() };
  for (const wire of doc.wires.values())
    out = addWire(
      out,
      again(wire, {
        from: { ...wire.from, thing: kept(wire.from.thing) },
        to: { ...wire.to, thing: kept(wire.to.thing) },
      }),
      wire.id,
    );
  return out;
}

/** How a part slides: its way, and how long it is along that. Null for what does not slide, or consists of nothing. */
function slideOf(doc: MapDocument, id: string, part: number): { way: Vec3; size: number } | null {
  const e = doc.entities.get(id);
  const entry = e && partList(e)?.entries[part];
  const way = entry && entityKind(e.kind)!.parted!.slides(entry);
  const brushes = partsOf(doc, id)[part] ?? [];
  const corners = brushes.length
    ? brushes.flatMap((b) => b.vertices)
    : (propsOf(doc, id)[part] ?? []).flatMap((prop) => propCorners(prop));
  if (!way || corners.length === 0 || length(way) < 1e-6) return null;
  const along = normalize(way);
  const spans = corners.map((p) => dot(p, along));
  return { way, size: Math.max(...spans) - Math.min(...spans) };
}

/**
 * How much of a sliding part still shows when it has gone all its way, cm; negative when it goes farther than it is long. Null: it does not
 * slide.
 */
export function stillShows(doc: MapDocument, id: string, part: number): number | null {
  const slide = slideOf(doc, id, part);
  return slide && Math.round((slide.size - length(slide.way)) * 1000) / 1000 + 0;
}

/** Lets a sliding part go as far, the way it goes, that so much of it (cm) still shows. */
export function setStillShows(doc: MapDocument, id: string, part: number, shows: number): MapDocument {
  const e = thing(doc, id);
  const slide = slideOf(doc, id, part);
  const list = partList(e);
  if (!slide || !list)
    throw new EditError('door.slides', 'This part does not slide, or has no brushes. Let it slide some way first.');
  if (!(shows >= 0 && shows < slide.size))
    throw new EditError(
      'door.remainder',
      `What still shows of a leaf is less than the leaf: below ${Math.round(slide.size * 100) / 100} cm. Type less.`,
    );
  const way = scale(normalize(slide.way), slide.size - shows).map((c) => Math.round(c * 1e6) / 1e6 + 0);
  const entries = list.entries.map((entry, k) =>
    k === part ? entityKind(e.kind)!.parted!.slid(entry, way as unknown as Vec3) : entry,
  );
  return changeEntity(doc, id, { params: { [list.key]: entries as unknown as ParamValue } });
}
