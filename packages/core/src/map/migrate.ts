import type { Part } from '../brush/index.ts';
import type { Collection } from './types.ts';

type Data = Record<string, unknown>;

/** What changed from one version of the file to the next, item by item. Data that does not fit is left to what checks it afterwards. */
interface Step {
  readonly items: { readonly [C in Collection]?: (item: Data) => Data };
}

const isData = (value: unknown): value is Data => typeof value === 'object' && value !== null && !Array.isArray(value);

/** Version 1 named parts by texts. Null: no part that a room can have. */
function partOf(text: string): Part | null {
  const all = /^(floor|ceiling|wall|sill|head|arch|inset|pool|pit):(.*?)(?::c(\d+))?$/.exec(text);
  if (!all) return null;
  const [, kind, rest, c] = all as unknown as [string, string, string, string | undefined];
  const cut = c === undefined ? {} : { cut: Number(c) };
  if (kind === 'pit') {
    const [, inset, what, piece] = /^(.+):(floor|wall):(\d+)$/.exec(rest) ?? [];
    return inset ? { kind: what === 'floor' ? 'pitFloor' : 'pitWall', inset, piece: Number(piece), ...cut } : null;
  }
  if (kind === 'inset' || kind === 'pool') {
    const [, inset, piece] = /^(.+):(\d+)$/.exec(rest) ?? [];
    return inset ? { kind, inset, piece: Number(piece), ...cut } : null;
  }
  if (!/^\d+(:\d+)*$/.test(rest)) return null;
  const n = rest.split(':').map(Number);
  if (kind === 'floor' || kind === 'ceiling') return n.length === 1 ? { kind, piece: n[0]!, ...cut } : null;
  if (kind === 'arch') return n.length === 3 ? { kind, side: n[0]!, piece: n[1]!, segment: n[2]!, ...cut } : null;
  if (kind === 'wall' || kind === 'sill' || kind === 'head')
    return n.length === 2 ? { kind, side: n[0]!, piece: n[1]!, ...cut } : null;
  return null;
}

/** Each step leaves alone what is as it should be already: changes that tell no version may be of any. */
const STEPS: readonly Step[] = [
  {
    items: {
      rooms: (room) =>
        Array.isArray(room.released)
          ? { ...room, released: room.released.flatMap((p) => (typeof p === 'string' ? (partOf(p) ?? []) : [p])) }
          : room,
      brushes: (brush) => {
        if (!isData(brush.room) || typeof brush.room.part !== 'string') return brush;
        const part = partOf(brush.room.part);
        const { room, ...loose } = brush;
        return part ? { ...brush, room: { ...room, part } } : loose;
      },
    },
  },
];

/** An item of an older version of the file, as it is now. */
export function migrateItem(collection: Collection, item: unknown, version: number): unknown {
  if (!isData(item)) return item;
  return STEPS.slice(version - 1).reduce((data, { items }) => items[collection]?.(data) ?? data, item);
}

/** The data of an older version of the file, as it is now; that of this version, or of no version, as it is. */
export function migrate(data: Data): Data {
  const version = data.version;
  if (!Number.isInteger(version) || Number(version) < 1 || Number(version) > STEPS.length) return data;
  const out: Data = { ...data, version: STEPS.length + 1 };
  for (const collection of new Set(
    STEPS.slice(Number(version) - 1).flatMap((s) => Object.keys(s.items) as Collection[]),
  )) {
    const items = data[collection];
    if (Array.isArray(items)) out[collection] = items.map((item) => migrateItem(collection, item, Number(version)));
  }
  return out;
}

/** The version of the file that this program writes. */
export const MAP_VERSION = STEPS.length + 1;
