import fc from 'fast-check';
import { brushPlanes, brushVolume, findFlaw, solidOf } from '../brush/index.ts';
import { emptyMap, type MapDocument, type Point2 } from '../map/index.ts';
import { buildStructure } from '../compile/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec, twoRooms } from '../testing/rooms.ts';
import { texelAt } from '../surface/index.ts';
import { convexParts, outlineArea } from '../math/index.ts';
import { tidyFootprint } from './footprint.ts';
import {
  addRoom,
  changeOpening,
  changeRoom,
  doorwayPlaces,
  openDoorway,
  releaseRoom,
  removeOpenings,
  removeRooms,
} from './rooms.ts';
import { movePicked, resizePicked } from './brushes.ts';
import { paintFaces } from './faces.ts';

const volume = (doc: MapDocument) => [...doc.brushes.values()].reduce((v, b) => v + brushVolume(b), 0);
const allValid = (doc: MapDocument) => [...doc.brushes.values()].every((b) => findFlaw(solidOf(b)) === null);
const sealed = (doc: MapDocument, at: readonly [number, number, number]) => {
  const s = buildStructure(doc.brushes.values(), [{ id: 's', at }]);
  return s.leak === null && s.misplaced.length === 0 && s.cells.some((c) => c.inside);
};

describe('footprints', () => {
  test('are turned counter-clockwise and lose corners on straight lines', () => {
    const tidy = tidyFootprint([[0, 0], [0, 100], [100, 100], [100, 50], [100, 0]]); // prettier-ignore
    expect(outlineArea(tidy)).toBe(10000);
    expect(tidy).toHaveLength(4);
  });
  test('that cross themselves or enclose nothing are refused', () => {
    for (const bad of [[[0, 0], [100, 100], [100, 0], [0, 100]], [[0, 0], [100, 0]], [[0, 0], [100, 0], [50, 0.1]], [[0, 0], [NaN, 0], [0, 100]]] as Point2[][])
      expect(() => tidyFootprint(bad)).toThrow(expect.objectContaining({ code: 'room.footprint' })); // prettier-ignore
  });
  test('of any star shape are cut into convex parts of the same area', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 40, max: 400 }), { minLength: 4, maxLength: 12 }), (radii) => {
        const outline = radii.map((r, i): Point2 => [
          r * Math.cos((i * 2 * Math.PI) / radii.length),
          r * Math.sin((i * 2 * Math.PI) / radii.length),
        ]);
        const parts = convexParts(tidyFootprint(outline));
        expect(parts.reduce((a, p) => a + outlineArea(p), 0)).toBeCloseTo(outlineArea(outline), 4);
        for (const p of parts)
          p.forEach((b, i) => {
            const a = p[(i + p.length - 1) % p.length]!;
            const c = p[(i + 1) % p.length]!;
            expect((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])).toBeGreaterThanOrEqual(-1e-6);
          });
      }),
      { numRuns: 60 },
    );
  });
});

