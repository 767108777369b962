import fc from 'fast-check';
import { inOutline, nearestInOutline } from './charts.ts';

type Outline = readonly (readonly [number, number])[];

/** A regular outline round a centre, counter-clockwise. */
const regular = (n: number, r: number, x: number, y: number, turn: number): Outline =>
  Array.from({ length: n }, (_, k) => {
    const a = turn + (2 * Math.PI * k) / n;
    return [x + r * Math.cos(a), y + r * Math.sin(a)] as const;
  });

test('the nearest point of an outline lies in it, a hair from its rim, as far away as the rim is', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      fc.integer({ min: 3, max: 12 }),
      number(2, 400),
      number(-3000, 3000),
      number(-3000, 3000),
      number(0, 6),
      number(-6, 6),
      number(1.01, 4),
      (n, r, x, y, turn, way, far) => {
        const outline = regular(n, r, x, y, turn);
        const p = [x + Math.cos(way) * r * far, y + Math.sin(way) * r * far] as const;
        const [a, b] = nearestInOutline(outline, ...p);
        expect(inOutline(outline, a, b)).toBe(true);
        // The distance to the rim by itself: the least to any of its edges, sampled closely.
        let rim = Infinity;
        outline.forEach(([ax, ay], i) => {
          const [bx, by] = outline[(i + 1) % n]!;
          for (let k = 0; k <= 200; k++)
            rim = Math.min(rim, Math.hypot(ax + ((bx - ax) * k) / 200 - p[0], ay + ((by - ay) * k) / 200 - p[1]));
        });
        const off = Math.hypot(a - p[0], b - p[1]);
        expect(off).toBeGreaterThan(rim - r / 50);
        expect(off).toBeLessThan(rim + 0.26);
        // Pulled in towards the middle, not along the rim or out of it.
        const inside = Math.hypot(a - x, b - y);
        expect(inside).toBeLessThan(r);
      },
    ),
    { numRuns: 300 },
  );
});

test('what lies in the outline stays where it is', () => {
  const outline = regular(5, 10, 100, 50, 0.3);
  expect(nearestInOutline(outline, 101, 52)).toEqual([101, 52]);
});
