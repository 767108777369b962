import { and, asc, desc, eq, gt, isNotNull, isNull, lt, lte } from 'drizzle-orm';
import type { Piscina } from 'piscina';
import { assertChanges, followChanges, MapFileError, type MapChanges, type References } from '@yesca/core';
import type { Database } from '../db/database.ts';
import { maps, revisions } from '../db/schema.ts';
import { notFound, Refusal } from '../errors.ts';
import type { Blobs } from '../store/blobs.ts';
import type { Checked, Composed, ComposeTask } from '../workers/compose.ts';
import { SaveWriter } from './writer.ts';

export type MapRow = typeof maps.$inferSelect;

/** What is kept in mind of a map that is being edited. */
interface Head {
  version: number;
  readonly references: References;
  /** Saves since the last whole file, and their size. */
  pending: number;
  bytes: number;
  timer?: ReturnType<typeof setTimeout>;
}

/** Maps kept in mind at once; the names in a large one take about a megabyte. */
const HEADS = 64;
/** Changes up to this size (characters) are checked in passing, and kept in the row itself. */
const SMALL = 64 * 1024;
/** A whole file is written after so many saves, so much change, or so long (ms) without any. */
const SNAPSHOT = { saves: 64, bytes: 2 * 1024 * 1024, quiet: 5000 };

export const stale = (now: number, base: number): Refusal =>
  new Refusal(
    409,
    'map.stale',
    `This map was saved from elsewhere in the meantime (version ${now}; yours began at ${base}). See both, merge them, keep yours as a copy, or take theirs.`,
  );

/**
 * Saves of maps. A save sends what changed; it is checked by itself and for what it refers to, and is a row on the disk
 * before it is answered. A map is its last whole file and the changes since; whole files are written now and then.
 */
export class Saves {
  private readonly heads = new Map<string, Head>();
  private readonly chains = new Map<string, Promise<unknown>>();
  /** The last write of each map that is on its way to the disk. */
  private readonly writes = new Map<string, Promise<unknown>>();
  private readonly writer: SaveWriter;
  private snapshots: Promise<unknown> = Promise.resolve();
  private stopped = false;
  private readonly db: Database;
  private readonly blobs: Blobs;
  private readonly composer: Piscina;

  constructor(db: Database, blobs: Blobs, composer: Piscina) {
    this.db = db;
    this.blobs = blobs;
    this.composer = composer;
    this.writer = new SaveWriter(db, () => this.forgetAll());
  }

  async find(id: string): Promise<MapRow> {
    const [row] = await this.db
      .select()
      .from(maps)
      .where(and(eq(maps.id, id), isNull(maps.deletedAt)));
    if (!row) throw notFound('map');
    return row;
  }

  /** Saves changes that began at a version. Throws 409 when the map has moved on, 422 for what could not be read again. */
  async change(id: string, base: number | null, changes: MapChanges, json = JSON.stringify(changes)): Promise<number> {
    const { head, written } = await this.inTurn(id, async () => {
      const head = await this.headOf(id);
      if (base !== null && head.version !== base) throw stale(head.version, base);
      await this.check(changes, json, head.references);
      followChanges(head.references, changes);
      const kept = json.length > SMALL ? `blob:${await this.blobs.put(json)}` : json;
      const version = ++head.version;
      head.pending++;
      head.bytes += json.length;
      const written = this.writer.write({ mapId: id, version, changes: kept, name: changes.name }).then(() => version);
      // The next save of this map need not wait for the disk; who waits for this one does, below.
      this.writes.set(
        id,
        written.catch(() => undefined),
      );
      return { head, written };
    });
    const version = await written;
    if (head.version === version) this.writes.delete(id);
    this.plan(id, head);
    return version;
  }

  private async check(changes: MapChanges, json: string, references: References): Promise<void> {
    if (json.length <= SMALL * 4) return assertChanges(changes, references);
    const answer = (await this.composer.run({ check: json, references })) as Checked;
    if (!answer.ok) throw new MapFileError(answer.body.code, answer.body.place ?? '', answer.body.message);
  }

  /** Saves a whole file that began at a version. `stored` is its content address, in the blobs already. */
  async whole(
    id: string,
    base: number,
    stored: Pick<MapRow, 'document' | 'drawing' | 'name' | 'summary'>,
  ): Promise<number> {
    return this.inTurn(id, async () => {
      await this.writes.get(id);
      const row = await this.find(id);
      if (row.version !== base) throw stale(row.version, base);
      const version = base + 1;
      await this.db.transaction(async (tx) => {
        await tx
          .update(maps)
          .set({ ...stored, version, snapshotVersion: version, updatedAt: new Date() })
          .where(eq(maps.id, id));
        await tx.insert(revisions).values({ mapId: id, version, document: stored.document });
      });
      this.forget(id);
      return version;
    });
  }

  /** The map file's text as it is now. */
  async text(row: MapRow): Promise<string> {
    return (await this.composed(row, row.version, row.document, row.snapshotVersion)).text;
  }

