import { pointLight } from './point-light.ts';
import { spawn } from './spawn.ts';
import { sun } from './sun.ts';
import type { Entity, EntityKind, ParamValue } from './types.ts';

/** Every kind of entity that can be placed, in the order in which Stock shows them. */
export const ENTITY_KINDS: readonly EntityKind[] = [spawn, pointLight, sun];

const byKind = new Map(ENTITY_KINDS.map((k) => [k.kind, k]));

/** The kind's description, or undefined for a kind from a newer version. */
export const entityKind = (kind: string): EntityKind | undefined => byKind.get(kind);

export const initialParams = (kind: EntityKind): Record<string, ParamValue> =>
  Object.fromEntries(Object.entries(kind.params).map(([key, spec]) => [key, spec.initial]));

/** Why a value does not fit a parameter, or null. */
export function paramFlaw(kind: string, key: string, value: unknown): string | null {
  const spec = byKind.get(kind)?.params[key];
  if (!spec) return null;
  if (spec.type === 'number') {
    if (typeof value !== 'number' || !Number.isFinite(value)) return `${spec.label} must be a number.`;
    if (spec.min !== undefined && value < spec.min)
      return `${spec.label} must be at least ${spec.min}${spec.unit ?? ''}.`;
    if (spec.max !== undefined && value > spec.max)
      return `${spec.label} must be at most ${spec.max}${spec.unit ?? ''}.`;
  }
  if (spec.type === 'color' && !(typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value)))
    return `${spec.label} must be a colour like #ffcc88.`;
  return null;
}

/** The spawn a single player and the first camera begin at: the first by name, then by id. */
export function firstSpawn(entities: Iterable<Entity>): Entity | undefined {
  const key = (e: Entity) => `${e.name ?? '~'} ${e.id}`;
  return [...entities].filter((e) => e.kind === 'spawn').sort((a, b) => (key(a) < key(b) ? -1 : 1))[0];
}
