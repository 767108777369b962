import type { Brush } from '../brush/index.ts';
import { newId, type MapDocument, type Opening, type Point2, type Room } from '../map/index.ts';
import { dressSolid, naturalFrame, redress } from '../surface/index.ts';
import { brushPlanes } from '../brush/index.ts';
import { EditError } from './errors.ts';
import { tidyFootprint } from './footprint.ts';
import { roomParts, sharedWalls, sideOf } from './room-parts.ts';

/** Materials for the first dressing of a room's parts. */
export interface RoomDress {
  readonly floor: string;
  readonly wall: string;
  readonly ceiling: string;
}

export interface RoomSpec {
  readonly name?: string;
  readonly footprint: readonly Point2[];
  readonly floor: number;
  readonly ceiling: number;
  readonly wall: number;
  readonly open?: boolean;
}

const requireRoom = (doc: MapDocument, id: string): Room => {
  const room = doc.rooms.get(id);
  if (!room) throw new EditError('room.unknown', 'That room is no longer in the map.');
  return room;
};

const partOf = (part: string): string => part.split(':')[0]!;
const sideKey = (part: string): string => part.split(':').slice(0, 2).join(':');

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
  return remakeAround({ ...doc, rooms: new Map(doc.rooms).set(id, room) }, [id, ...neighbours]);
}

/** Moves whole rooms, openings and brushes with them. */
export function moveRooms(
  doc: MapDocument,
  ids: readonly string[],
  by: readonly [number, number, number],
): MapDocument {
  const rooms = new Map(doc.rooms);
  const around = new Set(ids.flatMap((id) => neighboursOf(doc, id)));
  for (const id of ids) {
    const room = requireRoom(doc, id);
    const footprint = room.footprint.map(([x, y]): Point2 => [x + by[0], y + by[1]]);
    rooms.set(id, { ...room, footprint, floor: room.floor + by[2], ceiling: room.ceiling + by[2] });
  }
  return remakeAround({ ...doc, rooms }, [...ids, ...around]);
}

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

/** Gives a room's brushes free to be shaped by hand; the room itself ends. */
export function releaseRoom(doc: MapDocument, id: string): MapDocument {
  requireRoom(doc, id);
  const brushes = new Map(doc.brushes);
  for (const brush of doc.brushes.values()) if (brush.room?.id === id) brushes.set(brush.id, releasedBrush(brush));
  return {
    ...doc,
    brushes,
    rooms: without(doc.rooms, (r) => r.id === id),
    openings: without(doc.openings, (o) => o.rooms.includes(id)),
  };
}

export const releasedBrush = ({ room: _, ...brush }: Brush): Brush => brush;

/** Walls that two rooms share and through which a doorway could go. */
export function doorwayPlaces(doc: MapDocument, a: string, b: string): { side: number; from: number; to: number }[] {
  const room = requireRoom(doc, a);
  const other = requireRoom(doc, b);
  return room.footprint.flatMap((_, side) =>
    sharedWalls(room, side, [other]).map(({ from, to }) => ({ side, from, to })),
  );
}

/** Opens a doorway in the widest wall that two rooms share, centred unless `at` says otherwise. */
export function openDoorway(
  doc: MapDocument,
  a: string,
  b: string,
  size: { width: number; height: number; sill: number; at?: number },
  id = newId(),
): MapDocument {
  const places = doorwayPlaces(doc, a, b).sort((p, q) => q.to - q.from - (p.to - p.from));
  const place = places[0];
  if (!place)
    throw new EditError(
      'opening.notTouching',
      'These two rooms do not share a wall. Move one until only a wall lies between them.',
    );
  if (size.width > place.to - place.from + 0.01)
    throw new EditError(
      'opening.tooWide',
      `The shared wall is ${Math.round(place.to - place.from)} cm long. Type a width up to that.`,
    );
  const opening: Opening = {
    id,
    rooms: [a, b],
    side: place.side,
    at: size.at ?? (place.from + place.to) / 2,
    width: size.width,
    height: size.height,
    sill: size.sill,
  };
  checkOpening(doc, opening);
  return remakeAround({ ...doc, openings: new Map(doc.openings).set(id, opening) }, [a, b]);
}

export function changeOpening(
  doc: MapDocument,
  id: string,
  change: Partial<Pick<Opening, 'at' | 'width' | 'height' | 'sill'>>,
): MapDocument {
  const old = doc.openings.get(id);
  if (!old) throw new EditError('opening.unknown', 'That opening is no longer in the map.');
  const opening = { ...old, ...change };
  checkOpening(doc, opening);
  return remakeAround({ ...doc, openings: new Map(doc.openings).set(id, opening) }, opening.rooms);
}

export function removeOpenings(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const rooms = new Set([...doc.openings.values()].filter((o) => ids.has(o.id)).flatMap((o) => o.rooms));
  return remakeAround({ ...doc, openings: without(doc.openings, (o) => ids.has(o.id)) }, [...rooms]);
}

