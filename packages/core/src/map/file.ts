import * as compiled from './schema-check.generated.js';
import type { SchemaCheck } from './schema-check.generated.js';
import { COLLECTIONS, specOf } from './collections.ts';
import { emptyMap, itemsOf } from './document.ts';
import { MapFileError } from './errors.ts';
import { MAP_VERSION, migrate } from './migrate.ts';
import { MAP_FORMAT } from './schema.ts';
import type { Collection, Item, MapDocument } from './types.ts';
import { assertReferences, letGoOfMissing, namingOf } from './whole.ts';

/** Map files over this many characters are refused before they are parsed. */
export const MAP_LIMIT = 64 * 1024 * 1024;

const checks: Readonly<Record<string, SchemaCheck>> = { ...compiled };

const byId = <T extends { id: string }>(a: T, b: T): number => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

const lines = new WeakMap<object, string>();

/** An item as one line. Items are never changed in place, so a save writes anew only what changed. */
function lineOf(item: object): string {
  let line = lines.get(item);
  if (line === undefined) lines.set(item, (line = JSON.stringify(item)));
  return line;
}

/**
 * Writes a map as JSON in a stable order with one item a line, so that maps diff and merge well.
 * The same document always gives the same text.
 */
export function writeMap(doc: MapDocument): string {
  const head: Record<string, unknown> = {
    format: MAP_FORMAT,
    version: MAP_VERSION,
    name: doc.name,
    settings: doc.settings,
  };
  const parts = Object.entries(head).map(([key, value]) => `${JSON.stringify(key)}: ${JSON.stringify(value)}`);
  for (const name of COLLECTIONS) {
    if (specOf(name).optional && doc[name].size === 0) continue;
    const items = [...itemsOf(doc, name).values()].sort(byId);
    parts.push(`"${name}": [${items.map((item) => `\n${lineOf(item)}`).join(',')}${items.length ? '\n' : ''}]`);
  }
  for (const key of Object.keys(doc.extra).sort())
    parts.push(`${JSON.stringify(key)}: ${JSON.stringify(doc.extra[key])}`);
  return `{\n${parts.join(',\n')}\n}\n`;
}

/** Reads a map file. Throws {@link MapFileError} naming the place of the first thing that cannot be used. */
export function parseMap(text: string): MapDocument {
  if (text.length > MAP_LIMIT)
    throw new MapFileError(
      'map.tooLarge',
      'file',
      `The map file is larger than ${MAP_LIMIT / 1024 / 1024} MB. Split the map in two.`,
    );
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new MapFileError(
      'map.notJson',
      placeOfSyntaxError(text, error),
      'The map file is not complete JSON. It may be cut off; take it from its source again.',
    );
  }
  return mapFromData(data);
}

function placeOfSyntaxError(text: string, error: unknown): string {
  const position = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
  const upTo = text.slice(0, position === undefined ? text.length : Number(position));
  const line = upTo.split('\n').length;
  return `line ${line}, column ${upTo.length - upTo.lastIndexOf('\n')}`;
}

/** Checks parsed JSON against the schema and the geometry, and gives the document. Throws {@link MapFileError}. */
export function mapFromData(data: unknown): MapDocument {
  const { doc, lists } = checkedData(data);
  for (const collection of COLLECTIONS)
    lists[collection]?.forEach((item, i) => {
      // An item that is nothing without what it names left; what it names is said.
      assertReferences(doc, collection, itemsOf(doc, collection).get(item.id) ?? item, `${collection}/${i}`);
    });
  return doc;
}

/** As {@link mapFromData}, for a part of a map, such as what was copied: its items may name what is not in it. */
export const partFromData = (data: unknown): MapDocument => checkedData(data).doc;

type FileLists = Readonly<Partial<Record<Collection, readonly Item[]>>>;

