import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { asc, eq, inArray, isNull } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import pLimit from 'p-limit';
import type { PropImportReport, PropUse } from '@yesca/contract';
import { modelOf, parseMap } from '@yesca/core';
import { PROPS, propFacts, type Prop } from '@yesca/stock';
import type { Context } from '../context.ts';
import { maps, props } from '../db/schema.ts';
import { Refusal } from '../errors.ts';
import { slugOf } from '../materials/names.ts';
import { isModelFile, type FoundModel } from '../props/read-models.ts';
import { freeName, inUpload, UPLOAD_LIMIT } from './uploads.ts';

/** The files of a prop: its model, and the small picture of the library. */
const TYPES: Readonly<Record<string, string>> = { glb: 'model/gltf-binary', webp: 'image/webp' };

/** The tag of props that did not come with Yesca. */
const IMPORTED = 'imported';

/** The props that ship, and then those that were imported, the oldest first. */
export async function allProps(db: Context['db']): Promise<Prop[]> {
  const rows = await db.select().from(props).orderBy(asc(props.createdAt), asc(props.name));
  return [...PROPS, ...rows.map(({ name, facts, tags }) => ({ ...facts, name, tags }))];
}

const noProp = (): Refusal => new Refusal(404, 'prop.notFound', 'There is no prop of that name.');

/** Props: listed, imported, removed; their models and pictures. */
export function propRoutes(
  app: FastifyInstance,
  context: Context & { readonly stockDir: string; readonly dataDir: string },
): void {
  const { db, blobs, models, saves, stockDir, dataDir } = context;
  /** Two imports that found the same free name would both take it. */
  const storing = pLimit(1);

  app.get('/api/stock/props', () => allProps(db));

  app.get('/stock/props/:file', async (request, reply) => {
    const { file } = request.params as { file: string };
    const [, name = '', type = ''] = /^([a-z0-9-]+)\.([a-z]+)$/.exec(file) ?? [];
    const mime = TYPES[type];
    if (!mime) throw noProp();
    if (propFacts(name))
      return reply
        .type(mime)
        .header('cache-control', 'max-age=3600')
        .send(createReadStream(join(stockDir, 'props', `${name}.${type}`)));
    const [row] = await db.select().from(props).where(eq(props.name, name));
    if (!row) throw noProp();
    return reply
      .type(mime)
      .header('cache-control', 'no-cache')
      .send(await blobs.read(type === 'glb' ? row.model : row.thumb));
  });

  app.post('/api/props/import', { bodyLimit: UPLOAD_LIMIT }, (request, reply): Promise<PropImportReport> =>
    inUpload(request, reply, dataDir, async ({ files, folder, signal }) => {
      if (!files.some((f) => isModelFile(f.name)))
        throw new Refusal(
          400,
          'upload.noModel',
          'There is no model among the files. Choose a .glb, a .gltf with its files, or a ZIP of one.',
        );
      const { found, refused } = await models.run({ folder, files }, signal);
      const report = { ...(await storing(() => store(context, folder, found))), refused };
      reply.status(report.added.length ? 201 : 200);
      return report;
    }),
  );

  const usesOf = async (name: string): Promise<PropUse[]> => {
    const rows = await db.select({ id: maps.id, name: maps.name }).from(maps).where(isNull(maps.deletedAt));
    const uses = await Promise.all(
      rows.map(async (m) => {
        const { entities } = parseMap(await saves.text(await saves.find(m.id)));
        const things = [...entities.values()].filter((e) => modelOf(e)?.name === name).length;
        return { mapId: m.id, map: m.name, things };
      }),
    );
    return uses.filter((u) => u.things > 0);
  };
  app.get('/api/props/:name/uses', (request) => usesOf((request.params as { name: string }).name));

  app.delete('/api/props/:name', async (request) => {
    const { name } = request.params as { name: string };
    if (propFacts(name)) throw new Refusal(403, 'prop.shipped', 'This prop comes with Yesca and stays.');
    const [row] = await db.select().from(props).where(eq(props.name, name));
    if (!row) throw noProp();
    const uses = (request.query as { force?: string }).force === '1' ? [] : await usesOf(name);
    if (uses.length > 0)
      throw new Refusal(
        409,
        'prop.used',
        `${row.facts.label} stands in ${uses.map((u) => `${u.map} (${u.things === 1 ? 'once' : `${u.things} times`})`).join(', ')}. Replace it there first, or delete it all the same.`,
      );
    await db.delete(props).where(eq(props.name, name));
    return { name };
  });
}

/** Writes the models, then the rows, of what is new in an upload. */
async function store(
  { db, blobs }: Pick<Context, 'db' | 'blobs'>,
  folder: string,
  found: readonly FoundModel[],
): Promise<Pick<PropImportReport, 'added' | 'same'>> {
  const contents = found.map((f) => f.content);
  const there = contents.length
    ? await db.select({ name: props.name, content: props.content }).from(props).where(inArray(props.content, contents))
    : [];
  const byContent = new Map(there.map((t) => [t.content, t.name]));
  const taken = new Set([
    ...PROPS.map((p) => p.name),
    ...(await db.select({ name: props.name }).from(props)).map((p) => p.name),
  ]);
  const added: { file: string; name: string; notes: readonly string[] }[] = [];
  const same: { file: string; name: string }[] = [];
  const rows: (typeof props.$inferInsert)[] = [];
  const kept = async (file: string): Promise<string> => blobs.put(await readFile(join(folder, file)));
  for (const { file, facts, notes, content, model, thumb } of found) {
    const known = byContent.get(content);
    if (known) {
      same.push({ file, name: known });
      continue;
    }
    const wanted = slugOf(facts.label);
    const name = freeName(wanted, taken);
    taken.add(name);
    byContent.set(content, name);
    rows.push({
      name,
      tags: [IMPORTED],
      facts: { ...facts, name },
      content,
      model: await kept(model),
      thumb: await kept(thumb),
    });
    const renamed = name === wanted ? [] : [`The name ${wanted} was taken; maps call it ${name}.`];
    added.push({ file, name, notes: [...notes, ...renamed] });
  }
  if (rows.length > 0) await db.insert(props).values(rows);
  return { added, same };
}
