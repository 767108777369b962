import { EventEmitter } from 'node:events';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { nanoid } from 'nanoid';
import type { Piscina } from 'piscina';
import type { BuildRow } from '@yesca/contract';
import type { Preset, Stage } from '@yesca/core';
import type { Database } from '../db/database.ts';
import { builds } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { allMaterials } from '../features/materials.ts';
import { allProps, modelFiles } from '../features/props.ts';
import type { Blobs } from '../store/blobs.ts';
import type { BuildOutcome, BuildTask } from '../workers/build.ts';
import { keptFile } from '../workers/kept.ts';

const INTERRUPTED = 'The server stopped while this was being built. Build again.';

/** Builds on their way: starts them in worker threads, keeps their rows, tells who listens. */
export class BuildQueue {
  private readonly live = new Map<string, { abort: AbortController; progress: Partial<Record<Stage, number>> }>();
  private readonly events = new EventEmitter().setMaxListeners(0);
  private readonly work = new Set<Promise<void>>();
  private stopping = false;
  private readonly db: Database;
  private readonly blobs: Blobs;
  private readonly pool: Piscina;

  private readonly keptFolder: string;

  private readonly stockDir: string;

  constructor(db: Database, blobs: Blobs, pool: Piscina, { dataDir, stockDir }: { dataDir: string; stockDir: string }) {
    this.keptFolder = join(dataDir, 'kept');
    this.stockDir = stockDir;
    this.db = db;
    this.blobs = blobs;
    this.pool = pool;
  }

  /** Builds that a stopped server left behind cannot go on. */
  async markInterrupted(): Promise<void> {
    await this.db
      .update(builds)
      .set({
        status: 'interrupted',
        endedAt: new Date(),
        error: INTERRUPTED,
      })
      .where(inArray(builds.status, ['waiting', 'running']));
  }

  async start(mapId: string, preset: Preset, document: string): Promise<BuildRow> {
    const id = nanoid();
    await this.db.insert(builds).values({ id, mapId, preset, status: 'waiting', document });
    const abort = new AbortController();
    this.live.set(id, { abort, progress: {} });
    const work = this.run(id, mapId, preset, document, abort).catch(() => undefined);
    this.work.add(work);
    void work.finally(() => this.work.delete(work));
    return this.get(id);
  }

  private async run(
    id: string,
    mapId: string,
    preset: Preset,
    document: string,
    abort: AbortController,
  ): Promise<void> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', ({ stage, done }: { stage: Stage; done: number }) => {
      const entry = this.live.get(id);
      if (!entry) return;
      // The first word of a build on its way: it is no longer waiting for a thread.
      if (Object.keys(entry.progress).length === 0)
        void this.db
          .update(builds)
          .set({ status: 'running' })
          .where(and(eq(builds.id, id), eq(builds.status, 'waiting')))
          .catch(() => undefined);
      entry.progress[stage] = done;
      void this.tell(id);
    });
    try {
      const text = await this.blobs.text(document);
      const outcome = (await this.pool.run(
        {
          text,
          preset,
          materials: await allMaterials(this.db),
          props: await allProps(this.db),
          models: await modelFiles(this.db, this.blobs, this.stockDir),
          port: port2,
          kept: keptFile(this.keptFolder, mapId, preset),
        } satisfies BuildTask,
        { transferList: [port2], signal: abort.signal },
      )) as BuildOutcome;
      const level = await this.blobs.put(outcome.bytes);
      const ledger = await this.blobs.put(outcome.ledger);
      await this.close(id, { status: 'done', level, ledger, report: outcome.report, times: outcome.times });
    } catch (error) {
      if (abort.signal.aborted && this.stopping) await this.close(id, { status: 'interrupted', error: INTERRUPTED });
      else if (abort.signal.aborted) await this.close(id, { status: 'cancelled', error: 'Cancelled.' });
      else
        await this.close(id, {
          status: 'failed',
          error: `The build stopped: ${error instanceof Error ? error.message : 'its thread died'}. The map is unharmed; build again, with a smaller preset if it ran out of memory.`,
        });
    } finally {
      port1.close();
    }
  }

  private async close(id: string, change: Partial<typeof builds.$inferInsert>): Promise<void> {
    await this.db
      .update(builds)
      .set({ ...change, endedAt: new Date() })
      .where(eq(builds.id, id));
    this.live.delete(id);
    await this.tell(id);
  }

  private async tell(id: string): Promise<void> {
    if (this.events.listenerCount(id) > 0) this.events.emit(id, await this.get(id));
  }

  async cancel(id: string): Promise<BuildRow> {
    this.live.get(id)?.abort.abort();
    return this.get(id);
  }

  listen(id: string, hear: (row: BuildRow) => void): () => void {
    this.events.on(id, hear);
    return () => this.events.off(id, hear);
  }

  async get(id: string): Promise<BuildRow> {
    const [row] = await this.db.select().from(builds).where(eq(builds.id, id));
    if (!row) throw notFound('build');
    return this.present(row);
  }

  async ofMap(mapId: string): Promise<BuildRow[]> {
    const rows = await this.db
      .select()
      .from(builds)
      .where(eq(builds.mapId, mapId))
      .orderBy(desc(builds.startedAt))
      .limit(50);
    return rows.map((row) => this.present(row));
  }

  /** The address of what a build made. */
  async madeBy(id: string, what: 'level' | 'ledger'): Promise<string> {
    const [row] = await this.db.select({ made: builds[what] }).from(builds).where(eq(builds.id, id));
    if (!row?.made) throw notFound(what);
    return row.made;
  }

  private present(row: typeof builds.$inferSelect): BuildRow {
    const { document, level: _l, ledger: _m, startedAt, endedAt, ...rest } = row;
    return {
      ...rest,
      content: document,
      startedAt: startedAt.toISOString(),
      endedAt: endedAt?.toISOString() ?? null,
      progress: this.live.get(row.id)?.progress ?? {},
    };
  }

  /** Ends what runs and waits until it has ended. */
  async stop(): Promise<void> {
    this.stopping = true;
    for (const { abort } of this.live.values()) abort.abort();
    await Promise.all(this.work);
  }
}
