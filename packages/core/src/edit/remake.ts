import { brushPlanes, partKey, type Brush, type Part } from '../brush/index.ts';
import { newId, type MapDocument, type Opening, type Point2, type Room } from '../map/index.ts';
import { dressSolid, naturalFrame, redress } from '../surface/index.ts';
import { EditError } from './errors.ts';
import { clearParts, roomsNear } from './room-clearance.ts';
import { openingHole, roomParts, sharedWalls, sideOf } from './room-parts.ts';

/** Materials for the first dressing of a room's parts. */
export interface RoomDress {
  readonly floor: string;
  readonly wall: string;
  readonly ceiling: string;
  /** What fills pools. */
  readonly liquid?: string;
}

export const requireRoom = (doc: MapDocument, id: string): Room => {
  const room = doc.rooms.get(id);
  if (!room) throw new EditError('room.unknown', 'That room is no longer in the map.');
  return room;
};

export function without<T>(map: ReadonlyMap<string, T>, drop: (item: T) => boolean): Map<string, T> {
  const out = new Map(map);
  for (const [id, item] of map) if (drop(item)) out.delete(id);
  return out;
}

/** The brushes that a room keeps, or kept before they were released. */
export const brushesOf = (doc: MapDocument, room: string): Brush[] =>
  [...doc.brushes.values()].filter((b) => b.room?.id === room);

/** The rooms that share a wall with a room. */
export function touchingRooms(doc: MapDocument, id: string): string[] {
  const room = requireRoom(doc, id);
  return [...new Set(room.footprint.flatMap((_, i) => sharedWalls(room, i, doc.rooms.values()).map((s) => s.room)))];
}

/** The rooms whose brushes depend on a room: those that share a wall with it, or whose walls could reach into it. */
export function neighboursOf(doc: MapDocument, id: string): string[] {
  const room = requireRoom(doc, id);
  const out = new Set(touchingRooms(doc, id));
  for (const other of doc.rooms.values()) if (other.id !== id && roomsNear(room, other)) out.add(other.id);
  return [...out];
}

/**
 * Whether an opening lies within a wall that stands, so that it is cut. One that does not is *waiting*: it stays in the map
 * and is cut again as soon as its rooms meet.
 */
export function openingFits({ rooms }: Pick<MapDocument, 'rooms'>, o: Opening): boolean {
  const [a, b] = o.rooms.map((id) => rooms.get(id));
  if (!a || (o.rooms.length === 2 && !b) || o.side >= a.footprint.length) return false;
  const { bottom, top } = openingHole(o, rooms);
  const both = [a, ...(b ? [b] : [])];
  if (both.some((r) => bottom < r.floor - 0.01 || top > r.ceiling + 0.01)) return false;
  const spans = b ? sharedWalls(a, o.side, [b]) : [{ from: 0, to: sideOf(a, o.side).length }];
  return spans.some((s) => o.at - o.width / 2 >= s.from - 0.01 && o.at + o.width / 2 <= s.to + 0.01);
}

/** The openings that wait for their wall. */
export const waitingOpenings = (doc: MapDocument): Opening[] =>
  [...doc.openings.values()].filter((o) => !openingFits(doc, o));

/** Re-makes the brushes of some rooms and of everything near them. Openings that lost their wall stay, and wait. */
export function remakeAround(
  doc: MapDocument,
  ids: readonly string[],
  dress?: RoomDress,
  kin?: ReadonlyMap<number, number>,
): MapDocument {
  const all = new Set(ids.flatMap((id) => [id, ...neighboursOf(doc, id)]));
  const standing = [...doc.openings.values()].filter((o) => openingFits(doc, o));
  let out = doc;
  for (const id of all) out = remake(out, id, standing, dress, ids.includes(id) ? kin : undefined);
  return out;
}

/**
 * Re-makes the brushes of one room. Each keeps the dressing of the brush that was the same part, or else of the same side,
 * of the side it was split from (`kin`), or of a neighbouring side. Released parts are left alone.
 */
