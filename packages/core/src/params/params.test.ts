import fc from 'fast-check';
import {
  initialValues,
  nearestValue,
  paramFlaw,
  params,
  readValues,
  shownParams,
  type ParamSpec,
  type ValuesOf,
} from './index.ts';

const about = { label: 'Thing', help: 'What it does' };
const specs = {
  size: params.length(64, { ...about, label: 'Size', min: 1, max: 512 }),
  turn: params.angle(0, about),
  share: params.part(0.5, about),
  count: params.integer(4, { ...about, label: 'Count', min: 1, max: 9 }),
  force: params.quantity('N', 10, { ...about, min: -5, max: 50 }),
  on: params.yesNo(true, about),
  way: params.choice(['in', 'out'], 'in', { ...about, shownWhen: (v) => v.on === true }),
  words: params.text('hello', { ...about, longest: 10 }),
  note: params.text('', { ...about, lines: true }),
  tint: params.color('#ffffff', about),
  aim: params.way([0, 0, -1], about),
  spot: params.place([0, 0, 0], about),
  target: params.reference('thing', about),
  names: params.list(params.text('', { ...about, longest: 3 }), { ...about, most: 2 }),
  track: params.keyframes(about),
};

describe('parameters', () => {
  test('have the types of their values', () => {
    const values: ValuesOf<typeof specs> = initialValues(specs);
    // Each line compiles only where the type is inferred.
    const size: number = values.size;
    const way: 'in' | 'out' = values.way;
    const aim: readonly [number, number, number] = values.aim;
    const on: boolean = values.on;
    expect([size, way, aim, on]).toEqual([64, 'in', [0, 0, -1], true]);
  });

  test('their defaults fit', () => {
    for (const [key, spec] of Object.entries(specs)) expect([key, paramFlaw(spec, spec.initial)]).toEqual([key, null]);
  });

  const flaws: [keyof typeof specs, unknown, RegExp][] = [
    ['size', '64', /^Size must be a number\.$/],
    ['size', NaN, /a number/],
    ['size', 0, /^Size must be at least 1 cm\.$/],
    ['size', 513, /^Size must be at most 512 cm\.$/],
    ['turn', 361, /at most 360°\.$/],
    ['share', 1.01, /at most 1\.$/],
    ['count', 2.5, /^Count must be a whole number\.$/],
    ['force', -6, /at least -5 N/],
    ['on', 1, /yes or no/],
    ['way', 'up', /one of in, out/],
    ['words', 'much too long', /at most 10 characters/],
    ['words', 'a\nb', /single line/],
    ['words', 5, /a text/],
    ['tint', 'red', /#ffcc88/],
    ['tint', '#12345', /#ffcc88/],
    ['aim', [1, 2], /three numbers/],
    ['aim', [1, 2, Infinity], /three numbers/],
    ['spot', [0, 0, 200_000], /from -100000 to 100000 cm/],
    ['target', 7, /name a thing/],
    ['names', ['abc', 'abcd'], /at most 3 characters/],
    ['names', ['a', 'b', 'c'], /at most 2 entries/],
    ['names', 'a', /a list/],
    ['track', [{ at: 0 }], /a time, a move and a turn/],
    [
      'track',
      [
        { at: 1, move: [0, 0, 0], turn: [0, 0, 0] },
        { at: 1, move: [0, 0, 0], turn: [0, 0, 0] },
      ],
      /in time/,
    ],
  ];
  test.each(flaws)('%s = %p is refused in a sentence', (key, value, sentence) => {
    expect(paramFlaw(specs[key], value)).toMatch(sentence);
    // Where it comes from a file it has its default then.
    expect(readValues({ x: specs[key] as ParamSpec }, { x: value })).toEqual({ x: specs[key].initial });
  });

  test('several lines are kept where they may be', () => {
    expect(paramFlaw(specs.note, 'a\nb')).toBeNull();
    expect(readValues(specs, { note: 'a\nb', size: 100 })).toMatchObject({ note: 'a\nb', size: 100, count: 4 });
  });

  test('that do not matter beside others are not shown', () => {
    const shown = (on: boolean) => shownParams(specs, { ...initialValues(specs), on }).map(([key]) => key);
    expect([shown(true).includes('way'), shown(false).includes('way')]).toEqual([true, false]);
  });

  test('the nearest value of any number fits', () => {
    const number = fc.double({ noNaN: true, noDefaultInfinity: true });
    fc.assert(
      fc.property(
        number,
        fc.constantFrom(specs.size, specs.count, specs.force),
        (x, spec) => paramFlaw(spec, nearestValue(spec, x)) === null,
      ),
    );
  });
});
