import { boxSolid, hullOf, partKey } from '../brush/index.ts';
import { buildStructure, cellVolume } from '../compile/index.ts';
import { addBrushes, cutBrushes, removePicked, transformPicked } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { applyAffine, composeAffine, rotation, translation, type Box, type Point2, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { extendToClose, fillHole } from './leak.ts';

const structureOf = (doc: MapDocument) => buildStructure(doc.brushes.values(), [{ id: 's', at: [100, 100, 100] }]);
const box = (id: string, b: Box) => dressSolid(boxSolid(b), id, 'oak');

/** Brushes that are of no room. */
const bare = (brushes: MapDocument['brushes']): MapDocument => ({
  ...emptyMap('t'),
  brushes: new Map([...brushes].map(([id, { room: _, ...b }]) => [id, b])),
});

/** A room whose east wall lacks a piece. */
function holed(): MapDocument {
  const room = oneRoom();
  const wall = [...room.brushes.values()].find((b) => b.room && partKey(b.room.part) === 'wall:1:0')!;
  let doc = room;
  let ids = new Set([wall.id]);
  for (const y of [180, 240]) {
    const cut = cutBrushes(doc, ids, { normal: [0, 1, 0], distance: y }, 'both');
    doc = cut.doc;
    ids = new Set(cut.brushes);
  }
  const piece = [...ids].find((id) => {
    const ys = doc.brushes.get(id)!.vertices.map((v) => v[1]);
    return Math.min(...ys) >= 180 && Math.max(...ys) <= 240;
  })!;
  return removePicked(doc, { brushes: new Set([piece]) });
}

describe('a hole that a map leaks through', () => {
  test('is closed by filling it and by drawing its neighbour out', () => {
    const doc = holed();
    const { leak } = structureOf(doc);
    expect(leak).not.toBeNull();
    for (const close of [fillHole, extendToClose]) expect(structureOf(close(doc, leak!)).leak).toBeNull();
    expect(extendToClose(doc, leak!).brushes.size).toBe(doc.brushes.size);
    expect(fillHole(doc, leak!).brushes.size).toBe(doc.brushes.size + 1);
  });
  test.each([0, 27, 90, 211])('of a room turned by %d° is filled at once', (degrees) => {
    const { brushes } = holed();
    const doc = transformPicked(
      bare(brushes),
      { brushes: new Set(brushes.keys()) },
      rotation(2, degrees, [100, 100, 0]),
    );
    const { leak } = structureOf(doc);
    expect(leak).not.toBeNull();
    expect(structureOf(fillHole(doc, leak!)).leak).toBeNull();
  });
  test.each([
    [0, [0, 0, 0]],
    [17, [0, 0, 0]],
    [31, [30_000, -20_000, 700]],
  ] as const)(
    'that a whole wall, floor or ceiling leaves is filled by one brush: turned by %d°, moved to %j',
    (degrees, by) => {
      const { brushes } = oneRoom();
      const move = composeAffine(translation(by), rotation(2, degrees, [100, 100, 0]));
      const room = transformPicked(bare(brushes), { brushes: new Set(brushes.keys()) }, move);
      const seed = { id: 's', at: applyAffine(move, [100, 100, 100]) };
      let filled = 0;
      for (const id of room.brushes.keys()) {
        const doc = removePicked(room, { brushes: new Set([id]) });
        const { leak } = buildStructure(doc.brushes.values(), [seed]);
        expect(leak).not.toBeNull();
        const after = buildStructure(fillHole(doc, leak!).brushes.values(), [seed]);
        expect(after.leak).toBeNull();
        // The brush stands where the wall was, not across the room.
        const inside = after.cells.reduce((v, c) => v + (c.inside ? cellVolume(c.sides) : 0), 0);
        expect(inside / (512 * 384 * 272)).toBeGreaterThan(0.9);
        filled++;
      }
      expect(filled).toBe(6);
    },
  );
  test.each([0, 17, 90])(
    'that is a gable under rafters that cross is filled by one brush, turned by %d°',
    (degrees) => {
      const slab = (id: string, corners: readonly Point2[], x0: number, x1: number) =>
        dressSolid(hullOf(corners.flatMap(([y, z]) => [x0, x1].map((x): Vec3 => [x, y, z]))), id, 'oak');
      const floor = [[-320, -20], [320, -20], [320, 0], [-320, 0]] as const; // prettier-ignore
      // They cross at 240 over the middle and meet the floor 300 beside it.
      const rafter = (way: 1 | -1) => [[-310, -8], [30, 264], [30, 284], [-310, 12]].map(([y, z]): Point2 => [way * y!, z!]); // prettier-ignore
      const gable = [[-300, 0], [300, 0], [0, 240]] as const; // prettier-ignore
      const all = [
        slab('floor', floor, -16, 816),
        slab('left', rafter(1), -16, 816),
        slab('right', rafter(-1), -16, 816),
        slab('west', gable, -16, 0),
      ];
      const turn = rotation(2, degrees, [0, 0, 0]);
      const doc = transformPicked(addBrushes(emptyMap('t'), all), { brushes: new Set(all.map((b) => b.id)) }, turn);
      const seed = { id: 's', at: applyAffine(turn, [400, 0, 100]) };
      const { leak } = buildStructure(doc.brushes.values(), [seed]);
      expect(leak).not.toBeNull();
      const filled = fillHole(doc, leak!);
      expect(filled.brushes.size).toBe(5);
      const after = buildStructure(filled.brushes.values(), [seed]);
      expect(after.leak).toBeNull();
      const inside = after.cells.reduce((v, c) => v + (c.inside ? cellVolume(c.sides) : 0), 0);
      expect(inside / (300 * 240 * 800)).toBeGreaterThan(0.9);
    },
  );
  test('with nothing fit beside it says so', () => {
    const doc = addBrushes(emptyMap('t'), [box('a', { min: [0, 0, 0], max: [10, 10, 10] })]);
    const hole = [[50, 0, 0], [50, 100, 0], [50, 100, 100], [50, 0, 100]] as const; // prettier-ignore
    expect(() => extendToClose(doc, { hole, beside: ['a'] })).toThrow(
      expect.objectContaining({ code: 'leak.noNeighbour' }),
    );
  });
});
