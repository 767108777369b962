import { entityName, reflects } from '../entity/index.ts';
import {
  inRoom,
  movePicked,
  reflectInRooms,
  REFLECTION_CLEAR,
  roomsWithoutReflection,
  tooNear,
} from '../edit/index.ts';
import { brushBounds, DRAWN_ROLES, faceWinding, type Brush } from '../brush/index.ts';
import { boxCenter, length, scale, sub, windingArea, type Vec3 } from '../math/index.ts';
import type { MapDocument, Room } from '../map/index.ts';
import { isShiny, type MaterialLookup } from '../surface/index.ts';
import { openingAt, openingName } from './rooms.ts';
import type { Finding, Rule } from './types.ts';

const WAYS: readonly Vec3[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z) => (x || y || z ? [[x, y, z] as Vec3] : []))),
);

/** The shortest way, along axes and diagonals, to where a probe has the space it needs; null when there is none near by. */
function wayOut(doc: MapDocument, at: Vec3): Vec3 | null {
  for (let far = 4; far <= 64; far += 4)
    for (const way of WAYS) {
      const by = scale(way, far / length(way));
      if (!tooNear(doc, [at[0] + by[0], at[1] + by[1], at[2] + by[2]])) return by;
    }
  return null;
}

export const reflectionTight: Rule = {
  code: 'check.reflectionTight',
  about: 'entities',
  find: (doc) =>
    [...doc.entities.values()].flatMap((e): Finding[] =>
      reflects(e) && tooNear(doc, e.at)
        ? [
            {
              id: `check.reflectionTight ${e.id}`,
              code: 'check.reflectionTight',
              severity: 'warning',
              text: `${entityName(e)} is less than ${REFLECTION_CLEAR} cm from a solid, which fills what it sees. Move it into the open.`,
              at: e.at,
              entities: [e.id],
            },
          ]
        : [],
    ),
  fixes: [
    {
      label: 'Move it away',
      offered: (doc, { entities }) => wayOut(doc, doc.entities.get(entities![0]!)!.at) !== null,
      apply: (doc, { entities }) => {
        const by = wayOut(doc, doc.entities.get(entities![0]!)!.at);
        return by ? movePicked(doc, { entities: new Set(entities) }, by) : doc;
      },
    },
  ],
};

const putInRooms = { label: 'Put one in each room', apply: (doc: MapDocument) => reflectInRooms(doc).doc };

/** Less than this (cm²) of what shines in a room is not missed: a lamp's glass, a cask's hoop. */
const MISSED = 10_000;

/** The brush of a room, or in it, that shines the most, when all that shines there is worth a probe. */
function shinyIn(doc: MapDocument, room: Room, materials: MaterialLookup): Brush | null {
  let all = 0;
  let [most, which]: [number, Brush | null] = [0, null];
  for (const brush of doc.brushes.values()) {
    if (!DRAWN_ROLES.has(brush.role)) continue;
    if (brush.room?.id !== room.id && !inRoom(room, boxCenter(brushBounds(brush)))) continue;
    let own = 0;
    brush.faces.forEach((f, k) => {
      const facts = f.show === undefined ? materials(f.material) : undefined;
      if (facts && facts.solidity !== 'cutOut' && !facts.glow && isShiny(facts))
        own += windingArea(faceWinding(brush, k));
    });
    all += own;
    if (own > most) [most, which] = [own, brush];
  }
  return all >= MISSED ? which : null;
}

export const reflectionMissing: Rule = {
  code: 'check.reflectionMissing',
  about: 'rooms',
  find: (doc, { materials }) =>
    roomsWithoutReflection(doc).flatMap((room): Finding[] => {
      const shiny = materials ? shinyIn(doc, room, materials) : null;
      if (!shiny) return [];
      return [
        {
          id: `check.reflectionMissing ${room.id}`,
          code: 'check.reflectionMissing',
          severity: 'info',
          text: `${room.name} has something shiny in it, but no reflection probe: it reflects nothing of the room. Place one.`,
          at: boxCenter(brushBounds(shiny)),
          rooms: [room.id],
        },
      ];
    }),
  fixes: [putInRooms],
};

/** Of both sides of a doorway one has a probe much nearer than the other: what shines there changes as one goes through. */
const UNEVEN = 4;
/** Nearer than this (cm) to it makes no difference. */
const NEAR = 250;

export const reflectionUneven: Rule = {
  code: 'check.reflectionUneven',
  about: 'openings',
  find: (doc) => {
    const probes = [...doc.entities.values()].filter(reflects);
    if (probes.length === 0) return [];
    return [...doc.openings.values()].flatMap((o): Finding[] => {
      const at = openingAt(doc, o);
      const rooms = o.rooms.flatMap((id) => doc.rooms.get(id) ?? []);
      if (!at || rooms.length < 2) return [];
      const away = rooms.map((room) =>
        Math.min(...probes.filter((e) => inRoom(room, e.at)).map((e) => length(sub(e.at, at)))),
      );
      const [near, far] = [Math.min(...away), Math.max(...away)];
      if (!Number.isFinite(near) || far <= UNEVEN * Math.max(near, NEAR)) return [];
      const [more, less] = away[0]! < away[1]! ? rooms : [rooms[1]!, rooms[0]!];
      const lacks = Number.isFinite(far) ? 'a far one' : 'none';
      return [
        {
          id: `check.reflectionUneven ${o.id}`,
          code: 'check.reflectionUneven',
          severity: 'info',
          text: `Beside a ${openingName(o)} ${more!.name} has a reflection probe and ${less!.name} ${lacks}: reflections jump as one goes through. Place one there, as far from the ${openingName(o)}.`,
          at,
          openings: [o.id],
        },
      ];
    });
  },
  fixes: [
    {
      ...putInRooms,
      offered: (doc, { openings }) => {
        const without = new Set(roomsWithoutReflection(doc).map((r) => r.id));
        return doc.openings.get(openings![0]!)!.rooms.some((id) => without.has(id));
      },
    },
  ],
};