/** A document of which each item was checked by itself, and its items as they lie in the file. */
function checkedData(data: unknown): { readonly doc: MapDocument; readonly lists: FileLists } {
  const file = data as Record<string, unknown>;
  if (typeof data !== 'object' || data === null || Array.isArray(data) || file.format !== MAP_FORMAT)
    throw new MapFileError('map.notAMap', 'format', `This is not a Yesca map: "format" must be "${MAP_FORMAT}".`);
  if (typeof file.version === 'number' && file.version > MAP_VERSION)
    throw new MapFileError(
      'map.newer',
      'version',
      `This map was written by a newer Yesca (version ${file.version}; this one reads ${MAP_VERSION}). Update Yesca.`,
    );
  const now = migrate(file);
  refuseInvalid(checks.map!, now, '');
  const lists = now as FileLists;
  for (const collection of COLLECTIONS)
    lists[collection]?.forEach((item, i) => specOf(collection).assert?.(item, `${collection}/${i}`));
  const doc = documentOf(now);
  return { doc: file.version === MAP_VERSION ? doc : letGoOfMissing(doc), lists };
}

function refuseInvalid(check: SchemaCheck, data: unknown, within: string): void {
  if (check(data)) return;
  const [{ instancePath, message }] = check.errors as [NonNullable<SchemaCheck['errors']>[number]];
  const place = [within, instancePath.slice(1)].filter(Boolean).join('/') || 'file';
  throw new MapFileError('map.badField', place, `At ${place}: it ${message ?? 'does not fit'}.`);
}

/**
 * The document in parsed JSON that was checked before, as the server checks what it keeps. What was not must go through
 * {@link mapFromData}; only double ids are still noticed here.
 */
export function mapFromChecked(data: unknown): MapDocument {
  const doc = documentOf(migrate(data as Record<string, unknown>));
  // Older versions did not look at all that items name.
  return (data as { version: unknown }).version === MAP_VERSION ? doc : letGoOfMissing(doc);
}

function documentOf({ format: _f, version: _v, name, settings, ...rest }: Record<string, unknown>): MapDocument {
  const lists = Object.fromEntries(COLLECTIONS.map((c) => [c, keyed((rest[c] as Item[] | undefined) ?? [], c)]));
  const extra = Object.fromEntries(Object.entries(rest).filter(([key]) => !(key in lists)));
  return { name, settings, ...lists, extra } as unknown as MapDocument;
}

/** Throws {@link MapFileError} unless an item could be read as part of a map: its fields, and the geometry or parameters it holds. */
export function assertItem(collection: Collection, item: Item, place: string): void {
  refuseInvalid(checks[collection]!, item, place);
  specOf(collection).assert?.(item, place);
}

/** Throws {@link MapFileError} unless a map may be called that and have these settings. */
export function assertSettings(name: string, settings: MapDocument['settings']): void {
  refuseInvalid(checks.map!, { ...JSON.parse(writeMap({ ...emptyMap('map'), settings })), name }, '');
}

/**
 * Throws {@link MapFileError} when a changed document could not be read again; `before` is one that could. Only what differs
 * from it is looked at, so that an edit of one thing costs as much as that thing.
 */
export function assertReadable(before: MapDocument, after: MapDocument): void {
  /** Collections whose items have to be looked at again, since something that they could name left. */
  const again = new Set<Collection>();
  for (const collection of COLLECTIONS) {
    const [was, is] = [itemsOf(before, collection), itemsOf(after, collection)];
    if (was === is || namingOf(collection).length === 0) continue;
    for (const id of was.keys())
      if (!is.has(id)) {
        namingOf(collection).forEach((c) => again.add(c));
        break;
      }
  }
  for (const collection of COLLECTIONS) {
    const [was, is] = [itemsOf(before, collection), itemsOf(after, collection)];
    if (was === is && !again.has(collection)) continue;
    for (const [id, item] of is) {
      const place = `${collection}/${id}`;
      const fresh = was.get(id) !== item;
      if (fresh && item.id !== id)
        throw new MapFileError('map.sameId', place, `${place} holds an item with another id.`);
      if (fresh) assertItem(collection, item, place);
      if (fresh || again.has(collection)) assertReferences(after, collection, item, place);
    }
  }
  if (before.settings !== after.settings || before.name !== after.name) assertSettings(after.name, after.settings);
}

function keyed<T extends { id: string }>(items: readonly T[], where: string): Map<string, T> {
  const out = new Map<string, T>();
  [...items].sort(byId).forEach((item) => {
    if (out.has(item.id))
      throw new MapFileError(
        'map.sameId',
        `${where}/${items.indexOf(item)}`,
        `Two ${where} have the id ${item.id}. Give one of them another id.`,
      );
    out.set(item.id, item);
  });
  return out;
}