describe('a room', () => {
  test('is six valid brushes that fill exactly its shell', () => {
    const doc = oneRoom();
    expect(doc.brushes.size).toBe(6);
    expect(allValid(doc)).toBe(true);
    const walls = 544 * 416 * 304 - 512 * 384 * 304;
    const slabs = 2 * 512 * 384 * 16;
    expect(volume(doc)).toBe(walls + slabs);
  });

  test('with any simple footprint is sealed', () => {
    const shapes: Point2[][] = [
      [[0, 0], [400, 0], [400, 400], [200, 400], [200, 200], [0, 200]],
      [[0, 0], [300, -80], [420, 160], [240, 380], [-60, 260]],
      [[0, 0], [600, 0], [600, 600], [0, 600], [0, 400], [400, 400], [400, 200], [0, 200]],
    ]; // prettier-ignore
    for (const footprint of shapes) {
      const doc = addRoom(emptyMap('t'), roomSpec(footprint), DRESS);
      expect(allValid(doc)).toBe(true);
      expect(sealed(doc, [footprint[0]![0] + 60, footprint[0]![1] + 60, 100])).toBe(true);
    }
  });

  test('with numbers that make no room is refused and the document stays', () => {
    const cases: [string, Parameters<typeof roomSpec>[1]][] = [
      ['room.tooLow', { ceiling: 4 }],
      ['room.wall', { wall: 0 }],
      ['room.notFinite', { ceiling: Infinity }],
    ];
    for (const [code, more] of cases)
      expect(() => addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 100, 100), more), DRESS)).toThrow(
        expect.objectContaining({ code }),
      );
  });

  test('can get another height, wall and footprint; its brushes keep their ids and dressing', () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => b.room!.part === 'wall:1:0')!;
    const inner = wall.faces[brushPlanes(wall).findIndex((p) => p.normal[0] === -1)]!;
    let changed = paintFaces(doc, [{ brush: wall.id, face: inner.id }], 'red-brick');
    changed = changeRoom(changed, 'a', { ceiling: 400, footprint: rectangle(32, 32, 640, 384) });
    const again = changed.brushes.get(wall.id)!;
    const face = again.faces[brushPlanes(again).findIndex((p) => p.normal[0] === -1)]!;
    expect(face).toMatchObject({ id: inner.id, material: 'red-brick' });
    expect(brushPlanes(again).find((p) => p.normal[0] === -1)!.distance).toBe(-672);
    expect(allValid(changed) && sealed(changed, [100, 100, 10])).toBe(true);
  });

  test('open to the sky shows it in its ceiling and nowhere else', () => {
    const doc = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 300, 300), { open: true }), DRESS, 'r');
    const skies = [...doc.brushes.values()].flatMap((b) =>
      b.faces.flatMap((f, i) => (f.show === 'sky' ? [brushPlanes(b)[i]!] : [])),
    );
    expect(skies).toEqual([{ normal: [0, 0, -1], distance: -272 }]);
    const closed = changeRoom(doc, 'r', { open: false });
    expect([...closed.brushes.values()].some((b) => b.faces.some((f) => f.show))).toBe(false);
  });

  test('moved as a whole stays a room and carries its textures', () => {
    const doc = oneRoom();
    const moved = movePicked(doc, { rooms: new Set(['a']) }, [100, -40, 16]);
    expect(moved.rooms.get('a')).toMatchObject({ floor: 16, ceiling: 288, footprint: rectangle(132, -8, 512, 384) });
    for (const brush of doc.brushes.values()) {
      const after = moved.brushes.get(brush.id)!;
      brush.faces.forEach((face) => {
        const other = after.faces.find((f) => f.id === face.id)!;
        const p = brush.vertices[face.loop[0]!]!;
        const was = texelAt(face.frame, p);
        const is = texelAt(other.frame, [p[0] + 100, p[1] - 40, p[2] + 16]);
        expect(is[0]).toBeCloseTo(was[0], 6);
        expect(is[1]).toBeCloseTo(was[1], 6);
      });
    }
  });

  test('resized by its box gets exactly that clear inside', () => {
    const doc = resizePicked(oneRoom(), { rooms: new Set(['a']) }, { min: [0, 0, 0], max: [640, 400, 300] });
    expect(doc.rooms.get('a')).toMatchObject({ footprint: rectangle(0, 0, 640, 400), floor: 0, ceiling: 300 });
    expect(sealed(doc, [100, 100, 10])).toBe(true);
  });

  test('shaped by hand is released as a whole, and its brushes stay as they are', () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => b.room!.part === 'wall:0:0')!;
    const shaped = movePicked(doc, { brushes: new Set([wall.id]) }, [0, -16, 0]);
    expect(shaped.rooms.size).toBe(0);
    expect([...shaped.brushes.values()].every((b) => b.room === undefined)).toBe(true);
    expect(shaped.brushes.size).toBe(6);
    expect(releaseRoom(doc, 'a').brushes.get(wall.id)!.vertices).toEqual(wall.vertices);
  });
});

describe('two rooms', () => {
  test('share the wall between them, each a half, and do not overlap', () => {
    const doc = removeOpenings(twoRooms(), new Set(['door']));
    const shell = (w: number) => (w + 16 + 8) * 416 * 304 - w * 384 * 304 + 2 * w * 384 * 16;
    expect(volume(doc)).toBeCloseTo(shell(512) + shell(384), 3);
  });

  test('a doorway takes exactly its volume out of both walls, and closing it puts that back', () => {
    const open = twoRooms();
    const closed = removeOpenings(open, new Set(['door']));
    expect(volume(closed) - volume(open)).toBeCloseTo(112 * 208 * 16, 3);
    expect(allValid(open) && sealed(open, [100, 100, 10])).toBe(true);
  });

  test('a doorway can be moved and resized; what does not fit is refused', () => {
    const doc = changeOpening(twoRooms(), 'door', { width: 64, at: 60 });
    expect(doc.openings.get('door')).toMatchObject({ width: 64, at: 60 });
    expect(() => changeOpening(doc, 'door', { at: 10 })).toThrow(expect.objectContaining({ code: 'opening.outside' }));
    expect(() => changeOpening(doc, 'door', { height: 600 })).toThrow(
      expect.objectContaining({ code: 'opening.outside' }),
    );
    expect(() => changeOpening(doc, 'door', { width: 0 })).toThrow(expect.objectContaining({ code: 'opening.size' }));
  });

  test('rooms that stand apart, or without space for a wall, cannot be joined', () => {
    const apart = addRoom(oneRoom(), roomSpec(rectangle(700, 32, 200, 200)), DRESS, 'c');
    expect(doorwayPlaces(apart, 'a', 'c')).toEqual([]);
    expect(() => openDoorway(apart, 'a', 'c', { width: 100, height: 200, sill: 0 })).toThrow(
      expect.objectContaining({ code: 'opening.notTouching' }),
    );
    expect(() => addRoom(oneRoom(), roomSpec(rectangle(544, 32, 200, 200)), DRESS)).toThrow(
      expect.objectContaining({ code: 'room.noWall' }),
    );
  });

  test('removing one closes the other again', () => {
    const doc = removeRooms(twoRooms(), new Set(['b']));
    expect(doc.openings.size).toBe(0);
    expect(volume(doc)).toBe(volume(oneRoom()));
    expect(sealed(doc, [100, 100, 10])).toBe(true);
  });

  test('moved away from its neighbour a room loses the doorway and both stay sealed', () => {
    const doc = movePicked(twoRooms(), { rooms: new Set(['b']) }, [320, 0, 0]);
    expect(doc.openings.size).toBe(0);
    expect(sealed(doc, [100, 100, 10])).toBe(true);
    expect(sealed(doc, [1000, 100, 10])).toBe(true);
  });
});
