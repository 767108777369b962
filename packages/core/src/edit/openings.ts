import { hypot } from '../math/index.ts';
import { newId, type MapDocument, type Opening, type OpeningKind, type Point2 } from '../map/index.ts';
import { EditError } from './errors.ts';
import { openingFits, remakeAround, requireRoom, without } from './remake.ts';
import { sharedWalls, sideOf, sidesThrough } from './room-parts.ts';

/** Size of an opening in cm; `at` is its middle from the start of the side, the middle of the wall when absent. */
export interface OpeningSize {
  readonly width: number;
  readonly height: number;
  readonly sill: number;
  readonly at?: number;
  readonly kind?: OpeningKind;
  readonly rise?: number;
}

/** Walls that two rooms share and through which a doorway could go. */
export function doorwayPlaces(doc: MapDocument, a: string, b: string): { side: number; from: number; to: number }[] {
  const room = requireRoom(doc, a);
  const other = requireRoom(doc, b);
  return room.footprint.flatMap((_, side) =>
    sharedWalls(room, side, [other]).map(({ from, to }) => ({ side, from, to })),
  );
}

/** Opens a doorway, window or arch in the widest wall that two rooms share, centred unless `at` says otherwise. */
export function openDoorway(doc: MapDocument, a: string, b: string, size: OpeningSize, id = newId()): MapDocument {
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
  const { at, ...rest } = size;
  return put(doc, { id, rooms: [a, b], side: place.side, at: at ?? (place.from + place.to) / 2, ...rest });
}

/**
 * Opens a wall of a room at a side: to the room that stands behind that place, or to the outside when none does.
 * Centred on the side unless `at` (cm from the side's start) says otherwise.
 */
export function openWall(doc: MapDocument, roomId: string, side: number, size: OpeningSize, id = newId()): MapDocument {
  const room = requireRoom(doc, roomId);
  if (!room.footprint[side]) throw new EditError('opening.side', 'The room has no such wall.');
  const { at = sideOf(room, side).length / 2, ...rest } = size;
  const behind = sharedWalls(room, side, doc.rooms.values()).find((s) => s.from <= at && at <= s.to);
  return put(doc, { id, rooms: behind ? [roomId, behind.room] : [roomId], side, at, ...rest });
}

/** The side of a room nearest to a place on the plan, and where along it that place lies (cm from the side's start). */
export function sideNear(doc: MapDocument, roomId: string, p: Point2): { side: number; at: number; distance: number } {
  const room = requireRoom(doc, roomId);
  return room.footprint
    .map((_, side) => {
      const s = sideOf(room, side);
      const d: Point2 = [p[0] - s.start[0], p[1] - s.start[1]];
      const at = Math.max(0, Math.min(s.length, d[0] * s.along[0] + d[1] * s.along[1]));
      return { side, at, distance: hypot(d[0] - s.along[0] * at, d[1] - s.along[1] * at) };
    })
    .reduce((a, b) => (b.distance < a.distance ? b : a));
}

export function changeOpening(
  doc: MapDocument,
  id: string,
  change: Partial<Pick<Opening, 'at' | 'width' | 'height' | 'sill' | 'kind' | 'rise'>>,
): MapDocument {
  const old = doc.openings.get(id);
  if (!old) throw new EditError('opening.unknown', 'That opening is no longer in the map.');
  return put(doc, { ...old, ...change });
}

export function removeOpenings(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  const gone = [...doc.openings.values()].filter((o) => ids.has(o.id));
  gone.forEach((o) => checkKept(doc, o));
  const rooms = new Set(gone.flatMap((o) => o.rooms));
  return remakeAround({ ...doc, openings: without(doc.openings, (o) => ids.has(o.id)) }, [...rooms]);
}

function put(doc: MapDocument, o: Opening): MapDocument {
  if (
    ![o.width, o.height, o.sill, o.at, o.rise ?? 1].every(Number.isFinite) ||
    o.width < 8 ||
    o.height < 8 ||
    o.sill < 0 ||
    (o.rise ?? 1) <= 0
  )
    throw new EditError(
      'opening.size',
      'An opening is at least 8 cm wide and high, with a sill of 0 or more. Type larger numbers.',
    );
  o.rooms.forEach((id) => requireRoom(doc, id));
  if (!openingFits(doc, o))
    throw new EditError(
      'opening.outside',
      o.rooms.length === 2
        ? 'The opening does not lie within the wall the two rooms share. Move it or make it narrower.'
        : 'The opening does not fit in its wall. Make it smaller or move it.',
    );
  checkKept(doc, o);
  return remakeAround({ ...doc, openings: new Map(doc.openings).set(o.id, o) }, o.rooms);
}

/** A wall of which a part was shaped by hand is not re-made, so nothing can be opened or closed in it. */
function checkKept(doc: MapDocument, o: Opening): void {
  for (const { room, side } of sidesThrough(o, doc.rooms))
    if (room.released?.some((part) => part.side === side))
      throw new EditError(
        'opening.released',
        `A brush of this wall of ${room.name} was shaped by hand. Give it back to the room first, or cut the wall itself.`,
      );
}
