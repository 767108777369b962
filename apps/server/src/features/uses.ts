import { isNull } from 'drizzle-orm';
import type { MapSummary, MaterialUse, PropUse } from '@yesca/contract';
import { materialCounts, modelOf, pictureCounts, usedWords, parseMap, type MapDocument } from '@yesca/core';
import type { Context } from '../context.ts';
import { maps } from '../db/schema.ts';
import { Refusal } from '../errors.ts';

type Needs = Pick<Context, 'db' | 'saves'>;

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

const documentOf = async ({ saves }: Needs, id: string): Promise<MapDocument> =>
  parseMap(await saves.text(await saves.find(id)));

/** On how many faces of which maps materials lie, and how many decals and billboards show them. */
export async function materialUses(context: Needs, names: ReadonlySet<string>): Promise<MaterialUse[]> {
  if (names.size === 0) return [];
  const sum = (counts: Readonly<Record<string, number>>) => [...names].reduce((n, name) => n + (counts[name] ?? 0), 0);
  const uses = await Promise.all(
    (await mapsThere(context)).map(async (m) => {
      const known = m.version === m.snapshotVersion ? m.summary : ({} as Partial<MapSummary>);
      const doc = known.materials && known.pictures ? null : await documentOf(context, m.id);
      return {
        mapId: m.id,
        map: m.name,
        faces: sum(doc ? Object.fromEntries(materialCounts(doc)) : known.materials!),
        pictures: sum(doc ? Object.fromEntries(pictureCounts(doc)) : known.pictures!),
      };
    }),
  );
  return uses.filter((u) => u.faces + u.pictures > 0);
}

/** How often props stand in which maps. */
export async function propUses(context: Needs, names: ReadonlySet<string>): Promise<PropUse[]> {
  if (names.size === 0) return [];
  const uses = await Promise.all(
    (await mapsThere(context)).map(async (m) => {
      const { entities } = await documentOf(context, m.id);
      const things = [...entities.values()].filter((e) => names.has(modelOf(e)?.name ?? '')).length;
      return { mapId: m.id, map: m.name, things };
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
