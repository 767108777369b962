import { awayFrom, brushBounds, DRAWN_ROLES, type Brush } from '../brush/index.ts';
import { ENTITY_KINDS, reflects } from '../entity/index.ts';
import { newId, type MapDocument, type Room } from '../map/index.ts';
import {
  addScaled,
  boxCenter,
  boxContains,
  distance,
  insideOutline,
  nearestBetween,
  windingCentroid,
  type Point2,
  type Vec3,
} from '../math/index.ts';
import { EditError } from './errors.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { findFaces, type FaceRef } from './faces.ts';
import { boxOfRoom } from './room-clearance.ts';

const KIND = ENTITY_KINDS.find((k) => k.reflects)!;

/** Nearer to a solid than this (cm) a place sees little but that solid. */
export const REFLECTION_CLEAR = 16;

/** So far before a face a place is put, cm. */
const BEFORE = 40;

/** Distances that differ by less (cm) are about the same. */
const ABOUT = 16;

/** So many steps along and across a room lie the places that are tried in it. */
const TRIES = 16;

/** The brush that a place from which reflections are seen is too near to, if any. */
export const tooNear = (doc: MapDocument, at: Vec3, clear = REFLECTION_CLEAR): Brush | undefined =>
  [...doc.brushes.values()].find(
    (b) =>
      DRAWN_ROLES.has(b.role) && !b.owner && boxContains(brushBounds(b), at, clear) && awayFrom(b, at) < clear - 1e-6,
  );

/** Whether a point is in the clear inside of a room, or no farther than `edge` (cm) under its floor or over its ceiling. */
export const inRoom = (room: Room, [x, y, z]: Vec3, edge = 0): boolean =>
  z >= room.floor - edge && z <= room.ceiling + edge && insideOutline(room.footprint, [x, y]);

/** The rooms in which no place for reflections is. */
export function roomsWithoutReflection(doc: MapDocument): Room[] {
  const places = [...doc.entities.values()].filter(reflects);
  return [...doc.rooms.values()].filter((room) => !places.some((e) => inRoom(room, e.at)));
}

/** The place in a room that is farthest from its walls, at the height of eyes, clear of what stands there; null when there is none. */
function placeIn(doc: MapDocument, room: Room): Vec3 | null {
  const { min, max } = boxOfRoom(room);
  // Each way by itself: a passage is as narrow as a step along it.
  const [dx, dy] = [(max[0] - min[0]) / TRIES, (max[1] - min[1]) / TRIES];
  const z = Math.min(room.floor + KIND.standsAt, (room.floor + room.ceiling) / 2);
  const found: { at: Vec3; far: number }[] = [];
  for (let j = 1; j < TRIES; j++)
    for (let i = 1; i < TRIES; i++) {
      const at: Vec3 = [min[0] + i * dx, min[1] + j * dy, z];
      if (insideOutline(room.footprint, [at[0], at[1]])) found.push({ at, far: fromOutline(room.footprint, at) });
    }
  // Of those that are about as far the one nearest to the middle: long rooms have many.
  const [mx, my] = boxCenter({ min, max });
  const off = ({ at }: { at: Vec3 }) => (at[0] - mx) ** 2 + (at[1] - my) ** 2;
  found.sort((a, b) => Math.round(b.far / ABOUT) - Math.round(a.far / ABOUT) || off(a) - off(b));
  return found.find(({ at }) => !tooNear(doc, at, REFLECTION_CLEAR * 1.5))?.at ?? null;
}

/** How far a point is from the border of an outline at its height. */
const fromOutline = (outline: readonly Point2[], p: Vec3): number =>
  Math.min(
    ...outline.map((a, k) =>
      distance(p, nearestBetween([...a, p[2]], [...outline[(k + 1) % outline.length]!, p[2]], p)),
    ),
  );

/** A map, and the things that were placed in it. */
interface Placed {
  readonly doc: MapDocument;
  readonly entities: readonly string[];
}

function placed(doc: MapDocument, places: readonly { readonly at: Vec3; readonly name?: string }[]): Placed {
  const entities = places.map(() => newId());
  const all = places.reduce((d, { at, name }, k) => {
    const there = placeEntity(d, KIND.kind, at, 0, entities[k]);
    return name ? changeEntity(there, entities[k]!, { name }) : there;
  }, doc);
  return { doc: all, entities };
}

/** Puts a reflection probe in each room that has none, at the height of eyes, called after it. Throws `reflection.noRooms` or `reflection.inAll`. */
export function reflectInRooms(doc: MapDocument): Placed {
  if (doc.rooms.size === 0)
    throw new EditError(
      'reflection.noRooms',
      'The map has no rooms drawn with the tool Room. Place a reflection probe where you want it: tool Place.',
    );
  const places = roomsWithoutReflection(doc).flatMap((room) => {
    const at = placeIn(doc, room);
    return at ? [{ at, name: `${room.name} probe` }] : [];
  });
  if (places.length === 0)
    throw new EditError('reflection.inAll', 'Every room with some space in it has a reflection probe already.');
  return placed(doc, places);
}

/** Puts a reflection probe before each of some faces, for windows and water. Throws `reflection.noSpace`. */
export function reflectBefore(doc: MapDocument, refs: readonly FaceRef[]): Placed {
  const places = findFaces(doc, refs).flatMap(({ winding, plane }) => {
    const at = addScaled(windingCentroid(winding), plane.normal, BEFORE);
    return tooNear(doc, at) ? [] : [{ at }];
  });
  if (places.length === 0)
    throw new EditError(
      'reflection.noSpace',
      `There are no ${BEFORE} cm of space before the faces. Choose faces that look into the open.`,
    );
  return placed(doc, places);
}
