import type { TextureFrame } from '../brush/index.ts';
import { dot, hashRandom, type Affine, type Plane, type Vec3 } from '../math/index.ts';
import { carryFrame, flattenFrame, readFrame, shiftFrame, texelAt, writeFrame, type TexelChange } from './frame.ts';
import type { Region } from './material.ts';

/** What faces cover of a picture: least and greatest texel across and down. */
export interface TexelBox {
  readonly min: readonly [number, number];
  readonly max: readonly [number, number];
}

/** The texels that points see through their frames. */
export function texelBox(
  parts: Iterable<{ readonly frame: TextureFrame; readonly points: readonly Vec3[] }>,
): TexelBox {
  const min: [number, number] = [Infinity, Infinity];
  const max: [number, number] = [-Infinity, -Infinity];
  for (const { frame, points } of parts)
    for (const p of points)
      texelAt(frame, p).forEach((c, i) => {
        min[i] = Math.min(min[i]!, c);
        max[i] = Math.max(max[i]!, c);
      });
  return { min, max };
}

/** Lays `repeats` of a region exactly over what is covered now; turn, skew and mirroring stay. */
export function fitChange({ min, max }: TexelBox, region: Region, repeats: readonly [number, number]): TexelChange {
  const ku = (region.width * repeats[0]) / (max[0] - min[0]);
  const kv = (region.height * repeats[1]) / (max[1] - min[1]);
  return { ku, kv, du: region.x - min[0] * ku, dv: region.y - min[1] * kv };
}

export type EdgeSide = 'left' | 'right' | 'top' | 'bottom' | 'centre';

/** Puts a region's border on the border of what is covered, or its middle in the middle. */
export function edgeChange({ min, max }: TexelBox, region: Region, side: EdgeSide): TexelChange {
  const still = { ku: 1, kv: 1, du: 0, dv: 0 };
  switch (side) {
    case 'left':
      return { ...still, du: region.x - min[0] };
    case 'right':
      return { ...still, du: region.x + region.width - max[0] };
    case 'top':
      return { ...still, dv: region.y - min[1] };
    case 'bottom':
      return { ...still, dv: region.y + region.height - max[1] };
    case 'centre':
      return {
        ...still,
        du: region.x + region.width / 2 - (min[0] + max[0]) / 2,
        dv: region.y + region.height / 2 - (min[1] + max[1]) / 2,
      };
  }
}

/** Turns the picture over where it lies: what was on the left of the covered part comes to its right, or top to bottom. */
export function flipChange({ min, max }: TexelBox, way: 'across' | 'down'): TexelChange {
  return way === 'across'
    ? { ku: -1, kv: 1, du: min[0] + max[0], dv: 0 }
    : { ku: 1, kv: -1, du: 0, dv: min[1] + max[1] };
}

/** Natural size: as many texels a cm as the material has, upright texels square, about a point that keeps its texel. */
export function naturalSize(frame: TextureFrame, plane: Plane, texelsPerCm: number, about: Vec3): TextureFrame {
  const n = readFrame(frame, plane);
  const size = 1 / texelsPerCm;
  const next = writeFrame({ ...n, skew: 0, scale: [Math.sign(n.scale[0]) * size, size] }, plane);
  const [was, is] = [texelAt(frame, about), texelAt(next, about)];
  return shiftFrame(next, was[0] - is[0], was[1] - is[1]);
}

/**
 * One face's alignment on another: the very same picture on faces that look the same way, so that it runs on; on others the
 * same numbers, read against each face's own upright.
 */
export function copyFrame(frame: TextureFrame, from: Plane, to: Plane): TextureFrame {
  if (dot(from.normal, to.normal) > 1 - 1e-9) return flattenFrame(frame, to);
  return writeFrame(readFrame(frame, from), to);
}

/** The frame that shows on one side of space what the other shows in a mirror. */
export const mirrorFrame = (frame: TextureFrame, mirrored: Affine, to: Plane): TextureFrame =>
  flattenFrame(carryFrame(frame, mirrored), to);

/** The far face of a thin brush shows the picture of the near one, seen from behind: every point the texel right opposite. */
export const throughFrame = (frame: TextureFrame, to: Plane): TextureFrame => flattenFrame(frame, to);

/** Which of some alike pieces starts where in the picture: whole texels, the same for the same seed and number. */
export function scattered(
  seed: number,
  k: number,
  [w, h]: readonly [number, number],
): { du: number; dv: number; turn: number } {
  return {
    du: Math.floor(hashRandom(seed, k, 1) * w),
    dv: Math.floor(hashRandom(seed, k, 2) * h),
    turn: Math.floor(hashRandom(seed, k, 3) * 4) * 90,
  };
}
