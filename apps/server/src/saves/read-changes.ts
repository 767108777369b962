import { MAX_VERSION } from '@yesca/contract';
import { MAP_VERSION, migrateChanges, type MapChanges, type MapSettings } from '@yesca/core';
import { Refusal } from '../errors.ts';

/** More changes at once than a map of this size can have. */
const MOST = 200_000;

/** The body of a save by differences. What the items hold is checked where they are put to use. */
export function readChanges(body: unknown): { baseVersion: number; changes: MapChanges } {
  const refuse = (message: string): never => {
    throw new Refusal(400, 'request.invalid', message);
  };
  if (typeof body !== 'object' || body === null || Array.isArray(body)) return refuse('Send a JSON object.');
  const { baseVersion, format, items, name, settings } = body as Record<string, unknown>;
  if (!Number.isInteger(baseVersion) || Number(baseVersion) < 1 || Number(baseVersion) > MAX_VERSION)
    return refuse('baseVersion: the version that the changes began at, a whole number above 0.');
  if (!Array.isArray(items) || items.length > MOST || items.some((i) => typeof i !== 'object' || i === null))
    return refuse('items: a list of { in, id, item }.');
  if (name !== undefined && (typeof name !== 'string' || !name.trim() || name.length > 200))
    return refuse('name: type a name of 1 to 200 characters.');
  if (settings !== undefined && (typeof settings !== 'object' || settings === null || Array.isArray(settings)))
    return refuse('settings: an object.');
  if (format !== undefined && (!Number.isInteger(format) || Number(format) < 1 || Number(format) > MAP_VERSION))
    return refuse(`format: the version of the map file that the items are of, up to ${MAP_VERSION}.`);
  const changes = migrateChanges({
    ...(format === undefined ? {} : { format: Number(format) }),
    items: items as MapChanges['items'],
    ...(name === undefined ? {} : { name }),
    ...(settings === undefined ? {} : { settings: settings as MapSettings }),
  });
  return { baseVersion: Number(baseVersion), changes };
}
