import { createReadStream, type ReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import multipart from '@fastify/multipart';
import { asc, eq, inArray } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { nanoid } from 'nanoid';
import pLimit from 'p-limit';
import { ChangeMaterial, type ImportReport } from '@yesca/contract';
import { SOUNDS } from '@yesca/core';
import { LIMITS } from '@yesca/intake';
import { MATERIALS, PICTURES, type Material, type Picture } from '@yesca/stock';
import type { Context } from '../context.ts';
import { materials, packs } from '../db/schema.ts';
import { notFound, Refusal } from '../errors.ts';
import { densityOfName, guessOf, labelOf, slugOf } from '../materials/names.ts';
import type { DecodedUpload, FoundMaterial, Kept } from '../materials/outcomes.ts';
import { validated } from '../validated.ts';
import { findPack, packRow } from './packs.ts';
import { freeName, inUpload, tidyName, UPLOAD_LIMIT } from './uploads.ts';
import { forced, materialUses, refuseUsedMaterials } from './uses.ts';

type MaterialRow = typeof materials.$inferSelect;

const SHIPPED = new Map(MATERIALS.map((m) => [m.name, m]));

function shown(m: MaterialRow): Material {
  const lacks: Picture[] = [
    ...(m.normal ? [] : (['normal'] as const)),
    ...(m.roughnessMap ? [] : (['roughness'] as const)),
  ];
  return {
    name: m.name,
    label: m.label,
    tags: m.tags,
    substance: m.substance,
    solidity: m.solidity,
    width: m.width,
    height: m.height,
    texelsPerCm: m.texelsPerCm,
    average: m.average,
    ...(m.mask ? { mask: m.mask } : {}),
    roughness: m.roughness,
    pack: m.packId,
    content: m.content.slice(0, 12),
    ...(m.regions.length ? { regions: m.regions } : {}),
    ...(lacks.length ? { lacks } : {}),
  };
}

/** The materials that ship, and then those that were imported, the oldest first. */
export async function allMaterials(db: Context['db']): Promise<Material[]> {
  const rows = await db.select().from(materials).orderBy(asc(materials.createdAt), asc(materials.name));
  return [...MATERIALS, ...rows.map(shown)];
}

/** Materials: listed, imported into packs, changed and removed. */
export async function materialRoutes(
  app: FastifyInstance,
  context: Context & { readonly stockDir: string; readonly dataDir: string },
): Promise<void> {
  const { db, blobs, decoder, stockDir, dataDir } = context;
  await app.register(multipart, { limits: { fileSize: UPLOAD_LIMIT, files: LIMITS.entries, fields: 4 } });

  /** Two imports that found the same free name would both take it: names are given one import after the other. */
  const storing = pLimit(1);

  const find = async (params: unknown): Promise<MaterialRow> => {
    const name = (params as { name: string }).name;
    if (SHIPPED.has(name))
      throw new Refusal(
        403,
        'material.shipped',
        'This material comes with Yesca and stays as it is. Import a copy to change it.',
      );
    const [row] = await db.select().from(materials).where(eq(materials.name, name));
    if (!row) throw notFound('material');
    return row;
  };
  app.get('/api/stock/materials', () => allMaterials(db));

  app.get('/stock/pictures/:name/:picture', async (request, reply) => {
    const { name, picture } = request.params as { name: string; picture: Picture };
    const nothing = () =>
      reply.status(404).send({ code: 'address.notFound', message: 'There is nothing at this address.' });
    if (!PICTURES.includes(picture)) return nothing();
    // An address that names the content (`?v=`) holds for good; a plain one is asked for again.
    const { v } = request.query as { v?: string };
    const send = (data: Buffer | ReadStream, content?: string) =>
      reply
        .type('image/webp')
        .header(
          'cache-control',
          content && v === content.slice(0, 12) ? 'private, max-age=31536000, immutable' : 'no-cache',
        )
        .send(data);
    if (SHIPPED.has(name)) {
      reply.header('cache-control', 'max-age=3600');
      return reply.type('image/webp').send(createReadStream(join(stockDir, 'materials', `${name}.${picture}.webp`)));
    }
    const [row] = await db.select().from(materials).where(eq(materials.name, name));
    const hash =
      row && { albedo: row.albedo, normal: row.normal, roughness: row.roughnessMap, thumb: row.thumb }[picture];
    return hash ? send(await blobs.read(hash), row.content) : nothing();
  });

  app.get('/stock/sounds/:name', (request, reply) => {
    const { name } = request.params as { name: string };
    if (!Object.hasOwn(SOUNDS, name))
      return reply.status(404).send({ code: 'address.notFound', message: 'There is no sound of that name.' });
    return reply
      .type('audio/wav')
      .header('cache-control', 'max-age=3600')
      .send(createReadStream(join(stockDir, 'sounds', `${name}.wav`)));
  });

  app.post('/api/packs/import', { bodyLimit: UPLOAD_LIMIT }, (request, reply): Promise<ImportReport> =>
    inUpload(request, reply, dataDir, async ({ files, name, packId, folder, signal }) => {
      if (packId) await findPack(db, packId);
      const upload = await decoder.run(folder, files, signal);
      const called = tidyName(name) || labelOf(files[0]!.name.replace(/\.[a-z0-9]+$/i, ''));
      const report = await storing(() => storeUpload(context, folder, upload, packId, called));
      reply.status(report.added.length ? 201 : 200);
      return report;
    }),
  );

  app.patch('/api/materials/:name', async (request) => {
    const row = await find(request.params);
    const change = await validated(ChangeMaterial, request.body);
    const outside = change.regions?.find((r) => r.x + r.width > row.width || r.y + r.height > row.height);
    if (outside)
      throw new Refusal(
        400,
        'region.outside',
        `The region ${outside.name} reaches out of the picture, which is ${row.width} × ${row.height}. Make it smaller.`,
      );
    const same = change.regions?.find((r, i) => change.regions!.findIndex((o) => o.name === r.name) !== i);
    if (same)
      throw new Refusal(400, 'region.sameName', `Two regions are called ${same.name}. Name one of them otherwise.`);
    const regions = change.regions?.map(({ name, x, y, width, height }) => ({ name, x, y, width, height }));
    const [now] = await db
      .update(materials)
      .set({ ...change, ...(regions ? { regions } : {}) })
      .where(eq(materials.name, row.name))
      .returning();
    return shown(now!);
  });

  const usesOf = (names: ReadonlySet<string>) => materialUses(context, names);
  app.get('/api/materials/:name/uses', async (request) => usesOf(new Set([(request.params as { name: string }).name])));

  app.delete('/api/materials/:name', async (request) => {
    const row = await find(request.params);
    if (!forced(request.query)) refuseUsedMaterials(await usesOf(new Set([row.name])), row.label);
    await db.delete(materials).where(eq(materials.name, row.name));
    return { name: row.name };
  });
}

/** Writes the pictures, then the rows, of what is new in an upload; a pack is made only when something is. */
async function storeUpload(
  { db, blobs }: Pick<Context, 'db' | 'blobs'>,
  folder: string,
  { found, refused }: DecodedUpload,
  packId: string,
  packName: string,
): Promise<ImportReport> {
  const contents = found.map((f) => f.albedo.content);
  const known = contents.length
    ? await db
        .select({ name: materials.name, content: materials.content })
        .from(materials)
        .where(inArray(materials.content, contents))
    : [];
  const byContent = new Map(known.map((k) => [k.content, k.name]));
  const taken = new Set([
    ...SHIPPED.keys(),
    ...(await db.select({ name: materials.name }).from(materials)).map((m) => m.name),
  ]);
  const added: { file: string; name: string; note?: string }[] = [];
  const same: { file: string; name: string }[] = [];
  const fresh: Omit<MaterialRow, 'packId' | 'createdAt'>[] = [];
  const kept = async (file: string): Promise<string> => blobs.put(await readFile(join(folder, file)));
  const put = (d: Kept | undefined): Promise<string> | null => (d ? kept(d.picture) : null);
  for (const f of found) {
    const there = byContent.get(f.albedo.content);
    if (there) {
      same.push({ file: f.file, name: there });
      continue;
    }
    const facts = factsOf(f);
    const name = freeName(facts.name, taken);
    taken.add(name);
    byContent.set(f.albedo.content, name);
    fresh.push({
      ...facts,
      name,
      content: f.albedo.content,
      albedo: (await put(f.albedo))!,
      normal: await put(f.normal),
      roughnessMap: await put(f.roughness),
      thumb: await kept(f.albedo.thumb),
    });
    const note = [
      f.albedo.note,
      name === facts.name ? undefined : `The name ${facts.name} was taken; maps call it ${name}.`,
    ]
      .filter(Boolean)
      .join(' ');
    added.push({ file: f.file, name, ...(note ? { note } : {}) });
  }
  const id = packId || nanoid();
  if (fresh.length > 0)
    await db.transaction(async (tx) => {
      if (!packId) await tx.insert(packs).values({ id, name: packName });
      await tx.insert(materials).values(fresh.map((m) => ({ ...m, packId: id })));
    });
  return { pack: (await packRow(db, id)) ?? { id: '', name: packName, materials: 0, props: 0 }, added, same, refused };
}

/** What is known of a found material: what its pack's list says, else what its name and pixels hint at. */
function factsOf({ name: { stem, folders }, albedo, roughness, listed }: FoundMaterial) {
  const guess = guessOf(stem, folders);
  const fits = listed?.regions.filter((r) => r.x + r.width <= albedo.width && r.y + r.height <= albedo.height) ?? [];
  return {
    name: slugOf(listed?.name || stem),
    label: listed?.label || labelOf(stem),
    tags: [...(listed?.tags ?? guess.tags)],
    substance: listed?.substance ?? guess.substance,
    solidity: listed?.solidity ?? albedo.solidity,
    width: albedo.width,
    height: albedo.height,
    texelsPerCm: listed?.texelsPerCm ?? densityOfName(stem, albedo.width),
    average: albedo.average,
    mask: albedo.mask,
    roughness: Math.round((roughness?.mean ?? 0.8) * 100) / 100,
    regions: fits,
  };
}
