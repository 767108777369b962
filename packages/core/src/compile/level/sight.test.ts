import { boxSolid, brushPlanes } from '../../brush/index.ts';
import { addBrushes, addRoom, doorInOpening, gateInOpening, openDoorway, placeEntity } from '../../edit/index.ts';
import { emptyMap, stillBrushes, type MapDocument } from '../../map/index.ts';
import { dot, length, normalize, rotation, scale, sub, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { DRESS, oneRoom, rectangle, twoRooms } from '../../testing/rooms.ts';
import { turnedBoxes } from '../../testing/sight.ts';
import { buildLevel, seedsOf } from '../build.ts';
import { buildStructure } from '../structure/index.ts';
import { levelCell, levelSees, markVisible, openAreas, sightOf } from './index.ts';

const structureOf = (doc: ReturnType<typeof twoRooms>) => buildStructure(stillBrushes(doc), seedsOf(doc));
const unknown = { materials: () => undefined, props: () => undefined };
const furnished = () =>
  placeEntity(
    placeEntity(placeEntity(twoRooms(), 'spawn', [100, 100, 0]), 'pointLight', [200, 200, 200]),
    'pointLight',
    [700, 200, 200],
  );

describe('the figures of cells', () => {
  const doc = furnished();
  const sight = sightOf(doc, structureOf(doc), unknown)!;
  const [a, door, b] = [
    [100, 100, 50],
    [552, 224, 50],
    [700, 100, 50],
  ].map((p) => levelCell(sight, p)) as [number, number, number];

  const boundsSize = (c: number): number[] =>
    [0, 1, 2].map((k) => sight.cellBounds[c * 6 + 3 + k]! - sight.cellBounds[c * 6 + k]!);

  test('two rooms and a doorway: hand-counted faces, triangles, lamps and what is seen', () => {
    expect(sight.meta.cells).toBe(3);
    // A room's wall with the doorway is three faces; the doorway is four. Floors of rooms meet the doorway's with two more corners.
    expect([a, door, b].map((c) => sight.cellFaces[c])).toEqual([8, 4, 8]);
    expect([a, door, b].map((c) => sight.cellLights[c])).toEqual([1, 0, 1]);
    expect([a, door, b].map((c) => sight.cellSeen[c])).toEqual([3, 3, 3]);
    const all = sight.index.length / 3;
    expect([a, door, b].map((c) => sight.cellSeenTriangles[c])).toEqual([all, all, all]);
    expect([a, door, b].reduce((n, c) => n + sight.cellTriangles[c]!, 0)).toBe(all);
  });

  test('cells are told by their sides: six planes, and the middle is behind all of them', () => {
    for (const c of [a, door, b]) {
      const [from, to] = [sight.cellPlaneFirst[c]!, sight.cellPlaneFirst[c + 1]!];
      expect(to - from).toBe(6);
      const middle = [0, 1, 2].map((k) => (sight.cellBounds[c * 6 + k]! + sight.cellBounds[c * 6 + 3 + k]!) / 2);
      for (let i = from; i < to; i++) {
        const [x, y, z, d] = sight.cellPlane.subarray(i * 4, i * 4 + 4);
        expect(x! * middle[0]! + y! * middle[1]! + z! * middle[2]! - d!).toBeLessThan(-7);
      }
    }
  });

  test('the longest line is the diagonal of a room, or what leads through the doorway from wall to wall', () => {
    const diagonal = Math.hypot(512, 384, 272);
    expect(sight.cellLongest[a]!).toBeGreaterThanOrEqual(diagonal - 0.1);
    // Nothing is longer than from corner to corner of both rooms.
    expect(sight.cellLongest[a]!).toBeLessThan(Math.hypot(912, 384, 272));
    // The longest of all goes through the doorway: from the west wall to the east wall are 912.
    const [x0, , , x1] = sight.sightLine;
    expect(Math.abs(x1! - x0!)).toBeGreaterThan(900);
    for (let i = 12; i < sight.sightLine.length; i += 6) {
      const length = (k: number) =>
        Math.hypot(...[0, 1, 2].map((c) => sight.sightLine[k + c]! - sight.sightLine[k + 3 + c]!));
      expect(length(i)).toBeLessThanOrEqual(length(i - 6) + 1e-3);
    }
  });

  test('the longest line of each cell is the longest of its own and of its witnesses, drawn out to the walls', () => {
    const walls = stillBrushes(doc)
      .filter((brush) => brush.role === 'structure')
      .map(brushPlanes);
    /** How far along a way the first wall begins, as each convex wall's planes say. */
    const toWall = (p: Vec3, way: Vec3): number =>
      walls.reduce((least, planes) => {
        let [enter, leave] = [-Infinity, Infinity];
        for (const { normal, distance } of planes) {
          const [off, along] = [distance - dot(normal, p), dot(normal, way)];
          if (Math.abs(along) < 1e-12) {
            if (off < 0) return least;
          } else if (along < 0) enter = Math.max(enter, off / along);
          else leave = Math.min(leave, off / along);
        }
        return enter < leave && leave > 0 ? Math.min(least, Math.max(0, enter)) : least;
      }, Infinity);
    const longest = new Map([a, door, b].map((c) => [c, Math.hypot(...boundsSize(c))]));
    for (let i = 0; i * 2 < sight.witnessPair.length; i++) {
      const [from, to] = [0, 3].map((k) => [...sight.witnessLine.subarray(i * 6 + k, i * 6 + k + 3)]) as unknown as [
        Vec3,
        Vec3,
      ];
      const way = normalize(sub(to, from));
      const whole = length(sub(to, from)) + toWall(to, way) + toWall(from, scale(way, -1));
      for (const c of sight.witnessPair.subarray(i * 2, i * 2 + 2)) longest.set(c, Math.max(longest.get(c)!, whole));
    }
    for (const [c, far] of longest) expect(Math.abs(sight.cellLongest[c]! - far)).toBeLessThan(0.05);
  });

  test('every pair that sees one another has its witness', () => {
    const pairs = Array.from({ length: sight.witnessPair.length / 2 }, (_, i) => [
      sight.witnessPair[i * 2]!,
      sight.witnessPair[i * 2 + 1]!,
    ]);
    expect(pairs).toEqual([
      [0, 1],
      [0, 2],
      [1, 2],
    ]);
    expect(pairs.every(([p, q]) => levelSees(sight, p!, q!))).toBe(true);
  });

  test('a build says the same of a map as is said while it is worked on', () => {
    const { level } = buildLevel(doc, 'review');
    for (const name of Object.keys(sight) as (keyof typeof sight)[])
      if (name !== 'meta') expect({ [name]: level[name] }).toEqual({ [name]: sight[name] });
  });
});

test('with gates closed as much is drawn as play draws; a gate without a door stays open', () => {
  const room = (doc: MapDocument, x: number, id: string) =>
    addRoom(doc, { footprint: rectangle(x, 0, 400, 400), floor: 0, ceiling: 272, wall: 16 }, DRESS, id);
  let doc = ['a', 'b', 'c', 'd'].reduce((d, id, i) => room(d, i * 416, id), emptyMap('Row'));
  for (const opening of ['ab', 'bc', 'cd']) {
    const [from, to] = [opening.slice(0, 1), opening.slice(1)];
    doc = openDoorway(doc, from, to, { width: 112, height: 208, sill: 0 }, opening);
    doc = gateInOpening(doc, opening).doc;
    // The second has no door.
    if (opening !== 'bc') doc = doorInOpening(doc, opening, { leaves: 'one', thickness: 6, material: 'm' }).doc;
  }
  doc = placeEntity(doc, 'spawn', [100, 100, 0]);
  const { level } = buildLevel(doc, 'sketch', {}, { visibility: 'full' });
  expect(level.meta.gates.map((g) => g.bodies.length > 0)).toHaveLength(3);
  expect(level.meta.gates.filter((g) => g.bodies.length > 0)).toHaveLength(2);
  const out = new Uint8Array(level.surfaceMaterial.length);
  let less = 0;
  for (let cell = 0; cell < level.meta.cells; cell++) {
    markVisible(
      level,
      cell,
      out,
      openAreas(level, cell, (g) => level.meta.gates[g]!.bodies.length > 0),
    );
    const drawn = out.reduce(
      (n, seen, s) => n + (seen ? (level.surfaceIndexFirst[s + 1]! - level.surfaceIndexFirst[s]!) / 3 : 0),
      0,
    );
    expect(level.cellShutTriangles[cell]).toBe(drawn);
    if (drawn < level.cellSeenTriangles[cell]!) less++;
  }
  expect(less).toBeGreaterThan(3);
});

describe('what fills cells', () => {
  const pool = (id: string, min: Vec3, max: Vec3, degrees = 0) =>
    transformBrush(
      dressSolid(boxSolid({ min, max }), id, 'water', { role: 'liquid' }),
      rotation(2, degrees, [200, 200, 0]),
      true,
    );

  test('a pool over half of a room, one that is turned, none in the other room', () => {
    // In the order of their names, not of the map.
    const doc = addBrushes(furnished(), [
      pool('turned', [150, 150, 200], [250, 250, 220], 31),
      pool('half', [-50, -50, -50], [1000, 1000, 136]),
    ]);
    const sight = sightOf(doc, structureOf(doc), unknown)!;
    const [a, b] = [
      [100, 100, 50],
      [700, 100, 50],
    ].map((p) => levelCell(sight, p)) as [number, number];
    const filled = (c: number) =>
      Array.from({ length: sight.cellLiquidFirst[c + 1]! - sight.cellLiquidFirst[c]! }, (_, i) => {
        const k = sight.cellLiquidFirst[c]! + i;
        return [sight.cellLiquid[k]!, sight.cellLiquidShare[k]!] as const;
      });
    expect(filled(a).map(([k]) => k)).toEqual([0, 1]);
    expect(filled(a)[0]![1]).toBeCloseTo(0.5, 5);
    expect(filled(a)[1]![1]).toBeCloseTo((100 * 100 * 20) / (512 * 384 * 272), 6);
    expect(filled(b)).toEqual([[0, expect.closeTo(0.5, 5) as number]]);
  });

  test('where structure divides the place, shares of all cells add up to what of the liquid lies in the open', () => {
    const { brushes, at } = turnedBoxes(5);
    const water = pool('water', [-3000, -3000, -3000], [3000, 3000, 3000], 13);
    const doc = placeEntity(addBrushes(emptyMap('w'), [...brushes, water]), 'spawn', at);
    const structure = structureOf(doc);
    const sight = sightOf(doc, structure, unknown)!;
    expect(sight.cellLiquidFirst.at(-1)).toBe(sight.meta.cells);
    sight.cellLiquidShare.forEach((share) => expect(share).toBeCloseTo(1, 5));
  });
});

test('a map that leaks, and one without anything, has no sight', () => {
  const open = placeEntity(addBrushes(oneRoom(), []), 'spawn', [100, 100, 0]);
  const [, ...rest] = [...open.brushes.values()];
  const leaking = { ...open, brushes: new Map(rest.map((b) => [b.id, b])) };
  expect(sightOf(leaking, structureOf(leaking), unknown)).toBeNull();
  const nothing = { ...open, brushes: new Map() };
  expect(sightOf(nothing, structureOf(nothing), unknown)).toBeNull();
  const solid = {
    ...open,
    brushes: new Map([['x', dressSolid(boxSolid({ min: [0, 0, 0], max: [200, 200, 200] }), 'x', 'm')]]),
  };
  expect(sightOf(solid, structureOf(solid), unknown)).toBeNull();
});