function remake(
  doc: MapDocument,
  id: string,
  openings: readonly Opening[],
  dress: RoomDress | undefined,
  kin: ReadonlyMap<number, number> | undefined,
): MapDocument {
  const room = requireRoom(doc, id);
  const released = new Set(room.released?.map(partKey));
  const whole = roomParts(room, doc.rooms, openings);
  const parts = clearParts(room, whole, doc.rooms, openings).filter((p) => !released.has(partKey(p.part)));
  const all = brushesOf(doc, id);
  const old = all.filter((b) => !b.room!.released);
  const byPart = new Map(old.map((b) => [partKey(b.room!.part), b]));
  const brushes = without(doc.brushes, (b) => b.room?.id === id && !b.room.released);
  const look = dress ?? dressOf(all);
  const sides = room.footprint.length;
  for (const { part, solid, role } of parts) {
    const same = byPart.get(partKey(part));
    const alike = same ?? forerunner(all, part, sides, kin);
    const brushId = same?.id ?? newId();
    const tag = {
      room: { id, part },
      role: role ?? 'structure',
      ...(room.layer ? { layer: room.layer } : {}),
    } as const;
    const made: Brush = alike
      ? { ...redress(solid, alike, same ? {} : { follow: OTHER_PART }), ...tag, id: brushId }
      : dressSolid(solid, brushId, materialOf(part, look), tag);
    const done = finishPart(made, part, room, look, alike === undefined || partKey(alike.room!.part) !== partKey(part));
    // What came out as it was stays the same object: it is neither saved nor checked again.
    brushes.set(brushId, same && isSame(same, done) ? same : done);
  }
  return { ...doc, brushes };
}

const isSame = (a: Brush, b: Brush): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A new part takes the look of another one, and its very picture only where it lies in the same direction. */
const OTHER_PART = 0.999;

/** The brush whose dressing a new part takes over: of its own side, the side it was split from, a neighbouring side, or any wall. */
function forerunner(
  old: readonly Brush[],
  part: Part,
  sides: number,
  kin?: ReadonlyMap<number, number>,
): Brush | undefined {
  const { kind, side, inset } = part;
  // Pieces of one footprint are dressed alike; a new one starts afresh.
  if (inset !== undefined) return old.find((b) => b.room!.part.kind === kind && b.room!.part.inset === inset);
  if (side === undefined) return old.find((b) => b.room!.part.kind === kind);
  const order = [side, kin?.get(side), (side + sides - 1) % sides, (side + 1) % sides];
  for (const wanted of order) {
    const found = wanted === undefined ? undefined : old.find((b) => b.room!.part.side === wanted);
    if (found) return found;
  }
  return old.find((b) => b.room!.part.side !== undefined);
}

function materialOf({ kind }: Part, look: RoomDress): string {
  if (kind === 'floor' || kind === 'ceiling') return look[kind];
  if (kind === 'pool') return look.liquid ?? 'dark-water';
  return kind === 'pitFloor' ? look.floor : look.wall;
}

/** The materials a room mostly shows, for parts that have no forerunner. */
export function dressOf(brushes: readonly Brush[]): RoomDress {
  const of = (kind: 'floor' | 'ceiling' | 'wall', fallback: string) => {
    const brush = brushes.find((b) => (kind === 'wall' ? b.room!.part.side !== undefined : b.room!.part.kind === kind));
    if (!brush) return fallback;
    const up = kind === 'floor' ? 1 : -1;
    const k = kind === 'wall' ? 0 : brushPlanes(brush).findIndex((p) => p.normal[2] === up);
    return brush.faces[Math.max(0, k)]!.material;
  };
  const wall = of('wall', 'limewash');
  return { wall, floor: of('floor', wall), ceiling: of('ceiling', wall) };
}

/** Sets what follows from the room itself: the sky over an open room, floor material on door sills and platforms. */
function finishPart(brush: Brush, { kind }: Part, room: Room, look: RoomDress, fresh: boolean): Brush {
  const planes = brushPlanes(brush);
  if (kind === 'ceiling')
    return {
      ...brush,
      faces: brush.faces.map((f, i) => {
        const { show: _, ...rest } = f;
        return planes[i]!.normal[2] === -1 && room.open ? { ...rest, show: 'sky' } : rest;
      }),
    };
  if ((kind === 'sill' || kind === 'inset') && fresh)
    return {
      ...brush,
      faces: brush.faces.map((f, i) =>
        planes[i]!.normal[2] === 1 ? { ...f, material: look.floor, frame: naturalFrame(planes[i]!) } : f,
      ),
    };
  return brush;
}

/** How the sides of a changed footprint follow from the old ones. */
export interface SideMatch {
  /** For each old side the new one that takes over its brushes, if any. */
  readonly heir: ReadonlyMap<number, number>;
  /** For each new side without brushes of its own, the new side that it was split from. */
  readonly kin: ReadonlyMap<number, number>;
}

/**
 * Finds the sides of an old footprint again in a new one: a side is the same when it runs the same way along the same line,
 * or else as near beside it as possible. A side split by a niche goes to its longest rest.
 */
