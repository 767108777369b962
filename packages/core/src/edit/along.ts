import { brushBounds } from '../brush/index.ts';
import type { MapDocument, Room } from '../map/index.ts';
import { boxCenter, boxContains, uniteBoxes, type Box, type Vec3 } from '../math/index.ts';
import type { Picked } from './brushes.ts';
import { membersOf, rootGroup } from './groups.ts';
import { openingFits, touchingRooms } from './remake.ts';
import { inRoom } from './reflections.ts';
import { inOpening } from './room-parts.ts';
import { boxOfRoom } from './room-clearance.ts';

/** What goes along when rooms are moved, turned or mirrored. */
export interface Along {
  /** Things and loose brushes that stand in the rooms. */
  readonly contents: boolean;
  /** Rooms that share a wall with them, those that share one with these, and so on. */
  readonly neighbours: boolean;
}

/** Feet on a floor and lamps on a ceiling are inside, cm. */
const AT_EDGE = 1;

/** Whether a box stands in a room: its middle inside, and nothing of it beyond the outside of the walls. */
function boxInRoom(room: Room, box: Box): boolean {
  const clear = boxOfRoom(room);
  const shell: Box = {
    min: clear.min.map((c) => c - room.wall - AT_EDGE) as unknown as Vec3,
    max: clear.max.map((c) => c + room.wall + AT_EDGE) as unknown as Vec3,
  };
  return boxContains(shell, box.min) && boxContains(shell, box.max) && inRoom(room, boxCenter(box), AT_EDGE);
}

/** The rooms that hang together with some by shared walls, themselves included. */
export function joinedRooms(doc: MapDocument, ids: Iterable<string>): Set<string> {
  const out = new Set<string>();
  const open = [...ids].filter((id) => doc.rooms.has(id));
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (out.has(id)) continue;
    out.add(id);
    open.push(...touchingRooms(doc, id));
  }
  return out;
}

/** The loose brushes and things that stand in rooms. A group stands in a room as a whole or not at all. */
export function contentsOf(doc: MapDocument, ids: ReadonlySet<string>): Required<Pick<Picked, 'brushes' | 'entities'>> {
  const rooms = [...ids].flatMap((id) => doc.rooms.get(id) ?? []);
  const brushes = new Set<string>();
  const entities = new Set<string>();
  if (rooms.length === 0) return { brushes, entities };
  const groups = new Map<string, boolean>();
  const groupIn = (group: string): boolean => {
    let inside = groups.get(group);
    if (inside === undefined) {
      const of = membersOf(doc, group);
      const boxes = [
        ...of.brushes.map((id) => brushBounds(doc.brushes.get(id)!)),
        ...of.entities.map((id) => ({ min: doc.entities.get(id)!.at, max: doc.entities.get(id)!.at })),
      ];
      groups.set(group, (inside = rooms.some((r) => boxInRoom(r, uniteBoxes(boxes)))));
    }
    return inside;
  };
  for (const b of doc.brushes.values()) {
    if (b.room) continue;
    const root = rootGroup(doc, b.group);
    if (root ? groupIn(root) : rooms.some((r) => boxInRoom(r, brushBounds(b)))) brushes.add(b.id);
  }
  // A door in an opening goes with the room whose wall that was cut from.
  const openings = [...doc.openings.values()].filter((o) => ids.has(o.rooms[0]) && openingFits(doc, o));
  for (const e of doc.entities.values()) {
    const root = rootGroup(doc, e.group);
    const inside = rooms.some((r) => inRoom(r, e.at, AT_EDGE)) || openings.some((o) => inOpening(o, doc.rooms, e.at));
    if (root ? groupIn(root) : inside) entities.add(e.id);
  }
  return { brushes, entities };
}

/** What is picked, with what goes along with its rooms. */
export function withAlong(doc: MapDocument, picked: Picked, { contents, neighbours }: Along): Picked {
  if (!picked.rooms?.size || (!contents && !neighbours)) return picked;
  const rooms = neighbours ? joinedRooms(doc, picked.rooms) : picked.rooms;
  if (!contents) return { ...picked, rooms };
  const inside = contentsOf(doc, rooms);
  return {
    ...picked,
    rooms,
    brushes: new Set([...(picked.brushes ?? []), ...inside.brushes]),
    entities: new Set([...(picked.entities ?? []), ...inside.entities]),
  };
}
