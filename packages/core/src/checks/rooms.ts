import { brushBounds, brushVolume, intersectBrushes, type Brush } from '../brush/index.ts';
import {
  bridgeOpening,
  contentsOf,
  fitOpening,
  meetAgain,
  movePicked,
  openingFits,
  openingHole,
  openingSolid,
  overlapOf,
  pointOnSide,
  removeOpenings,
  boxOfRoom,
  sideOf,
  subtractBrushes,
} from '../edit/index.ts';
import { newId, type MapDocument, type Opening, type Room } from '../map/index.ts';
import { boxCenter, boxesOverlap, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid } from '../surface/index.ts';
import type { Finding, Rule } from './types.ts';

const NAMES = { door: 'doorway', window: 'window', arch: 'arch' } as const;
export const openingName = (o: Opening): string => NAMES[o.kind ?? 'door'];

/** The middle of an opening on the inner face of its first room's side. */
export function openingAt(doc: MapDocument, o: Opening): Vec3 | undefined {
  const first = doc.rooms.get(o.rooms[0]);
  if (!first?.footprint[o.side]) return undefined;
  const [x, y] = pointOnSide(sideOf(first, o.side), o.at, 0);
  return [x, y, openingHole(o, doc.rooms).bottom + o.height / 2];
}

const nameOf = (doc: MapDocument, id: string | undefined): string => doc.rooms.get(id ?? '')?.name ?? 'a room';

export const waitingOpening: Rule = {
  code: 'check.openingWaiting',
  about: 'openings',
  find: (doc) =>
    [...doc.openings.values()].flatMap((o): Finding[] => {
      if (openingFits(doc, o)) return [];
      const [a, b] = o.rooms;
      const text =
        b === undefined
          ? `A ${openingName(o)} of ${nameOf(doc, a)} waits: it no longer fits in its wall.`
          : `The ${openingName(o)} from ${nameOf(doc, a)} to ${nameOf(doc, b)} waits: their walls no longer meet there.`;
      return [
        {
          id: `check.openingWaiting ${o.id}`,
          code: 'check.openingWaiting',
          severity: 'warning',
          text: `${text} It is cut again when they do.`,
          at: openingAt(doc, o),
          openings: [o.id],
        },
      ];
    }),
  fixes: [
    { label: 'Move the neighbour along', apply: (doc, p) => meetAgain(doc, p.openings![0]!) },
    { label: 'Bridge with a passage', apply: (doc, p) => bridgeOpening(doc, p.openings![0]!) },
    { label: 'Fit it into the wall', apply: (doc, p) => fitOpening(doc, p.openings![0]!) },
    { label: 'Remove it', apply: (doc, p) => removeOpenings(doc, new Set(p.openings)) },
  ],
};

/** Less than this (cm³) in an opening is rounding. */
const CRUMB = 64;

/** Walls of rooms that stand in an opening that is cut. */
function inTheWay(doc: MapDocument, o: Opening, walls: readonly Brush[]): { wall: Brush; cutter: Brush }[] {
  const first = doc.rooms.get(o.rooms[0])!;
  const { bottom, top } = openingHole(o, doc.rooms);
  return walls.flatMap((wall) => {
    const room = doc.rooms.get(wall.room!.id)!;
    const depth = first.wall + (room.id === first.id ? 0 : room.wall);
    const cutter = dressSolid(openingSolid(o, first, bottom, top, depth), o.id, 'clear');
    if (!boxesOverlap(brushBounds(cutter), brushBounds(wall))) return [];
    const shared = intersectBrushes(cutter, wall, DRESS_CARRIED.cap);
    return shared && brushVolume(shared) > CRUMB ? [{ wall, cutter }] : [];
  });
}

const wallsOf = (doc: MapDocument): Brush[] =>
  [...doc.brushes.values()].filter(
    (b) => b.room && doc.rooms.has(b.room.id) && b.role === 'structure' && b.stops === undefined,
  );

