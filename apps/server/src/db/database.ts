import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import * as schema from './schema.ts';

export type Database = PgliteDatabase<typeof schema>;

/** Opens (or creates) the database in a data folder and brings it to the newest schema. */
export async function openDatabase(
  dataDir: string,
  migrations: string,
): Promise<{ db: Database; close: () => Promise<void> }> {
  const folder = join(dataDir, 'db');
  mkdirSync(folder, { recursive: true });
  const client = await PGlite.create(folder);
  const db = drizzle(client, { schema });
  await migrate(db, { migrationsFolder: migrations });
  return { db, close: () => client.close() };
}
