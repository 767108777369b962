import fc from 'fast-check';
import type { Luxels } from './luxels.ts';
import type { Openings } from './openings.ts';
import { repair, repairsOf } from './repair.ts';

const SIZE = 5;
const MIDDLE = 12;
/** Luxels of a square of five by five, of which some have light of their own and some are seen at all. */
const square = (lit: readonly number[], seen: readonly number[]): Luxels => {
  const of = (list: readonly number[]) => Array.from({ length: SIZE * SIZE }, (_, k) => Number(list.includes(k)));
  const corners = [[0, 0], [80, 0], [80, 80], [0, 80]]; // prettier-ignore
  return {
    chart: { s0: 0, t0: 0, size: 16, outline: corners },
    width: SIZE,
    height: SIZE,
    mask: Uint16Array.from(of(lit)),
    only: new Float64Array(SIZE * SIZE * 2).fill(NaN),
    used: Uint8Array.from(of([...lit, ...seen])),
  } as unknown as Luxels;
};
const openings = (clear: () => boolean) => ({ clear }) as unknown as Openings;

test('a luxel in a solid takes the light of its one lit neighbour, on whichever side that lies', () => {
  for (const [x, y] of [-1, 0, 1].flatMap((x) => [-1, 0, 1].map((y) => [x, y] as const))) {
    if (x === 0 && y === 0) continue;
    const lit = MIDDLE + y * SIZE + x;
    // With a clear way, and, where nothing has one, without.
    for (const clear of [true, false])
      expect(
        repairsOf(
          square([lit], [MIDDLE]),
          openings(() => clear),
        ),
      ).toEqual([{ luxel: MIDDLE, from: [lit] }]);
  }
});

test('whatever is lit, all luxels that are seen get the mean of neighbours that have light by then', () => {
  const some = fc.uniqueArray(fc.integer({ min: 0, max: SIZE * SIZE - 1 }), { minLength: 1 });
  fc.assert(
    fc.property(some, (lit) => {
      const all = Array.from({ length: SIZE * SIZE }, (_, k) => k);
      const repairs = repairsOf(
        square(lit, all),
        openings(() => true),
      );
      const done = new Set(lit);
      for (const { luxel, from } of repairs) {
        for (const k of from) {
          expect(done.has(k)).toBe(true);
          const [dx, dy] = [(k % SIZE) - (luxel % SIZE), Math.floor(k / SIZE) - Math.floor(luxel / SIZE)];
          expect(Math.max(Math.abs(dx), Math.abs(dy))).toBe(1);
        }
        expect(done.has(luxel)).toBe(false);
        done.add(luxel);
      }
      expect(done.size).toBe(SIZE * SIZE);
      const light = Float32Array.from({ length: SIZE * SIZE * 3 }, (_, i) =>
        lit.includes(Math.floor(i / 3)) ? 7 : NaN,
      );
      repair(light, repairs);
      expect(new Set(light)).toEqual(new Set([7]));
    }),
  );
});
