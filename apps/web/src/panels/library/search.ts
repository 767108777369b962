import type { Material } from '@yesca/stock';

export const SHOWS = ['all', 'used', 'recent', 'favourites'] as const;
export type Show = (typeof SHOWS)[number];
/** By the longer edge of the picture: up to 256, up to 512, and larger. */
export const SIZES = ['any', 'small', 'medium', 'large'] as const;
export type Size = (typeof SIZES)[number];

export interface LibraryQuery {
  readonly text: string;
  /** `#rrggbb`: what looks like it, the nearest first. */
  readonly color: string | null;
  readonly size: Size;
  readonly show: Show;
}

export interface LibraryContext {
  /** How many faces of the map have each material. */
  readonly counts: ReadonlyMap<string, number>;
  readonly recent: readonly string[];
  readonly favourites: readonly string[];
  readonly packsOff: readonly string[];
}

interface Indexed {
  readonly words: string;
  readonly lab: readonly [number, number, number];
}
const index = new WeakMap<Material, Indexed>();

function indexed(m: Material): Indexed {
  let known = index.get(m);
  if (!known)
    index.set(
      m,
      (known = {
        words: ` ${[m.label, m.name, ...m.tags, m.substance].join(' ').toLowerCase().replaceAll('-', ' ')}`,
        lab: oklab(m.average),
      }),
    );
  return known;
}

/** A colour where distances are as they look (Björn Ottosson, *A perceptual color space for image processing*, 2020). */
export function oklab(hex: string): [number, number, number] {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const c = parseInt(hex.slice(i, i + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Colours further apart than this look like others; hue tells more than light does. */
const LIKE = 0.12;
const LIGHT = 0.6;
const HUE = 2;

const sizeOf = ({ width, height }: Material): Exclude<Size, 'any'> => {
  const edge = Math.max(width, height);
  return edge <= 256 ? 'small' : edge <= 512 ? 'medium' : 'large';
};

/** Materials that answer a query: every word begins a word of its name, label, tags or substance. */
export function searchMaterials(all: readonly Material[], query: LibraryQuery, context: LibraryContext): Material[] {
  const words = query.text
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .map((w) => ` ${w}`);
  const off = new Set(context.packsOff);
  const lab = query.color && /^#[0-9a-f]{6}$/i.test(query.color) ? oklab(query.color) : null;
  const rank = new Map((query.show === 'recent' ? context.recent : []).map((name, i) => [name, i]));
  const favourites = new Set(context.favourites);
  const distances = new Map<Material, number>();
  const found = all.filter((m) => {
    if (off.has(m.pack)) return false;
    if (query.show === 'used' && !context.counts.has(m.name)) return false;
    if (query.show === 'recent' && !rank.has(m.name)) return false;
    if (query.show === 'favourites' && !favourites.has(m.name)) return false;
    if (query.size !== 'any' && sizeOf(m) !== query.size) return false;
    const own = indexed(m);
    if (!words.every((w) => own.words.includes(w))) return false;
    if (!lab) return true;
    const d = Math.hypot((own.lab[0] - lab[0]) * LIGHT, (own.lab[1] - lab[1]) * HUE, (own.lab[2] - lab[2]) * HUE);
    distances.set(m, d);
    return d <= LIKE;
  });
  if (lab) return found.sort((a, b) => distances.get(a)! - distances.get(b)!);
  if (query.show === 'recent') return found.sort((a, b) => rank.get(a.name)! - rank.get(b.name)!);
  if (query.show === 'used') return found.sort((a, b) => context.counts.get(b.name)! - context.counts.get(a.name)!);
  return found;
}
