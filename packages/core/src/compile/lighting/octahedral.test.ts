import fc from 'fast-check';
import { normalize, type Vec3 } from '../../math/index.ts';
import { octahedralDirection, octahedralMeasure, octahedralPlace } from './octahedral.ts';

const part = fc.double({ min: -1, max: 1, noNaN: true });

test('a direction comes back from its place on the square, and a place from its direction', () => {
  fc.assert(
    fc.property(part, part, part, (x, y, z) => {
      fc.pre(Math.hypot(x, y, z) > 1e-3);
      const way = normalize([x, y, z]);
      const [u, v] = octahedralPlace([x, y, z]);
      expect(u >= 0 && u <= 1 && v >= 0 && v <= 1).toBe(true);
      octahedralDirection(u, v).forEach((c, k) => expect(c).toBeCloseTo(way[k]!, 9));
    }),
  );
  const up: Vec3 = [0, 0, 1];
  expect(octahedralPlace(up)).toEqual([0.5, 0.5]);
});

test('pieces of the square measure all directions once: 4π together, 2π above the horizon', () => {
  const n = 400;
  let [all, above] = [0, 0];
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [u, v] = [(i + 0.5) / n, (j + 0.5) / n];
      const piece = octahedralMeasure(u, v) / n / n;
      all += piece;
      if (octahedralDirection(u, v)[2] > 0) above += piece;
    }
  expect(all).toBeCloseTo(4 * Math.PI, 3);
  expect(above).toBeCloseTo(2 * Math.PI, 1);
});
