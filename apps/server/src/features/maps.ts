import { and, desc, eq, isNull } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { ChangeMap, CreateMap, NameRevision, SaveMap, type MapBody, type RevisionRow } from '@yesca/contract';
import { writeMap } from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { storeDocument, type Context } from '../context.ts';
import { maps, revisions } from '../db/schema.ts';
import { notFound, Refusal } from '../errors.ts';
import { idOf, validated } from '../validated.ts';
import { requireProject } from './shelf.ts';

type MapRow = typeof maps.$inferSelect;

/** Maps: created, read, saved with versions, renamed, duplicated, deleted and brought back; and their revisions. */
export function mapRoutes(app: FastifyInstance, context: Context): void {
  const { db, blobs } = context;

  const find = async (id: string): Promise<MapRow> => {
    const [row] = await db
      .select()
      .from(maps)
      .where(and(eq(maps.id, id), isNull(maps.deletedAt)));
    if (!row) throw notFound('map');
    return row;
  };
  const body = async (row: MapRow): Promise<MapBody> => ({
    id: row.id,
    projectId: row.projectId,
    name: row.name,
    version: row.version,
    document: await blobs.text(row.document),
  });

  app.post('/api/maps', async (request, reply) => {
    const { projectId, name, template, document } = await validated(CreateMap, request.body);
    await requireProject(context, projectId);
    const text = document ?? writeMap((TEMPLATES.find((t) => t.key === template) ?? TEMPLATES[0]!).make(name));
    return reply.status(201).send(await body(await createMap(context, projectId, text, name)));
  });

  app.get('/api/maps/:id', async (request) => body(await find(idOf(request.params))));

  app.put('/api/maps/:id', { bodyLimit: 72 * 1024 * 1024 }, async (request) => {
    const id = idOf(request.params);
    const { baseVersion, document } = await validated(SaveMap, request.body);
    const row = await find(id);
    const stale = (now: number) =>
      new Refusal(
        409,
        'map.stale',
        `This map was saved from elsewhere in the meantime (version ${now}; yours began at ${baseVersion}). Keep yours as a copy, or load the newer one.`,
      );
    if (row.version !== baseVersion) throw stale(row.version);
    const stored = await storeDocument(context, document);
    const version = baseVersion + 1;
    await db.transaction(async (tx) => {
      // The condition on the version decides between two saves that arrive together.
      const saved = await tx
        .update(maps)
        .set({ version, document: stored.hash, name: stored.name, summary: stored.summary, updatedAt: new Date() })
        .where(and(eq(maps.id, id), eq(maps.version, baseVersion)))
        .returning({ id: maps.id });
      if (saved.length === 0) throw stale(baseVersion + 1);
      await tx.insert(revisions).values({ mapId: id, version, document: stored.hash });
    });
    return { id, version };
  });

  app.patch('/api/maps/:id', async (request) => {
    const row = await find(idOf(request.params));
    const { name, projectId } = await validated(ChangeMap, request.body);
    if (projectId) {
      await requireProject(context, projectId);
      await db.update(maps).set({ projectId }).where(eq(maps.id, row.id));
    }
    if (name && name !== row.name) {
      const stored = await storeDocument(context, await blobs.text(row.document), name);
      const version = row.version + 1;
      await db.transaction(async (tx) => {
        await tx
          .update(maps)
          .set({ name, version, document: stored.hash, updatedAt: new Date() })
          .where(and(eq(maps.id, row.id), eq(maps.version, row.version)));
        await tx.insert(revisions).values({ mapId: row.id, version, document: stored.hash });
      });
    }
    const now = await find(row.id);
    return { id: now.id, name: now.name, version: now.version };
  });

  app.post('/api/maps/:id/duplicate', async (request, reply) => {
    const row = await find(idOf(request.params));
    const copy = await createMap(
      context,
      row.projectId,
      await blobs.text(row.document),
      `${row.name} copy`.slice(0, 200),
    );
    return reply.status(201).send({ id: copy.id, name: copy.name, version: copy.version });
  });

  const mark = async (id: string, deletedAt: Date | null) => {
    const [row] = await db
      .update(maps)
      .set({ deletedAt })
      .where(eq(maps.id, id))
      .returning({ id: maps.id, name: maps.name });
    if (!row) throw notFound('map');
    return row;
  };
  app.delete('/api/maps/:id', async (request) => mark(idOf(request.params), new Date()));
  app.post('/api/maps/:id/restore', async (request) => mark(idOf(request.params), null));

  app.get('/api/maps/:id/revisions', async (request): Promise<RevisionRow[]> => {
    const row = await find(idOf(request.params));
    const rows = await db
      .select()
      .from(revisions)
      .where(eq(revisions.mapId, row.id))
      .orderBy(desc(revisions.version))
      .limit(500);
    return rows.map((r) => ({ version: r.version, savedAt: r.savedAt.toISOString(), name: r.name }));
  });

  const revision = async (params: unknown) => {
    const row = await find(idOf(params));
    const version = Number((params as { version: string }).version);
    if (!Number.isInteger(version)) throw notFound('revision');
    const [found] = await db
      .select()
      .from(revisions)
      .where(and(eq(revisions.mapId, row.id), eq(revisions.version, version)));
    if (!found) throw notFound('revision');
    return found;
  };
  app.get('/api/maps/:id/revisions/:version', async (request) => {
    const found = await revision(request.params);
    return { version: found.version, name: found.name, document: await blobs.text(found.document) };
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
        document: stored.hash,
        summary: stored.summary,
      })
      .returning();
    await tx.insert(revisions).values({ mapId: row!.id, version: 1, document: stored.hash });
    return row!;
  });
}
