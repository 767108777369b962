import { brushFlaw, brushPlanes, type Brush } from '../brush/index.ts';
import { entityParamFlaw, type Entity } from '../entity/index.ts';
import { isUsableFrame } from '../surface/index.ts';
import * as checks from './schema-check.generated.js';
import type { SchemaCheck } from './schema-check.generated.js';
import { MAP_FORMAT, MAP_VERSION } from './schema.ts';
import {
  COLLECTIONS, emptyMap, type Collection, type Group, type Layer, type MapDocument, type Opening, type Room, type SavedView, type Storey,
} from './types.ts'; // prettier-ignore

/** Map files over this many characters are refused before they are parsed. */
export const MAP_LIMIT = 64 * 1024 * 1024;

/** Collections that a file may lack: they came later, and an empty one is not written. */
const OPTIONAL: ReadonlySet<Collection> = new Set(['groups', 'layers', 'storeys', 'views']);

/** A map file that cannot be used. `place` says where, in the file's own terms. */
export class MapFileError extends Error {
  override name = 'MapFileError';
  readonly code: string;
  readonly place: string;
  constructor(code: string, place: string, message: string) {
    super(message);
    this.code = code;
    this.place = place;
  }
}

const byId = <T extends { id: string }>(a: T, b: T): number => (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);

const lines = new WeakMap<object, string>();

/** An item as one line. Items are never changed in place, so a save writes anew only what changed. */
function lineOf(item: object): string {
  let line = lines.get(item);
  if (line === undefined) lines.set(item, (line = JSON.stringify(item)));
  return line;
}

/**
 * Writes a map as JSON in a stable order with one room, opening, brush or entity a line, so that maps diff and merge well.
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
    if (OPTIONAL.has(name) && doc[name].size === 0) continue;
    const items = [...(doc[name] as ReadonlyMap<string, { id: string }>).values()].sort(byId);
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
  const file = data as Record<string, unknown>;
  if (typeof data !== 'object' || data === null || Array.isArray(data) || file.format !== MAP_FORMAT)
    throw new MapFileError('map.notAMap', 'format', `This is not a Yesca map: "format" must be "${MAP_FORMAT}".`);
  if (typeof file.version === 'number' && file.version > MAP_VERSION)
    throw new MapFileError(
      'map.newer',
      'version',
      `This map was written by a newer Yesca (version ${file.version}; this one reads ${MAP_VERSION}). Update Yesca.`,
    );
  refuseInvalid(checks.map, data, '');
  const doc = mapFromChecked(data);
  checkContents(doc, data as FileLists);
  return doc;
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
  const { format: _f, version: _v, name, settings, rooms, openings, brushes, entities, groups = [], layers = [], storeys = [], views = [], ...extra } = data as {
    format: string; version: number; name: string; settings: MapDocument['settings'];
    rooms: Room[]; openings: Opening[]; brushes: Brush[]; entities: Entity[]; groups?: Group[]; layers?: Layer[]; storeys?: Storey[]; views?: SavedView[];
  }; // prettier-ignore
  return {
    name,
    settings,
    rooms: keyed(rooms, 'rooms'),
    openings: keyed(openings, 'openings'),
    brushes: keyed(brushes, 'brushes'),
    entities: keyed(entities, 'entities'),
    groups: keyed(groups, 'groups'),
    layers: keyed(layers, 'layers'),
    storeys: keyed(storeys, 'storeys'),
    views: keyed(views, 'views'),
    extra,
  };
}

interface FileLists {
  readonly brushes: Brush[];
  readonly openings: Opening[];
  readonly entities: Entity[];
}

/** What a schema cannot say: geometry, references, parameters by kind. */
function checkContents(doc: MapDocument, { brushes, openings, entities }: FileLists): void {
  brushes.forEach((brush, i) => checkBrush(brush, `brushes/${i}`));
  openings.forEach((o, i) => checkOpening(doc, o, `openings/${i}`));
  entities.forEach((entity, i) => checkEntity(entity, `entities/${i}`));
}

function checkOpening(doc: MapDocument, o: Opening, place: string): void {
  if (!o.rooms.every((r) => doc.rooms.has(r)))
    throw new MapFileError(
      'map.dangling',
      place,
      `Opening ${o.id} names a room that is not in the map. Remove the opening.`,
    );
}

function checkEntity(entity: Entity, place: string): void {
  for (const [key, value] of Object.entries(entity.params)) {
    const flaw = entityParamFlaw(entity.kind, key, value);
    if (flaw) throw new MapFileError('map.badField', `${place}/params/${key}`, `Entity ${entity.id}: ${flaw}`);
  }
}

/** Throws {@link MapFileError} unless an item could be read as part of a map: its fields, and the geometry or parameters it holds. */
export function assertItem(collection: Collection, item: { readonly id: string }, place: string): void {
  refuseInvalid(checks[collection], item, place);
  if (collection === 'brushes') checkBrush(item as Brush, place);
  if (collection === 'entities') checkEntity(item as Entity, place);
}

/** Throws {@link MapFileError} unless a map may be called that and have these settings. */
export function assertSettings(name: string, settings: MapDocument['settings']): void {
  refuseInvalid(checks.map, { ...JSON.parse(writeMap({ ...emptyMap('map'), settings })), name }, '');
}

/**
 * Throws {@link MapFileError} when a changed document could not be read again; `before` is one that could. Only what differs
 * from it is looked at, so that an edit of one thing costs as much as that thing.
 */
export function assertReadable(before: MapDocument, after: MapDocument): void {
  for (const collection of COLLECTIONS) {
    const was = before[collection] as ReadonlyMap<string, unknown>;
    const is = after[collection] as ReadonlyMap<string, { id: string }>;
    if (was === is) continue;
    for (const [id, item] of is) {
      if (was.get(id) === item) continue;
      const place = `${collection}/${id}`;
      if (item.id !== id) throw new MapFileError('map.sameId', place, `${place} holds an item with another id.`);
      assertItem(collection, item, place);
    }
  }
  if (before.rooms !== after.rooms || before.openings !== after.openings)
    for (const o of after.openings.values()) checkOpening(after, o, `openings/${o.id}`);
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

function checkBrush(brush: Brush, place: string): void {
  const flaw = brushFlaw(brush);
  if (flaw) throw new MapFileError(flaw.code, place, `Brush ${brush.id}: ${flaw.message}`);
  const planes = brushPlanes(brush);
  brush.faces.forEach((face, k) => {
    if (!isUsableFrame(face.frame, planes[k]!.normal))
      throw new MapFileError(
        'map.badFrame',
        `${place}/faces/${k}/frame`,
        `Brush ${brush.id}: the texture frame squashes the picture to a line. Lay the texture anew.`,
      );
  });
  if (new Set(brush.faces.map((f) => f.id)).size !== brush.faces.length)
    throw new MapFileError('map.sameId', `${place}/faces`, `Brush ${brush.id}: two faces have the same id.`);
}
