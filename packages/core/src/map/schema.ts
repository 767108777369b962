import { COLLECTIONS, specOf } from './collections.ts';
import { MAP_VERSION } from './migrate.ts';
import type { Collection } from './types.ts';

export const MAP_FORMAT = 'yesca-map';

const color = { type: 'string', pattern: '^#[0-9a-fA-F]{6}$' };

const lists = Object.fromEntries(COLLECTIONS.map((c) => [c, { type: 'array', items: specOf(c).schema }])) as Readonly<
  Record<Collection, { readonly type: 'array'; readonly items: ReturnType<typeof specOf>['schema'] }>
>;

/** JSON Schema (draft 2020-12) of a map file. Unknown fields are allowed everywhere and kept. */
export const MAP_SCHEMA = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: `Yesca map, version ${MAP_VERSION}`,
  type: 'object',
  required: ['format', 'version', 'name', 'settings', ...COLLECTIONS.filter((c) => !specOf(c).optional)],
  properties: {
    format: { const: MAP_FORMAT },
    version: { const: MAP_VERSION },
    name: { type: 'string', minLength: 1, maxLength: 200 },
    settings: {
      type: 'object',
      required: ['grid', 'ambientColor', 'ambientLux', 'skyColor'],
      properties: {
        grid: { type: 'number', exclusiveMinimum: 0, maximum: 512 },
        ambientColor: color,
        ambientLux: { type: 'number', minimum: 0, maximum: 100000 },
        skyColor: color,
        bounced: { type: 'number', minimum: 0, maximum: 4 },
        skyHorizon: color,
        skyClouds: { type: 'number', minimum: 0, maximum: 1 },
        fogColor: color,
        fogReach: { type: 'number', minimum: 0, maximum: 1_000_000 },
        skyNits: { type: 'number', minimum: 0, maximum: 100_000 },
        module: { type: 'number', exclusiveMinimum: 0, maximum: 4096 },
        texelsPerCm: { type: 'number', exclusiveMinimum: 0, maximum: 64 },
      },
    },
    ...lists,
  },
};
