import { paramFlaw, type ParamValue } from '../params/index.ts';
import type { Decal } from '../decal/index.ts';
import type { Around, Distant, EntityKind } from './kind.ts';
import { ENTITY_KINDS } from './kinds/index.ts';
import type { LightSource } from './light-source.ts';
import type { Model } from './model.ts';
import type { Entity } from './types.ts';

const byKind = new Map(ENTITY_KINDS.map((k) => [k.kind, k]));

/** The kind's description, or undefined for a kind from a newer version. */
export const entityKind = (kind: string): EntityKind | undefined => byKind.get(kind);

/** Why a value does not fit a thing's parameter, in a sentence, or null. What this version does not know fits. */
export function entityParamFlaw(kind: string, key: string, value: unknown): string | null {
  const spec = byKind.get(kind)?.params[key];
  return spec ? paramFlaw(spec, value) : null;
}

/** A thing's parameter, or its default. */
export const paramOf = (entity: Entity, key: string): ParamValue | undefined =>
  entity.params[key] ?? byKind.get(entity.kind)?.params[key]?.initial;

/** Whether players begin there. */
export const isSpawn = (entity: Pick<Entity, 'kind'>): boolean => byKind.get(entity.kind)?.spawns ?? false;
/** Whether it gives light. */
/** Whether a thing is a place from which reflections are seen. */
export const reflects = (entity: Pick<Entity, 'kind'>): boolean => byKind.get(entity.kind)?.reflects ?? false;

export const shines = (entity: Pick<Entity, 'kind'>): boolean => byKind.get(entity.kind)?.shines ?? false;
/** Whether the inside is flooded from it. */
/** How strong a thing's light is set: candela or lux; 0 for what does not shine. */
export function strengthOf(entity: Entity): number {
  const key = byKind.get(entity.kind)?.strength;
  const value = key ? paramOf(entity, key) : undefined;
  return typeof value === 'number' ? value : 0;
}

export const floods = (entity: Pick<Entity, 'kind'>): boolean => byKind.get(entity.kind)?.floods ?? false;
/** Whether things of a kind consist of brushes. */
export const ownsBrushes = ({ body }: Pick<EntityKind, 'body'>): boolean => body === 'brushes' || body === 'zone';

/** Whether its parts move in play. */
export const moves = (entity: Pick<Entity, 'kind'> | undefined): boolean =>
  (entity && byKind.get(entity.kind)?.moves) ?? false;
/** Whether a player who looks at it can use it. */
export const usedBy = (entity: Entity): boolean => byKind.get(entity.kind)?.usable(entity) ?? false;
/** What a player is told when a thing signals something; null for nothing. */
export const hintOf = (entity: Entity, signal: string): string | null =>
  byKind.get(entity.kind)?.hint(entity, signal, entityName(entity)) ?? null;
/** Whether its brushes shade the light of a build. */
export const castsShadow = (entity: Entity | undefined): boolean =>
  entity ? (byKind.get(entity.kind)?.shades(entity) ?? true) : true;
export const lightOf = (entity: Entity, around?: Around): LightSource | null =>
  byKind.get(entity.kind)?.light(entity, around) ?? null;

/** The prop that a thing is; null for what is none. */
export function modelOf(entity: Entity): Model | null {
  const kind = byKind.get(entity.kind);
  if (kind?.body !== 'props') return null;
  let known = models.get(entity);
  if (!known) models.set(entity, (known = kind.model(entity)!));
  return known;
}

/** The picture that a thing throws on what is near; null for what throws none. The same for the same thing. */
export function decalOf(entity: Entity): Decal | null {
  const kind = byKind.get(entity.kind);
  if (!kind?.decal) return null;
  let known = decals.get(entity);
  if (known === undefined) decals.set(entity, (known = kind.decal(entity)));
  return known;
}

/** Things are never changed in place. */
const decals = new WeakMap<Entity, Decal>();
const models = new WeakMap<Entity, Model>();

/** How a thing's region is seen far away; null for what is no scenery. */
export const distantOf = (entity: Entity): Distant | null => byKind.get(entity.kind)?.distant(entity) ?? null;

/** The spawn a single player and the first camera begin at: the first by name, then by id. */
export function firstSpawn(entities: Iterable<Entity>): Entity | undefined {
  const key = (e: Entity) => `${e.name ?? '~'} ${e.id}`;
  return [...entities].filter(isSpawn).sort((a, b) => (key(a) < key(b) ? -1 : 1))[0];
}

/** What a thing is called: its own name, or what it is. */
export const entityName = (e: Pick<Entity, 'name' | 'kind'> | undefined): string =>
  e?.name ? e.name : `A ${(byKind.get(e?.kind ?? '')?.label ?? 'thing').toLowerCase()}`;

/** The same in the middle of a sentence. */
export const entityNameWithin = (e: Pick<Entity, 'name' | 'kind'> | undefined): string =>
  e?.name ? e.name : entityName(e).replace('A ', 'a ');
