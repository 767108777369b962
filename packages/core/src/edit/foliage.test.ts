import { brushBounds, brushPlanes, stopsPlayers } from '../brush/index.ts';
import { emptyMap } from '../map/index.ts';
import { windingCentroid, type Vec3 } from '../math/index.ts';
import { collisionOf } from '../play/index.ts';
import { texelAt, type MaterialFacts } from '../surface/index.ts';
import { setPassable } from './brushes.ts';
import { allFaces, findFaces } from './faces.ts';
import { addFoliage, crossSheets } from './foliage.ts';

const FERN: MaterialFacts = { name: 'fern', width: 256, height: 128, texelsPerCm: 2, solidity: 'cutOut' };
const near = (got: readonly number[], want: readonly number[]) =>
  want.forEach((w, i) => expect(got[i]).toBeCloseTo(w, 6));

describe('thin vegetation', () => {
  test('stands on a floor at natural size: one unit thick, detail, passable, the picture on both wide faces', () => {
    const { doc, brushes } = addFoliage(emptyMap('t'), { material: FERN, at: [100, 50, 16], normal: [0, 0, 1] });
    const [brush] = [...brushes].map((id) => doc.brushes.get(id)!);
    expect(brushBounds(brush!)).toEqual({ min: [36, 49, 16], max: [164, 50, 80] });
    expect(brush).toMatchObject({ role: 'detail', stops: [] });
    expect(stopsPlayers(brush!)).toBe(false);
    expect(collisionOf(doc).first).toHaveLength(1);
    const faces = findFaces(doc, allFaces(doc, brushes));
    expect(faces.filter((f) => f.face.show === 'unseen')).toHaveLength(4);
    const [south, north] = [-1, 1].map((way) => faces.find((f) => f.plane.normal[1] === way)!);
    near(texelAt(south!.frame, [36, 49, 80]), [0, 0]);
    near(texelAt(south!.frame, [164, 49, 16]), [256, 128]);
    near(texelAt(north!.frame, [36, 50, 80]), [0, 0]);
  });
  test('hangs flat on a wall, whichever way it looks, with its face outward', () => {
    for (const normal of [
      [1, 0, 0],
      [0, -1, 0],
      [-0.6, 0.8, 0],
    ] as Vec3[]) {
      const { doc, brushes } = addFoliage(emptyMap('t'), {
        material: FERN,
        at: [0, 0, 100],
        normal,
        width: 80,
        height: 60,
      });
      const [brush] = [...brushes].map((id) => doc.brushes.get(id)!);
      const planes = brushPlanes(brush!);
      const front = brush!.faces.findIndex(
        (f, i) => !f.show && planes[i]!.normal[0] * normal[0] + planes[i]!.normal[1] * normal[1] > 0.999,
      );
      near(windingCentroid(findFaces(doc, [{ brush: brush!.id, face: brush!.faces[front]!.id }])[0]!.winding), [
        normal[0],
        normal[1],
        100,
      ]);
    }
  });
  test('hangs down from a ceiling', () => {
    const { doc, brushes } = addFoliage(emptyMap('t'), { material: FERN, at: [0, 0, 272], normal: [0, 0, -1] });
    expect(brushBounds(doc.brushes.get([...brushes][0]!)!)).toMatchObject({
      min: [-64, -1, 208],
      max: [64, 0, 272],
    });
  });
  test('crosswise it is two, grouped; a single one is doubled later too', () => {
    const two = addFoliage(emptyMap('t'), { material: FERN, at: [0, 0, 0], normal: [0, 0, 1], crosswise: true });
    expect(two.brushes.size).toBe(2);
    expect(two.doc.groups.size).toBe(1);
    const one = addFoliage(emptyMap('t'), { material: FERN, at: [10, 20, 0], normal: [0, 0, 1] });
    const crossed = crossSheets(one.doc, one.brushes);
    expect(crossed.brushes.size).toBe(2);
    const boxes = [...crossed.brushes].map((id) => brushBounds(crossed.doc.brushes.get(id)!));
    near([...boxes[1]!.min, ...boxes[1]!.max], [9.5, -44.5, 0, 10.5, 83.5, 64]);
  });
  test('any brush can be made passable and solid again', () => {
    const { doc, brushes } = addFoliage(emptyMap('t'), { material: FERN, at: [0, 0, 0], normal: [0, 0, 1] });
    const [id] = [...brushes];
    expect(stopsPlayers(setPassable(doc, brushes, false).brushes.get(id!)!)).toBe(true);
    expect(setPassable(doc, brushes, true).brushes.get(id!)).toEqual(doc.brushes.get(id!));
  });
  test('sizes that are none are refused', () => {
    for (const width of [0, NaN, 9999])
      expect(() => addFoliage(emptyMap('t'), { material: FERN, at: [0, 0, 0], normal: [0, 0, 1], width })).toThrow(
        expect.objectContaining({ code: 'foliage.size' }),
      );
  });
});
