import sharp from 'sharp';
import { makePattern, type Pattern } from './noise.ts';
import type { Recipe } from './recipes/index.ts';
import type { Texel } from './recipes/types.ts';
import type { Material } from './types.ts';

/** Edge of the library's small pictures, pixels. */
export const THUMB = 128;
/** Normal and roughness are kept at half the size of the colours: nobody sees the difference. */
const HALF = 0.5;

/** How opaque glass is. */
const GLASS = 150 / 255;

interface Raster {
  readonly width: number;
  readonly height: number;
  /** Red, green, blue, alpha, 0 to 255 a pixel. */
  readonly rgba: Uint8ClampedArray;
  /** Height and roughness, 0 to 1 a pixel. */
  readonly high: Float32Array;
  readonly rough: Float32Array;
}

const luminance = (r: number, g: number, b: number): number => (0.3 * r + 0.59 * g + 0.11 * b) / 255;

/** The recipe's pixels. */
async function rasterise(recipe: Recipe, pattern: Pattern): Promise<Raster> {
  const [width, height] = recipe.size ?? [512, 512];
  const rgba = new Uint8ClampedArray(width * height * 4);
  const high = new Float32Array(width * height);
  const rough = new Float32Array(width * height).fill(recipe.rough);
  const put = (i: number, { color: [r, g, b], height: h, rough: s }: Texel, alpha: number) => {
    rgba.set([r, g, b, alpha], i * 4);
    high[i] = h ?? luminance(r, g, b);
    rough[i] = s ?? recipe.rough;
  };
  if (recipe.draw) {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${recipe.draw(pattern)}</svg>`;
    const drawn = await sharp(Buffer.from(svg)).ensureAlpha().raw().toBuffer();
    for (let i = 0; i < width * height; i++) {
      const grain = 1 + (recipe.grain ?? 0) * pattern.rough((i % width) / width, Math.floor(i / width) / height, 24, 3);
      const color = [0, 1, 2].map((c) =>
        Math.max(0, Math.min(255, drawn[i * 4 + c]! * grain)),
      ) as unknown as Texel['color'];
      put(i, { color, height: luminance(...color) * (drawn[i * 4 + 3]! / 255) }, drawn[i * 4 + 3]!);
    }
    if (recipe.solidity === 'cutOut') fillHoles(rgba, width, height);
  } else {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const t = recipe.paint!(pattern, x / width, y / height);
        const texel = 'color' in t ? t : { color: t };
        const opacity = recipe.solidity === 'seeThrough' ? (texel.opacity ?? GLASS) : 1;
        put(y * width + x, texel, Math.round(opacity * 255));
      }
  }
  return { width, height, rgba, high, rough };
}

/** Gives empty pixels the colour of what is near, so that no dark rim shows where edges are filtered. */
function fillHoles(rgba: Uint8ClampedArray, width: number, height: number): void {
  const filled = Uint8Array.from({ length: width * height }, (_, i) => (rgba[i * 4 + 3]! > 127 ? 1 : 0));
  for (let round = 0; round < 24; round++) {
    const fresh: number[] = [];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (filled[i]) continue;
        const near = [
          ((x + 1) % width) + y * width,
          ((x + width - 1) % width) + y * width,
          x + ((y + 1) % height) * width,
          x + ((y + height - 1) % height) * width,
        ].filter((k) => filled[k]);
        if (near.length === 0) continue;
        for (let c = 0; c < 3; c++) rgba[i * 4 + c] = near.reduce((s, k) => s + rgba[k * 4 + c]!, 0) / near.length;
        fresh.push(i);
      }
    for (const i of fresh) filled[i] = 1;
  }
}

/** Directions of the relief as colours, at half the size: red to the right, green up, blue outward. */
function normals({ width, height, high }: Raster, relief: number): Uint8ClampedArray {
  const [w, h] = [width * HALF, height * HALF];
  const half = new Float32Array(w * h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) half[(y >> 1) * w + (x >> 1)]! += high[y * width + x]! / 4;
  const out = new Uint8ClampedArray(w * h * 3);
  const at = (x: number, y: number) => half[((y + h) % h) * w + ((x + w) % w)]!;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const dx = (at(x + 1, y) - at(x - 1, y)) * relief * 1.5;
      const dy = (at(x, y + 1) - at(x, y - 1)) * relief * 1.5;
      const k = 1 / Math.hypot(dx, dy, 1);
      out.set([(-dx * k * 0.5 + 0.5) * 255, (dy * k * 0.5 + 0.5) * 255, (k * 0.5 + 0.5) * 255], (y * w + x) * 3);
    }
  return out;
}

/** Mean colour, weighted by how much is there. */
function average(rgba: Uint8ClampedArray): string {
  const sum = [0, 0, 0, 0];
  for (let i = 0; i < rgba.length; i += 4) {
    const a = rgba[i + 3]!;
    for (let c = 0; c < 3; c++) sum[c]! += rgba[i + c]! * a;
    sum[3]! += a;
  }
  return `#${[0, 1, 2]
    .map((c) =>
      Math.round(sum[c]! / sum[3]!)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** Makes a material's pictures (WebP) and what is known of it. The same recipe and seed give the same. */
export async function renderMaterial(
  recipe: Recipe,
  seed: number,
): Promise<{ material: Material; files: { albedo: Buffer; normal: Buffer; roughness: Buffer; thumb: Buffer } }> {
  const raster = await rasterise(recipe, makePattern(seed));
  const { width, height, rgba, rough } = raster;
  const solidity = recipe.solidity ?? 'solid';
  const image = () => sharp(rgba, { raw: { width, height, channels: 4 } });
  const opaque = () => (solidity === 'solid' ? image().removeAlpha() : image());
  const small = [Math.round(width * HALF), Math.round(height * HALF)] as const;
  const grey = Uint8ClampedArray.from(rough, (r) => r * 255);
  const { name, label, tags, substance, regions, glow, tool } = recipe;
  return {
    files: {
      albedo: await opaque().webp({ quality: 86, alphaQuality: 95, effort: 6 }).toBuffer(),
      normal: await sharp(normals(raster, recipe.relief), { raw: { width: small[0], height: small[1], channels: 3 } })
        .webp({ quality: 88, smartSubsample: true, effort: 6 })
        .toBuffer(),
      roughness: await sharp(grey, { raw: { width, height, channels: 1 } })
        .resize(...small)
        .webp({ quality: 70, effort: 6 })
        .toBuffer(),
      thumb: await opaque().resize(THUMB, THUMB, { fit: 'cover' }).webp({ quality: 80, effort: 6 }).toBuffer(),
    },
    material: {
      name,
      label,
      tags,
      substance,
      width,
      height,
      texelsPerCm: 2,
      solidity,
      average: average(rgba),
      roughness: Math.round((rough.reduce((s, r) => s + r, 0) / rough.length) * 100) / 100,
      pack: 'workshop',
      ...(regions ? { regions } : {}),
      ...(glow ? { glow } : {}),
      ...(tool ? { tool } : {}),
    },
  };
}
