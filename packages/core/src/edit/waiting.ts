import { newId, type MapDocument, type Opening, type Point2, type Room } from '../map/index.ts';
import { contentsOf } from './along.ts';
import { movePicked } from './brushes.ts';
import { EditError } from './errors.ts';
import { changeOpening } from './openings.ts';
import { dressOf, openingFits, remakeAround } from './remake.ts';
import { openingHole, pointOnSide, sideOf, type Side } from './room-parts.ts';
import { addRoom } from './rooms.ts';

const requireOpening = (doc: MapDocument, id: string): Opening => {
  const o = doc.openings.get(id);
  if (!o) throw new EditError('opening.unknown', 'That opening is no longer in the map.');
  return o;
};

/** The rooms of a doorway that waits, and the side of the second that looks back at it. */
function facing(doc: MapDocument, id: string): { o: Opening; first: Room; second: Room; side: Side; back: Side } {
  const o = requireOpening(doc, id);
  const [first, second] = o.rooms.map((r) => doc.rooms.get(r));
  if (!first || !second)
    throw new EditError('opening.oneRoom', 'This opening has one room only. Fit it into its wall, or remove it.');
  const side = sideOf(first, o.side);
  const looks = second.footprint
    .map((_, i) => sideOf(second, i))
    .filter((s) => s.out[0] * side.out[0] + s.out[1] * side.out[1] < -1 + 1e-9)
    .sort((a, b) => b.length - a.length);
  const wide = looks.find((s) => s.length >= o.width - 0.01);
  if (!wide)
    throw new EditError(
      'opening.notFacing',
      `${second.name} has no wall wide enough that looks at ${first.name}. Turn it back, or make the opening narrower.`,
    );
  return { o, first, second, side, back: wide };
}

/** Moves the second room of a waiting opening so that the two share a wall again, with all that stands in it. */
export function meetAgain(doc: MapDocument, id: string): MapDocument {
  const { o, first, second, side, back } = facing(doc, id);
  const gap = Math.max(first.wall, second.wall);
  const from: Point2 = [back.start[0] - side.start[0], back.start[1] - side.start[1]];
  const off = from[0] * side.out[0] + from[1] * side.out[1];
  // The facing side runs the other way: its end comes first along this one.
  const begin = from[0] * side.along[0] + from[1] * side.along[1] - back.length;
  const least = o.at + o.width / 2 - back.length;
  const most = o.at - o.width / 2;
  const along = Math.min(Math.max(begin, least), most) - begin;
  const out = gap - off;
  const { bottom, top } = openingHole(o, doc.rooms);
  const level =
    top <= second.ceiling && bottom >= second.floor && second.floor <= bottom ? 0 : first.floor - second.floor;
  const rooms = new Set([second.id]);
  const moved = movePicked(doc, { rooms, ...contentsOf(doc, rooms) }, [
    side.out[0] * out + side.along[0] * along,
    side.out[1] * out + side.along[1] * along,
    level,
  ]);
  const now = moved.openings.get(id)!;
  if (!openingFits(moved, now)) return fitOpening(moved, id);
  return moved;
}

/** Builds a passage as wide as a waiting opening, straight from its wall to the room that it led to. */
export function bridgeOpening(doc: MapDocument, id: string): MapDocument {
  const { o, first, second, side, back } = facing(doc, id);
  const off = (back.start[0] - side.start[0]) * side.out[0] + (back.start[1] - side.start[1]) * side.out[1];
  const end = (back.start[0] - side.start[0]) * side.along[0] + (back.start[1] - side.start[1]) * side.along[1];
  const [a, b] = [o.at - o.width / 2, o.at + o.width / 2];
  const wall = Math.max(first.wall, second.wall);
  if (b > end + 0.01 || a < end - back.length - 0.01 || off < 2 * wall + 8)
    throw new EditError(
      'opening.noBridge',
      `No straight passage leads from this opening to ${second.name}. Move ${second.name} across from it first.`,
    );
  const floor = Math.max(first.floor, second.floor);
  const ceiling = floor + o.sill + o.height;
  if (ceiling > Math.min(first.ceiling, second.ceiling) + 0.01)
    throw new EditError(
      'opening.noBridge',
      `The opening is too high for both rooms, whose floors are ${Math.round(Math.abs(first.floor - second.floor))} cm apart. Make it lower first.`,
    );
  const corner = (along: number, out: number): Point2 => pointOnSide(side, along, out);
  const footprint = [corner(a, wall), corner(a, off - wall), corner(b, off - wall), corner(b, wall)];
  const passage = newId();
  const made = addRoom(
    doc,
    { name: `${first.name} to ${second.name}`, footprint, floor, ceiling, wall },
    // Dressed like the room it comes from.
    dressOf([...doc.brushes.values()].filter((b) => b.room?.id === first.id)),
    passage,
  );
  const there = made.rooms.get(passage)!;
  const entrance: Opening = { ...o, rooms: [first.id, passage] };
  const far = there.footprint
    .map((_, i) => i)
    .find((i) => sideOf(there, i).out[0] * side.out[0] + sideOf(there, i).out[1] * side.out[1] > 1 - 1e-9)!;
  const exit: Opening = { ...o, id: newId(), rooms: [passage, second.id], side: far, at: o.width / 2 };
  const openings = new Map(made.openings).set(id, entrance).set(exit.id, exit);
  return remakeAround({ ...made, openings }, [first.id, passage, second.id]);
}

/** Moves and, where need be, shrinks an opening so that it lies within the wall it waits for. */
export function fitOpening(doc: MapDocument, id: string): MapDocument {
  const o = requireOpening(doc, id);
  const rooms = o.rooms.flatMap((r) => doc.rooms.get(r) ?? []);
  const side = sideOf(rooms[0]!, o.side);
  const room = Math.min(...rooms.map((r) => r.ceiling)) - Math.max(...rooms.map((r) => r.floor));
  const width = Math.min(o.width, side.length);
  const sill = Math.min(o.sill, Math.max(0, room - 8));
  const height = Math.min(o.height, room - sill);
  const at = Math.min(Math.max(o.at, width / 2), side.length - width / 2);
  return changeOpening(doc, id, { width, height, sill, at });
}
