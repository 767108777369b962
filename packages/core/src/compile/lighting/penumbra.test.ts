import { boxSolid } from '../../brush/index.ts';
import { addBrushes, changeEntity, changeSettings, placeEntity } from '../../edit/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { emptyMap } from '../../map/index.ts';
import type { Vec3 } from '../../math/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { buildLevel, type BuildResult } from '../build.ts';
import { brightness, lightPlace, luxAt } from '../level/index.ts';

/** A hall 800 by 400, 400 high, whose ceiling shows the sky, with a thin board over its west half at a height. */
function hall(boardAt: number): MapDocument {
  const slab = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'brick');
  const roof = slab('roof', [-16, -16, 400], [816, 416, 416]);
  const doc = addBrushes(emptyMap('hall'), [
    slab('floor', [-16, -16, -16], [816, 416, 0]),
    slab('w', [-16, -16, 0], [0, 416, 400]),
    slab('e', [800, -16, 0], [816, 416, 400]),
    slab('s', [0, -16, 0], [800, 0, 400]),
    slab('n', [0, 400, 0], [800, 416, 400]),
    { ...roof, faces: roof.faces.map((f) => ({ ...f, show: 'sky' as const })) },
    dressSolid(boxSolid({ min: [0, 0, boardAt - 0.3], max: [400, 400, boardAt] }), 'board', 'oak', { role: 'detail' }),
  ]);
  return changeSettings(placeEntity(doc, 'spawn', [600, 200, 0], 0, 's'), { ambientLux: 0 });
}

function luxOf({ level, structure }: BuildResult, p: Vec3): number {
  const floor = structure.surfaces.flatMap((s, i) => (s.brush === 'floor' ? [i] : []));
  return brightness(luxAt(level.meta.pages, level.lightTexels, lightPlace(level, floor, p)!));
}
const build = (doc: MapDocument): BuildResult => buildLevel(doc, 'review', {}, { direct: true });

/** How much of a round is seen beside a straight edge at `u` radii from its middle: 0 at −1, all at 1. */
const roundSeen = (u: number): number =>
  u <= -1 ? 0 : u >= 1 ? 1 : 0.5 + (Math.asin(u) + u * Math.sqrt(1 - u * u)) / Math.PI;

test('a lamp of some size throws a shadow that is as wide at its edge as it is to be, and has the light of a point elsewhere', () => {
  const [high, board, radius] = [350, 200, 36];
  let doc = placeEntity(hall(board), 'pointLight', [400, 200, high], 0, 'lamp');
  doc = changeEntity(doc, 'lamp', { params: { candela: 1000, color: '#ffffff', size: 2 * radius } });
  const built = build(doc);
  const plain = (x: number) => (1000 * (high / 100)) / ((x * x + high * high) / 10_000) ** 1.5;
  // The edge is right under the lamp's middle: half of it is seen from under it, all or nothing beyond the penumbra.
  const half = radius / (high / board - 1);
  for (const x of [-1.4 * half, -0.8 * half, -0.4 * half, 0, 0.4 * half, 0.8 * half, 1.4 * half, 3 * half]) {
    const expected = plain(x) * roundSeen(x / half);
    expect(Math.abs(luxOf(built, [400 + x, 200, 0]) - expected)).toBeLessThan(0.04 * plain(x));
  }
});

test('a wide sun throws a shadow whose edge is as wide as the sun is', () => {
  const board = 250;
  let doc = placeEntity(hall(board), 'sun', [600, 200, 300], 0, 'sun');
  doc = changeEntity(doc, 'sun', { params: { lux: 1000, height: 90, spread: 16 } });
  const built = build(doc);
  const half = board * Math.tan((8 * Math.PI) / 180);
  for (const u of [-1.5, -0.7, -0.3, 0, 0.3, 0.7, 1.5])
    expect(Math.abs(luxOf(built, [400 + u * half, 200, 0]) - 1000 * roundSeen(u))).toBeLessThan(25);
  // Sharp without: 4 cm beside the edge it is light or dark.
  const sharp = build(changeEntity(doc, 'sun', { params: { spread: 0 } }));
  expect(luxOf(sharp, [412, 200, 0])).toBeCloseTo(1000, -1);
  expect(luxOf(sharp, [388, 200, 0])).toBe(0);
});
