import fc from 'fast-check';
import { rayLight } from './source-at.ts';

test('rays bring the light of all targets that nothing stands before, wherever those lie', () => {
  // Zeros are likely: faces lie in planes of the world, and what is as far away as the sky has a last number of 0.
  const number = fc.oneof(fc.constant(0), fc.double({ min: -500, max: 500, noNaN: true }));
  const target = fc.tuple(number, number, number, fc.constantFrom(0, 1), fc.constantFrom(0, 1, 2.5, 8));
  fc.assert(
    fc.property(fc.array(target, { minLength: 1, maxLength: 12 }), fc.tuple(number, number, number), (list, p) => {
      let sum = 0;
      for (const [x, y, z, w, light] of list) {
        const way = [x, y, z].map((c, k) => c - w * p[k]!);
        // What looks west is walled off.
        if (way[0]! >= 0) sum += light;
      }
      const targets = Float64Array.from(list.flat());
      expect(rayLight(targets, list.length, p, [], (dx) => dx < 0)).toBeCloseTo(sum, 9);
      // Of the first so many only.
      expect(rayLight(targets, 0, p, [], () => false)).toBe(0);
    }),
  );
});
