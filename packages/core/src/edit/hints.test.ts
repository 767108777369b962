import { brushBounds, brushContains, hullOf, type Brush } from '../brush/index.ts';
import { buildStructure } from '../compile/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import {
  applyAffine,
  boxCenter,
  composeAffine,
  dot,
  hashRandom,
  rotation,
  sub,
  translation,
  type Vec3,
} from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { movedScene, type SightScene } from '../testing/sight.ts';
import { addBrushes } from './brushes.ts';
import { hintAcross } from './hints.ts';

const solid = (id: string, corners: readonly Vec3[]): Brush => dressSolid(hullOf(corners), id, 'stone');
const slab = (id: string, [x0, y0, z0]: Vec3, [x1, y1, z1]: Vec3): Brush =>
  solid(
    id,
    [x0, x1].flatMap((x) => [y0, y1].flatMap((y) => [z0, z1].map((z): Vec3 => [x, y, z]))),
  );

/** A hall 800 by 300 under a roof whose ridge lies off its middle, 200 at the eaves and 350 at the ridge. */
function roofed(): SightScene {
  const roof = (id: string, y0: number, z0: number, y1: number, z1: number) =>
    solid(
      id,
      [-16, 816].flatMap((x): Vec3[] => [
        [x, y0, z0],
        [x, y1, z1],
        [x, y0, z0 + 20],
        [x, y1, z1 + 20],
      ]),
    );
  return {
    name: 'a hall under a roof',
    brushes: [
      slab('floor', [-16, -16, -16], [816, 316, 0]),
      slab('south', [-16, -16, 0], [816, 0, 240]),
      slab('north', [-16, 300, 0], [816, 316, 240]),
      slab('west', [-16, -16, 0], [0, 316, 400]),
      slab('east', [800, -16, 0], [816, 316, 400]),
      roof('low', -8, 200 - (8 * 150) / 83, 83, 350),
      roof('high', 83, 350, 308, 200 - (8 * 150) / 217),
      slab('cap', [-16, 70, 355], [816, 100, 390]),
    ],
    at: [50, 150, 20],
  };
}
const mapOf = ({ brushes }: SightScene): MapDocument => addBrushes(emptyMap('hints'), [...brushes]);

const UP: Vec3 = [0, 0, -1];

describe.each([
  ['where it was drawn', [0, 0, 0], 0],
  ['turned by 17° far from the origin', [30_000, -20_000, 500], 17],
] as const)('a hint across a hall, %s', (_, by, degrees) => {
  const scene = movedScene(roofed(), by, degrees);
  const doc = mapOf(scene);
  const move = composeAffine(translation(by), rotation(2, degrees, [0, 0, 0]));
  const put = (p: Vec3) => applyAffine(move, p);

  test('fills the section up to the ridge, however roughly the line was drawn', () => {
    for (const [from, to] of [
      [30, 270],
      [-10, 310],
      [0, 300],
      [290, 12],
      [-800, 310],
    ] as const) {
      const hint = hintAcross(doc, { from: put([400, from, 0]), to: put([400, to, 0]), along: UP });
      let free = 0;
      for (let k = 0; k < 3000; k++) {
        const p = put([400, hashRandom(k, 1) * 300, hashRandom(k, 2) * 350]);
        if (scene.brushes.some((b) => brushContains(b, p))) continue;
        free++;
        expect(brushContains(hint, p)).toBe(true);
      }
      expect(free).toBeGreaterThan(1500);
    }
  });

  test('parts the hall in two for the compile', () => {
    const hint = hintAcross(doc, { from: put([400, 30, 0]), to: put([400, 270, 0]), along: UP });
    const inside = (brushes: readonly Brush[]) =>
      buildStructure(brushes, [{ id: 's', at: scene.at }]).cells.filter((c) => c.inside);
    const cells = inside([...doc.brushes.values(), hint]);
    // No cell goes on through it.
    const along = put([401, 0, 0]).map((c, i) => c - put([400, 0, 0])[i]!) as unknown as Vec3;
    const beyond = cells.filter(({ sides }) => {
      const at = sides.flat().map((p) => dot(sub(p, put([400, 0, 0])), along));
      return Math.min(...at) < -3 && Math.max(...at) > 3;
    });
    expect(beyond).toEqual([]);
    expect(cells.length).toBeGreaterThan(inside([...doc.brushes.values()]).length);
  });
});

test('an end far from any wall stays where it was drawn; one in a wall begins there', () => {
  const doc = mapOf({
    name: '',
    at: [0, 0, 0],
    brushes: [
      slab('a', [-16, -16, -16], [1016, 1016, 0]),
      slab('b', [-16, -16, 300], [1016, 1016, 316]),
      slab('c', [-16, -16, 0], [0, 1016, 300]),
      slab('d', [1000, -16, 0], [1016, 1016, 300]),
      slab('e', [-16, -16, 0], [1016, 0, 300]),
      slab('f', [-16, 1000, 0], [1016, 1016, 300]),
    ],
  });
  const bounds = brushBounds(hintAcross(doc, { from: [-8, 500, 0], to: [400, 500, 0], along: UP }));
  expect(bounds).toEqual({ min: [-1, 498, -1], max: [401, 502, 301] });
  // On a section the line runs upright and the hint goes on from wall to wall.
  const upright = brushBounds(hintAcross(doc, { from: [300, 500, 20], to: [300, 500, 290], along: [0, 1, 0] }));
  expect(upright).toEqual({ min: [298, -1, -1], max: [302, 1001, 301] });
  expect(boxCenter(upright)).toEqual([300, 500, 150]);
});

test.each([
  ['hint.line', { from: [5, 5, 5], to: [5, 5, 5], along: [0, 0, 1] }],
  ['hint.line', { from: [5, 5, 5], to: [5, 5, 90], along: [0, 0, 1] }],
  ['hint.open', { from: [2000, 0, 0], to: [2300, 0, 0], along: [0, 0, 1] }],
] as const)('%s', (code, line) => {
  expect(() => hintAcross(mapOf(roofed()), line)).toThrow(expect.objectContaining({ code }));
});
