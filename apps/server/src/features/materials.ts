import { createReadStream, type ReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import multipart from '@fastify/multipart';
import { asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { zipSync } from 'fflate';
import { nanoid } from 'nanoid';
import pLimit from 'p-limit';
import {
  ChangeMaterial,
  ID_PATTERN,
  NamePack,
  type ImportReport,
  type MaterialUse,
  type PackRow,
} from '@yesca/contract';
import { materialCounts, parseMap, SOUNDS } from '@yesca/core';
import { MATERIALS, PICTURES, type Material, type Picture } from '@yesca/stock';
import type { Context } from '../context.ts';
import { maps, materials, packs } from '../db/schema.ts';
import { notFound, Refusal } from '../errors.ts';
import { MANIFEST_NAME, PACK_FORMAT, PACK_VERSION, type PackManifest } from '../materials/manifest.ts';
import { densityOfName, guessOf, labelOf, slugOf } from '../materials/names.ts';
import { LIMITS } from '@yesca/intake';
import { idOf, validated } from '../validated.ts';
import { freeName, inUpload, tidyName, UPLOAD_LIMIT } from './uploads.ts';
import type { DecodedUpload, FoundMaterial, Kept } from '../materials/outcomes.ts';

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

/** Materials and their packs: listed, imported, changed, exported and removed. */
export async function materialRoutes(
  app: FastifyInstance,
  context: Context & { readonly stockDir: string; readonly dataDir: string },
): Promise<void> {
  const { db, blobs, decoder, saves, stockDir, dataDir } = context;
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
  const findPack = async (params: unknown) => {
    const [row] = await db
      .select()
      .from(packs)
      .where(eq(packs.id, idOf(params)));
    if (!row) throw notFound('pack');
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

  const packRow = async (id: string): Promise<PackRow> => {
    const [row] = await db
      .select({
        id: packs.id,
        name: packs.name,
        count: sql<number>`(select count(*) from ${materials} where ${materials.packId} = ${packs.id})::int`,
      })
      .from(packs)
      .where(eq(packs.id, id));
    return { id: row!.id, name: row!.name, materials: row!.count };
  };
  app.get('/api/packs', async (): Promise<PackRow[]> => {
    const rows = await db.select({ id: packs.id }).from(packs).orderBy(asc(packs.createdAt));
    return Promise.all(rows.map((r) => packRow(r.id)));
  });
  app.patch('/api/packs/:id', async (request) => {
    const pack = await findPack(request.params);
    const { name } = await validated(NamePack, request.body);
    await db.update(packs).set({ name }).where(eq(packs.id, pack.id));
    return packRow(pack.id);
  });

  app.post('/api/packs/import', { bodyLimit: UPLOAD_LIMIT }, (request, reply): Promise<ImportReport> =>
    inUpload(request, reply, dataDir, async ({ files, name, packId, folder, signal }) => {
      if (packId && !ID_PATTERN.test(packId)) throw notFound('pack');
      if (packId) await findPack({ id: packId });
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

  const usesOf = async (names: ReadonlySet<string>): Promise<MaterialUse[]> => {
    const rows = await db
      .select({
        id: maps.id,
        name: maps.name,
        summary: maps.summary,
        version: maps.version,
        snapshotVersion: maps.snapshotVersion,
      })
      .from(maps)
      .where(isNull(maps.deletedAt));
    const uses = await Promise.all(
      rows.map(async (m) => {
        const counts =
          (m.version === m.snapshotVersion ? m.summary.materials : undefined) ??
          Object.fromEntries(materialCounts(parseMap(await saves.text(await saves.find(m.id)))));
        return { mapId: m.id, map: m.name, faces: [...names].reduce((sum, n) => sum + (counts[n] ?? 0), 0) };
      }),
    );
    return uses.filter((u) => u.faces > 0);
  };
  app.get('/api/materials/:name/uses', async (request) => usesOf(new Set([(request.params as { name: string }).name])));

  /** Removing what maps use has to be asked for twice. */
  const refuseUsed = async (names: ReadonlySet<string>, force: boolean, what: string): Promise<void> => {
    if (force) return;
    const uses = await usesOf(names);
    if (uses.length === 0) return;
    throw new Refusal(
      409,
      'material.used',
      `${what} is used by ${uses.map((u) => `${u.map} (${u.faces} ${u.faces === 1 ? 'face' : 'faces'})`).join(', ')}. Replace it there first, or delete it all the same.`,
    );
  };
  const forced = (query: unknown): boolean => (query as { force?: string }).force === '1';

  app.delete('/api/materials/:name', async (request) => {
    const row = await find(request.params);
    await refuseUsed(new Set([row.name]), forced(request.query), row.label);
    await db.delete(materials).where(eq(materials.name, row.name));
    return { name: row.name };
  });

  app.delete('/api/packs/:id', async (request) => {
    const pack = await findPack(request.params);
    const rows = await db.select({ name: materials.name }).from(materials).where(eq(materials.packId, pack.id));
    await refuseUsed(new Set(rows.map((r) => r.name)), forced(request.query), `The pack ${pack.name}`);
    await db.transaction(async (tx) => {
      await tx.delete(materials).where(eq(materials.packId, pack.id));
      await tx.delete(packs).where(eq(packs.id, pack.id));
    });
    return { id: pack.id };
  });

  app.get('/api/packs/:id/export', async (request, reply) => {
    const pack = await findPack(request.params);
    const rows = await db.select().from(materials).where(eq(materials.packId, pack.id)).orderBy(asc(materials.name));
    const entries: Record<string, Uint8Array> = {};
    const put = async (name: string, hash: string | null) => {
      if (!hash) return undefined;
      entries[name] = await blobs.read(hash);
      return name;
    };
    const manifest: PackManifest = {
      format: PACK_FORMAT,
      version: PACK_VERSION,
      name: pack.name,
      materials: await Promise.all(
        rows.map(async (m) => {
          const albedo = (await put(`${m.name}.webp`, m.albedo))!;
          const normal = await put(`${m.name}_normal.webp`, m.normal);
          const roughness = await put(`${m.name}_roughness.webp`, m.roughnessMap);
          const { name, label, tags, substance, solidity, texelsPerCm, regions } = m;
          return {
            name,
            label,
            tags,
            substance,
            solidity,
            texelsPerCm,
            regions,
            albedo,
            ...(normal ? { normal } : {}),
            ...(roughness ? { roughness } : {}),
          };
        }),
      ),
    };
    entries[MANIFEST_NAME] = new TextEncoder().encode(`${JSON.stringify(manifest, null, 2)}\n`);
    // Pictures are packed already.
    const zip = zipSync(entries, { level: 0 });
    return reply
      .type('application/zip')
      .header('content-disposition', `attachment; filename="${slugOf(pack.name)}.zip"`)
      .send(Buffer.from(zip));
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
  const [row] = await db.select({ name: packs.name }).from(packs).where(eq(packs.id, id));
  const count = row
    ? (await db.select({ name: materials.name }).from(materials).where(eq(materials.packId, id))).length
    : 0;
  return { pack: { id: row ? id : '', name: row?.name ?? packName, materials: count }, added, same, refused };
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
