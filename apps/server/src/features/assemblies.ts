import { asc, eq } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import { ChangeAssembly, SaveAssembly, type AssemblyBody, type AssemblyRow } from '@yesca/contract';
import { storeDocument, type Context } from '../context.ts';
import { assemblies } from '../db/schema.ts';
import { notFound, Refusal } from '../errors.ts';
import { idOf, validated } from '../validated.ts';

type Row = typeof assemblies.$inferSelect;

/** Bytes of an assembly's map file. */
const ASSEMBLY_BODY = 16 * 1024 * 1024;

const shown = ({ id, label, tags, summary, drawing }: Row): AssemblyRow => ({
  id,
  label,
  tags,
  brushes: summary.brushes,
  things: summary.entities,
  drawing: drawing && `/api/drawings/${drawing}`,
});

/** Assemblies: parts of maps that are kept in Stock to be placed again; listed, kept, changed and removed. */
export function assemblyRoutes(app: FastifyInstance, context: Context): void {
  const { db, blobs } = context;

  const find = async (params: unknown): Promise<Row> => {
    const [row] = await db
      .select()
      .from(assemblies)
      .where(eq(assemblies.id, idOf(params)));
    if (!row) throw notFound('assembly');
    return row;
  };
  const stored = async (text: string) => {
    const { document, drawing, summary } = await storeDocument(context, text, undefined, true);
    if (summary.brushes + summary.entities === 0)
      throw new Refusal(422, 'assembly.empty', 'There are no brushes and no things in it. Keep another selection.');
    return { document, drawing, summary };
  };

  app.get('/api/assemblies', async (): Promise<AssemblyRow[]> => {
    const rows = await db.select().from(assemblies).orderBy(asc(assemblies.createdAt), asc(assemblies.id));
    return rows.map(shown);
  });

  app.get('/api/assemblies/:id', async (request): Promise<AssemblyBody> => {
    const row = await find(request.params);
    return { ...shown(row), document: await blobs.text(row.document) };
  });

  app.post('/api/assemblies', { bodyLimit: ASSEMBLY_BODY }, async (request, reply) => {
    const { label, tags = [], document } = await validated(SaveAssembly, request.body);
    const [row] = await db
      .insert(assemblies)
      .values({ id: nanoid(), label, tags, ...(await stored(document)) })
      .returning();
    return reply.status(201).send(shown(row!));
  });

  app.patch('/api/assemblies/:id', { bodyLimit: ASSEMBLY_BODY }, async (request) => {
    const row = await find(request.params);
    const { document, label, tags } = await validated(ChangeAssembly, request.body);
    const change = {
      ...(label ? { label } : {}),
      ...(tags ? { tags } : {}),
      ...(document ? await stored(document) : {}),
    };
    if (Object.keys(change).length === 0) return shown(row);
    const [now] = await db.update(assemblies).set(change).where(eq(assemblies.id, row.id)).returning();
    return shown(now!);
  });

  app.delete('/api/assemblies/:id', async (request) => {
    const { id } = await find(request.params);
    await db.delete(assemblies).where(eq(assemblies.id, id));
    return { id };
  });
}
