import { and, eq, isNull } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { StartBuild, type BuildRow } from '@yesca/contract';
import { storeDocument, type Context } from '../context.ts';
import { maps } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { idOf, validated } from '../validated.ts';

const isOver = (row: BuildRow): boolean => row.status !== 'waiting' && row.status !== 'running';

/** Builds: started, followed by server-sent events, cancelled, and their levels and logs. */
export function buildRoutes(app: FastifyInstance, context: Context): void {
  const { db, blobs, queue, saves } = context;

  app.post('/api/builds', { bodyLimit: 72 * 1024 * 1024 }, async (request, reply) => {
    const { mapId, preset, document } = await validated(StartBuild, request.body);
    const [map] = await db
      .select()
      .from(maps)
      .where(and(eq(maps.id, mapId), isNull(maps.deletedAt)));
    if (!map) throw notFound('map');
    const hash =
      document === undefined ? await saves.document(mapId) : (await storeDocument(context, document)).document;
    return reply.status(202).send(await queue.start(mapId, preset, hash));
  });

  app.get('/api/maps/:id/builds', async (request) => queue.ofMap(idOf(request.params)));
  app.get('/api/builds/:id', async (request) => queue.get(idOf(request.params)));
  app.delete('/api/builds/:id', async (request) => queue.cancel(idOf(request.params)));

  for (const what of ['level', 'ledger'] as const)
    app.get(`/api/builds/:id/${what}`, async (request, reply) => {
      const made = await blobs.read(await queue.madeBy(idOf(request.params), what));
      return reply
        .type('application/octet-stream')
        .header('cache-control', 'private, max-age=31536000, immutable')
        .send(made);
    });

  app.get('/api/builds/:id/log', async (request, reply) => {
    const row = await queue.get(idOf(request.params));
    const lines = [
      `${row.preset} build of ${row.report?.map ?? 'a map'}: ${row.status}`,
      `started ${row.startedAt}, ended ${row.endedAt ?? '—'}`,
    ];
    for (const [stage, ms] of Object.entries(row.times)) lines.push(`${stage}: ${ms} ms`);
    for (const [name, n] of Object.entries(row.report?.counts ?? {})) lines.push(`${name}: ${n}`);
    for (const m of row.report?.messages ?? [])
      lines.push(`${m.severity} ${m.code}${m.at ? ` at ${m.at.map((c) => Math.round(c)).join(' ')}` : ''}: ${m.text}`);
    if (row.error) lines.push(row.error);
    return reply
      .type('text/plain; charset=utf-8')
      .header('content-disposition', 'attachment; filename="build.log"')
      .send(`${lines.join('\n')}\n`);
  });

  app.get('/api/builds/:id/events', async (request, reply) => {
    const id = idOf(request.params);
    const now = await queue.get(id);
    reply.hijack();
    const { raw } = reply;
    raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store', connection: 'keep-alive' });
    const send = (row: BuildRow) => {
      raw.write(`data: ${JSON.stringify(row)}\n\n`);
      if (isOver(row)) raw.end();
    };
    const stop = queue.listen(id, send);
    raw.on('close', stop);
    // What happened between the first look and listening is not lost.
    send(isOver(now) ? now : await queue.get(id));
  });
}
