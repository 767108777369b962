import { addRoom, openDoorway, placeEntity, transformPicked } from '../../edit/index.ts';
import { emptyMap, stillBrushes } from '../../map/index.ts';
import {
  applyAffine,
  distance,
  planeFromLoop,
  rotation,
  signedDistance,
  windingArea,
  windingCentroid,
  type Vec3,
} from '../../math/index.ts';
import { DRESS, rectangle, roomSpec } from '../../testing/rooms.ts';
import { seedsOf } from '../build.ts';
import { buildStructure } from '../structure/index.ts';
import { levelCell, longLinesOf, portalOutline, portalsOn, sightOf, witnessOf } from './index.ts';

/** Four rooms in a row with doorways of 100 by 200 in line, and one beside the last, turned about the origin. */
function row(degrees: number) {
  let doc = [0, 1, 2, 3].reduce(
    (d, k) => addRoom(d, roomSpec(rectangle(k * 416, 0, 400, 400)), DRESS, `r${k}`),
    emptyMap('Row'),
  );
  doc = addRoom(doc, roomSpec(rectangle(1248, 416, 400, 400)), DRESS, 'r4');
  for (const [a, b] of [
    ['r0', 'r1'],
    ['r1', 'r2'],
    ['r2', 'r3'],
    ['r3', 'r4'],
  ] as const)
    doc = openDoorway(doc, a, b, { width: 100, height: 200, sill: 0 });
  doc = placeEntity(doc, 'spawn', [200, 200, 0], 0, 's');
  const turn = rotation(2, degrees, [0, 0, 0]);
  const all = { rooms: new Set(doc.rooms.keys()), entities: new Set(['s']) };
  const turned = transformPicked(doc, all, turn);
  const sight = sightOf(turned, buildStructure(stillBrushes(turned), seedsOf(turned)), {
    materials: () => undefined,
    props: () => undefined,
  })!;
  return { sight, at: (x: number, y: number, z: number): Vec3 => applyAffine(turn, [x, y, z]) };
}

describe.each([0, 90, 27])('in rooms in a row, turned by %i°', (degrees) => {
  const { sight, at } = row(degrees);
  const count = sight.portalFirst.length - 1;

  test('portals have the outlines of the doorways', () => {
    expect(count).toBeGreaterThanOrEqual(4);
    const middles = Array.from({ length: count }, (_, p) => {
      const outline = portalOutline(sight, p);
      expect(windingArea(outline) / 20_000).toBeCloseTo(1, 3);
      return windingCentroid(outline);
    });
    for (const door of [at(408, 200, 100), at(824, 200, 100), at(1240, 200, 100), at(1448, 408, 100)])
      expect(Math.min(...middles.map((m) => distance(m, door)))).toBeLessThan(9);
  });

  test('a line meets those portals that it goes through, in order, and none beside which it passes', () => {
    const [from, to] = [at(20, 200, 100), at(1640, 205, 110)];
    const met = portalsOn(sight, [from, to]);
    // Two portals may belong to one doorway: one on either side of its wall.
    const far = met.map((p) => distance(from, windingCentroid(portalOutline(sight, p))));
    expect(new Set(far.map((d) => Math.round(d / 416))).size).toBe(3);
    expect([...far].sort((a, b) => a - b)).toEqual(far);
    expect(portalsOn(sight, [to, from])).toEqual([...met].reverse());
    // Over the lintels, past the jamb, and short of the first doorway.
    expect(portalsOn(sight, [at(20, 200, 250), at(1640, 200, 250)])).toEqual([]);
    expect(portalsOn(sight, [at(20, 90, 100), at(1640, 90, 100)])).toEqual([]);
    expect(portalsOn(sight, [at(20, 200, 100), at(390, 200, 100)])).toEqual([]);
  });

  test('a witness leads from the one cell to the other through open portals, and there and back is one line', () => {
    const [a, b] = [levelCell(sight, at(200, 200, 100)), levelCell(sight, at(1448, 200, 100))];
    const [from, to] = witnessOf(sight, a, b)!;
    expect(witnessOf(sight, b, a)).toEqual([to, from]);
    expect(levelCell(sight, from)).toBe(a);
    expect(levelCell(sight, to)).toBe(b);
    for (const p of portalsOn(sight, [from, to])) {
      const plane = planeFromLoop(portalOutline(sight, p))!;
      expect(signedDistance(plane, from) * signedDistance(plane, to)).toBeLessThan(0);
    }
    // Nobody in the first room sees the one beside the last.
    expect(witnessOf(sight, a, levelCell(sight, at(1448, 800, 100)))).toBeNull();
  });

  test('the longest lines come longest first, and begin and end inside', () => {
    const lines = longLinesOf(sight);
    const lengths = lines.map(([a, b]) => distance(a, b));
    // To what floats hold.
    lengths.slice(1).forEach((far, i) => expect(far).toBeLessThan(lengths[i]! + 0.01));
    // From wall to wall of the row, and less than its diagonal.
    expect(lengths[0]).toBeGreaterThan(1648 - 50);
    expect(lengths[0]).toBeLessThan(Math.hypot(1648, 816, 272));
  });
});
