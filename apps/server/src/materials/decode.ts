import { createHash } from 'node:crypto';
import sharp, { type Metadata } from 'sharp';
import { maskOf, type Solidity } from '@yesca/core';
import { LIMITS, type Refused } from '@yesca/intake';

/** A picture's file, read. */
export interface Picture {
  readonly name: string;
  readonly data: Uint8Array;
}

// Pictures come once: kept ones would only fill the memory.
sharp.cache(false);

/** Edge of the small picture of the library, pixels. */
const THUMB = 128;

/** A picture decoded and packed again in one way, so that nothing but pixels of a file is ever served. */
export interface Decoded {
  readonly width: number;
  readonly height: number;
  /** WebP. */
  readonly picture: Uint8Array;
  readonly thumb: Uint8Array;
  /** Hash of the pixels. */
  readonly content: string;
  readonly solidity: Solidity;
  readonly average: string;
  /** Of what is not solid; null otherwise. */
  readonly mask: string | null;
  /** Mean of the first channel, 0 to 1. */
  readonly mean: number;
  /** Something that was changed on the way, as a sentence. */
  readonly note?: string;
}

const MAGIC: readonly (readonly [string, string, (d: Uint8Array) => boolean])[] = [
  ['png', 'PNG', (d) => d[0] === 0x89 && d[1] === 0x50 && d[2] === 0x4e && d[3] === 0x47],
  ['jpeg', 'JPEG', (d) => d[0] === 0xff && d[1] === 0xd8 && d[2] === 0xff],
  ['webp', 'WebP', (d) => ascii(d, 0, 4) === 'RIFF' && ascii(d, 8, 12) === 'WEBP'],
];
const ENDINGS: Readonly<Record<string, string>> = { png: 'png', jpg: 'jpeg', jpeg: 'jpeg', webp: 'webp' };

const ascii = (d: Uint8Array, from: number, to: number): string => String.fromCharCode(...d.subarray(from, to));

/** PNG files tell that they move in a chunk before the pixels. */
const movesAsPng = (d: Uint8Array): boolean =>
  Buffer.from(d.buffer, d.byteOffset, Math.min(d.length, 4096)).includes('acTL');

/** Why a file is no picture that can be taken, seen from its first bytes; null when it may be one. */
export function sniff({ name, data }: Picture): Refused | null {
  const refuse = (code: string, message: string): Refused => ({ file: name.slice(0, 200), code, message });
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  const says = ENDINGS[ending];
  if (!says) return refuse('image.kind', 'Only PNG, JPEG and WebP pictures, and ZIP archives of them, can be taken.');
  const is = MAGIC.find(([, , test]) => test(data));
  if (!is)
    return refuse(
      'image.broken',
      `This is not a ${says.toUpperCase()} picture, or its beginning is damaged. Save it again.`,
    );
  if (is[0] !== says)
    return refuse(
      'image.notWhatItSays',
      `This file says .${ending} but holds ${is[1]}. Give it the right ending, or save it again.`,
    );
  if (data.length > LIMITS.file)
    return refuse(
      'image.tooLarge',
      `This file is larger than ${LIMITS.file / 1024 / 1024} MB. Make the picture smaller.`,
    );
  if (is[0] === 'png' && movesAsPng(data)) return refuse('image.animated', 'This picture moves. Save one frame of it.');
  return null;
}

/** Whether a picture has holes or shows through, by how many of its pixels are neither there nor gone. */
function solidityOf(rgba: Uint8Array): Solidity {
  let gone = 0;
  let between = 0;
  for (let i = 3; i < rgba.length; i += 4) {
    if (rgba[i]! < 16) gone++;
    else if (rgba[i]! < 240) between++;
  }
  const all = rgba.length / 4;
  if (gone + between < all * 0.001) return 'solid';
  return between > all * 0.25 ? 'seeThrough' : 'cutOut';
}

let inWork = 0;
const waiting: (() => void)[] = [];

/** Lets pictures be worked on side by side while they have no more pixels together than one may have. */
async function gate<T>(pixels: number, work: () => Promise<T>): Promise<T> {
  while (inWork > 0 && inWork + pixels > LIMITS.pixels) await new Promise<void>((go) => waiting.push(go));
  inWork += pixels;
  try {
    return await work();
  } finally {
    inWork -= pixels;
    waiting.splice(0).forEach((go) => go());
  }
}

/** Decodes a picture to sRGB and packs it anew. Gives a refusal with a sentence for what cannot be used. */
export async function decodePicture(file: Picture): Promise<Decoded | Refused> {
  const refused = sniff(file);
  if (refused) return refused;
  const refuse = (code: string, message: string): Refused => ({ file: file.name.slice(0, 200), code, message });
  const input = () => sharp(file.data, { limitInputPixels: LIMITS.pixels, failOn: 'error' });
  let meta: Metadata;
  try {
    meta = await input().metadata();
    if ((meta.pages ?? 1) > 1) return refuse('image.animated', 'This picture moves. Save one frame of it.');
    if (meta.width > LIMITS.edge || meta.height > LIMITS.edge || meta.width * meta.height > LIMITS.pixels)
      return refuse(
        'image.tooManyPixels',
        `This picture is ${meta.width} × ${meta.height}. Make it at most ${LIMITS.edge} along an edge and 32 million pixels in all.`,
      );
    return await gate(meta.width * meta.height, () => unpacked());
  } catch (error) {
    return /pixel limit/i.test(String(error))
      ? refuse('image.tooManyPixels', 'This picture has more than 32 million pixels. Make it smaller.')
      : refuse('image.broken', 'This picture cannot be decoded to its end. Save it again.');
  }

  async function unpacked(): Promise<Decoded> {
    const { data, info } = await input()
      .rotate()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    const { width, height } = info;
    const raw = () => sharp(data, { raw: { width, height, channels: 4 } });
    const solidity = solidityOf(data);
    const shown = () => (solidity === 'solid' ? raw().removeAlpha() : raw());
    const sum = [0, 0, 0, 0];
    for (let i = 0; i < data.length; i += 4) {
      for (let c = 0; c < 3; c++) sum[c]! += data[i + c]! * data[i + 3]!;
      sum[3]! += data[i + 3]!;
    }
    const channel = (c: number): number => Math.round(sum[c]! / Math.max(1, sum[3]!));
    return {
      width,
      height,
      picture: await shown().webp({ quality: 92, alphaQuality: 100, effort: 2 }).toBuffer(),
      thumb: await shown().resize(THUMB, THUMB, { fit: 'cover' }).webp({ quality: 80, effort: 2 }).toBuffer(),
      content: createHash('sha256').update(`${width}×${height}`).update(data).digest('hex'),
      solidity,
      average: `#${[0, 1, 2].map((c) => channel(c).toString(16).padStart(2, '0')).join('')}`,
      mask: solidity === 'solid' ? null : maskOf(data, width, height),
      mean: channel(0) / 255,
      ...(meta.space !== 'srgb' || (meta.hasProfile && meta.icc && !isPlainProfile(meta.icc))
        ? { note: 'Its colours were converted from their own profile to sRGB.' }
        : {}),
    };
  }
}

/** Profiles that say sRGB say nothing new. */
const isPlainProfile = (icc: Uint8Array): boolean => Buffer.from(icc).includes('sRGB');
