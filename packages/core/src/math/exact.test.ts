import fc from 'fast-check';
import { arcTangent2, cosSinOf, hypot } from './exact.ts';

/** A unit in the last place of numbers about as large as one. */
const ULP = 2 ** -52;
const angle = fc.double({ min: -2000, max: 2000, noNaN: true });
const coordinate = fc.double({ min: -1e6, max: 1e6, noNaN: true });

test('sine and cosine are those of the engine, to the last places', () => {
  fc.assert(
    fc.property(angle, (a) => {
      const [c, s] = cosSinOf(a);
      expect(Math.abs(c - Math.cos(a))).toBeLessThanOrEqual(2 * ULP);
      expect(Math.abs(s - Math.sin(a))).toBeLessThanOrEqual(2 * ULP);
      expect(Math.abs(c * c + s * s - 1)).toBeLessThanOrEqual(3 * ULP);
    }),
    { numRuns: 5000 },
  );
  // Values that are known by root extraction alone.
  for (const [a, c, s] of [
    [0, 1, 0],
    [Math.PI / 6, Math.sqrt(3) / 2, 0.5],
    [Math.PI / 4, Math.SQRT1_2, Math.SQRT1_2],
    [Math.PI / 3, 0.5, Math.sqrt(3) / 2],
  ] as const) {
    expect(Math.abs(cosSinOf(a)[0] - c)).toBeLessThanOrEqual(ULP);
    expect(Math.abs(cosSinOf(a)[1] - s)).toBeLessThanOrEqual(ULP);
  }
});

test('the angle of a point is that of the engine, in all directions and on the axes', () => {
  fc.assert(
    fc.property(coordinate, coordinate, (y, x) => {
      expect(Math.abs(arcTangent2(y, x) - Math.atan2(y === 0 ? 0 : y, x === 0 ? 0 : x))).toBeLessThanOrEqual(4 * ULP);
    }),
    { numRuns: 5000 },
  );
  for (const [y, x] of [
    [0, 1],
    [1, 0],
    [0, -1],
    [-1, 0],
    [1, 1],
    [-3, -3],
    [1e-30, 1e30],
    [1e300, 1e-10],
  ] as const)
    expect(Math.abs(arcTangent2(y, x) - Math.atan2(y, x))).toBeLessThanOrEqual(2 * ULP);
  expect(arcTangent2(0, 0)).toBe(0);
});

test('lengths of right-angled triples are whole', () => {
  expect([hypot(3, 4), hypot(-5, 12), hypot(2, -3, 6), hypot(0, 0)]).toEqual([5, 13, 7, 0]);
});
