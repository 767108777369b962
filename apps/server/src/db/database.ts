import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { Refusal } from '../errors.ts';
import { syncTree } from '../store/files.ts';
import { SYNCED_START, SyncedFs } from './synced-fs.ts';
import * as schema from './schema.ts';

export type Database = PgliteDatabase<typeof schema>;

/** An empty database, made when the server is built: unpacking it takes a third of the memory and time of making one. */
export const EMPTY_DATABASE = 'empty-database.tar.gz';

/** Opens (or creates) the database in a data folder and brings it to the newest schema. What it has acknowledged is on the disk. */
export async function openDatabase(
  dataDir: string,
  migrations: string,
  emptyDatabase?: string,
): Promise<{ db: Database; close: () => Promise<void> }> {
  const folder = join(dataDir, 'db');
  const fresh = !existsSync(join(folder, 'PG_VERSION'));
  mkdirSync(folder, { recursive: true });
  const start =
    fresh && emptyDatabase && existsSync(emptyDatabase) ? { loadDataDir: new Blob([readFileSync(emptyDatabase)]) } : {};
  const client = await PGlite.create({ fs: new SyncedFs(folder), startParams: SYNCED_START, ...start });
  const db = drizzle(client, { schema });
  try {
    if (!fresh) await refuseNewer(db, migrations);
    await migrate(db, { migrationsFolder: migrations });
  } catch (error) {
    await client.close();
    throw error;
  }
  if (fresh) {
    // What made the files did not sync them.
    await client.exec('checkpoint');
    syncTree(folder);
  }
  return { db, close: () => client.close() };
}

/** A data folder that a newer Yesca has brought further is left alone. */
async function refuseNewer(db: Database, migrations: string): Promise<void> {
  const { entries } = JSON.parse(readFileSync(join(migrations, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[];
  };
  const newest = Math.max(...entries.map((e) => e.when));
  const { rows } = await db.execute<{ newest: string | null }>(
    sql`select max(created_at) as newest from drizzle.__drizzle_migrations`,
  );
  if (Number(rows[0]?.newest ?? 0) > newest)
    throw new Refusal(
      503,
      'data.newer',
      'This data folder was used by a newer Yesca. Start that one, or give YESCA_DATA another folder.',
    );
}
