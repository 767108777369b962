import fc from 'fast-check';
import { normalize, type Plane, type Vec3 } from '../../math/index.ts';
import { CellIndex } from './cells.ts';
import { PlaneTable } from './planes.ts';

const part = fc.double({ min: -1, max: 1, noNaN: true });
const normal = fc.oneof(
  fc.constantFrom<Vec3>(
    [1, 0, 0],
    [0, -1, 0],
    [0, 0, 1],
    [Math.SQRT1_2, Math.SQRT1_2, 0],
    [0.05, 0.05, Math.sqrt(0.995)],
  ),
  fc
    .tuple(part, part, part)
    .filter((n) => Math.hypot(...n) > 0.1)
    .map((n) => normalize(n)),
);
const distance = fc.oneof(fc.integer({ min: -500, max: 500 }), fc.double({ min: -90_000, max: 90_000, noNaN: true }));
const plane: fc.Arbitrary<Plane> = fc.record({ normal, distance });

test('a plane is found again though it is off by as much as rounding does, others are not', () => {
  fc.assert(
    fc.property(
      fc.array(plane, { maxLength: 40 }),
      fc.array(part, { minLength: 4, maxLength: 4 }),
      (planes, [a, b, c, d]) => {
        const table = new PlaneTable();
        const numbers = planes.map((p) => table.add(p));
        planes.forEach((p, i) => {
          expect(table.add(p)).toBe(numbers[i]);
          const off = 1e-5;
          const near = {
            normal: [p.normal[0] + a! * off, p.normal[1] + b! * off, p.normal[2] + c! * off] as const,
            distance: p.distance + d! * off,
          };
          const found = table.find(near);
          // It may be found as another that is as near.
          expect(found).toBeGreaterThanOrEqual(0);
          expect(Math.abs(planes[numbers.indexOf(found)]!.distance - p.distance)).toBeLessThan(0.02);
          const other = table.find({ normal: p.normal, distance: p.distance + 0.5 });
          if (other >= 0)
            expect(Math.abs(planes[numbers.indexOf(other)]!.distance - p.distance - 0.5)).toBeLessThan(0.02);
          const turned = table.find({ normal: p.normal.map((x) => -x) as unknown as Vec3, distance: -p.distance });
          if (turned >= 0) expect(planes[numbers.indexOf(turned)]!.normal[0]).toBeCloseTo(-p.normal[0], 2);
        });
      },
    ),
    { numRuns: 60 },
  );
});

test('a cell gives all that lies in it, in order, and no other, close together or strewn', () => {
  const near = fc.integer({ min: -6, max: 6 });
  const far = fc.integer({ min: -2_000_000, max: 2_000_000 });
  fc.assert(
    fc.property(
      fc.oneof(fc.array(fc.tuple(near, near), { maxLength: 80 }), fc.array(fc.tuple(far, near), { maxLength: 40 })),
      fc.tuple(near, near),
      (cells, asked) => {
        const index = new CellIndex(cells.flat());
        for (const [column, row] of [...cells, asked]) {
          const found: number[] = [];
          for (let i = index.first(column, row); i >= 0; i = index.after(i)) found.push(i);
          expect(found).toEqual(cells.flatMap(([c, r], i) => (c === column && r === row ? [i] : [])));
        }
      },
    ),
    { numRuns: 100 },
  );
});
