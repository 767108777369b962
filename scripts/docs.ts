/** `npm run docs`: writes what of `docs/` is made from the program: the kinds of things, and the schema of map files. */
import { writeFileSync } from 'node:fs';
import { format } from 'prettier';
import { entitiesDocument, publishedSchema } from '../packages/core/src/formats/catalogue-doc.ts';

const at = (path: string) => new URL(`../docs/${path}`, import.meta.url);
writeFileSync(at('entities.md'), entitiesDocument());
writeFileSync(at('formats/map.schema.json'), await format(JSON.stringify(publishedSchema()), { parser: 'json', printWidth: 120 })); // prettier-ignore
