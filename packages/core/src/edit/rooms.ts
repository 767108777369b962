import { assertValid, partKey, solidOf, type Brush, type Part } from '../brush/index.ts';
import { newId, type MapDocument, type Opening, type Point2, type Room } from '../map/index.ts';
import { applyAffine, translation, type Affine, type Vec3 } from '../math/index.ts';
import { transformBrush } from '../surface/index.ts';
import { EditError } from './errors.ts';
import { tidyFootprint } from './footprint.ts';
import { guarded } from './guard.ts';
import {
  brushesOf,
  matchSides,
  neighboursOf,
  remakeAround,
  renumberSides,
  requireRoom,
  without,
  type RoomDress,
} from './remake.ts';
import { sideOf } from './room-parts.ts';

export interface RoomSpec {
  readonly name?: string;
  readonly footprint: readonly Point2[];
  readonly floor: number;
  readonly ceiling: number;
  readonly wall: number;
  readonly open?: boolean;
}

/** Adds a sealed room and its brushes. The id of the room may be given so that a caller can select it. */
export function addRoom(doc: MapDocument, spec: RoomSpec, dress: RoomDress, id = newId()): MapDocument {
  const room: Room = {
    id,
    name: spec.name ?? `Room ${doc.rooms.size + 1}`,
    footprint: tidyFootprint(spec.footprint),
    floor: spec.floor,
    ceiling: spec.ceiling,
    wall: spec.wall,
    open: spec.open ?? false,
  };
  return remakeAround({ ...doc, rooms: new Map(doc.rooms).set(id, room) }, [id], dress);
}

/** Changes footprint, heights, walls or name of a room; its brushes and those of its neighbours follow, dressed as before. */
export function changeRoom(doc: MapDocument, id: string, change: Partial<Omit<Room, 'id'>>): MapDocument {
  const old = requireRoom(doc, id);
  const room: Room = {
    ...old,
    ...change,
    footprint: change.footprint ? tidyFootprint(change.footprint) : old.footprint,
  };
  const neighbours = neighboursOf(doc, id);
  if (!change.footprint) return remakeAround({ ...doc, rooms: new Map(doc.rooms).set(id, room) }, [id, ...neighbours]);
  const match = matchSides(old.footprint, room.footprint);
  const renumbered = renumberSides(doc, old, room, match);
  const around = neighbours.reduce(
    (d, n) => remakeAround(d, [n]),
    remakeAround(renumbered, [id], undefined, match.kin),
  );
  return around;
}

/** Whether a map of space keeps rooms upright: up stays up, and the plan is mapped by itself. */
const keepsUpright = (m: Affine): boolean =>
  Math.abs(m[2]) + Math.abs(m[6]) + Math.abs(m[8]) + Math.abs(m[9]) < 1e-12 && m[10] > 0;

/**
 * Moves, turns, mirrors or stretches whole rooms, openings, insets and released brushes with them. With `carry` the faces
 * keep showing the same texels at the same corners. Throws `room.tilted` when a room would not stand upright any more.
 */
export function transformRooms(doc: MapDocument, ids: readonly string[], m: Affine, carry = true): MapDocument {
  if (ids.length === 0) return doc;
  if (!keepsUpright(m))
    throw new EditError('room.tilted', 'A room stands upright. Release it first to tilt or overturn its brushes.');
  const mirrored = m[0] * m[5] - m[1] * m[4] < 0;
  const around = ids.flatMap((id) => neighboursOf(doc, id));
  const put = ([x, y]: Point2): Point2 => {
    const p = applyAffine(m, [x, y, 0]);
    return [settled(p[0]), settled(p[1])];
  };
  const outline = (points: readonly Point2[]) => (mirrored ? points.map(put).reverse() : points.map(put));
  const rooms = new Map(doc.rooms);
  const brushes = new Map(doc.brushes);
  const openings = new Map(doc.openings);
  for (const id of ids) {
    const old = requireRoom(doc, id);
    const n = old.footprint.length;
    const sideAfter = (i: number) => (mirrored ? (2 * n - 2 - i) % n : i);
    const rename = (part: Part): Part => (part.side === undefined ? part : { ...part, side: sideAfter(part.side) });
    const room: Room = {
      ...old,
      footprint: tidyFootprint(outline(old.footprint)),
      floor: settled(m[10] * old.floor + m[11]),
      ceiling: settled(m[10] * old.ceiling + m[11]),
      ...(old.insets
        ? { insets: old.insets.map((i) => ({ ...i, footprint: outline(i.footprint), height: i.height * m[10] })) }
        : {}),
      ...(old.released ? { released: old.released.map(rename) } : {}),
    };
    rooms.set(id, room);
    for (const b of brushesOf(doc, id)) {
      const tag = { ...b.room!, part: rename(b.room!.part) };
      // Also what is made anew: its parts then find the faces that lie where theirs do.
      const moved = { ...transformBrush(b, m, carry), room: tag };
      if (tag.released) guarded(() => assertValid(solidOf(moved)));
      brushes.set(b.id, moved);
    }
    for (const o of doc.openings.values())
      if (o.rooms[0] === id) openings.set(o.id, movedOpening(o, old, room, m, mirrored, sideAfter(o.side)));
  }
  return remakeAround({ ...doc, rooms, brushes, openings }, [...ids, ...around]);
}

