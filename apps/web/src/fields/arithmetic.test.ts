import fc from 'fast-check';
import { readLength, showLength, showSize } from './arithmetic.ts';

describe('typed lengths', () => {
  test.each<[string, number]>([
    ['64', 64],
    ['  64 ', 64],
    ['1.5m', 150],
    ['1,5m', 150],
    ['40cm', 40],
    ['2*128+64', 320],
    ['(16+16)*4', 128],
    ['-32', -32],
    ['100/8', 12.5],
    ['2m - 16', 184],
    ['45°', 45],
    ['.5', 0.5],
    ['--4', 4],
    ['1m/2', 50],
  ])('%s is %d', (text, value) => expect(readLength(text)).toBe(value));

  test.each([[''], ['abc'], ['1..2'], ['4 4'], ['(3'], ['3)'], ['2*'], ['1/0'], ['12px'], ['m'], ['5%']])(
    '%j is no length',
    (text) => expect(readLength(text)).toBeNull(),
  );

  test('sums come out as the language itself works them out', () => {
    const number = fc.integer({ min: 1, max: 99 }).map(String);
    const operator = fc.constantFrom('+', '-', '*', '/');
    const sum = fc
      .array(fc.tuple(operator, number), { minLength: 1, maxLength: 6 })
      .chain((rest) => number.map((first) => first + rest.map((p) => p.join('')).join('')));
    fc.assert(
      fc.property(sum, (text) => {
        const expected = new Function(`return ${text}`)() as number;
        expect(readLength(text)).toBeCloseTo(expected, 9);
      }),
    );
  });

  test('m is the map’s module where it has one, and sizes are shown in modules where they are whole quarters of one', () => {
    expect([readLength('4m', 128), readLength('1.5m - 16', 128), readLength('40cm', 128)]).toEqual([512, 176, 40]);
    expect([showSize(512, 128), showSize(32, 128), showSize(100, 128), showSize(0, 128), showSize(512)]).toEqual([
      '512 · 4m',
      '32 · 0.25m',
      '100',
      '0',
      '512',
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 512 }), fc.integer({ min: 1, max: 99 }), (module, n) => {
        expect(readLength(`${n}m`, module)).toBe(n * module);
      }),
    );
  });

  test('are shown without needless digits', () => {
    expect([showLength(12), showLength(12.345), showLength(0.1 + 0.2), showLength(-0.001)]).toEqual([
      '12',
      '12.35',
      '0.3',
      '0',
    ]);
  });
});
