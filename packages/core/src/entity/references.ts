import { eachField, type ParamRecord, type ParamSpec, type ParamValue, type ReferenceParam } from '../params/index.ts';
import { entityKind } from './catalogue.ts';
import type { Entity } from './types.ts';

function renamed(
  spec: ParamSpec,
  value: ParamValue,
  to: ReferenceParam['to'],
  name: (id: string) => string | undefined,
): ParamValue {
  if (spec.type === 'list' && Array.isArray(value)) return value.map((v: ParamValue) => renamed(spec.of, v, to, name));
  if (spec.type === 'record') return eachField(spec, value as ParamRecord, (of, v) => renamed(of, v, to, name));
  return spec.type === 'reference' && spec.to === to ? (name(value as string) ?? value) : value;
}

/** A thing whose parameters follow what got another name. What has none stays named as it was, there or not. */
export function renameReferences(
  e: Entity,
  to: ReferenceParam['to'],
  name: (id: string) => string | undefined,
): Entity {
  const specs = Object.entries(entityKind(e.kind)?.params ?? {});
  const changed = specs.flatMap(([key, spec]) => {
    const value = e.params[key];
    const now = value === undefined ? value : renamed(spec, value, to, name);
    return now === undefined || now === value ? [] : [[key, now] as const];
  });
  return changed.length ? { ...e, params: { ...e.params, ...Object.fromEntries(changed) } } : e;
}