  /** The map file's text at a version, or null when there is no such revision. */
  async textAt(id: string, version: number): Promise<string | null> {
    const rows = this.db.select().from(revisions);
    const [there] = await rows.where(and(eq(revisions.mapId, id), eq(revisions.version, version)));
    if (!there) return null;
    if (there.document) return this.blobs.text(there.document);
    const [whole] = await this.db
      .select()
      .from(revisions)
      .where(and(eq(revisions.mapId, id), lt(revisions.version, version), isNotNull(revisions.document)))
      .orderBy(desc(revisions.version))
      .limit(1);
    if (!whole) return null;
    return (await this.composed({ id }, version, whole.document!, whole.version)).text;
  }

  /** The content address of a whole file of the map as it is now; written if there is none yet. */
  async document(id: string): Promise<string> {
    await this.snapshot(id);
    return (await this.find(id)).document;
  }

  private async composed(
    row: Pick<MapRow, 'id'>,
    version: number,
    document: string,
    from: number,
    summary = false,
  ): Promise<Composed> {
    const later =
      version > from
        ? await this.db
            .select({ changes: revisions.changes })
            .from(revisions)
            .where(and(eq(revisions.mapId, row.id), gt(revisions.version, from), lte(revisions.version, version)))
            .orderBy(asc(revisions.version))
        : [];
    const text = await this.blobs.text(document);
    if (later.length === 0 && !summary) return { text, name: '' };
    const changes = await Promise.all(
      later.map(({ changes: c }) => (c?.startsWith('blob:') ? this.blobs.text(c.slice(5)) : (c ?? '{"items":[]}'))),
    );
    return (await this.composer.run({ text, changes, summary } satisfies ComposeTask)) as Composed;
  }

  private async headOf(id: string): Promise<Head> {
    let head = this.heads.get(id);
    if (head) {
      this.heads.delete(id);
    } else {
      const row = await this.find(id);
      const { references } = await this.composed(row, row.version, row.document, row.snapshotVersion, true);
      head = { version: row.version, references: references!, pending: row.version - row.snapshotVersion, bytes: 0 };
    }
    // The one that was asked for longest ago goes first.
    this.heads.set(id, head);
    for (const old of this.heads.keys()) {
      if (this.heads.size <= HEADS) break;
      if (!this.chains.has(old)) this.forget(old);
      else break;
    }
    return head;
  }

  /** Runs what concerns a map one after the other. */
  private async inTurn<T>(id: string, work: () => Promise<T>): Promise<T> {
    const before = this.chains.get(id) ?? Promise.resolve();
    const mine = before.catch(() => undefined).then(work);
    const chain = mine.catch(() => undefined);
    this.chains.set(id, chain);
    try {
      return await mine;
    } finally {
      if (this.chains.get(id) === chain) this.chains.delete(id);
    }
  }

  private plan(id: string, head: Head): void {
    clearTimeout(head.timer);
    if (this.stopped || head.pending === 0) return;
    if (head.pending >= SNAPSHOT.saves || head.bytes >= SNAPSHOT.bytes) void this.snapshot(id).catch(() => undefined);
    else {
      head.timer = setTimeout(() => void this.snapshot(id).catch(() => undefined), SNAPSHOT.quiet);
      head.timer.unref();
    }
  }

  /** Writes the map as it is now as a whole file, one map at a time. Saves go on meanwhile. */
  snapshot(id: string): Promise<void> {
    const made = this.snapshots.then(() => this.makeSnapshot(id));
    this.snapshots = made.catch(() => undefined);
    return made;
  }

  private async makeSnapshot(id: string): Promise<void> {
    const row = await this.find(id);
    if (row.snapshotVersion === row.version && row.drawing) return;
    const head = this.heads.get(id);
    if (head) head.pending = head.bytes = 0;
    const { text, summary, drawing } = await this.composed(row, row.version, row.document, row.snapshotVersion, true);
    const document = await this.blobs.put(text);
    const plan = drawing ? await this.blobs.put(drawing) : null;
    await this.db.transaction(async (tx) => {
      await tx
        .update(maps)
        .set({ document, snapshotVersion: row.version, drawing: plan, summary: summary! })
        .where(and(eq(maps.id, id), lte(maps.snapshotVersion, row.version)));
      await tx
        .update(revisions)
        .set({ document })
        .where(and(eq(revisions.mapId, id), eq(revisions.version, row.version)));
    });
  }

  /** Lets go of what is known of a map: it was changed past here, or deleted. */
  forget(id: string): void {
    clearTimeout(this.heads.get(id)?.timer);
    this.heads.delete(id);
  }

  private forgetAll(): void {
    for (const id of [...this.heads.keys()]) this.forget(id);
  }

  /** Waits for what was accepted; nothing new is begun. */
  async stop(): Promise<void> {
    this.stopped = true;
    this.forgetAll();
    await this.writer.idle();
    await this.snapshots;
  }
}
