import { and, desc, eq } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import {
  ChangeMap,
  CreateMap,
  MAX_VERSION,
  NameRevision,
  SaveMap,
  type MapBody,
  type RevisionRow,
} from '@yesca/contract';
import { writeMap } from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { storeDocument, type Context } from '../context.ts';
import { maps, revisions } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { stale, type MapRow } from '../saves/saves.ts';
import { readChanges } from '../saves/read-changes.ts';
import { idOf, validated } from '../validated.ts';
import { requireProject } from './shelf.ts';

/** Bytes of a map file, or of changes to one. */
const MAP_BODY = 72 * 1024 * 1024;

/** Maps: created, read, saved with versions, renamed, duplicated, deleted and brought back; and their revisions. */
export function mapRoutes(app: FastifyInstance, context: Context): void {
  const { db, blobs, saves } = context;

  const body = async (row: MapRow): Promise<MapBody> => ({
    id: row.id,
    projectId: row.projectId,
    name: row.name,
    version: row.version,
    document: await saves.text(row),
  });

  app.post('/api/maps', { bodyLimit: MAP_BODY }, async (request, reply) => {
    const { projectId, name, template, document } = await validated(CreateMap, request.body);
    await requireProject(context, projectId);
    const text = document ?? writeMap((TEMPLATES.find((t) => t.key === template) ?? TEMPLATES[0]!).make(name));
    return reply.status(201).send(await body(await createMap(context, projectId, text, name)));
  });

  app.get('/api/maps/:id', async (request) => body(await saves.find(idOf(request.params))));

  /** The plan for the card, named by its content: it never changes under its address. */
  app.get('/api/drawings/:hash', async (request, reply) => {
    const { hash } = request.params as { hash: string };
    if (!/^[0-9a-f]{64}$/.test(hash)) throw notFound('drawing');
    const text = await blobs.text(hash);
    return reply.type('application/json').header('cache-control', 'private, max-age=31536000, immutable').send(text);
  });

  app.put('/api/maps/:id', { bodyLimit: MAP_BODY }, async (request) => {
    const id = idOf(request.params);
    const { baseVersion, document } = await validated(SaveMap, request.body);
    const row = await saves.find(id);
    if (row.version !== baseVersion) throw stale(row.version, baseVersion);
    return { id, version: await saves.whole(id, baseVersion, await storeDocument(context, document)) };
  });

  app.post('/api/maps/:id/changes', { bodyLimit: MAP_BODY }, async (request) => {
    const id = idOf(request.params);
    const { baseVersion, changes } = readChanges(request.body);
    return { id, version: await saves.change(id, baseVersion, changes) };
  });

  app.patch('/api/maps/:id', async (request) => {
    const row = await saves.find(idOf(request.params));
    const { name, projectId } = await validated(ChangeMap, request.body);
    if (projectId) {
      await requireProject(context, projectId);
      await db.update(maps).set({ projectId }).where(eq(maps.id, row.id));
    }
    if (name && name !== row.name) await saves.change(row.id, null, { items: [], name });
    const now = await saves.find(row.id);
    return { id: now.id, name: now.name, version: now.version };
  });

  app.post('/api/maps/:id/duplicate', async (request, reply) => {
    const row = await saves.find(idOf(request.params));
    const copy = await createMap(context, row.projectId, await saves.text(row), `${row.name} copy`.slice(0, 200));
    return reply.status(201).send({ id: copy.id, name: copy.name, version: copy.version });
  });

  const mark = async (id: string, deletedAt: Date | null) => {
    const [row] = await db
      .update(maps)
      .set({ deletedAt })
      .where(eq(maps.id, id))
      .returning({ id: maps.id, name: maps.name });
    if (!row) throw notFound('map');
    saves.forget(id);
    return row;
  };
  app.delete('/api/maps/:id', async (request) => mark(idOf(request.params), new Date()));
  app.post('/api/maps/:id/restore', async (request) => mark(idOf(request.params), null));

  app.get('/api/maps/:id/revisions', async (request): Promise<RevisionRow[]> => {
    const row = await saves.find(idOf(request.params));
    const rows = await db
      .select({ version: revisions.version, savedAt: revisions.savedAt, name: revisions.name })
      .from(revisions)
      .where(eq(revisions.mapId, row.id))
      .orderBy(desc(revisions.version))
      .limit(500);
    return rows.map((r) => ({ version: r.version, savedAt: r.savedAt.toISOString(), name: r.name }));
  });

  const revision = async (params: unknown) => {
    const row = await saves.find(idOf(params));
    const version = Number((params as { version: string }).version);
    if (!Number.isInteger(version) || version < 1 || version > MAX_VERSION) throw notFound('revision');
    const [found] = await db
      .select()
      .from(revisions)
      .where(and(eq(revisions.mapId, row.id), eq(revisions.version, version)));
    if (!found) throw notFound('revision');
    return found;
  };
  app.get('/api/maps/:id/revisions/:version', async (request) => {
    const found = await revision(request.params);
    const document = await saves.textAt(found.mapId, found.version);
    if (document === null) throw notFound('revision');
    return { version: found.version, name: found.name, document };
  });
  app.patch('/api/maps/:id/revisions/:version', async (request) => {
    const { mapId, version } = await revision(request.params);
    const { name } = await validated(NameRevision, request.body);
    await db
      .update(revisions)
      .set({ name: name || null })
      .where(and(eq(revisions.mapId, mapId), eq(revisions.version, version)));
    return { version, name };
  });
}

/** Stores a map file's text as a new map with its first revision. */
export async function createMap(
  context: Pick<Context, 'db' | 'blobs' | 'inspector'>,
  projectId: string,
  text: string,
  name?: string,
): Promise<MapRow> {
  const stored = await storeDocument(context, text, name);
  return context.db.transaction(async (tx) => {
    const [row] = await tx
      .insert(maps)
      .values({
        id: nanoid(),
        projectId,
        name: stored.name,
        version: 1,
        snapshotVersion: 1,
        document: stored.document,
        drawing: stored.drawing,
        summary: stored.summary,
      })
      .returning();
    await tx.insert(revisions).values({ mapId: row!.id, version: 1, document: stored.document });
    return row!;
  });
}
