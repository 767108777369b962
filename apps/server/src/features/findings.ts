import type { FastifyInstance } from 'fastify';
import type { MapFindings } from '@yesca/contract';
import { contentHash } from '@yesca/core';
import type { Context } from '../context.ts';
import { Refusal } from '../errors.ts';
import { idOf } from '../validated.ts';
import type { FindingsTask, FoundInMap } from '../workers/findings.ts';
import { allMaterials } from './materials.ts';
import { allProps } from './props.ts';

/** What was found out is kept for so many maps; a version never changes, but what is known of materials and props does. */
const KEPT = 64;

/** What is wrong with maps, asked for without opening them. */
export function findingRoutes(app: FastifyInstance, { db, saves, checker }: Context): void {
  const kept = new Map<string, MapFindings>();

  app.get('/api/maps/:id/findings', async (request, reply): Promise<MapFindings> => {
    const row = await saves.find(idOf(request.params));
    const [materials, props] = [await allMaterials(db), await allProps(db)];
    const key = `${row.id} ${row.version} ${contentHash(JSON.stringify([materials, props.map((p) => p.name)]))}`;
    const before = kept.get(key);
    if (before) return before;
    const cancel = new AbortController();
    reply.raw.once('close', () => !reply.raw.writableEnded && cancel.abort());
    const task: FindingsTask = { text: await saves.text(row), materials, props };
    const found = (await checker.run(task, { signal: cancel.signal })) as FoundInMap;
    if (!found.ok) throw new Refusal(found.status, found.body.code, found.body.message, found.body.place);
    const { sealing, findings } = found;
    const body: MapFindings = { mapId: row.id, name: row.name, version: row.version, sealing, findings };
    kept.set(key, body);
    for (const old of kept.keys()) {
      if (kept.size <= KEPT) break;
      kept.delete(old);
    }
    return body;
  });
}
