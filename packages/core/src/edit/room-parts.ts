import {
  archCurve,
  BrushError,
  extrude,
  hullOf,
  spandrels,
  type Part,
  type PartKind,
  type Role,
  type Solid,
} from '../brush/index.ts';
import type { Inset, MapDocument, Opening, Point2, Room } from '../map/index.ts';
import { EditError } from './errors.ts';
import { convexParts, hypot, type Vec3 } from '../math/index.ts';
import { floorWithout } from './floor.ts';

/** One brush of a room: its geometry, and as which part its dressing is found again. */
export interface RoomPart {
  readonly part: Part;
  readonly solid: Solid;
  /** Structure when absent. */
  readonly role?: Role;
}

/** The straight edge of a footprint: start, unit direction, outward unit normal, length (cm). */
export interface Side {
  readonly start: Point2;
  readonly end: Point2;
  readonly along: Point2;
  readonly out: Point2;
  readonly length: number;
}

export function sideOf(room: Pick<Room, 'footprint'>, index: number): Side {
  const start = room.footprint[index]!;
  const end = room.footprint[(index + 1) % room.footprint.length]!;
  const length = hypot(end[0] - start[0], end[1] - start[1]);
  const along: Point2 = [(end[0] - start[0]) / length, (end[1] - start[1]) / length];
  return { start, end, along, out: [along[1], -along[0]], length };
}

const dot2 = (a: Point2, b: Point2): number => a[0] * b[0] + a[1] * b[1];
const minus = (a: Point2, b: Point2): Point2 => [a[0] - b[0], a[1] - b[1]];
/** The place `along` a side and `out` from it, cm. */
export const pointOnSide = (s: Side, along: number, out: number): Point2 => [
  s.start[0] + s.along[0] * along + s.out[0] * out,
  s.start[1] + s.along[1] * along + s.out[1] * out,
];

/** A stretch of one room's side that faces a side of another room across a shared wall. */
export interface SharedWall {
  readonly room: string;
  readonly side: number;
  /** From and to, in cm along this room's side. */
  readonly from: number;
  readonly to: number;
  /** Clear distance between the two footprints. */
  readonly gap: number;
}

/** Where a side of a room shares its wall with other rooms. Sides that touch or overlap count with a gap of zero or less. */
export function sharedWalls(room: Room, index: number, others: Iterable<Room>): SharedWall[] {
  const side = sideOf(room, index);
  const out: SharedWall[] = [];
  for (const other of others) {
    if (other.id === room.id) continue;
    if (Math.min(room.ceiling, other.ceiling) - Math.max(room.floor, other.floor) <= 0) continue;
    other.footprint.forEach((_, k) => {
      const facing = sideOf(other, k);
      if (dot2(side.out, facing.out) > -1 + 1e-9) return;
      const gap = dot2(minus(facing.start, side.start), side.out);
      if (gap < 0 || gap > room.wall + other.wall + 1e-6) return;
      const from = Math.max(0, dot2(minus(facing.end, side.start), side.along));
      const to = Math.min(side.length, dot2(minus(facing.start, side.start), side.along));
      if (to - from > 0.5) out.push({ room: other.id, side: k, from, to, gap });
    });
  }
  return out.sort((a, b) => a.from - b.from);
}

/** A rectangle cut out of a wall: along the side, and in height. */
interface Hole {
  readonly from: number;
  readonly to: number;
  readonly bottom: number;
  readonly top: number;
  /** Height of the curve when it is an arch. */
  readonly rise?: number;
}

/** What a part is called in a message. */
const PART_WORDS: Readonly<Record<PartKind, string>> = {
  floor: 'floor',
  ceiling: 'ceiling',
  wall: 'wall',
  sill: 'sill',
  head: 'lintel',
  arch: 'arch',
  inset: 'platform',
  pool: 'pool',
  pitFloor: 'pit',
  pitWall: 'pit',
};

/** How many straight pieces make the curve of an arch. */
export const ARCH_SEGMENTS = 8;

/** How high an opening reaches. Its rooms must be there. */
export function openingHole(opening: Opening, rooms: ReadonlyMap<string, Room>): { bottom: number; top: number } {
  const bottom = Math.max(...opening.rooms.map((id) => rooms.get(id)!.floor)) + opening.sill;
  return { bottom, top: bottom + opening.height };
}

