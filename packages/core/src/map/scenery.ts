import { boxSolid, brushBounds, type Brush } from '../brush/index.ts';
import { distantOf, entityKind, type Entity } from '../entity/index.ts';
import { boxCenter, boxContains, growBox, uniteBoxes, type Box, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { partsOf } from './around.ts';
import type { MapDocument } from './types.ts';
import { letGoOfMissing } from './whole.ts';

/** A part of a map that is no place to be but is seen far away. */
export interface Scenery {
  readonly thing: Entity;
  readonly region: Box;
  /** How many times as large it is seen. */
  readonly scale: number;
  /** Who is at `from` in the map sees it as from `at`. */
  readonly at: Vec3;
  readonly from: Vec3;
  /** The map without it, and it alone: closed by sky round its region. */
  readonly rest: MapDocument;
  readonly alone: MapDocument;
}

/** Thickness of the sky round a scenery, cm. */
const SKY = 16;
/** How many slabs of it there are. */
export const SKY_SIDES = 6;
/** The names of the sky's sides sort before all others and are in no map. */
const SKY_NAME = ' sky ';

/** All things of a map that mark a scenery, in id order. The first one that has a region counts. */
export const sceneries = (doc: MapDocument): Entity[] =>
  [...doc.entities.values()].filter((e) => distantOf(e) !== null).sort((a, b) => (a.id < b.id ? -1 : 1));

/** The distant scenery of a map, or null. */
export function sceneryOf(doc: MapDocument): Scenery | null {
  let found = known.get(doc);
  if (found === undefined) known.set(doc, (found = findScenery(doc)));
  return found;
}

/** Worked out once for a document, which never changes. */
const known = new WeakMap<MapDocument, Scenery | null>();

/** What of a map one can be in. */
export const withoutScenery = (doc: MapDocument): MapDocument => sceneryOf(doc)?.rest ?? doc;

function findScenery(doc: MapDocument): Scenery | null {
  const marks = sceneries(doc);
  const thing = marks.find(({ id }) => partsOf(doc, id).flat().length > 0);
  if (!thing) return null;
  const { scale, stands } = distantOf(thing)!;
  const region = uniteBoxes(partsOf(doc, thing.id).flat().map(brushBounds));
  const marking = new Set(marks.map(({ id }) => id));
  const around = growBox(region, 0.01);
  const far = (b: Brush) => boxContains(around, boxCenter(brushBounds(b)));
  const brushes = [...doc.brushes].filter(([, b]) => !(b.owner && marking.has(b.owner.id)));
  const entities = [...doc.entities].filter(([id]) => !marking.has(id));
  const isFar = ([, e]: readonly [string, Entity]) => boxContains(around, e.at) && !inSky(e);
  const lasting = brushes.filter(([, b]) => !far(b));
  // A room that is wholly far away is no room of the map.
  const farRooms = new Set(brushes.flatMap(([, b]) => (b.room && far(b) ? [b.room.id] : [])));
  for (const [, b] of lasting) if (b.room) farRooms.delete(b.room.id);
  const rest = letGoOfMissing({
    ...doc,
    brushes: new Map(lasting),
    entities: new Map(entities.filter((e) => !isFar(e))),
    rooms: new Map([...doc.rooms].filter(([id]) => !farRooms.has(id))),
  });
  const alone = letGoOfMissing({
    ...doc,
    brushes: new Map([...brushes.filter(([, b]) => far(b)), ...skyAround(region).map((b) => [b.id, b] as const)]),
    // The sun is the same everywhere.
    entities: new Map(entities.filter((e) => isFar(e) || inSky(e[1]))),
    wires: new Map(),
  });
  return { thing, region, scale, at: thing.at, from: doc.entities.get(stands)?.at ?? [0, 0, 0], rest, alone };
}

const inSky = (e: Entity): boolean => (entityKind(e.kind)?.inSky ?? null) !== null;

/** Six slabs that show the sky. */
function skyAround({ min, max }: Box): Brush[] {
  return ([0, 1, 2] as const).flatMap((axis) =>
    ([0, 1] as const).map((end) => {
      const [low, high] = [min.map((c) => c - SKY), max.map((c) => c + SKY)];
      if (end === 0) high[axis] = min[axis];
      else low[axis] = max[axis];
      const solid = boxSolid({ min: low as unknown as Vec3, max: high as unknown as Vec3 });
      const brush = dressSolid(solid, `${SKY_NAME}${axis}${end}`, 'clear');
      return { ...brush, faces: brush.faces.map((face) => ({ ...face, show: 'sky' as const })) };
    }),
  );
}
