import { boxSolid, type Brush } from '../brush/index.ts';
import {
  addBrushes,
  addRoom,
  changeEntity,
  changeSettings,
  placeDecals,
  placeEntity,
  rideOn,
  thingOfBrushes,
  transformPicked,
} from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { composeAffine, rotation, translation, type Vec3 } from '../math/index.ts';
import { dressSolid, type MaterialFacts } from '../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { buildLevel } from './build.ts';
import { brightness, lightPlace, luxAt, readLevel, type Level } from './level/index.ts';

const materials = (name: string): MaterialFacts => ({
  name,
  width: 512,
  height: 512,
  texelsPerCm: 2,
  solidity: name === 'net' ? 'cutOut' : 'solid',
  regions: [{ name: 'sign', x: 0, y: 0, width: 128, height: 64 }],
});
/** A room of 4 × 4 m with a lamp. */
const room = (): MapDocument => {
  const empty = addRoom(emptyMap('room'), roomSpec(rectangle(0, 0, 400, 400)), DRESS);
  const lit = placeEntity(placeEntity(empty, 'spawn', [60, 200, 0], 0, 's'), 'pointLight', [260, 140, 180], 0, 'l');
  return changeSettings(lit, { ambientLux: 0, skyNits: 0 });
};
const sign = (doc: MapDocument, at: Vec3, normal: Vec3, params: object = {}) => {
  const { doc: out, made } = placeDecals(doc, [{ material: 'paint', region: 'sign', at, normal }], materials);
  const id = made.entities[0]!;
  return { doc: changeEntity(out, id, { params: params as Record<string, never> }), id };
};
const built = (doc: MapDocument): Level =>
  readLevel(buildLevel(doc, 'sketch', {}, { materials, direct: true, probes: false }).bytes);

interface Found {
  readonly surface: number;
  readonly thing: string;
  readonly points: readonly Vec3[];
  readonly light: readonly (readonly [number, number])[];
}
const piecesOf = (level: Level): Found[] =>
  Array.from(level.decalSurface, (surface, k): Found => {
    const corners = [...new Set(level.decalIndex.subarray(level.decalIndexFirst[k], level.decalIndexFirst[k + 1]))];
    return {
      surface,
      thing: level.meta.decals[level.decalThing[k]!]!,
      points: corners.map((v) => [...level.decalPosition.subarray(v * 3, v * 3 + 3)] as unknown as Vec3),
      light: corners.map((v) => [level.decalLight[v * 2]!, level.decalLight[v * 2 + 1]!] as const),
    };
  });
const area = (level: Level): number => {
  let sum = 0;
  for (let i = 0; i < level.decalIndex.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => level.decalPosition.subarray(level.decalIndex[i + k]! * 3).subarray(0, 3));
    const [u, v] = [b!, c!].map((p) => [p[0]! - a![0]!, p[1]! - a![1]!, p[2]! - a![2]!]) as [number[], number[]];
    sum += Math.hypot(u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!) / 2;
  }
  return sum;
};

test('a sign on a wall lies in the plane of the wall, as large as it is, and is lit as the wall is there', () => {
  const { doc, id } = sign(room(), [400, 200, 120], [-1, 0, 0]);
  const level = built(doc);
  expect(level.meta.decals).toEqual([id]);
  expect(area(level)).toBeCloseTo(64 * 32, 1);
  for (const { surface, points, light, thing } of piecesOf(level)) {
    expect(thing).toBe(id);
    points.forEach((p, k) => {
      const normal = [...level.surfaceNormal.subarray(surface * 3, surface * 3 + 3)] as unknown as Vec3;
      expect(normal[0]).toBeCloseTo(-1, 6);
      expect(p[0]).toBeCloseTo(400, 3);
      // The light that is found for the wall there is that of the decal's own place in the page.
      const place = lightPlace(level, [surface], p)!;
      const [w, h] = level.meta.pages[level.surfacePage[surface]!]!;
      expect(place.page).toBe(level.surfacePage[surface]);
      expect(light[k]![0] * w - 0.5).toBeCloseTo(place.x, 2);
      expect(light[k]![1] * h - 0.5).toBeCloseTo(place.y, 2);
      expect(brightness(luxAt(level.meta.pages, level.lightTexels, place))).toBeGreaterThan(0);
    });
  }
});

