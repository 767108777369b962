/** Part of the server's build: packs an empty database, so that first starts need not make one. */
import { writeFileSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';

const client = await PGlite.create();
const packed = await client.dumpDataDir('gzip');
writeFileSync(process.argv[2]!, Buffer.from(await packed.arrayBuffer()));
await client.close();