function checkOpening(doc: MapDocument, o: Opening): void {
  if (![o.width, o.height, o.sill, o.at].every(Number.isFinite) || o.width < 8 || o.height < 8 || o.sill < 0)
    throw new EditError(
      'opening.size',
      'An opening is at least 8 cm wide and high, with a sill of 0 or more. Type larger numbers.',
    );
  const room = requireRoom(doc, o.rooms[0]);
  const other = requireRoom(doc, o.rooms[1]);
  const fits = sharedWalls(room, o.side, [other]).some(
    (s) => o.at - o.width / 2 >= s.from - 0.01 && o.at + o.width / 2 <= s.to + 0.01,
  );
  if (!fits)
    throw new EditError(
      'opening.outside',
      'The opening does not lie within the wall the two rooms share. Move it or make it narrower.',
    );
}

/** The rooms that share a wall with a room. */
function neighboursOf(doc: MapDocument, id: string): string[] {
  const room = requireRoom(doc, id);
  return [...new Set(room.footprint.flatMap((_, i) => sharedWalls(room, i, doc.rooms.values()).map((s) => s.room)))];
}

/** Re-makes the brushes of some rooms and of everything that shares a wall with them; drops openings that lost their wall. */
function remakeAround(doc: MapDocument, ids: readonly string[], dress?: RoomDress): MapDocument {
  const all = new Set(ids.flatMap((id) => [id, ...neighboursOf(doc, id)]));
  const openings = without(doc.openings, (o) => {
    if (!all.has(o.rooms[0]) && !all.has(o.rooms[1])) return false;
    const [a, b] = o.rooms.map((id) => doc.rooms.get(id));
    if (!a || !b || o.side >= a.footprint.length) return true;
    return !sharedWalls(a, o.side, [b]).some(
      (s) => o.at - o.width / 2 >= s.from - 0.01 && o.at + o.width / 2 <= s.to + 0.01,
    );
  });
  let out: MapDocument = { ...doc, openings };
  for (const id of all) out = remake(out, id, dress);
  return out;
}

/** Re-makes the brushes of one room. Each keeps the dressing of the brush that was the same part, or else of the same side. */
function remake(doc: MapDocument, id: string, dress: RoomDress | undefined): MapDocument {
  const room = requireRoom(doc, id);
  const parts = roomParts(room, doc.rooms, doc.openings.values());
  const old = [...doc.brushes.values()].filter((b) => b.room?.id === id);
  const byPart = new Map(old.map((b) => [b.room!.part, b]));
  const brushes = without(doc.brushes, (b) => b.room?.id === id);
  const look = dress ?? dressOf(old);
  for (const { part, solid } of parts) {
    const same = byPart.get(part);
    const alike =
      same ?? old.find((b) => isAlike(b.room!.part, part)) ?? old.find((b) => groupOf(b.room!.part) === groupOf(part));
    const brushId = same?.id ?? newId();
    const tag = { room: { id, part } };
    const made: Brush = alike
      ? { ...redress(solid, alike), ...tag, id: brushId }
      : dressSolid(solid, brushId, look[groupOf(part)], tag);
    brushes.set(brushId, finishPart(made, part, room, look, alike === undefined || alike.room!.part !== part));
  }
  return { ...doc, brushes };
}

const groupOf = (part: string): keyof RoomDress => {
  const kind = partOf(part);
  return kind === 'floor' || kind === 'ceiling' ? kind : 'wall';
};

const isAlike = (a: string, b: string): boolean =>
  groupOf(a) === groupOf(b) && sideKey(a).split(':')[1] === sideKey(b).split(':')[1];

/** The materials a room mostly shows, for parts that have no forerunner. */
function dressOf(brushes: readonly Brush[]): RoomDress {
  const of = (group: keyof RoomDress, fallback: string) => {
    const brush = brushes.find((b) => groupOf(b.room!.part) === group);
    if (!brush) return fallback;
    const up = group === 'floor' ? 1 : -1;
    const k = group === 'wall' ? 0 : brushPlanes(brush).findIndex((p) => p.normal[2] === up);
    return brush.faces[Math.max(0, k)]!.material;
  };
  const wall = of('wall', 'limewash');
  return { wall, floor: of('floor', wall), ceiling: of('ceiling', wall) };
}

/** Sets what follows from the room itself: the sky over an open room, floor material on door sills. */
function finishPart(brush: Brush, part: string, room: Room, look: RoomDress, fresh: boolean): Brush {
  const kind = partOf(part);
  const planes = brushPlanes(brush);
  if (kind === 'ceiling')
    return {
      ...brush,
      faces: brush.faces.map((f, i) => {
        const { show: _, ...rest } = f;
        return planes[i]!.normal[2] === -1 && room.open ? { ...rest, show: 'sky' } : rest;
      }),
    };
  if (kind === 'sill' && fresh)
    return {
      ...brush,
      faces: brush.faces.map((f, i) =>
        planes[i]!.normal[2] === 1 ? { ...f, material: look.floor, frame: naturalFrame(planes[i]!) } : f,
      ),
    };
  return brush;
}

export function without<T>(map: ReadonlyMap<string, T>, drop: (item: T) => boolean): Map<string, T> {
  const out = new Map(map);
  for (const [id, item] of map) if (drop(item)) out.delete(id);
  return out;
}

/** The length of a side and where it runs: for handles and dimension lines. */
export { sideOf };
