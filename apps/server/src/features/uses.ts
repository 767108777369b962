import { asc, isNull } from 'drizzle-orm';
import type { MapSummary, MaterialUse, PropUse } from '@yesca/contract';
import { materialCounts, modelOf, pictureCounts, usedWords, parseMap, type MapDocument } from '@yesca/core';
import type { Context } from '../context.ts';
import { assemblies, maps } from '../db/schema.ts';
import { Refusal } from '../errors.ts';

type Needs = Pick<Context, 'db' | 'saves' | 'blobs'>;

/** Whether what maps use is to be removed all the same. */
export const forced = (query: unknown): boolean => (query as { force?: string }).force === '1';

const mapsThere = ({ db }: Needs) =>
  db
    .select({
      id: maps.id,
      name: maps.name,
      summary: maps.summary,
      version: maps.version,
      snapshotVersion: maps.snapshotVersion,
    })
    .from(maps)
    .where(isNull(maps.deletedAt));

/** What may use what is in Stock. */
interface User {
  readonly mapId: string;
  readonly map: string;
  /** What is kept of what it uses, as far as it is that of now. */
  readonly known: Partial<MapSummary>;
  readonly document: () => Promise<MapDocument>;
}

/** The maps, and the assemblies in Stock: what they need is missed wherever they are placed. */
async function usersOf(context: Needs): Promise<User[]> {
  const { db, saves, blobs } = context;
  const there = (await mapsThere(context)).map((m): User => ({
    mapId: m.id,
    map: m.name,
    known: m.version === m.snapshotVersion ? (m.summary ?? {}) : {},
    document: async () => parseMap(await saves.text(await saves.find(m.id))),
  }));
  const kept = (await db.select().from(assemblies).orderBy(asc(assemblies.createdAt), asc(assemblies.id))).map(
    (a): User => ({
      mapId: a.id,
      map: `the assembly ${a.label}`,
      known: a.summary,
      document: async () => parseMap(await blobs.text(a.document)),
    }),
  );
  return [...there, ...kept];
}

/** On how many faces of which maps and assemblies materials lie, and how many decals and billboards show them. */
export async function materialUses(context: Needs, names: ReadonlySet<string>): Promise<MaterialUse[]> {
  if (names.size === 0) return [];
  const sum = (counts: Readonly<Record<string, number>>) => [...names].reduce((n, name) => n + (counts[name] ?? 0), 0);
  const uses = await Promise.all(
    (await usersOf(context)).map(async ({ mapId, map, known, document }) => {
      const doc = known.materials && known.pictures ? null : await document();
      return {
        mapId,
        map,
        faces: sum(doc ? Object.fromEntries(materialCounts(doc)) : known.materials!),
        pictures: sum(doc ? Object.fromEntries(pictureCounts(doc)) : known.pictures!),
      };
    }),
  );
  return uses.filter((u) => u.faces + u.pictures > 0);
}

/** How often props stand in which maps and assemblies. */
export async function propUses(context: Needs, names: ReadonlySet<string>): Promise<PropUse[]> {
  if (names.size === 0) return [];
  const uses = await Promise.all(
    (await usersOf(context)).map(async ({ mapId, map, document }) => {
      const { entities } = await document();
      const things = [...entities.values()].filter((e) => names.has(modelOf(e)?.name ?? '')).length;
      return { mapId, map, things };
    }),
  );
  return uses.filter((u) => u.things > 0);
}

/** Removing materials that maps use has to be asked for twice. */
export function refuseUsedMaterials(uses: readonly MaterialUse[], what: string): void {
  if (uses.length === 0) return;
  const where = uses.map((u) => `${u.map} (${usedWords(u)})`).join(', ');
  throw new Refusal(
    409,
    'material.used',
    `${what} is used by ${where}. Replace it there first, or delete it all the same.`,
  );
}

/** Removing props that stand in maps has to be asked for twice. */
export function refuseUsedProps(uses: readonly PropUse[], what: string): void {
  if (uses.length === 0) return;
  const where = uses.map((u) => `${u.map} (${u.things === 1 ? 'once' : `${u.things} times`})`).join(', ');
  throw new Refusal(409, 'prop.used', `${what} stands in ${where}. Replace it there first, or delete it all the same.`);
}
