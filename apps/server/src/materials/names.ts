import slugify from '@sindresorhus/slugify';
import type { Substance } from '@yesca/core';

/** Which picture of a material a file is, by how its name ends. */
export type MapKind = 'albedo' | 'normal' | 'roughness';

const SUFFIXES: readonly (readonly [MapKind, RegExp])[] = [
  ['normal', /[-_. ](n|nrm|nor|norm|normal|normals|normalmap|normal[-_]?gl)$/i],
  ['roughness', /[-_. ](r|rgh|rough|roughness)$/i],
  ['albedo', /[-_. ](a|albedo|c|col|color|colour|d|diff|diffuse|basecolor|base[-_]color)$/i],
];

export interface FileName {
  /** The words of the name without its ending and without what says which picture it is. */
  readonly stem: string;
  readonly kind: MapKind;
  /** Folders it lay in. */
  readonly folders: readonly string[];
}

/** Takes a file's name apart: `walls/old_brick_200cm_normal.png`. */
export function takeApart(path: string): FileName {
  const parts = path.split('/').filter(Boolean);
  const bare = (parts.pop() ?? '').replace(/\.[a-z0-9]+$/i, '');
  for (const [kind, suffix] of SUFFIXES)
    if (suffix.test(bare) && bare.replace(suffix, '') !== '')
      return { stem: bare.replace(suffix, ''), kind, folders: parts };
  return { stem: bare, kind: 'albedo', folders: parts };
}

const wordsOf = (text: string): string[] =>
  text
    .normalize('NFC')
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** A size in a name, as `200cm` or `2m`. */
const SIZE = /^(\d+)(cm|m)$/;

/** What a file is called on screen: its words, the first one capital, without sizes and pixel counts. */
export function labelOf(stem: string): string {
  const words = wordsOf(stem).filter((w) => !SIZE.test(w) && !/^\d+(k|px|x\d+)$/.test(w));
  const text = words.join(' ') || 'material';
  return `${text[0]!.toUpperCase()}${text.slice(1)}`.slice(0, 200);
}

/** A name for maps: plain letters, digits and hyphens, whatever script the words are in. */
export const slugOf = (stem: string): string => slugify(labelOf(stem)).slice(0, 80) || 'material';

/** Words that hint at what something is made of. */
const HINTS: readonly (readonly [Substance, readonly string[]])[] = [
  ['brick', ['brick', 'bricks']],
  ['stone', ['stone', 'rock', 'slate', 'marble', 'granite', 'cobble', 'concrete', 'flag', 'ashlar', 'rubble']],
  ['plaster', ['plaster', 'stucco', 'wash', 'render', 'wall']],
  ['wood', ['wood', 'oak', 'pine', 'plank', 'planks', 'board', 'boards', 'timber', 'parquet', 'door']],
  ['metal', ['metal', 'iron', 'steel', 'brass', 'copper', 'zinc', 'rust', 'plate', 'grille', 'chain', 'bars']],
  ['tile', ['tile', 'tiles', 'ceramic', 'shingle']],
  ['sand', ['sand', 'beach']],
  ['earth', ['earth', 'mud', 'ground', 'gravel', 'soil', 'grass', 'dirt']],
  ['water', ['water', 'sea', 'pond']],
  ['cloth', ['cloth', 'canvas', 'sail', 'fabric', 'carpet', 'curtain']],
  ['plant', ['plant', 'leaf', 'leaves', 'ivy', 'fern', 'reed', 'moss', 'hedge']],
  ['rope', ['rope', 'net']],
  ['glass', ['glass', 'window', 'pane']],
  ['ice', ['ice', 'snow']],
];

/** What a material probably is, from the words of its name and its folders. */
export function guessOf(stem: string, folders: readonly string[]): { tags: string[]; substance: Substance } {
  const words = [...wordsOf(stem), ...folders.flatMap(wordsOf)];
  const substance = HINTS.find(([, hints]) => hints.some((h) => words.includes(h)))?.[0] ?? 'none';
  const tags = words.filter((w) => w.length > 2 && !/\d/.test(w));
  return { substance, tags: [...new Set([...tags, ...(substance === 'none' ? [] : [substance])])].slice(0, 12) };
}

/** Texels a cm: from a size in the name, else so that the picture is 256 cm wide. */
export function densityOfName(stem: string, width: number): number {
  for (const w of wordsOf(stem)) {
    const [, number, unit] = SIZE.exec(w) ?? [];
    if (number && Number(number) > 0) return round(width / (Number(number) * (unit === 'm' ? 100 : 1)));
  }
  return round(width / 256);
}
const round = (x: number): number => Math.max(0.01, Math.min(64, Math.round(x * 1000) / 1000));