export const blockedOpening: Rule = {
  code: 'check.openingBlocked',
  about: 'openings',
  find: (doc) => {
    const cut = [...doc.openings.values()].filter((o) => openingFits(doc, o));
    if (cut.length === 0) return [];
    const walls = wallsOf(doc);
    return cut.flatMap((o): Finding[] => {
      const found = inTheWay(doc, o, walls);
      if (found.length === 0) return [];
      const { wall } = found[0]!;
      const why = wall.room!.released ? 'shaped by hand' : 'which the opening reaches past';
      return [
        {
          id: `check.openingBlocked ${o.id}`,
          code: 'check.openingBlocked',
          severity: 'warning',
          text: `A wall of ${nameOf(doc, wall.room!.id)}, ${why}, stands in a ${openingName(o)} of ${nameOf(doc, o.rooms[0])} and could not be cut.`,
          at: openingAt(doc, o),
          openings: [o.id],
          brushes: found.map((f) => f.wall.id),
        },
      ];
    });
  },
  fixes: [
    {
      label: 'Cut it free',
      apply: (doc, problem) => {
        const o = doc.openings.get(problem.openings![0]!);
        if (!o) return doc;
        return inTheWay(doc, o, wallsOf(doc)).reduce((d, { wall, cutter }) => {
          const id = newId();
          const with_ = { ...d, brushes: new Map(d.brushes).set(id, { ...cutter, id }) };
          return subtractBrushes(with_, new Set([id]), new Set([wall.id])).doc;
        }, doc);
      },
    },
    { label: 'Remove the opening', apply: (doc, p) => removeOpenings(doc, new Set(p.openings)) },
  ],
};

/** The shortest way (cm) in one of the axes' directions that takes a room out of another, with a wall left between. */
function wayOut(moved: Room, still: Room): Vec3 {
  const [a, b] = [boxOfRoom(moved), boxOfRoom(still)];
  const wall = Math.max(moved.wall, still.wall);
  const ways = [0, 1, 2].flatMap((axis) =>
    [b.max[axis]! + wall - a.min[axis]!, b.min[axis]! - wall - a.max[axis]!].map((by) => ({ axis, by })),
  );
  const { axis, by } = ways.reduce((x, y) => (Math.abs(y.by) < Math.abs(x.by) ? y : x));
  return [0, 1, 2].map((i) => (i === axis ? by : 0)) as unknown as Vec3;
}

export const roomsOverlap: Rule = {
  code: 'check.roomsOverlap',
  about: 'rooms',
  least: 2,
  find: (doc) => {
    const rooms = [...doc.rooms.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
    const out: Finding[] = [];
    rooms.forEach((a, i) => {
      for (const b of rooms.slice(i + 1)) {
        const area = overlapOf(a, b);
        if (area === 0) continue;
        const [p, q] = [boxOfRoom(a), boxOfRoom(b)];
        const shared = {
          min: p.min.map((c, k) => Math.max(c, q.min[k]!)) as unknown as Vec3,
          max: p.max.map((c, k) => Math.min(c, q.max[k]!)) as unknown as Vec3,
        };
        out.push({
          id: `check.roomsOverlap ${a.id} ${b.id}`,
          code: 'check.roomsOverlap',
          severity: 'warning',
          text: `${a.name} and ${b.name} overlap by ${(area / 10_000).toFixed(2)} m² on the plan, so walls of each stand in the other.`,
          at: boxCenter(shared),
          rooms: [a.id, b.id],
        });
      }
    });
    return out;
  },
  fixes: [
    {
      label: 'Move one out of the other',
      apply: (doc, problem) => {
        const [still, moved] = problem.rooms!.map((id) => doc.rooms.get(id));
        if (!still || !moved) return doc;
        const rooms = new Set([moved.id]);
        return movePicked(doc, { rooms, ...contentsOf(doc, rooms) }, wayOut(moved, still));
      },
    },
  ],
};