/** An opening with the room and side it is in, the depth of its wall and where its hole begins and ends; refused when it is gone. */
export function openingWall(doc: Pick<MapDocument, 'openings' | 'rooms'>, id: string) {
  const opening = doc.openings.get(id);
  const room = opening && doc.rooms.get(opening.rooms[0]);
  if (!opening || !room) throw new EditError('opening.unknown', 'That opening is no longer in the map.');
  const side = sideOf(room, opening.side);
  const other = opening.rooms[1] === undefined ? undefined : doc.rooms.get(opening.rooms[1]);
  const shared = other && sharedWalls(room, opening.side, [other]);
  const depth = shared?.find((s) => s.from <= opening.at && opening.at <= s.to)?.gap || room.wall;
  return { opening, room, side, depth, ...openingHole(opening, doc.rooms) };
}

/** Whether a point lies in an opening: in its hole, anywhere through its walls. Its rooms must be there. */
export function inOpening(o: Opening, rooms: ReadonlyMap<string, Room>, p: Vec3): boolean {
  const side = sideOf(rooms.get(o.rooms[0])!, o.side);
  const { bottom, top } = openingHole(o, rooms);
  const off: Point2 = [p[0] - side.start[0], p[1] - side.start[1]];
  const out = dot2(off, side.out);
  const thick = o.rooms.reduce((t, id) => t + (rooms.get(id)?.wall ?? 0), 1);
  return (
    Math.abs(dot2(off, side.along) - o.at) <= o.width / 2 &&
    out > -1 &&
    out < thick &&
    p[2] > bottom - 1 &&
    p[2] < top + 1
  );
}

/** The hole an opening makes in a room's side, or null when it belongs to another side or room. */
function holeIn(opening: Opening, room: Room, index: number, rooms: ReadonlyMap<string, Room>): Hole | null {
  const [a, b] = opening.rooms;
  const first = rooms.get(a);
  const second = b === undefined ? first : rooms.get(b);
  if (!first || !second || (room.id !== first.id && room.id !== second.id)) return null;
  const side = sideOf(first, opening.side % first.footprint.length);
  const { bottom, top } = openingHole(opening, rooms);
  const rise = opening.kind === 'arch' ? Math.min(opening.rise ?? opening.width / 2, opening.height) : undefined;
  const span = (centre: number): Hole => ({
    from: centre - opening.width / 2,
    to: centre + opening.width / 2,
    bottom,
    top,
    ...(rise === undefined ? {} : { rise }),
  });
  if (room.id === first.id) return index === opening.side ? span(opening.at) : null;
  const mine = sideOf(room, index);
  if (dot2(mine.out, side.out) > -1 + 1e-9) return null;
  const gap = dot2(minus(mine.start, side.start), side.out);
  if (gap < 0 || gap > first.wall + second.wall + 1e-6) return null;
  const centre = dot2(minus(pointOnSide(side, opening.at, 0), mine.start), mine.along);
  return centre < 0 || centre > mine.length ? null : span(centre);
}

/** The sides of its rooms that an opening goes through, as `room:side`. */
export function sidesThrough(opening: Opening, rooms: ReadonlyMap<string, Room>): { room: Room; side: number }[] {
  return opening.rooms.flatMap((id) => {
    const room = rooms.get(id);
    return room
      ? room.footprint.flatMap((_, side) => (holeIn(opening, room, side, rooms) ? [{ room, side }] : []))
      : [];
  });
}

/**
 * The brushes of a room: floor and ceiling slabs over its convex parts, and walls outside the footprint, mitred at the
 * corners. Where another room stands across, the two share the space between them, each in proportion to its thickness.
 * Openings are left out of the walls. Throws `room.*` when no sealed room can be made.
 */
