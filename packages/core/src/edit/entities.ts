import { entityKind, entityParamFlaw, type Entity } from '../entity/index.ts';
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

function checkPlace(at: Vec3): void {
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
