import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Validator, type Schema } from '@cfworker/json-schema';
import fc from 'fast-check';
import { placeEntity } from '../edit/index.ts';
import { ENTITY_KINDS, entityKind } from '../entity/index.ts';
import { emptyMap, writeMap } from '../map/index.ts';
import { initialValues, paramFlaw, paramSchema, params, type ParamSpec } from '../params/index.ts';
import { entitiesDocument, publishedSchema } from './catalogue-doc.ts';
import { commandsDocument } from './commands-doc.ts';
import { symbolDrawing, symbolSvg } from './symbol-svg.ts';

const read = (path: string) =>
  readFileSync(fileURLToPath(new URL(`../../../../docs/${path}`, import.meta.url)), 'utf8');
const validates = (schema: unknown, value: unknown) => new Validator(schema as Schema, '2020-12').validate(value).valid;

test('the documents are those of the catalogue; `npm run generate` makes them anew', () => {
  expect(read('entities.md')).toBe(entitiesDocument());
  for (const { kind } of ENTITY_KINDS) expect([kind, read(`symbols/${kind}.svg`)]).toEqual([kind, symbolSvg(kind)]);
  expect(read('commands.md')).toBe(commandsDocument());
  expect(JSON.parse(read('formats/map.schema.json'))).toEqual(JSON.parse(JSON.stringify(publishedSchema())));
});

test('the published schema takes things of every kind, and refuses values out of their range', () => {
  const schema = publishedSchema();
  for (const { kind, params: specs } of ENTITY_KINDS) {
    const map = JSON.parse(writeMap(placeEntity(emptyMap('t'), kind, [0, 0, 0], 0, 'a')));
    expect([kind, validates(schema, map)]).toEqual([kind, true]);
    for (const [key, spec] of Object.entries(specs)) {
      const wrong =
        spec.type === 'number' ? spec.max + 1 : spec.type === 'reference' || spec.type === 'text' ? 5 : 'nonsense';
      map.entities[0].params = { ...initialValues(specs), [key]: wrong };
      expect([kind, key, validates(schema, map)]).toEqual([kind, key, false]);
    }
  }
  // Kinds of newer versions are free.
  const newer = JSON.parse(writeMap(placeEntity(emptyMap('t'), ENTITY_KINDS[0]!.kind, [0, 0, 0], 0, 'a')));
  newer.entities[0] = { ...newer.entities[0], kind: 'zeppelin', params: { candela: 'many' } };
  expect([validates(schema, newer), entityKind('zeppelin')]).toEqual([true, undefined]);
});

test('schema and sentence agree on any value of any parameter', () => {
  const about = { label: 'Thing', help: 'What it does' };
  const specs: ParamSpec[] = [
    params.length(8, { ...about, min: 1, max: 100 }),
    params.integer(3, { ...about, min: -2, max: 9 }),
    params.yesNo(true, about),
    params.choice(['in', 'out'], 'in', about),
    params.text('', { ...about, longest: 4 }),
    params.text('', { ...about, longest: 4, lines: true }),
    params.color('#ffffff', about),
    params.way([0, 0, 1], about),
    params.reference('thing', about),
    params.list(params.part(0, about), { ...about, most: 2 }),
  ];
  const value = fc.oneof(
    fc.double({ min: -200, max: 200, noNaN: true }),
    fc.integer({ min: -5, max: 12 }),
    fc.boolean(),
    fc.constantFrom('in', 'out', 'a', 'a\nb', 'abcde', '', '#00ff00', '#GG0000', null),
    fc.array(fc.double({ min: -1, max: 2, noNaN: true }), { maxLength: 4 }),
  );
  fc.assert(
    fc.property(
      fc.constantFrom(...specs),
      value,
      (spec, v) => validates(paramSchema(spec), v) === (paramFlaw(spec, v) === null),
    ),
    { numRuns: 2000 },
  );
});

test('every kind has a symbol of its own that lies within its picture', () => {
  const drawn = ENTITY_KINDS.map(({ kind }) => symbolSvg(kind));
  expect(new Set(drawn).size).toBe(ENTITY_KINDS.length);
  for (const { kind } of ENTITY_KINDS) {
    const { viewBox, strokes } = symbolDrawing(kind)!;
    const [x, y, w, h] = viewBox;
    const inside = (px: number, py: number, r: number) =>
      px - r >= x && px + r <= x + w && -py - r >= y && -py + r <= y + h;
    expect(strokes.length).toBeGreaterThan(0);
    for (const stroke of strokes)
      if ('circle' in stroke) expect(inside(...(stroke.at ?? ([0, 0] as const)), stroke.circle)).toBe(true);
      else if ('line' in stroke) expect(stroke.line.every((p) => inside(...p, 0))).toBe(true);
  }
  expect([symbolDrawing('zeppelin'), symbolSvg('zeppelin')]).toEqual([null, '']);
});
