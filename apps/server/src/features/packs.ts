import { asc, eq, sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { zipSync } from 'fflate';
import { ID_PATTERN, NamePack, type PackRow } from '@yesca/contract';
import { PACK_LIST } from '@yesca/intake';
import type { Context } from '../context.ts';
import { materials, packs, props } from '../db/schema.ts';
import { notFound } from '../errors.ts';
import { slugOf } from '../materials/names.ts';
import { PACK_FORMAT, PACK_VERSION, type PackManifest } from '../packs/manifest.ts';
import { idOf, validated } from '../validated.ts';
import { forced, materialUses, propUses, refuseUsedMaterials, refuseUsedProps } from './uses.ts';

type Packs = typeof packs.$inferSelect;

/** A pack by its id; a refusal where there is none. */
export async function findPack(db: Context['db'], id: string): Promise<Packs> {
  const [row] = ID_PATTERN.test(id) ? await db.select().from(packs).where(eq(packs.id, id)) : [];
  if (!row) throw notFound('pack');
  return row;
}

const COUNTED = {
  id: packs.id,
  name: packs.name,
  materials: sql<number>`(select count(*) from ${materials} where ${materials.packId} = ${packs.id})::int`,
  props: sql<number>`(select count(*) from ${props} where ${props.packId} = ${packs.id})::int`,
} as const;

/** What is told of a pack; null where there is none. */
export async function packRow(db: Context['db'], id: string): Promise<PackRow | null> {
  const [row] = await db.select(COUNTED).from(packs).where(eq(packs.id, id));
  return row ?? null;
}

/** Packs of materials and props: listed, renamed, exported, removed. */
export function packRoutes(app: FastifyInstance, context: Context): void {
  const { db, blobs } = context;

  app.get('/api/packs', (): Promise<PackRow[]> => db.select(COUNTED).from(packs).orderBy(asc(packs.createdAt)));

  app.patch('/api/packs/:id', async (request) => {
    const pack = await findPack(db, idOf(request.params));
    const { name } = await validated(NamePack, request.body);
    await db.update(packs).set({ name }).where(eq(packs.id, pack.id));
    return packRow(db, pack.id);
  });

  const namesIn = async (table: typeof materials | typeof props, packId: string): Promise<Set<string>> => {
    const rows = await db.select({ name: table.name }).from(table).where(eq(table.packId, packId));
    return new Set(rows.map((r) => r.name));
  };
  app.delete('/api/packs/:id', async (request) => {
    const pack = await findPack(db, idOf(request.params));
    if (!forced(request.query)) {
      refuseUsedMaterials(await materialUses(context, await namesIn(materials, pack.id)), `The pack ${pack.name}`);
      refuseUsedProps(await propUses(context, await namesIn(props, pack.id)), `A prop of the pack ${pack.name}`);
    }
    await db.transaction(async (tx) => {
      await tx.delete(materials).where(eq(materials.packId, pack.id));
      await tx.delete(props).where(eq(props.packId, pack.id));
      await tx.delete(packs).where(eq(packs.id, pack.id));
    });
    return { id: pack.id };
  });

  app.get('/api/packs/:id/export', async (request, reply) => {
    const pack = await findPack(db, idOf(request.params));
    const entries: Record<string, Uint8Array> = {};
    const put = async (name: string, hash: string): Promise<string> => {
      entries[name] = await blobs.read(hash);
      return name;
    };
    const list: PackManifest = {
      format: PACK_FORMAT,
      version: PACK_VERSION,
      name: pack.name,
      materials: await listMaterials(db, pack.id, put),
      props: await listProps(db, pack.id, put),
    };
    entries[PACK_LIST] = new TextEncoder().encode(`${JSON.stringify(list, null, 2)}\n`);
    // Pictures are packed already.
    const zip = zipSync(entries, { level: 0 });
    return reply
      .type('application/zip')
      .header('content-disposition', `attachment; filename="${slugOf(pack.name)}.zip"`)
      .send(Buffer.from(zip));
  });
}

/** Puts a file that is kept into the archive, and gives what it is called there. */
type Put = (name: string, hash: string) => Promise<string>;

async function listMaterials(db: Context['db'], packId: string, put: Put): Promise<PackManifest['materials']> {
  const rows = await db.select().from(materials).where(eq(materials.packId, packId)).orderBy(asc(materials.name));
  return Promise.all(
    rows.map(async (m) => {
      const { name, label, tags, substance, solidity, texelsPerCm, regions } = m;
      const albedo = await put(`${name}.webp`, m.albedo);
      const normal = m.normal && (await put(`${name}_normal.webp`, m.normal));
      const roughness = m.roughnessMap && (await put(`${name}_roughness.webp`, m.roughnessMap));
      const beside = { ...(normal ? { normal } : {}), ...(roughness ? { roughness } : {}) };
      return { name, label, tags, substance, solidity, texelsPerCm, regions, albedo, ...beside };
    }),
  );
}

async function listProps(db: Context['db'], packId: string, put: Put): Promise<PackManifest['props']> {
  const rows = await db.select().from(props).where(eq(props.packId, packId)).orderBy(asc(props.name));
  return Promise.all(
    rows.map(async ({ name, tags, facts: { label, substance, collision, drawn }, model }) => ({
      name,
      label,
      tags,
      substance,
      collision,
      ...(drawn ? { drawn: drawn.map((s) => s.vertices) } : {}),
      model: await put(`${name}.glb`, model),
    })),
  );
}
