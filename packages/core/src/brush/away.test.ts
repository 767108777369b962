import fc from 'fast-check';
import { applyAffine, hypot, rotationAbout, type Vec3 } from '../math/index.ts';
import { block } from '../testing/playing.ts';
import { awayFrom } from './away.ts';
import { transformShape } from './solid.ts';

const far = fc.double({ min: -300, max: 300, noNaN: true });

test('a point is as far from a turned box as from the box that is not turned', () => {
  fc.assert(
    fc.property(
      far,
      far,
      far,
      fc.double({ min: 1, max: 359, noNaN: true }),
      far,
      far,
      far,
      (x, y, z, turn, a, b, c) => {
        fc.pre(hypot(a, b, c) > 1);
        const [min, max]: [Vec3, Vec3] = [
          [1000, -40, 8],
          [1100, 60, 24],
        ];
        const p: Vec3 = [1050 + x, 10 + y, 16 + z];
        const away = hypot(...(p.map((v, k) => Math.max(0, min[k]! - v, v - max[k]!)) as [number, number, number]));
        const axis: Vec3 = [a / hypot(a, b, c), b / hypot(a, b, c), c / hypot(a, b, c)];
        const m = rotationAbout(axis, turn, [0, 0, 0]);
        expect(awayFrom(transformShape(block('b', min, max), m), applyAffine(m, p))).toBeCloseTo(away, 4);
      },
    ),
  );
});
