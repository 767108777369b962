import { isNotNull, isNull, like, or } from 'drizzle-orm';
import type { Context } from '../context.ts';
import { assemblies, builds, maps, materials, props, revisions } from '../db/schema.ts';

/** Every content address that a row names. */
async function usedBlobs({ db }: Pick<Context, 'db'>): Promise<Set<string>> {
  const used = new Set<string>();
  const add = (hash: string | null) => hash && used.add(hash.replace('blob:', ''));
  for (const m of await db.select({ a: maps.document, b: maps.drawing }).from(maps)) [m.a, m.b].forEach(add);
  const saved = db.select({ a: revisions.document, b: revisions.changes }).from(revisions);
  // Most saves hold their changes themselves; only those that name a file are read.
  for (const r of await saved.where(or(isNotNull(revisions.document), like(revisions.changes, 'blob:%'))))
    [r.a, r.b?.startsWith('blob:') ? r.b : null].forEach(add);
  for (const b of await db.select({ a: builds.document, b: builds.level, c: builds.ledger }).from(builds))
    [b.a, b.b, b.c].forEach(add);
  for (const m of await db
    .select({ a: materials.albedo, b: materials.normal, c: materials.roughnessMap, d: materials.thumb })
    .from(materials))
    [m.a, m.b, m.c, m.d].forEach(add);
  for (const a of await db.select({ a: assemblies.document, b: assemblies.drawing }).from(assemblies))
    [a.a, a.b].forEach(add);
  for (const p of await db.select({ a: props.model, b: props.thumb }).from(props)) [p.a, p.b].forEach(add);
  return used;
}

/** Removes files that no row names, and draws the plans of maps that were stored before plans had addresses. */
export async function tidyFolder({ db, blobs, saves }: Pick<Context, 'db' | 'blobs' | 'saves'>): Promise<void> {
  await blobs.collect(await usedBlobs({ db }));
  for (const { id } of await db.select({ id: maps.id }).from(maps).where(isNull(maps.drawing)))
    await saves.snapshot(id).catch(() => undefined);
}
