import fc from 'fast-check';
import type { Point2 } from '../math/index.ts';
import { freeRegion, type Section } from './section.ts';

/** A bar along a line `height + slope · x`, above it, between two places. */
const bar = (from: number, to: number, height: number, slope: number, thick = 12): Point2[] => [
  [from, height + slope * from],
  [to, height + slope * to],
  [to, height + slope * to + thick],
  [from, height + slope * from + thick],
];

test('the free place under two bars that cross like rafters reaches up to where they cross, and no corner of theirs', () => {
  const slope = fc.double({ min: 0.3, max: 1.5, noNaN: true });
  const over = fc.double({ min: 3, max: 60, noNaN: true });
  fc.assert(
    fc.property(slope, slope, over, over, fc.double({ min: -90, max: 90, noNaN: true }), (up, down, a, b, at) => {
      const top = 120;
      const [west, east] = [at - top / up, at + top / down];
      fc.pre(west < -1 && east > 1);
      const section: Section = [
        [[west - 50, -40], [east + 50, -40], [east + 50, 0], [west - 50, 0]], // prettier-ignore
        bar(west - 30, at + a, top - up * at, up),
        bar(at - b, east + 30, top + down * at, -down),
      ];
      const region = freeRegion(section, 50)!;
      const [xs, ys] = [0, 1].map((k) => region.map((p) => p[k]!)) as [number[], number[]];
      // A triangle, to what counts as shut.
      expect(Math.max(...ys)).toBeCloseTo(top, 0);
      expect(Math.min(...ys)).toBeCloseTo(0, 0);
      expect(Math.abs(Math.min(...xs) - west)).toBeLessThan(1);
      expect(Math.abs(Math.max(...xs) - east)).toBeLessThan(1);
      const peak = region.reduce((best, p) => (p[1] > best[1] ? p : best));
      expect(Math.abs(peak[0] - at)).toBeLessThan(1);
    }),
  );
});
