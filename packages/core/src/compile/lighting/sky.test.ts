import { boxSolid, type Brush } from '../../brush/index.ts';
import { addBrushes, changeSettings, placeEntity } from '../../edit/index.ts';
import { emptyMap, type MapDocument } from '../../map/index.ts';
import { rotation, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { buildLevel } from '../build.ts';
import { brightness, lightPlace, luxAt } from '../level/index.ts';

const NITS = 50;

/** A box of walls round x 0–600, y 0–400, z 0–300 under a sky that lies on top of it, turned about the z axis, with more brushes in it. */
function court(more: readonly Brush[] = [], degrees = 0): MapDocument {
  const slab = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'brick');
  const sky = slab('sky', [-16, -16, 300], [616, 416, 316]);
  const brushes = [
    slab('floor', [-16, -16, -16], [616, 416, 0]),
    slab('w', [-16, -16, 0], [0, 416, 300]),
    slab('e', [600, -16, 0], [616, 416, 300]),
    slab('s', [0, -16, 0], [600, 0, 300]),
    slab('n', [0, 400, 0], [600, 416, 300]),
    { ...sky, faces: sky.faces.map((f) => ({ ...f, show: 'sky' as const })) },
    ...more,
  ];
  const turned = brushes.map((b) => transformBrush(b, rotation(2, degrees, [300, 200, 0]), true)!);
  const doc = addBrushes(emptyMap('court'), turned);
  return changeSettings(placeEntity(doc, 'spawn', [300, 200, 0], 0, 's'), {
    ambientLux: 0,
    skyNits: NITS,
    skyColor: '#ffffff',
  });
}

/** The light on a place of the floor from a level rectangle above it that is as bright from all sides: summed over small squares. */
function fromRectangle(
  [x, y]: readonly [number, number],
  x0: number,
  y0: number,
  x1: number,
  y1: number,
  height: number,
  n = 400,
): number {
  let sum = 0;
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const dx = x0 + ((i + 0.5) * (x1 - x0)) / n - x;
      const dy = y0 + ((j + 0.5) * (y1 - y0)) / n - y;
      const d2 = dx * dx + dy * dy + height * height;
      sum += (height * height) / (d2 * d2);
    }
  return (NITS * sum * (x1 - x0) * (y1 - y0)) / (n * n);
}

/** The direct light at places of a brush's surface. */
function measuring(doc: MapDocument, brush: string, preset: 'review' | 'final' = 'review'): (p: Vec3) => number {
  const { level, structure } = buildLevel(doc, preset, {}, { direct: true });
  const surfaces = structure.surfaces.flatMap((s, i) => (s.brush === brush ? [i] : []));
  return (p) => {
    const place = lightPlace(level, surfaces, p)!;
    expect(place).not.toBeNull();
    return brightness(luxAt(level.meta.pages, level.lightTexels, place));
  };
}
const measure = (doc: MapDocument, brush: string, p: Vec3): number => measuring(doc, brush)(p);

test('a court under a bright sky has the light of the sky’s rectangle, however it lies', () => {
  for (const degrees of [0, 31]) {
    const doc = court([], degrees);
    for (const [x, y] of [
      [300, 200],
      [80, 350],
    ] as const) {
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      const at: Vec3 = [300 + (x - 300) * c - (y - 200) * s, 200 + (x - 300) * s + (y - 200) * c, 0];
      const expected = fromRectangle([x, y], 0, 0, 600, 400, 300);
      expect(Math.abs(measure(doc, 'floor', at) / expected - 1)).toBeLessThan(0.01);
    }
  }
});

test('under a hole in a roof a floor has the light of the hole, and where none of the sky is seen it is dark', () => {
  const board = (id: string, min: Vec3, max: Vec3) =>
    dressSolid(boxSolid({ min, max }), id, 'brick', { role: 'detail' });
  // A roof of no thickness to speak of with a hole of 160 by 96 cm.
  const roof = [
    board('r1', [0, 0, 200], [200, 400, 200.5]),
    board('r2', [360, 0, 200], [600, 400, 200.5]),
    board('r3', [200, 0, 200], [360, 150, 200.5]),
    board('r4', [200, 246, 200], [360, 400, 200.5]),
  ];
  const doc = court(roof);
  for (const [x, y] of [
    [280, 200],
    [330, 120],
  ] as const) {
    const expected = fromRectangle([x, y], 200, 150, 360, 246, 200);
    expect(Math.abs(measure(doc, 'floor', [x, y, 0]) / expected - 1)).toBeLessThan(0.01);
  }
  // All over the floor, between the luxels of a tile that are looked from and those that follow from them.
  for (const preset of ['review', 'final'] as const) {
    const lit = measuring(doc, 'floor', preset);
    for (let x = 12; x < 600; x += 31)
      for (let y = 12; y < 400; y += 29) {
        const expected = fromRectangle([x, y], 200, 150, 360, 246, 200, 60);
        expect(Math.abs(lit([x, y, 0]) / expected - 1)).toBeLessThan(0.05);
      }
  }
  const shut = court([...roof, board('lid', [200, 150, 200], [360, 246, 200.5])]);
  expect(measure(shut, 'floor', [280, 200, 0])).toBeLessThan(0.001);
});

test('a sky that gives no light lights nothing', () => {
  const doc = changeSettings(court(), { skyNits: 0 });
  expect(measure(doc, 'floor', [300, 200, 0])).toBe(0);
});
