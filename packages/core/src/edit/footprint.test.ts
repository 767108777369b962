import fc from 'fast-check';
import type { Point2 } from '../map/index.ts';
import { convexParts, outlineArea } from '../math/index.ts';
import { tidyFootprint } from './footprint.ts';

describe('footprints', () => {
  test('are turned counter-clockwise and lose corners on straight lines', () => {
    const tidy = tidyFootprint([
      [0, 0],
      [0, 100],
      [100, 100],
      [100, 50],
      [100, 0],
    ]);
    expect(outlineArea(tidy)).toBe(10000);
    expect(tidy).toHaveLength(4);
  });
  test('may be as small as ten centimetres a side, and no smaller', () => {
    const square = (side: number): Point2[] => [
      [0, 0],
      [side, 0],
      [side, 10],
      [0, 10],
    ];
    expect(tidyFootprint(square(10))).toHaveLength(4);
    expect(() => tidyFootprint(square(9.9))).toThrow('some floor');
  });
  test('that cross themselves or enclose nothing are refused', () => {
    for (const bad of [
      [
        [0, 0],
        [100, 100],
        [100, 0],
        [0, 100],
      ],
      [
        [0, 0],
        [100, 0],
      ],
      [
        [0, 0],
        [100, 0],
        [50, 0.1],
      ],
      [
        [0, 0],
        [NaN, 0],
        [0, 100],
      ],
    ] as Point2[][])
      expect(() => tidyFootprint(bad)).toThrow(expect.objectContaining({ code: 'room.footprint' }));
  });
  test('of any star shape are cut into convex parts of the same area', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 40, max: 400 }), { minLength: 4, maxLength: 12 }), (radii) => {
        const outline = radii.map((r, i): Point2 => [
          r * Math.cos((i * 2 * Math.PI) / radii.length),
          r * Math.sin((i * 2 * Math.PI) / radii.length),
        ]);
        const parts = convexParts(tidyFootprint(outline));
        expect(parts.reduce((a, p) => a + outlineArea(p), 0)).toBeCloseTo(outlineArea(outline), 4);
        for (const p of parts)
          p.forEach((b, i) => {
            const a = p[(i + p.length - 1) % p.length]!;
            const c = p[(i + 1) % p.length]!;
            expect((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])).toBeGreaterThanOrEqual(-1e-6);
          });
      }),
      { numRuns: 60 },
    );
  });
});