export function roomParts(room: Room, rooms: ReadonlyMap<string, Room>, openings: Iterable<Opening>): RoomPart[] {
  checkRoom(room);
  const parts: RoomPart[] = [];
  const make = (part: Part, solid: () => Solid, role?: Role) => {
    try {
      parts.push({ part, solid: solid(), ...(role ? { role } : {}) });
    } catch (error) {
      if (error instanceof BrushError)
        throw new EditError('room.tooThin', `The room would get a broken ${PART_WORDS[part.kind]}: ${error.message}`);
      throw error;
    }
  };
  const add: AddPart = (part, outline, bottom, top, role) => make(part, () => extrude(outline, bottom, top), role);
  floorWithout(room).forEach((outline, k) =>
    add({ kind: 'floor', piece: k }, outline, room.floor - room.wall, room.floor),
  );
  convexParts(room.footprint).forEach((outline, k) =>
    add({ kind: 'ceiling', piece: k }, outline, room.ceiling, room.ceiling + room.wall),
  );
  for (const inset of room.insets ?? []) addInset(room, inset, add);
  const list = [...openings];
  const runs = room.footprint.map((_, i) => wallRuns(room, i, rooms));
  room.footprint.forEach((_, i) => {
    const side = sideOf(room, i);
    const before = runs[(i + runs.length - 1) % runs.length]!.at(-1)!;
    const after = runs[(i + 1) % runs.length]![0]!;
    const holes = list
      .map((o) => holeIn(o, room, i, rooms))
      .filter((h) => h !== null)
      .sort((a, b) => a.from - b.from);
    checkHoles(holes, side, room);
    let piece = 0;
    runs[i]!.forEach((run, r) => {
      const startMitre =
        r === 0 ? mitre(sideOf(room, (i + runs.length - 1) % runs.length), before.thick, side, run.thick) : null;
      const endMitre =
        r === runs[i]!.length - 1 ? mitre(side, run.thick, sideOf(room, (i + 1) % runs.length), after.thick) : null;
      const cuts = [
        run.from,
        ...holes.flatMap((h) => [h.from, h.to]).filter((s) => s > run.from + 0.01 && s < run.to - 0.01),
        run.to,
      ];
      for (let c = 0; c + 1 < cuts.length; c++) {
        const [a, b] = [cuts[c]!, cuts[c + 1]!];
        const innerA = a === 0 ? side.start : pointOnSide(side, a, 0);
        const innerB = b === side.length ? side.end : pointOnSide(side, b, 0);
        const outerB = (c + 2 === cuts.length && endMitre) || pointOnSide(side, b, run.thick);
        const outerA = (c === 0 && startMitre) || pointOnSide(side, a, run.thick);
        // Counter-clockwise from above: along the inside, back along the outside, turned round.
        const outline = [innerB, innerA, outerA, outerB];
        const hole = holes.find((h) => h.from <= a + 0.01 && h.to >= b - 0.01);
        const low = room.floor - room.wall;
        const high = room.ceiling + room.wall;
        if (!hole) add({ kind: 'wall', side: i, piece: piece++ }, outline, low, high);
        else {
          add({ kind: 'sill', side: i, piece }, outline, low, hole.bottom);
          archPieces(hole, a, b).forEach((face, k) =>
            make({ kind: 'arch', side: i, piece, segment: k }, () =>
              hullOf(
                [0, run.thick].flatMap((out) =>
                  face.map(([s, z]): Vec3 => {
                    const [x, y] =
                      s === a && out === 0 ? innerA : s === b && out === 0 ? innerB : pointOnSide(side, s, out);
                    return [x, y, z];
                  }),
                ),
              ),
            ),
          );
          add({ kind: 'head', side: i, piece: piece++ }, outline, hole.top, high);
        }
      }
    });
  });
  return parts;
}

/** The pieces above the curve of an arched hole between two places along the side, as (along, height). */
function archPieces(hole: Hole, from: number, to: number): Point2[][] {
  if (!hole.rise) return [];
  const middle = (hole.from + hole.to) / 2;
  const springing = hole.top - hole.rise;
  const curve = archCurve((hole.to - hole.from) / 2, hole.rise, ARCH_SEGMENTS);
  return spandrels(curve, hole.rise)
    .map((piece) =>
      clipSpan(
        piece.map(([s, z]): Point2 => [s + middle, z + springing]),
        from,
        to,
      ),
    )
    .filter((piece) => piece.length >= 3);
}

/** A convex outline between two upright lines. */
function clipSpan(outline: readonly Point2[], from: number, to: number): Point2[] {
  const keep = (points: readonly Point2[], inside: (p: Point2) => number) =>
    points.flatMap((p, i): Point2[] => {
      const q = points[(i + 1) % points.length]!;
      const [a, b] = [inside(p), inside(q)];
      const meet: Point2 = [p[0] + ((q[0] - p[0]) * a) / (a - b), p[1] + ((q[1] - p[1]) * a) / (a - b)];
      return [...(a >= -1e-9 ? [p] : []), ...((a > 1e-9 && b < -1e-9) || (a < -1e-9 && b > 1e-9) ? [meet] : [])];
    });
  return keep(
    keep(outline, (p) => p[0] - from),
    (p) => to - p[0],
  );
}

type AddPart = (part: Part, outline: readonly Point2[], bottom: number, top: number, role?: Role) => void;

