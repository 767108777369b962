import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Validator, type Schema } from '@cfworker/json-schema';
import fc from 'fast-check';
import { compiledSchema } from '../../../../scripts/compiled-schema.ts';
import { placeEntity, saveView } from '../edit/index.ts';
import { twoRooms } from '../testing/rooms.ts';
import { writeMap } from './file.ts';
import { map as compiled } from './schema-check.generated.js';
import { MAP_SCHEMA } from './schema.ts';

test('the compiled check is that of the schema; `npm run generate` makes it anew', () => {
  const path = fileURLToPath(new URL('./schema-check.generated.js', import.meta.url));
  expect(compiledSchema()).toBe(readFileSync(path, 'utf8'));
});

describe('the compiled check', () => {
  const interpreting = new Validator(MAP_SCHEMA as unknown as Schema, '2020-12');
  const view = {
    name: 'v',
    centre: [0, 0, 0],
    zoom: 1,
    level: 0,
    cutHeight: 110,
    section: { at: [0, 0], looks: 90 },
  } as const;
  const text = writeMap(saveView(placeEntity(twoRooms(), 'spawn', [100, 100, 0], 90, 'start'), view, 'view'));

  /** Every place in a value, as the way to it. */
  const places = (value: unknown, way: (string | number)[] = []): (string | number)[][] =>
    typeof value === 'object' && value !== null
      ? [
          way,
          ...Object.entries(value).flatMap(([key, v]) => places(v, [...way, Array.isArray(value) ? Number(key) : key])),
        ]
      : [way];
  const all = places(JSON.parse(text));
  const odd = fc.constantFrom<unknown>(
    null,
    '',
    'x',
    'x'.repeat(300),
    -1,
    0,
    0.5,
    1e9,
    true,
    [],
    {},
    [1, 2],
    [1, 2, 3],
    [1, 2, 3, 4],
    '#12345g',
  );

  test('takes and refuses what an independent validator takes and refuses, wherever a file is changed', () => {
    fc.assert(
      fc.property(fc.nat(all.length - 1), odd, fc.boolean(), (n, value, remove) => {
        const data = JSON.parse(text) as Record<string, unknown>;
        const way = all[n]!;
        let at: Record<string, unknown> = data;
        for (const key of way.slice(0, -1)) at = at[key] as Record<string, unknown>;
        const last = way.at(-1);
        if (last === undefined) return;
        if (remove && !Array.isArray(at)) delete at[last];
        else at[last] = value;
        expect([way.join('/'), value, compiled(data)]).toEqual([
          way.join('/'),
          value,
          interpreting.validate(data).valid,
        ]);
      }),
      { numRuns: 600 },
    );
  });
});
