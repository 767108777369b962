import { n } from './patterns.ts';

/** Stencil letters on a raster of 5 × 7, a row of bits each, so that no font of the machine is needed. */
const GLYPHS: Readonly<Record<string, readonly number[]>> = {
  A: [14, 17, 17, 31, 17, 17, 17],
  B: [30, 17, 17, 30, 17, 17, 30],
  C: [14, 17, 16, 16, 16, 17, 14],
  D: [30, 17, 17, 17, 17, 17, 30],
  E: [31, 16, 16, 30, 16, 16, 31],
  F: [31, 16, 16, 30, 16, 16, 16],
  G: [14, 17, 16, 23, 17, 17, 14],
  H: [17, 17, 17, 31, 17, 17, 17],
  I: [14, 4, 4, 4, 4, 4, 14],
  K: [17, 18, 20, 24, 20, 18, 17],
  L: [16, 16, 16, 16, 16, 16, 31],
  M: [17, 27, 21, 21, 17, 17, 17],
  N: [17, 25, 21, 19, 17, 17, 17],
  O: [14, 17, 17, 17, 17, 17, 14],
  P: [30, 17, 17, 30, 16, 16, 16],
  Q: [14, 17, 17, 17, 21, 18, 13],
  R: [30, 17, 17, 30, 20, 18, 17],
  S: [15, 16, 16, 14, 1, 1, 30],
  T: [31, 4, 4, 4, 4, 4, 4],
  U: [17, 17, 17, 17, 17, 17, 14],
  W: [17, 17, 17, 21, 21, 27, 17],
  Y: [17, 17, 10, 4, 4, 4, 4],
  0: [14, 17, 19, 21, 25, 17, 14],
  1: [4, 12, 4, 4, 4, 4, 14],
  2: [14, 17, 1, 6, 8, 16, 31],
  3: [30, 1, 1, 14, 1, 1, 30],
  4: [18, 18, 18, 31, 2, 2, 2],
  5: [31, 16, 30, 1, 1, 17, 14],
  6: [14, 16, 30, 17, 17, 17, 14],
  7: [31, 1, 2, 4, 4, 8, 8],
  8: [14, 17, 17, 14, 17, 17, 14],
  9: [14, 17, 17, 15, 1, 1, 14],
};

/** A line of stencil letters as SVG, `height` pixels high, its middle at (x, y). */
export function letters(text: string, x: number, y: number, height: number, fill: string): string {
  const cell = height / 7;
  const left = x - ((text.length * 6 - 1) * cell) / 2;
  const squares: string[] = [];
  [...text].forEach((letter, k) =>
    (GLYPHS[letter] ?? []).forEach((bits, row) => {
      for (let b = 0; b < 5; b++)
        if (bits & (16 >> b))
          squares.push(
            `M${n(left + (k * 6 + b) * cell)} ${n(y - height / 2 + row * cell)}h${n(cell * 1.03)}v${n(cell * 1.03)}h${n(-cell * 1.03)}z`,
          );
    }),
  );
  return `<path d="${squares.join('')}" fill="${fill}"/>`;
}
