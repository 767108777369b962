import { fileURLToPath } from 'node:url';
import { EMPTY_DATABASE } from '../db/database.ts';
import { lentBuild } from '../workers/program.ts';

const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** Where a server of a test finds what ships. */
export const PLACES = {
  stockDir: at('../../../../packages/stock/assets'),
  migrations: at('../../drizzle'),
  emptyDatabase: lentBuild(EMPTY_DATABASE),
} as const;
