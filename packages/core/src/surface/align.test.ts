import fc from 'fast-check';
import { edgeChange, fitChange, flipChange, scattered, texelBox, type TexelBox } from './align.ts';
import { type TexelChange } from './frame.ts';
import type { Region } from './material.ts';

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const box = fc
  .record({ x: number(-500, 500), y: number(-500, 500), w: number(1, 900), h: number(1, 900) })
  .map(({ x, y, w, h }): TexelBox => ({ min: [x, y], max: [x + w, y + h] }));
/** Regions lie anywhere on their sheet, lower down as well as at its upper left. */
const region = fc.record({
  name: fc.constant('r'),
  x: fc.nat(300),
  y: fc.nat(700),
  width: fc.integer({ min: 8, max: 512 }),
  height: fc.integer({ min: 8, max: 512 }),
}) as fc.Arbitrary<Region>;

/** Where a change takes a box. */
const taken = ({ ku, kv, du, dv }: TexelChange, { min, max }: TexelBox) => {
  const [x0, x1] = [min[0] * ku + du, max[0] * ku + du];
  const [y0, y1] = [min[1] * kv + dv, max[1] * kv + dv];
  return { left: Math.min(x0, x1), right: Math.max(x0, x1), top: Math.min(y0, y1), bottom: Math.max(y0, y1), x0, y0 };
};
const near = (a: number, b: number) => Math.abs(a - b) < 1e-6 * (1 + Math.abs(b));

test('pieces that are scattered start anywhere in a picture, whatever its sides, and look all four ways', () => {
  const many = Array.from({ length: 4000 }, (_, k) => scattered(7, k, [512, 64]));
  for (const [of, side] of [
    [(s: (typeof many)[0]) => s.du, 512],
    [(s: (typeof many)[0]) => s.dv, 64],
    [(s: (typeof many)[0]) => s.turn / 90, 4],
  ] as const) {
    const places = many.map(of);
    expect(places.every((p) => Number.isInteger(p) && p >= 0 && p < side)).toBe(true);
    // Evenly: each quarter of it has a quarter of them, within five times what chance allows.
    for (let q = 0; q < 4; q++)
      expect(Math.abs(places.filter((p) => Math.floor((p / side) * 4) === q).length - 1000)).toBeLessThan(140);
  }
});

describe('alignments', () => {
  test('fitting lays so many repeats of the region over what is covered, wherever the region lies', () => {
    fc.assert(
      fc.property(box, region, fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }), (b, r, across, down) => {
        const t = taken(fitChange(b, r, [across, down]), b);
        return (
          near(t.left, r.x) &&
          near(t.top, r.y) &&
          near(t.right, r.x + across * r.width) &&
          near(t.bottom, r.y + down * r.height)
        );
      }),
    );
  });

  test('an edge is put on the region’s edge, the middle in its middle, and nothing changes across it or in size', () => {
    fc.assert(
      fc.property(box, region, (b, r) => {
        const to = (side: Parameters<typeof edgeChange>[2]) => taken(edgeChange(b, r, side), b);
        const still = {
          x: (s: ReturnType<typeof to>) => near(s.left, b.min[0]),
          y: (s: ReturnType<typeof to>) => near(s.top, b.min[1]),
        };
        const [left, right, top, bottom, centre] = (['left', 'right', 'top', 'bottom', 'centre'] as const).map(to) as [
          ReturnType<typeof to>,
          ReturnType<typeof to>,
          ReturnType<typeof to>,
          ReturnType<typeof to>,
          ReturnType<typeof to>,
        ];
        expect(near(left.left, r.x) && still.y(left)).toBe(true);
        expect(near(right.right, r.x + r.width) && still.y(right)).toBe(true);
        expect(near(top.top, r.y) && still.x(top)).toBe(true);
        expect(near(bottom.bottom, r.y + r.height) && still.x(bottom)).toBe(true);
        expect(near((centre.left + centre.right) / 2, r.x + r.width / 2)).toBe(true);
        expect(near((centre.top + centre.bottom) / 2, r.y + r.height / 2)).toBe(true);
        for (const s of [left, right, top, bottom, centre]) {
          expect(near(s.right - s.left, b.max[0] - b.min[0])).toBe(true);
          expect(near(s.bottom - s.top, b.max[1] - b.min[1])).toBe(true);
        }
      }),
    );
  });

  test('turning over covers the same texels the other way round', () => {
    fc.assert(
      fc.property(box, (b) => {
        const [across, down] = [taken(flipChange(b, 'across'), b), taken(flipChange(b, 'down'), b)];
        for (const t of [across, down]) {
          expect(
            [t.left, t.right, t.top, t.bottom].every((c, i) => near(c, [b.min[0], b.max[0], b.min[1], b.max[1]][i]!)),
          ).toBe(true);
        }
        expect(near(across.x0, b.max[0]) && near(across.y0, b.min[1])).toBe(true);
        expect(near(down.x0, b.min[0]) && near(down.y0, b.max[1])).toBe(true);
      }),
    );
  });

  test('what is covered is the least and the greatest texel of all points', () => {
    const frame = { u: [2, 0, 0, 10], v: [0, 0, -3, 5] } as const;
    expect(
      texelBox([
        {
          frame,
          points: [
            [0, 0, 0],
            [4, 9, 2],
          ],
        },
        { frame, points: [[-1, 0, 1]] },
      ]),
    ).toEqual({ min: [8, -1], max: [18, 5] });
  });
});
