import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { asc, eq, inArray, or } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import pLimit from 'p-limit';
import { ChangeProp, type PropImportReport } from '@yesca/contract';
import { boxSize, BrushError, drawnSolids, growProp, movePivot, type PropFacts, type Vec3 } from '@yesca/core';
import { growModel, shiftModel } from '@yesca/intake';
import { PROPS, propFacts, type Prop } from '@yesca/stock';
import type { Context } from '../context.ts';
import { packs, props } from '../db/schema.ts';
import { Refusal } from '../errors.ts';
import { slugOf } from '../materials/names.ts';
import { isModelFile, type FoundModel } from '../props/read-models.ts';
import { validated } from '../validated.ts';
import { findPack, packRow } from './packs.ts';
import { freeName, inUpload, tidyName, UPLOAD_LIMIT } from './uploads.ts';
import { forced, propUses, refuseUsedProps } from './uses.ts';

/** The files of a prop: its model, and the small picture of the library. */
const TYPES: Readonly<Record<string, string>> = { glb: 'model/gltf-binary', webp: 'image/webp' };

/** The pack that takes models which come without one. */
const LOOSE = 'Models';

/** The props that ship, and then those that were imported, the oldest first. */
export async function allProps(db: Context['db']): Promise<Prop[]> {
  const rows = await db.select().from(props).orderBy(asc(props.createdAt), asc(props.name));
  return [...PROPS, ...rows.map(shown)];
}

/** Where the model of a prop that ships lies. */
const stockFile = (stockDir: string, name: string, type: string): string => join(stockDir, 'props', `${name}.${type}`);

/** Where the models of all props lie, by their names. */
export async function modelFiles(
  db: Context['db'],
  blobs: Context['blobs'],
  stockDir: string,
): Promise<Record<string, string>> {
  const rows = await db.select({ name: props.name, model: props.model }).from(props);
  return Object.fromEntries([
    ...PROPS.map(({ name }) => [name, stockFile(stockDir, name, 'glb')]),
    ...rows.map(({ name, model }) => [name, blobs.file(model)]),
  ]);
}

type PropRow = typeof props.$inferSelect;

const shown = ({ name, facts, tags, packId, model }: PropRow): Prop => ({
  ...facts,
  name,
  tags,
  pack: packId,
  content: model.slice(0, 12),
});

const noProp = (): Refusal => new Refusal(404, 'prop.notFound', 'There is no prop of that name.');

/** Props: listed, imported, removed; their models and pictures. */
export function propRoutes(
  app: FastifyInstance,
  context: Context & { readonly stockDir: string; readonly dataDir: string },
): void {
  const { db, blobs, models, stockDir, dataDir } = context;
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
        .send(createReadStream(stockFile(stockDir, name, type)));
    const [row] = await db.select().from(props).where(eq(props.name, name));
    if (!row) throw noProp();
    return reply
      .type(mime)
      .header('cache-control', 'no-cache')
      .send(await blobs.read(type === 'glb' ? row.model : row.thumb));
  });

  app.post('/api/props/import', { bodyLimit: UPLOAD_LIMIT }, (request, reply): Promise<PropImportReport> =>
    inUpload(request, reply, dataDir, async ({ files, name, packId, folder, signal }) => {
      if (!files.some((f) => isModelFile(f.name)))
        throw new Refusal(
          400,
          'upload.noModel',
          'There is no model among the files. Choose a .glb, a .gltf with its files, or a ZIP of one.',
        );
      if (packId) await findPack(db, packId);
      const { found, refused, pack } = await models.run({ folder, files }, signal);
      const into = packId || { called: tidyName(name) || tidyName(pack ?? '') || LOOSE };
      const report = { ...(await storing(() => store(context, folder, found, into))), refused };
      reply.status(report.added.length ? 201 : 200);
      return report;
    }),
  );

  app.get('/api/props/:name/uses', (request) =>
    propUses(context, new Set([(request.params as { name: string }).name])),
  );

  const find = async (params: unknown): Promise<PropRow> => {
    const { name } = params as { name: string };
    if (propFacts(name))
      throw new Refusal(
        403,
        'prop.shipped',
        'This prop comes with Yesca and stays as it is. Import a copy to change it.',
      );
    const [row] = await db.select().from(props).where(eq(props.name, name));
    if (!row) throw noProp();
    return row;
  };

  app.patch('/api/props/:name', async (request): Promise<Prop> => {
    const row = await find(request.params);
    const { tags, pack, grow, pivot, drawn, ...said } = await validated(ChangeProp, request.body);
    if (pack !== undefined) await findPack(db, pack);
    let placed = row.facts;
    let glb: Uint8Array | null = null;
    if (grow !== undefined) {
      placed = growProp(placed, grow);
      assertSize(placed);
      glb = await growModel(await blobs.read(row.model), grow);
    }
    if (pivot !== undefined) {
      const to = pivot as unknown as Vec3;
      placed = movePivot(placed, to);
      glb = await shiftModel(glb ?? (await blobs.read(row.model)), to);
    }
    const facts = { ...placed, ...(drawn ? collidesAs(placed, drawn) : {}), ...given(said) };
    const model = glb ? await blobs.put(glb) : row.model;
    const change = { facts, model, tags: tags ?? row.tags, packId: pack ?? row.packId };
    const [now] = await db.update(props).set(change).where(eq(props.name, row.name)).returning();
    return shown(now!);
  });

  app.delete('/api/props/:name', async (request) => {
    const { name, facts } = await find(request.params);
    if (!forced(request.query)) refuseUsedProps(await propUses(context, new Set([name])), facts.label);
    await db.delete(props).where(eq(props.name, name));
    return { name };
  });
}

