import { and, asc, desc, eq, getTableColumns, isNull, sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { CreateProject, RenameProject, type MapCard, type MapSummary, type ProjectCard } from '@yesca/contract';
import type { Context } from '../context.ts';
import { builds, maps, projects } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { idOf, validated } from '../validated.ts';

/** The Shelf: projects with their maps as cards. */
export function shelf(app: FastifyInstance, { db }: Context): void {
  app.get('/api/projects', async (): Promise<ProjectCard[]> => {
    const rows = await db.select().from(projects).where(isNull(projects.deletedAt)).orderBy(asc(projects.createdAt));
    // Drawings have addresses of their own: what stays the same is not sent again.
    const { document: _d, ...columns } = getTableColumns(maps);
    const cards = await db
      .select({ ...columns, summary: sql<MapSummary>`${maps.summary} - 'drawing'` })
      .from(maps)
      .where(isNull(maps.deletedAt))
      .orderBy(asc(maps.createdAt));
    const done = await db
      .selectDistinctOn([builds.mapId], {
        mapId: builds.mapId,
        id: builds.id,
        preset: builds.preset,
        sealed: sql<boolean>`coalesce((${builds.report}->>'sealed')::boolean, false)`,
        endedAt: builds.endedAt,
      })
      .from(builds)
      .where(eq(builds.status, 'done'))
      .orderBy(builds.mapId, desc(builds.startedAt));
    const last = new Map(done.map((b) => [b.mapId, b]));
    const card = (m: (typeof cards)[number]): MapCard => {
      const b = last.get(m.id);
      return {
        id: m.id,
        projectId: m.projectId,
        name: m.name,
        version: m.version,
        updatedAt: m.updatedAt.toISOString(),
        summary: m.summary,
        drawing: m.drawing && `/api/drawings/${m.drawing}`,
        lastBuild: b ? { id: b.id, preset: b.preset, sealed: b.sealed, endedAt: b.endedAt?.toISOString() ?? '' } : null,
      };
    };
    return rows.map((p) => ({ id: p.id, name: p.name, maps: cards.filter((m) => m.projectId === p.id).map(card) }));
  });

  app.post('/api/projects', async (request, reply) => {
    const { name } = await validated(CreateProject, request.body);
    const id = nanoid();
    await db.insert(projects).values({ id, name });
    return reply.status(201).send({ id, name, maps: [] } satisfies ProjectCard);
  });

  const change = async (id: string, set: Partial<typeof projects.$inferInsert>) => {
    const [row] = await db.update(projects).set(set).where(eq(projects.id, id)).returning();
    if (!row) throw notFound('project');
    return { id: row.id, name: row.name };
  };
  app.patch('/api/projects/:id', async (request) =>
    change(idOf(request.params), { name: (await validated(RenameProject, request.body)).name }),
  );
  app.delete('/api/projects/:id', async (request) => change(idOf(request.params), { deletedAt: new Date() }));
  app.post('/api/projects/:id/restore', async (request) => change(idOf(request.params), { deletedAt: null }));
}

export const requireProject = async ({ db }: Pick<Context, 'db'>, id: string): Promise<void> => {
  const [row] = await db
    .select({ id: projects.id })
    .from(projects)
    .where(and(eq(projects.id, id), isNull(projects.deletedAt)));
  if (!row) throw notFound('project');
};