/** The brushes of a footprint inside a room: what stands up from the floor, or the walls, bottom and liquid of what is sunk. */
function addInset(room: Room, { id, footprint, height, fill }: Inset, add: AddPart): void {
  const outlines = convexParts(footprint);
  if (height > 0) {
    const top = Math.min(room.ceiling, room.floor + height);
    outlines.forEach((outline, k) => add({ kind: 'inset', inset: id, piece: k }, outline, room.floor, top, 'detail'));
    return;
  }
  const bottom = room.floor + height;
  outlines.forEach((outline, k) => add({ kind: 'pitFloor', inset: id, piece: k }, outline, bottom - room.wall, bottom));
  if (-height > room.wall - 1)
    footprint.forEach((_, i) => {
      const side = sideOf({ footprint }, i);
      const before = sideOf({ footprint }, (i + footprint.length - 1) % footprint.length);
      const after = sideOf({ footprint }, (i + 1) % footprint.length);
      const outerA = mitre(before, room.wall, side, room.wall) ?? pointOnSide(side, 0, room.wall);
      const outerB = mitre(side, room.wall, after, room.wall) ?? pointOnSide(side, side.length, room.wall);
      add(
        { kind: 'pitWall', inset: id, piece: i },
        [side.end, side.start, outerA, outerB],
        bottom - room.wall,
        room.floor - room.wall,
      );
    });
  if (fill !== undefined && fill < -height)
    outlines.forEach((outline, k) =>
      add({ kind: 'pool', inset: id, piece: k }, outline, bottom, room.floor - fill, 'liquid'),
    );
}

interface Run {
  readonly from: number;
  readonly to: number;
  readonly thick: number;
}

/** A side cut into stretches of one wall thickness. */
function wallRuns(room: Room, index: number, rooms: ReadonlyMap<string, Room>): Run[] {
  const { length } = sideOf(room, index);
  const shared = sharedWalls(room, index, rooms.values());
  for (const s of shared)
    if (s.gap < 1)
      throw new EditError(
        'room.noWall',
        `There is no space for a wall between ${room.name} and ${rooms.get(s.room)!.name}. Leave at least 1 cm between the two footprints.`,
      );
  const stops = [...new Set([0, length, ...shared.flatMap((s) => [s.from, s.to])])].sort((a, b) => a - b);
  const runs: Run[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    const [from, to] = [stops[i]!, stops[i + 1]!];
    if (to - from < 0.5) continue;
    const facing = shared.filter((s) => s.from <= from + 1e-6 && s.to >= to - 1e-6);
    const thick = facing.reduce(
      (t, s) => Math.min(t, (s.gap * room.wall) / (room.wall + rooms.get(s.room)!.wall)),
      room.wall,
    );
    const last = runs.at(-1);
    if (last && Math.abs(last.thick - thick) < 1e-9) runs[runs.length - 1] = { from: last.from, to, thick };
    else runs.push({ from: last?.to ?? 0, to, thick });
  }
  const end = runs[runs.length - 1]!;
  runs[runs.length - 1] = { ...end, to: length };
  return runs;
}

/** Where the outsides of two neighbouring walls meet; null where they run on straight or turn inward too sharply to share a corner. */
function mitre(a: Side, wa: number, b: Side, wb: number): Point2 | null {
  const det = a.out[0] * b.out[1] - a.out[1] * b.out[0];
  if (Math.abs(det) < 1e-6) return null;
  const ca = dot2(a.out, a.end) + wa;
  const cb = dot2(b.out, b.start) + wb;
  const p: Point2 = [(ca * b.out[1] - cb * a.out[1]) / det, (a.out[0] * cb - b.out[0] * ca) / det];
  const reach = hypot(p[0] - b.start[0], p[1] - b.start[1]);
  if (det > 0 && reach > 8 * Math.max(wa, wb))
    throw new EditError(
      'room.sharpCorner',
      'A corner of the footprint is too sharp for walls of this thickness. Move the corner or make the walls thinner.',
    );
  if (det < 0) {
    // At an inward corner the mitre shortens both walls; too short a wall keeps its square end and the two overlap instead.
    const fits = -dot2(minus(p, a.end), a.along) < a.length && dot2(minus(p, b.start), b.along) < b.length;
    if (!fits) return null;
  }
  return p;
}

function checkRoom(room: Room): void {
  const numbers = [room.floor, room.ceiling, room.wall];
  if (!numbers.every(Number.isFinite))
    throw new EditError('room.notFinite', 'Floor, ceiling and wall must be numbers.');
  if (room.wall < 1 || room.wall > 512)
    throw new EditError('room.wall', 'Walls are 1 to 512 cm thick. Type a thickness in that range.');
  if (room.ceiling - room.floor < 8)
    throw new EditError('room.tooLow', 'The ceiling must be at least 8 cm above the floor.');
}

function checkHoles(holes: readonly Hole[], side: Side, room: Room): void {
  holes.forEach((h, i) => {
    if (h.from < -0.01 || h.to > side.length + 0.01 || h.bottom < room.floor - 0.01 || h.top > room.ceiling + 0.01)
      throw new EditError('opening.outside', 'The opening does not fit in its wall. Make it smaller or move it.');
    if (i > 0 && holes[i - 1]!.to > h.from + 0.01)
      throw new EditError('opening.overlap', 'Two openings in this wall overlap. Move one of them.');
  });
}
