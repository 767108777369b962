import { newId, type Inset, type MapDocument, type Room } from '../map/index.ts';
import { outlineArea } from '../math/index.ts';
import { EditError } from './errors.ts';
import { sharedArea } from './floor.ts';
import { tidyFootprint } from './footprint.ts';
import { remakeAround, requireRoom } from './remake.ts';

function checkInset(room: Room, inset: Inset): void {
  const { footprint, height, fill } = inset;
  if (!Number.isFinite(height) || Math.abs(height) < 1 || (fill !== undefined && !(fill >= 0 && fill < -height)))
    throw new EditError(
      'inset.height',
      'A platform rises and a pit sinks by 1 cm or more, and a pool’s surface lies between its bottom and the floor.',
    );
  if (sharedArea(room.footprint, footprint) < outlineArea(footprint) - 1)
    throw new EditError('inset.outside', `The footprint reaches out of ${room.name}. Keep it within the room’s walls.`);
  for (const other of room.insets ?? [])
    if (other.id !== inset.id && sharedArea(other.footprint, footprint) > 1)
      throw new EditError('inset.overlap', 'The footprint overlaps another one in this room. Move it beside that.');
}

/** Draws a footprint inside a room that stands up from the floor (`height` above 0) or is sunk into it. */
export function addInset(doc: MapDocument, roomId: string, spec: Omit<Inset, 'id'>, id = newId()): MapDocument {
  const room = requireRoom(doc, roomId);
  const inset: Inset = { ...spec, footprint: tidyFootprint(spec.footprint), id };
  checkInset(room, inset);
  return withInsets(doc, room, [...(room.insets ?? []), inset]);
}

/** Changes outline, height or fill of a footprint in a room. A height that passes zero turns a platform into a pit and back. */
export function changeInset(
  doc: MapDocument,
  roomId: string,
  id: string,
  change: Partial<Omit<Inset, 'id'>>,
): MapDocument {
  const room = requireRoom(doc, roomId);
  const old = room.insets?.find((i) => i.id === id);
  if (!old) throw new EditError('inset.unknown', 'That footprint is no longer in the room.');
  let inset: Inset = { ...old, ...change };
  if (change.footprint) inset = { ...inset, footprint: tidyFootprint(change.footprint) };
  if (inset.fill !== undefined && (change.fill === undefined || inset.height > 0) && inset.fill >= -inset.height) {
    // Raised over its surface a pool runs dry.
    const { fill: _, ...dry } = inset;
    inset = dry;
  }
  checkInset(room, inset);
  return withInsets(
    doc,
    room,
    room.insets!.map((i) => (i.id === id ? inset : i)),
  );
}

export function removeInset(doc: MapDocument, roomId: string, id: string): MapDocument {
  const room = requireRoom(doc, roomId);
  return withInsets(
    doc,
    room,
    (room.insets ?? []).filter((i) => i.id !== id),
  );
}

function withInsets(doc: MapDocument, room: Room, insets: readonly Inset[]): MapDocument {
  const { insets: _, ...rest } = room;
  const next: Room = insets.length ? { ...rest, insets } : rest;
  return remakeAround({ ...doc, rooms: new Map(doc.rooms).set(room.id, next) }, [room.id]);
}