/** What was said of a prop, without what was not. */
const given = <T extends object>(said: T): Partial<T> =>
  Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined)) as Partial<T>;

/** What is known of a prop from then on that solids are drawn for, told by their corners; none takes those away that it had. */
function collidesAs({ collision }: PropFacts, drawn: ChangeProp['drawn'] & object): Partial<PropFacts> {
  const corners = drawn.map((d) => d.corners as unknown as Vec3[]);
  if (corners.length === 0) return { drawn: undefined, collision: collision === 'drawn' ? 'hulls' : collision };
  if (!corners.flat(2).every((c) => typeof c === 'number' && Math.abs(c) <= LARGEST))
    throw new Refusal(400, 'prop.drawn', 'Corners of solids are numbers, at most 1 km from the pivot.');
  try {
    return { drawn: drawnSolids(corners), collision: 'drawn' };
  } catch (error) {
    if (error instanceof BrushError)
      throw new Refusal(
        400,
        'prop.drawn',
        'A brush that was drawn for the prop is flat. Make it a solid, or leave it out.',
      );
    throw error;
  }
}

/** The largest and the smallest side that a prop may have, cm. */
const [SMALLEST, LARGEST] = [0.1, 100_000];

function assertSize({ bounds }: PropFacts): void {
  const side = Math.max(...boxSize(bounds));
  if (side < SMALLEST || side > LARGEST)
    throw new Refusal(
      400,
      'prop.size',
      `The prop would be ${side < SMALLEST ? 'smaller than 1 mm' : 'larger than 1 km'}. Give another size.`,
    );
}

/** Writes the models, then the rows, of what is new in an upload. */
async function store(
  { db, blobs }: Pick<Context, 'db' | 'blobs'>,
  folder: string,
  found: readonly FoundModel[],
  into: string | { readonly called: string },
): Promise<Omit<PropImportReport, 'refused'>> {
  const contents = found.map((f) => f.content);
  // As it came, or as it is kept: what was exported is known again.
  const there = contents.length
    ? await db
        .select({ name: props.name, content: props.content, model: props.model })
        .from(props)
        .where(or(inArray(props.content, contents), inArray(props.model, contents)))
    : [];
  const byContent = new Map(there.flatMap((t) => [[t.content, t.name] as const, [t.model, t.name] as const]));
  const taken = new Set([
    ...PROPS.map((p) => p.name),
    ...(await db.select({ name: props.name }).from(props)).map((p) => p.name),
  ]);
  const added: { file: string; name: string; notes: readonly string[] }[] = [];
  const same: { file: string; name: string }[] = [];
  const rows: Omit<typeof props.$inferInsert, 'packId'>[] = [];
  const kept = async (file: string): Promise<string> => blobs.put(await readFile(join(folder, file)));
  for (const { file, facts, notes, content, model, thumb, listed } of found) {
    const known = byContent.get(content);
    if (known) {
      same.push({ file, name: known });
      continue;
    }
    const wanted = slugOf(listed?.name || facts.label);
    const name = freeName(wanted, taken);
    taken.add(name);
    byContent.set(content, name);
    rows.push({
      name,
      tags: [...(listed?.tags ?? [])],
      facts: { ...facts, ...saidOf(listed), name },
      content,
      model: await kept(model),
      thumb: await kept(thumb),
    });
    const renamed = name === wanted ? [] : [`The name ${wanted} was taken; maps call it ${name}.`];
    added.push({ file, name, notes: [...notes, ...renamed] });
  }
  if (rows.length === 0) return { pack: null, added, same };
  const packId = await db.transaction(async (tx) => {
    const id = typeof into === 'string' ? into : await packCalled(tx, into.called);
    await tx.insert(props).values(rows.map((row) => ({ ...row, packId: id })));
    return id;
  });
  return { pack: await packRow(db, packId), added, same };
}

/** The pack of that name; a new one where there is none. */
async function packCalled(tx: Pick<Context['db'], 'select' | 'insert'>, name: string): Promise<string> {
  const [known] = await tx.select({ id: packs.id }).from(packs).where(eq(packs.name, name)).limit(1);
  if (known) return known.id;
  const id = nanoid();
  await tx.insert(packs).values({ id, name });
  return id;
}

/** What a pack's list says of a prop. */
const saidOf = (listed: FoundModel['listed']): Partial<PropFacts> =>
  listed
    ? {
        ...(listed.label ? { label: listed.label } : {}),
        substance: listed.substance,
        ...(listed.collision ? { collision: listed.collision } : {}),
        ...(listed.drawn ? { drawn: drawnSolids(listed.drawn) } : {}),
      }
    : {};
