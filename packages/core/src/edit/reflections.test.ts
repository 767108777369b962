import fc from 'fast-check';
import { awayFrom, boxSolid, DRAWN_ROLES } from '../brush/index.ts';
import { reflects, type Entity } from '../entity/index.ts';
import { emptyMap, parseMap, writeMap, type MapDocument } from '../map/index.ts';
import type { Point2 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import {
  addBrushes,
  addRoom,
  inRoom,
  placeEntity,
  reflectBefore,
  REFLECTION_CLEAR,
  reflectInRooms,
  removePicked,
  setReflection,
} from './index.ts';

const probes = (doc: MapDocument): Entity[] => [...doc.entities.values()].filter(reflects);
/** How far a point is from all that is solid. */
const clear = (doc: MapDocument, e: Entity): number =>
  Math.min(...[...doc.brushes.values()].filter((b) => DRAWN_ROLES.has(b.role)).map((b) => awayFrom(b, e.at)));

const ANGLED: readonly Point2[] = [
  [0, 0],
  [900, 0],
  [900, 300],
  [300, 300],
  [300, 700],
  [0, 700],
];

test('each room gets one, within it and clear of its walls and of what stands there', () => {
  let doc = addRoom(emptyMap('m'), roomSpec(ANGLED, { ceiling: 300 }), DRESS, 'a');
  doc = addRoom(doc, roomSpec(rectangle(1000, 0, 300, 300), { ceiling: 120 }), DRESS, 'b');
  // A pillar where the first room is widest.
  const pillar = dressSolid(boxSolid({ min: [110, 110, 0], max: [220, 220, 300] }), 'p', 'slate', { role: 'detail' });
  const { doc: after, entities } = reflectInRooms(addBrushes(doc, [pillar]));
  expect(entities.length).toBe(2);
  for (const room of after.rooms.values()) {
    const own = probes(after).filter((e) => inRoom(room, e.at));
    expect(own.length).toBe(1);
    expect(clear(after, own[0]!)).toBeGreaterThanOrEqual(REFLECTION_CLEAR);
  }
  // Halfway up where that is below the height of eyes.
  expect(
    probes(after)
      .map((e) => e.at[2])
      .sort(),
  ).toEqual([150, 60]);
  expect(() => reflectInRooms(after)).toThrow('already');
  expect(parseMap(writeMap(after)).entities.size).toBe(after.entities.size);
});

test('in an empty room it lies about the middle, however long the room and wherever it lies', () => {
  const along = fc.integer({ min: 200, max: 3000 });
  const place = fc.integer({ min: -30_000, max: 30_000 });
  fc.assert(
    fc.property(place, place, along, along, (x, y, w, d) => {
      const { doc } = reflectInRooms(addRoom(emptyMap('m'), roomSpec(rectangle(x, y, w, d), { ceiling: 300 }), DRESS));
      const [{ at }] = probes(doc) as [Entity];
      expect(Math.max(Math.abs(at[0] - x - w / 2), Math.abs(at[1] - y - d / 2))).toBeLessThan(Math.max(w, d) / 10);
    }),
  );
});

test('a map without rooms says so', () => {
  expect(() => reflectInRooms(emptyMap('m'))).toThrow('tool Place');
});

test('one is put before each face that has the space, whichever way it looks', () => {
  fc.assert(
    fc.property(fc.integer({ min: 30, max: 400 }), (wide) => {
      const solid = boxSolid({ min: [0, 0, 0], max: [wide, 100, 50] });
      const doc = addBrushes(emptyMap('m'), [dressSolid(solid, 'b', 'slate', { role: 'detail' })]);
      const faces = doc.brushes.get('b')!.faces.map((f) => ({ brush: 'b', face: f.id }));
      const { doc: after } = reflectBefore(doc, faces);
      expect(probes(after).map((e) => Math.round(clear(after, e)))).toEqual([40, 40, 40, 40, 40, 40]);
    }),
  );
});

test('before a face with no space there is none', () => {
  const boxes = [0, 30].map((x, k) =>
    dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 20, 400, 400] }), `b${k}`, 'slate', { role: 'detail' }),
  );
  const doc = addBrushes(emptyMap('m'), boxes);
  const planes = doc.brushes.get('b0')!;
  const inner = planes.faces.find((f) => f.loop.every((i) => planes.vertices[i]![0] === 20))!;
  expect(() => reflectBefore(doc, [{ brush: 'b0', face: inner.id }])).toThrow('40 cm of space');
});

test('faces let go of a probe that is removed', () => {
  let doc = addBrushes(emptyMap('m'), [
    dressSolid(boxSolid({ min: [0, 0, 0], max: [100, 100, 50] }), 'b', 'slate', { role: 'detail' }),
  ]);
  doc = placeEntity(doc, 'reflectionProbe', [50, 50, 160], 0, 'p');
  const chosen = setReflection(doc, [{ brush: 'b', face: doc.brushes.get('b')!.faces[2]!.id }], 'p');
  expect(parseMap(writeMap(chosen)).brushes.get('b')!.faces[2]!.reflection).toBe('p');
  const gone = removePicked(chosen, { entities: new Set(['p']) });
  expect(gone.brushes.get('b')).toEqual(doc.brushes.get('b'));
  expect(() => parseMap(writeMap(chosen).replace('"reflection":"p"', '"reflection":"q"'))).toThrow('not in the map');
});
