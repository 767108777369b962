import { entityKind, entityParamFlaw, type Entity, type EntityKind } from '../entity/index.ts';
import { initialValues, paramFlaw, type ParamValue } from '../params/index.ts';
import { isFiniteVec, WORLD_LIMIT, type Vec3 } from '../math/index.ts';
import { INITIAL_SETTINGS, newId, SETTINGS, type MapDocument, type MapSettings } from '../map/index.ts';
import { EditError } from './errors.ts';

/** Places a new entity of a kind with its usual parameters. */
export function placeEntity(doc: MapDocument, kind: string, at: Vec3, turn = 0, id = newId()): MapDocument {
  const spec = entityKind(kind);
  if (!spec) throw new EditError('entity.kind', `There is no entity kind called ${kind}. Choose one from Stock.`);
  checkPlace(at);
  return {
    ...doc,
    entities: new Map(doc.entities).set(id, { id, kind, at, turn, params: initialValues(spec.params) }),
  };
}

/** Changes a thing. A parameter that is undefined is unset: it then has its usual value. */
export function changeEntity(
  doc: MapDocument,
  id: string,
  change: Partial<Pick<Entity, 'at' | 'turn' | 'name'>> & { params?: Readonly<Record<string, ParamValue | undefined>> },
): MapDocument {
  const old = doc.entities.get(id);
  if (!old) throw new EditError('entity.unknown', 'That entity is no longer in the map.');
  if (change.at) checkPlace(change.at);
  if (change.turn !== undefined && !Number.isFinite(change.turn))
    throw new EditError('entity.turn', 'The turn must be a number of degrees.');
  for (const [key, value] of Object.entries(change.params ?? {})) {
    const flaw = value === undefined ? null : entityParamFlaw(old.kind, key, value);
    if (flaw) throw new EditError('entity.param', flaw);
  }
  const all = Object.entries({ ...old.params, ...change.params });
  const params = Object.fromEntries(all.filter((entry): entry is [string, ParamValue] => entry[1] !== undefined));
  return { ...doc, entities: new Map(doc.entities).set(id, { ...old, ...change, params }) };
}

/** Things that are of another kind from then on: what both kinds call alike they keep, what they own and ride on too. */
export function becomeKind(doc: MapDocument, ids: readonly string[], kind: string): MapDocument {
  const spec = entityKind(kind);
  if (!spec) throw new EditError('entity.kind', `There is no entity kind called ${kind}. Choose one from Stock.`);
  const entities = new Map(doc.entities);
  for (const id of ids) {
    const old = doc.entities.get(id);
    if (!old) throw new EditError('entity.unknown', 'That entity is no longer in the map.');
    entities.set(id, { ...old, kind, params: { ...initialValues(spec.params), ...fitting(spec, old) } });
  }
  // Wires of signals and actions that the new kind does not have lead nowhere.
  const wires = new Map(
    [...doc.wires].filter(([, { from, to }]) => {
      const lost = (thing: string, ports: Readonly<Record<string, unknown>>, port: string) =>
        ids.includes(thing) && !Object.hasOwn(ports, port);
      return !lost(from.thing, spec.signals, from.signal) && !lost(to.thing, spec.actions, to.action);
    }),
  );
  return { ...doc, entities, wires };
}

/** The parameters of a thing that another kind has as well and whose values fit there. */
const fitting = (spec: EntityKind, { params }: Entity): Readonly<Record<string, ParamValue>> =>
  Object.fromEntries(
    Object.entries(params).filter(([key, value]) => spec.params[key] && paramFlaw(spec.params[key], value) === null),
  );

/** Gives things the parameters of another one, as far as they have them. */
export function copyParams(doc: MapDocument, from: string, ids: readonly string[]): MapDocument {
  const source = doc.entities.get(from);
  if (!source) throw new EditError('entity.unknown', 'That entity is no longer in the map.');
  const entities = new Map(doc.entities);
  for (const id of ids) {
    const old = doc.entities.get(id);
    const spec = old && entityKind(old.kind);
    if (!old || !spec) continue;
    entities.set(id, { ...old, params: { ...old.params, ...fitting(spec, source) } });
  }
  return { ...doc, entities };
}

/** Throws an {@link EditError} for a place where nothing can be. */
export function checkPlace(at: Vec3): void {
  if (!isFiniteVec(at) || at.some((c) => Math.abs(c) > WORLD_LIMIT))
    throw new EditError(
      'entity.place',
      `The place must be within ${WORLD_LIMIT / 100} m of the origin. Type smaller numbers.`,
    );
}

/** Settings that every map has; the others may be left unset. */
const REQUIRED: ReadonlySet<string> = new Set(Object.keys(INITIAL_SETTINGS));

export function changeSettings(doc: MapDocument, change: Partial<MapSettings>): MapDocument {
  for (const [key, value] of Object.entries(change)) {
    const spec = SETTINGS[key as keyof MapSettings];
    const flaw = spec && value === undefined && !REQUIRED.has(key) ? null : spec && paramFlaw(spec, value);
    if (flaw) throw new EditError(`settings.${key}`, flaw);
  }
  return { ...doc, settings: { ...doc.settings, ...change } };
}

export function renameMap(doc: MapDocument, name: string): MapDocument {
  const trimmed = name.trim();
  if (!trimmed || trimmed.length > 200) throw new EditError('map.name', 'A map name has 1 to 200 characters.');
  return { ...doc, name: trimmed };
}
