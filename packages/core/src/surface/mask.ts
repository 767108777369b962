import type { MaterialFacts } from './material.ts';

/** Squares along each side of a mask. */
const SIDE = 32;

/**
 * How much of a picture hides what is behind it: of 32 by 32 squares, row by row, each a digit from 0 to f. `rgba` are the picture's bytes,
 * four a pixel.
 */
export function maskOf(rgba: ArrayLike<number>, width: number, height: number): string {
  const sum = new Float64Array(SIDE * SIDE);
  const count = new Float64Array(SIDE * SIDE);
  // A picture of fewer pixels than squares gives several the same.
  const across = Math.max(width, SIDE);
  const down = Math.max(height, SIDE);
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const k = Math.floor((y * SIDE) / down) * SIDE + Math.floor((x * SIDE) / across);
      const pixel = Math.floor((y * height) / down) * width + Math.floor((x * width) / across);
      sum[k]! += rgba[pixel * 4 + 3]!;
      count[k]!++;
    }
  return Array.from(sum, (s, k) => Math.round((s / count[k]! / 255) * 15).toString(16)).join('');
}

/** What hides as much as pictures mostly do of which nothing is known. */
const USUAL = { solid: 1, cutOut: 0.5, seeThrough: 0.4 } as const;

/** How much a material hides of what is behind it at a place of its picture, in parts of its width and height: 0 to 1, smooth between squares. */
export function coverAt({ mask, solidity }: Pick<MaterialFacts, 'mask' | 'solidity'>, u: number, v: number): number {
  if (solidity === 'solid' || mask?.length !== SIDE * SIDE) return USUAL[solidity];
  const x = (u - Math.floor(u)) * SIDE - 0.5;
  const y = (v - Math.floor(v)) * SIDE - 0.5;
  const [i, j] = [Math.floor(x), Math.floor(y)];
  let cover = 0;
  for (let b = 0; b < 2; b++)
    for (let a = 0; a < 2; a++) {
      const weight = (a ? x - i : 1 - x + i) * (b ? y - j : 1 - y + j);
      // A picture goes on where it ends.
      const [column, row] = [(i + a + SIDE) % SIDE, (j + b + SIDE) % SIDE];
      cover += weight * digit(mask.charCodeAt(row * SIDE + column));
    }
  return cover / 15;
}

const digit = (code: number): number => (code >= 97 ? code - 87 : code - 48);
