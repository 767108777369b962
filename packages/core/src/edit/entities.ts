import { entityKind, entityParamFlaw, type Entity } from '../entity/index.ts';
import { initialValues, type ParamValue } from '../params/index.ts';
import { isFiniteVec, WORLD_LIMIT, type Vec3 } from '../math/index.ts';
import { newId, type MapDocument, type MapSettings } from '../map/index.ts';
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

export function changeEntity(
  doc: MapDocument,
  id: string,
  change: Partial<Pick<Entity, 'at' | 'turn' | 'name'>> & { params?: Record<string, ParamValue> },
): MapDocument {
  const old = doc.entities.get(id);
  if (!old) throw new EditError('entity.unknown', 'That entity is no longer in the map.');
  if (change.at) checkPlace(change.at);
  if (change.turn !== undefined && !Number.isFinite(change.turn))
    throw new EditError('entity.turn', 'The turn must be a number of degrees.');
  for (const [key, value] of Object.entries(change.params ?? {})) {
    const flaw = entityParamFlaw(old.kind, key, value);
    if (flaw) throw new EditError('entity.param', flaw);
  }
  return {
    ...doc,
    entities: new Map(doc.entities).set(id, { ...old, ...change, params: { ...old.params, ...change.params } }),
  };
}

function checkPlace(at: Vec3): void {
  if (!isFiniteVec(at) || at.some((c) => Math.abs(c) > WORLD_LIMIT))
    throw new EditError(
      'entity.place',
      `The place must be within ${WORLD_LIMIT / 100} m of the origin. Type smaller numbers.`,
    );
}

export function changeSettings(doc: MapDocument, change: Partial<MapSettings>): MapDocument {
  const settings = { ...doc.settings, ...change };
  if (!(settings.grid > 0 && settings.grid <= 512))
    throw new EditError('settings.grid', 'The grid step is above 0 and up to 512 cm.');
  if (!(settings.ambientLux >= 0 && settings.ambientLux <= 100_000))
    throw new EditError('settings.ambient', 'Ambient light is 0 to 100000 lux.');
  if (settings.texelsPerCm !== undefined && !(settings.texelsPerCm > 0 && settings.texelsPerCm <= 64))
    throw new EditError('settings.density', 'The wanted density is above 0 and up to 6400 texels a metre.');
  if (settings.module !== undefined && !(settings.module > 0 && settings.module <= 4096))
    throw new EditError('settings.module', 'A module is above 0 and up to 4096 cm, or 0 for none.');
  for (const c of [settings.ambientColor, settings.skyColor])
    if (!/^#[0-9a-f]{6}$/i.test(c)) throw new EditError('settings.color', 'A colour is written like #ffcc88.');
  return { ...doc, settings };
}

export function renameMap(doc: MapDocument, name: string): MapDocument {
  const trimmed = name.trim();
  if (!trimmed || trimmed.length > 200) throw new EditError('map.name', 'A map name has 1 to 200 characters.');
  return { ...doc, name: trimmed };
}
