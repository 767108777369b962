import { sql } from 'drizzle-orm';
import type { Database } from '../db/database.ts';
import { revisions } from '../db/schema.ts';

/** One save on its way into the rows. */
interface Entry {
  readonly mapId: string;
  readonly version: number;
  /** JSON, or where it lies. */
  readonly changes: string;
  readonly name?: string;
  readonly done: () => void;
  readonly failed: (error: unknown) => void;
}

/** So many saves at most go into one transaction. */
const AT_ONCE = 256;

/**
 * Writes saves into the rows. What comes while a transaction is on its way goes into the next one together: the disk is
 * waited for once for all of them, however many people save. A save is told as done when it is on the disk.
 */
export class SaveWriter {
  private queue: Entry[] = [];
  private busy: Promise<void> | null = null;
  private readonly db: Database;
  /** Called when saves could not be written: whatever was built on them is void. */
  private readonly onFailure: () => void;

  constructor(db: Database, onFailure: () => void) {
    this.db = db;
    this.onFailure = onFailure;
  }

  write(entry: Omit<Entry, 'done' | 'failed'>): Promise<void> {
    return new Promise((done, failed) => {
      this.queue.push({ ...entry, done, failed });
      this.busy ??= this.work().finally(() => (this.busy = null));
    });
  }

  private async work(): Promise<void> {
    while (this.queue.length) {
      const batch = this.queue.splice(0, AT_ONCE);
      try {
        await this.put(batch);
        for (const e of batch) e.done();
      } catch (error) {
        // Later saves of the same maps stand on these.
        this.onFailure();
        for (const e of [...batch, ...this.queue.splice(0)]) e.failed(error);
      }
    }
  }

  private put(batch: readonly Entry[]): Promise<void> {
    return this.db.transaction(async (tx) => {
      await tx.insert(revisions).values(batch.map(({ mapId, version, changes }) => ({ mapId, version, changes })));
      const last = new Map<string, { version: number; name?: string }>();
      for (const { mapId, version, name } of batch) last.set(mapId, { version, name: name ?? last.get(mapId)?.name });
      const rows = [...last].map(
        ([id, { version, name }]) => sql`(${id}::text, ${version}::integer, ${name ?? null}::text)`,
      );
      await tx.execute(
        sql`update maps set version = v.version, name = coalesce(v.name, maps.name), updated_at = now() from (values ${sql.join(rows, sql`, `)}) as v(id, version, name) where maps.id = v.id`,
      );
    });
  }

  /** Waits until all that was handed over is written. */
  async idle(): Promise<void> {
    while (this.busy) await this.busy.catch(() => undefined);
  }
}