const settled = (c: number): number => (Math.abs(c - Math.round(c * 100) / 100) < 1e-7 ? Math.round(c * 100) / 100 : c);

function movedOpening(o: Opening, old: Room, room: Room, m: Affine, mirrored: boolean, side: number): Opening {
  const was = sideOf(old, o.side);
  const now = sideOf(room, side);
  const k = now.length / was.length;
  const along = mirrored ? was.length - o.at : o.at;
  return {
    ...o,
    side,
    at: settled(along * k),
    width: settled(o.width * k),
    height: settled(o.height * m[10]),
    sill: settled(o.sill * m[10]),
  };
}

/** Moves whole rooms by a vector. */
export const moveRooms = (doc: MapDocument, ids: readonly string[], by: Vec3, carry = true): MapDocument =>
  transformRooms(doc, ids, translation(by), carry);

/** Removes rooms with their brushes and openings. */
export function removeRooms(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const around = [...ids].flatMap((id) => neighboursOf(doc, id)).filter((id) => !ids.has(id));
  const left: MapDocument = {
    ...doc,
    rooms: without(doc.rooms, (r) => ids.has(r.id)),
    openings: without(doc.openings, (o) => o.rooms.some((id) => ids.has(id))),
    brushes: without(doc.brushes, (b) => !!b.room && ids.has(b.room.id)),
  };
  return remakeAround(left, around);
}

/** Gives all of a room's brushes free to be shaped by hand; the room itself ends. */
export function releaseRoom(doc: MapDocument, id: string): MapDocument {
  requireRoom(doc, id);
  const brushes = new Map(doc.brushes);
  for (const brush of brushesOf(doc, id)) brushes.set(brush.id, looseBrush(brush));
  return {
    ...doc,
    brushes,
    rooms: without(doc.rooms, (r) => r.id === id),
    openings: without(doc.openings, (o) => o.rooms.includes(id)),
  };
}

/** A brush that belongs to no room. */
export const looseBrush = ({ room: _, ...brush }: Brush): Brush => brush;

const withPart = (parts: readonly Part[] = [], part: Part): Part[] =>
  parts.some((p) => partKey(p) === partKey(part)) ? [...parts] : [...parts, part];

/**
 * Gives single brushes of rooms free to be shaped by hand: the room stays a room and never touches them again, but they
 * still move with it. Their parts are not made anew.
 */
export function releaseBrushes(doc: MapDocument, ids: Iterable<string>): MapDocument {
  let brushes: Map<string, Brush> | null = null;
  const rooms = new Map(doc.rooms);
  for (const id of ids) {
    const brush = doc.brushes.get(id);
    if (!brush?.room || brush.room.released) continue;
    brushes ??= new Map(doc.brushes);
    brushes.set(id, { ...brush, room: { ...brush.room, released: true } });
    const room = rooms.get(brush.room.id);
    if (room) rooms.set(room.id, { ...room, released: withPart(room.released, brush.room.part) });
  }
  return brushes ? { ...doc, brushes, rooms } : doc;
}

/** Gives released brushes back to their rooms, which make those parts anew; what was shaped by hand is lost (but can be undone). */
export function giveBack(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const wanted = [...ids]
    .flatMap((id) => doc.brushes.get(id) ?? [])
    .filter((b) => b.room?.released && doc.rooms.has(b.room.id));
  if (wanted.length === 0) throw new EditError('room.notReleased', 'None of these brushes was released from a room.');
  return takeBack(
    doc,
    wanted.map((b) => ({ room: b.room!.id, part: b.room!.part })),
  );
}

/** Makes all parts of a room anew that were shaped or removed by hand. */
export function giveAllBack(doc: MapDocument, id: string): MapDocument {
  const room = requireRoom(doc, id);
  return takeBack(
    doc,
    (room.released ?? []).map((part) => ({ room: id, part })),
  );
}

function takeBack(doc: MapDocument, parts: readonly { room: string; part: Part }[]): MapDocument {
  const keys = new Set(parts.map((p) => `${p.room} ${partKey(p.part)}`));
  const rooms = new Map(doc.rooms);
  for (const id of new Set(parts.map((p) => p.room))) {
    const { released, ...room } = requireRoom(doc, id);
    const left = (released ?? []).filter((part) => !keys.has(`${id} ${partKey(part)}`));
    rooms.set(id, left.length ? { ...room, released: left } : room);
  }
  // The first brush of a part stays, for its dressing and its id; further ones that were cut from it go.
  const seen = new Set<string>();
  const brushes = new Map(doc.brushes);
  for (const b of doc.brushes.values()) {
    const key = b.room ? `${b.room.id} ${partKey(b.room.part)}` : '';
    if (!keys.has(key)) continue;
    if (seen.has(key)) brushes.delete(b.id);
    else brushes.set(b.id, { ...b, room: { id: b.room!.id, part: b.room!.part } });
    seen.add(key);
  }
  return remakeAround({ ...doc, rooms, brushes }, [...new Set(parts.map((p) => p.room))]);
}
