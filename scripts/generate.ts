/**
 * `npm run generate`: writes what is made from the program. Docs of the kinds of things, the published schema, and the check of
 * map files: the schema compiled into plain code ahead of time, since pages may not make code from text. The bytes of the ray kernel,
 * so that core needs neither a file nor a request to have them.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { entitiesDocument, publishedSchema } from '../packages/core/src/formats/catalogue-doc.ts';
import { ENTITY_KINDS } from '../packages/core/src/entity/index.ts';
import { symbolSvg } from '../packages/core/src/formats/symbol-svg.ts';
import { commandsDocument } from '../packages/core/src/formats/commands-doc.ts';
import { compiledSchema } from './compiled-schema.ts';
import { kernelBytes } from './kernel-bytes.ts';

const at = (path: string) => new URL(`../${path}`, import.meta.url);
writeFileSync(at('docs/entities.md'), entitiesDocument());
mkdirSync(at('docs/symbols'), { recursive: true });
for (const { kind } of ENTITY_KINDS) writeFileSync(at(`docs/symbols/${kind}.svg`), symbolSvg(kind));
writeFileSync(at('docs/commands.md'), commandsDocument());
writeFileSync(
  at('docs/formats/map.schema.json'),
  await format(JSON.stringify(publishedSchema()), { parser: 'json', printWidth: 120 }),
);
writeFileSync(at('packages/core/src/map/schema-check.generated.js'), compiledSchema());
writeFileSync(at('packages/core/src/compile/tracing/kernel-bytes.generated.js'), await kernelBytes());