export function matchSides(before: readonly Point2[], after: readonly Point2[]): SideMatch {
  const heir = new Map<number, number>();
  const kin = new Map<number, number>();
  const [old, now] = [before, after].map((footprint) => footprint.map((_, i) => sideOf({ footprint }, i)));
  const sameCount = before.length === after.length;
  const best = now!.map((side, j) => {
    let found: { i: number; score: number; overlap: number } | null = null;
    old!.forEach((was, i) => {
      const parallel = side.along[0] * was.along[0] + side.along[1] * was.along[1];
      if (parallel < 1 - 1e-6) return;
      const offset = Math.abs(
        (side.start[0] - was.start[0]) * was.out[0] + (side.start[1] - was.start[1]) * was.out[1],
      );
      const from = (side.start[0] - was.start[0]) * was.along[0] + (side.start[1] - was.start[1]) * was.along[1];
      const overlap = Math.min(was.length, from + side.length) - Math.max(0, from);
      const score = offset + Math.max(0, -overlap) + (i === j && sameCount ? -1e6 : 0);
      if (!found || score < found.score) found = { i, score, overlap };
    });
    return found as { i: number; score: number; overlap: number } | null;
  });
  old!.forEach((_, i) => {
    const claims = best.flatMap((b, j) => (b?.i === i ? [{ j, ...b }] : []));
    const nearest = Math.min(...claims.map((c) => c.score));
    const rest = claims.filter((c) => c.score <= nearest + 1e-6).sort((a, b) => b.overlap - a.overlap);
    if (rest.length) heir.set(i, rest[0]!.j);
    for (const other of claims) if (other.j !== rest[0]?.j) kin.set(other.j, rest[0]!.j);
  });
  // A turned side keeps its brushes when the number of corners is the same.
  if (sameCount)
    old!.forEach((_, i) => {
      if (!heir.has(i) && ![...heir.values()].includes(i)) heir.set(i, i);
    });
  return { heir, kin };
}

/** Renames the parts of a room's walls after its sides were renumbered; a side without heir loses its brushes. */
export function renumberSides(doc: MapDocument, before: Room, after: Room, { heir }: SideMatch): MapDocument {
  const rename = (part: Part): Part | null => {
    if (part.side === undefined) return part;
    const side = heir.get(part.side);
    return side === undefined ? null : { ...part, side };
  };
  const brushes = new Map(doc.brushes);
  for (const b of brushesOf(doc, before.id)) {
    const part = rename(b.room!.part);
    if (part === null && !b.room!.released) brushes.delete(b.id);
    else if (part && part.side !== b.room!.part.side) brushes.set(b.id, { ...b, room: { ...b.room!, part } });
  }
  const openings = new Map(doc.openings);
  for (const o of doc.openings.values()) {
    if (o.rooms[0] !== before.id) continue;
    const was = sideOf(before, o.side);
    const centre: Point2 = [was.start[0] + was.along[0] * o.at, was.start[1] + was.along[1] * o.at];
    // It stays where it is in the world, on the new side that runs there.
    const places = after.footprint.flatMap((_, j) => {
      const side = sideOf(after, j);
      if (side.along[0] * was.along[0] + side.along[1] * was.along[1] < 1 - 1e-6) return [];
      const at = (centre[0] - side.start[0]) * side.along[0] + (centre[1] - side.start[1]) * side.along[1];
      const off = Math.abs((centre[0] - side.start[0]) * side.out[0] + (centre[1] - side.start[1]) * side.out[1]);
      const fits = at - o.width / 2 >= -0.01 && at + o.width / 2 <= side.length + 0.01;
      return fits ? [{ j, at: Math.round(at * 1e6) / 1e6, off: off + (heir.get(o.side) === j ? 0 : 1) }] : [];
    });
    const place = places.sort((a, b) => a.off - b.off)[0];
    if (place) {
      openings.set(o.id, { ...o, side: place.j, at: place.at });
      continue;
    }
    // It lost its wall: it waits on the side that took over, or looks most the same way.
    const facing = (j: number): number => sideOf(after, j).out[0] * was.out[0] + sideOf(after, j).out[1] * was.out[1];
    const j = heir.get(o.side) ?? after.footprint.map((_, k) => k).reduce((a, b) => (facing(b) > facing(a) ? b : a));
    const side = sideOf(after, j);
    const at = (centre[0] - side.start[0]) * side.along[0] + (centre[1] - side.start[1]) * side.along[1];
    openings.set(o.id, { ...o, side: j, at: Math.round(at * 1e6) / 1e6 });
  }
  const released = (after.released ?? []).flatMap((part) => rename(part) ?? []);
  const rooms = new Map(doc.rooms);
  const { released: _, ...bare } = after;
  rooms.set(after.id, released.length ? { ...bare, released } : bare);
  return { ...doc, brushes, openings, rooms };
}
