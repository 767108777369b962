import {
  archCurve,
  brushBounds,
  extrude,
  hullOf,
  solidOf,
  subtractBrush,
  type Brush,
  type PartKind,
  type Solid,
} from '../brush/index.ts';
import type { Opening, Point2, Room } from '../map/index.ts';
import { boxesOverlap, convexParts, type Box, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid } from '../surface/index.ts';
import { sharedArea } from './floor.ts';
import { ARCH_SEGMENTS, openingHole, pointOnSide, sideOf, type RoomPart } from './room-parts.ts';

/** Parts that close a room off; what stands in it or is sunk into its floor is not cut. */
const SHELL: ReadonlySet<PartKind> = new Set(['floor', 'ceiling', 'wall', 'sill', 'arch', 'head']);
const WALL: ReadonlySet<PartKind> = new Set(['wall', 'sill', 'arch', 'head']);

/** The bounds of a room's clear inside. */
export function boxOfRoom({ footprint, floor, ceiling }: Room): Box {
  const xs = footprint.map((p) => p[0]);
  const ys = footprint.map((p) => p[1]);
  return { min: [Math.min(...xs), Math.min(...ys), floor], max: [Math.max(...xs), Math.max(...ys), ceiling] };
}

/** Two insides that share less than this (cm²) on the plan only touch. */
const TOUCHING = 1;

/** The area (cm²) that the clear insides of two rooms share on the plan; 0 when they do not overlap in height. */
export function overlapOf(a: Room, b: Room): number {
  if (!boxesOverlap(boxOfRoom(a), boxOfRoom(b))) return 0;
  const area = sharedArea(a.footprint, b.footprint);
  return area > TOUCHING ? area : 0;
}

/** Whether the walls of one room may reach into the other. */
export function roomsNear(a: Room, b: Room): boolean {
  // A mitred corner reaches further out than its wall is thick.
  const reach = 2 * Math.max(a.wall, b.wall);
  return boxesOverlap(boxOfRoom(a), boxOfRoom(b), -reach);
}

/** The space of an opening as a convex solid: from a little before the inner face of its first room's side, `depth` cm outward. */
export function openingSolid(o: Opening, first: Room, bottom: number, top: number, depth: number): Solid {
  const side = sideOf(first, o.side);
  const [from, to] = [o.at - o.width / 2, o.at + o.width / 2];
  let face: Point2[] = [
    [from, bottom],
    [to, bottom],
    [to, top],
    [from, top],
  ];
  if (o.kind === 'arch') {
    const rise = Math.min(o.rise ?? o.width / 2, o.height);
    const curve = archCurve(o.width / 2, rise, ARCH_SEGMENTS).map(([s, z]): Point2 => [s + o.at, z + top - rise]);
    face = [[from, bottom], [to, bottom], ...curve];
  }
  return hullOf(
    [-1, depth].flatMap((out) =>
      face.map(([s, z]): Vec3 => {
        const [x, y] = pointOnSide(side, s, out);
        return [x, y, z];
      }),
    ),
  );
}

const plain = (solid: Solid, id: string): Brush => dressSolid(solid, id, 'clear');

/**
 * The parts of a room without what would stand in the clear space of others: insides of rooms beside, above and below, and
 * openings of other rooms through its walls. Rooms that overlap are left as they are: that is for a person to decide.
 */
export function clearParts(
  room: Room,
  parts: readonly RoomPart[],
  rooms: ReadonlyMap<string, Room>,
  openings: readonly Opening[],
): RoomPart[] {
  const insides: Brush[] = [];
  const holes: Brush[] = [];
  for (const other of rooms.values()) {
    if (other.id === room.id || !roomsNear(room, other) || overlapOf(room, other)) continue;
    for (const outline of convexParts(other.footprint))
      insides.push(plain(extrude(outline, other.floor, other.ceiling), other.id));
  }
  for (const o of openings) {
    const first = rooms.get(o.rooms[0]);
    if (!first || o.rooms.includes(room.id) || !roomsNear(room, first) || overlapOf(room, first)) continue;
    const hole = openingHole(o, rooms);
    const [bottom, top] = [Math.max(hole.bottom, room.floor), Math.min(hole.top, room.ceiling)];
    if (top - bottom > 1) holes.push(plain(openingSolid(o, first, bottom, top, first.wall + room.wall), o.id));
  }
  if (insides.length + holes.length === 0) return [...parts];
  return parts.flatMap((part) => {
    const { kind } = part.part;
    if (!SHELL.has(kind)) return [part];
    let pieces: readonly Brush[] = [plain(part.solid, 'part')];
    const away = WALL.has(kind) ? [...insides, ...holes] : insides;
    for (const cutter of away)
      pieces = pieces.flatMap((piece) =>
        boxesOverlap(brushBounds(piece), brushBounds(cutter))
          ? subtractBrush(piece, cutter, DRESS_CARRIED).pieces
          : [piece],
      );
    if (pieces.length === 1) return [{ ...part, solid: solidOf(pieces[0]!) }];
    return pieces.map((piece, k) => ({
      ...part,
      part: k === 0 ? part.part : { ...part.part, cut: k },
      solid: solidOf(piece),
    }));
  });
}
