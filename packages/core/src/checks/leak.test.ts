import { boxSolid, partKey } from '../brush/index.ts';
import { buildStructure } from '../compile/index.ts';
import { addBrushes, cutBrushes, removePicked, transformPicked } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { rotation, type Box } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { extendToClose, fillHole } from './leak.ts';

const structureOf = (doc: MapDocument) => buildStructure(doc.brushes.values(), [{ id: 's', at: [100, 100, 100] }]);
const box = (id: string, b: Box) => dressSolid(boxSolid(b), id, 'oak');

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
  test('of a turned room, of which a piece is told at a time, is filled piece by piece', () => {
    const { brushes } = holed();
    const loose = { ...emptyMap('t'), brushes: new Map([...brushes].map(([id, { room: _, ...b }]) => [id, b])) };
    let doc = transformPicked(loose, { brushes: new Set(brushes.keys()) }, rotation(2, 27, [100, 100, 0]));
    let { leak } = structureOf(doc);
    expect(leak).not.toBeNull();
    for (let k = 0; leak && k < 12; k++) {
      doc = fillHole(doc, leak);
      ({ leak } = structureOf(doc));
    }
    expect(leak).toBeNull();
  });
  test('with nothing fit beside it says so', () => {
    const doc = addBrushes(emptyMap('t'), [box('a', { min: [0, 0, 0], max: [10, 10, 10] })]);
    const hole = [[50, 0, 0], [50, 100, 0], [50, 100, 100], [50, 0, 100]] as const; // prettier-ignore
    expect(() => extendToClose(doc, { hole, beside: ['a'] })).toThrow(
      expect.objectContaining({ code: 'leak.noNeighbour' }),
    );
  });
});
