import fc from 'fast-check';
import { add, normalize, scale, translation, type Vec3 } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { oracle, oracleSolid } from '../testing/oracle.ts';
import { hullOf } from './hull.ts';
import { boxSolid } from './primitives.ts';
import { brushVolume, solidOf } from './solid.ts';
import { sweptContact } from './sweep.ts';
import type { Brush } from './types.ts';

const box = (min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), 'b', 'm');

test('boxes meet where their sides do; what is beside, behind or only touches is never met', () => {
  const car = box([0, 0, 0], [100, 100, 20]);
  expect(sweptContact(car, box([0, 0, 300], [50, 50, 320]), [0, 0, 1])).toBe(280);
  expect(sweptContact(car, box([0, 0, 300], [50, 50, 320]), [0, 0, 1], 1)).toBe(281);
  expect(sweptContact(car, box([100, 0, 300], [150, 50, 320]), [0, 0, 1])).toBeNull();
  expect(sweptContact(car, box([0, 0, -300], [50, 50, -200]), [0, 0, 1])).toBeNull();
  expect(sweptContact(car, box([50, 50, 10], [150, 150, 30]), [0, 0, 1])).toBe(0);
  expect(sweptContact(car, box([0, 0, 20], [50, 50, 30]), [1, 0, 0])).toBeNull();
  // At a slant: the corner comes to the side after 100 · √2.
  expect(sweptContact(car, box([200, 0, 0], [300, 400, 20]), normalize([1, 1, 0]))).toBeCloseTo(100 * Math.SQRT2, 9);
});

test('any two convex solids far from the origin meet where an independent kernel begins to find something in both', async () => {
  await oracle();
  const number = fc.integer({ min: -6000, max: 6000 }).map((n) => n / 100);
  const points = fc.array(fc.tuple(number, number, number), { minLength: 8, maxLength: 14 });
  const far: Vec3 = [1840, -960, 320];
  const made = (ps: readonly (readonly [number, number, number])[], about: Vec3): Brush | null => {
    try {
      const brush = dressSolid(
        hullOf(ps.map(([x, y, z]): Vec3 => [x + about[0], y + about[1], z + about[2]])),
        'b',
        'm',
      );
      return brushVolume(brush) > 5000 ? brush : null;
    } catch {
      return null;
    }
  };
  const shared = async (a: Brush, b: Brush, way: Vec3): Promise<number> => {
    // It reads single precision: near the origin there is enough of it.
    const back = scale(far, -1);
    const moved = await oracleSolid(solidOf(transformBrush(a, translation(add(way, back)), true)));
    const other = await oracleSolid(solidOf(transformBrush(b, translation(back), true)));
    const both = moved.intersect(other);
    const volume = both.volume();
    for (const m of [moved, other, both]) m.delete();
    return volume;
  };
  let met = 0;
  let missed = 0;
  await fc.assert(
    fc.asyncProperty(points, points, number, number, async (p, q, up, side) => {
      const a = made(p, far);
      const b = made(q, [far[0] + 250, far[1] + side, far[2] + up]);
      if (!a || !b) return;
      const direction = normalize([1, side / 150, up / 90]);
      const at = sweptContact(a, b, direction);
      if (at === null) {
        missed++;
        for (let t = 0; t < 500; t += 9) expect(await shared(a, b, scale(direction, t))).toBeLessThan(1);
        return;
      }
      met++;
      if (at > 0.05) expect(await shared(a, b, scale(direction, at - 0.05))).toBeLessThan(0.01);
      const soon = await Promise.all([0.1, 0.4, 1, 3].map((d) => shared(a, b, scale(direction, at + d))));
      expect(Math.max(...soon)).toBeGreaterThan(0);
    }),
    { numRuns: 150 },
  );
  expect(met).toBeGreaterThan(30);
  expect(missed).toBeGreaterThan(0);
}, 60_000);
