import type { ParamSpec, ParamValue, ReferenceParam } from '../params/index.ts';
import { entityKind } from './catalogue.ts';
import type { Entity } from './types.ts';

function renamed(
  spec: ParamSpec,
  value: ParamValue,
  to: ReferenceParam['to'],
  names: ReadonlyMap<string, string>,
): ParamValue {
  if (spec.type === 'list' && Array.isArray(value)) return value.map((v: ParamValue) => renamed(spec.of, v, to, names));
  return spec.type === 'reference' && spec.to === to ? (names.get(value as string) ?? value) : value;
}

/** A thing whose references follow what got another name: copies refer to copies, and to what was not copied as it was. */
export function renameReferences(e: Entity, to: ReferenceParam['to'], names: ReadonlyMap<string, string>): Entity {
  const specs = Object.entries(entityKind(e.kind)?.params ?? {});
  const changed = specs.flatMap(([key, spec]) => {
    const value = e.params[key];
    const now = value === undefined ? value : renamed(spec, value, to, names);
    return now === undefined || now === value ? [] : [[key, now] as const];
  });
  return changed.length ? { ...e, params: { ...e.params, ...Object.fromEntries(changed) } } : e;
}