test('turned by an odd angle and far away with its room it shows as much', () => {
  const here = sign(room(), [400, 200, 120], [-1, 0, 0]).doc;
  const all = {
    brushes: new Set(here.brushes.keys()),
    entities: new Set(here.entities.keys()),
    rooms: new Set(here.rooms.keys()),
  };
  const far = transformPicked(here, all, composeAffine(translation([9000, -7000, 600]), rotation(2, 37, [0, 0, 0])));
  const level = built(far);
  expect(area(level) / (64 * 32)).toBeCloseTo(1, 3);
});

test('round a corner it falls on both walls, none of it on floor or ceiling', () => {
  const { doc } = sign(room(), [400, 400, 120], [-1, -1, 0], { through: [-60, -60, 0] });
  const level = built(doc);
  const normals = piecesOf(level).map(({ surface }) => [...level.surfaceNormal.subarray(surface * 3, surface * 3 + 3)]);
  expect(new Set(normals.map((n) => n.map((c) => Math.round(c)).join()))).toEqual(new Set(['-1,0,0', '0,-1,0']));
  // At 45° a wall takes so much more of the picture's width.
  expect(area(level)).toBeCloseTo(64 * Math.SQRT2 * 32, 0);
});

describe('what it falls on', () => {
  const slab = (id: string, min: Vec3, max: Vec3, material = 'oak'): Brush =>
    dressSolid(boxSolid({ min, max }), id, material, { role: 'detail' });
  /** A door, a net and a crate before the east wall, all within a decal that reaches through them. */
  const crowded = (params: object = {}) => {
    const { doc, id } = sign(room(), [360, 200, 120], [-1, 0, 0], { through: [-200, 0, 0], ...params });
    const more = addBrushes(doc, [
      slab('door', [380, 150, 60], [384, 250, 180]),
      slab('net', [370, 150, 60], [372, 250, 180], 'net'),
      slab('crate', [360, 150, 60], [366, 200, 180]),
    ]);
    return { doc: thingOfBrushes(more, 'mover', { brushes: ['door'] }, 'm'), id };
  };
  const onto = (level: Level): string[] => {
    const { bodies } = level.meta;
    const names = piecesOf(level).map(({ surface, points }) => {
      const body = bodies.find(({ surfaces: [first, end] }) => surface >= first && surface < end);
      return body ? body.thing : String(Math.round(points[0]![0]));
    });
    return [...new Set(names)].sort();
  };

  test('all that looks its way, what has holes excepted; what moves takes it along', () => {
    expect(onto(built(crowded().doc))).toEqual(['360', '400', 'm']);
  });

  test('brushes that were chosen alone, a net too; riding on something it falls on that alone; on props alone on no brush', () => {
    expect(onto(built(crowded({ targets: 'chosen', brushes: ['net', 'crate'] }).doc))).toEqual(['360', '370']);
    const { doc, id } = crowded();
    expect(onto(built(rideOn(doc, [id], 'm')))).toEqual(['m']);
    expect(onto(built(crowded({ targets: 'props' }).doc))).toEqual([]);
  });

  test('of flush walls that are drawn as one face it falls on the chosen one alone', () => {
    const { doc, id } = sign(room(), [300, 200, 60], [-1, 0, 0]);
    const halves = addBrushes(doc, [
      slab('a', [300, 100, 0], [310, 200, 120]),
      slab('b', [300, 200, 0], [310, 300, 120]),
    ]);
    const chosen = changeEntity(halves, id, { params: { targets: 'chosen', brushes: ['b'] } });
    const [all, half] = [built(halves), built(chosen)];
    expect(area(all)).toBeCloseTo(64 * 32, 1);
    expect(area(half)).toBeCloseTo(32 * 32, 1);
    for (const { points } of piecesOf(half)) for (const p of points) expect(p[1]).toBeGreaterThan(199.99);
  });
});

test('its triangles count in what a cell costs, and what lies on top comes last', () => {
  const first = sign(room(), [400, 200, 120], [-1, 0, 0], { order: 3 });
  const second = sign(first.doc, [400, 210, 120], [-1, 0, 0], { order: -2 });
  const [without, level] = [built(room()), built(second.doc)];
  expect(level.meta.decals).toEqual([second.id, first.id]);
  const cost = (l: Level) => Math.max(...l.cellSeenTriangles);
  expect(cost(level) - cost(without)).toBe(level.decalIndex.length / 3);
});
