import { Ajv2020 } from 'ajv/dist/2020.js';
import standalone from 'ajv/dist/standalone/index.js';
import { COLLECTIONS, MAP_SCHEMA } from '../packages/core/src/map/index.ts';

/** A module that checks map files, whole and by items: `map` and one function a collection, with Ajv's `errors` on each after a `false`. */
export function compiledSchema(): string {
  const ajv = new Ajv2020({
    strict: false,
    logger: false,
    // Lengths are counted in the units of JavaScript's strings: no module is needed to count otherwise.
    unicode: false,
    inlineRefs: false,
    code: { source: true, esm: true },
  });
  const properties: Record<string, unknown> = { ...MAP_SCHEMA.properties };
  for (const name of COLLECTIONS) {
    const { items, ...list } = MAP_SCHEMA.properties[name];
    ajv.addSchema({ ...items, $id: name });
    properties[name] = { ...list, items: { $ref: name } };
  }
  ajv.addSchema({ ...MAP_SCHEMA, properties, $id: 'map' });
  const names = Object.fromEntries(['map', ...COLLECTIONS].map((name) => [name, name]));
  const make = (standalone as unknown as { default?: typeof standalone }).default ?? standalone;
  const code = (make as unknown as (a: typeof ajv, names: object) => string)(ajv, names);
  return `// Made by \`npm run generate\` from schema.ts. A test says when it is stale.\n/* eslint-disable */\n${code}`;
}
