import type { Pattern } from '../noise.ts';
import type { Rgb } from './types.ts';

export const mix = (a: Rgb, b: Rgb, t: number): Rgb => {
  const k = Math.max(0, Math.min(1, t));
  return [a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k, a[2] + (b[2] - a[2]) * k];
};
export const shade = (c: Rgb, by: number): Rgb => [c[0] * by, c[1] * by, c[2] * by];
export const frac = (x: number): number => x - Math.floor(x);
/** 0 below `a`, 1 above `b`, smooth between. */
export const ramp = (a: number, b: number, x: number): number => {
  const t = Math.max(0, Math.min(1, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
};

/** Distance from the nearest joint of a grid of blocks, as a part of a block's height, and the block's number. */
export function courses(p: Pattern, u: number, v: number, rows: number, columns: number, wobble: number) {
  const y = v * rows + p.noise(u, v, 6) * wobble;
  const row = ((Math.floor(y) % rows) + rows) % rows;
  const x = u * columns + (row % 2) * 0.5 + p.noise(u, v, 5) * wobble;
  const column = ((Math.floor(x) % columns) + columns) % columns;
  const aspect = rows / columns;
  const joint = Math.min(frac(y), 1 - frac(y), frac(x) * aspect, (1 - frac(x)) * aspect);
  return { joint, tone: p.pick(row, column), row, column };
}

/** Boards that run along v: distance from the nearest gap and the board's number. */
export function boards(u: number, count: number) {
  const x = u * count;
  return { gap: Math.min(frac(x), 1 - frac(x)), board: Math.floor(x) % count, x: frac(x) };
}

/** An SVG colour. */
export const ink = (c: Rgb): string => `rgb(${c.map((x) => Math.round(Math.max(0, Math.min(255, x)))).join(',')})`;

/** Short numbers keep drawings small. */
export const n = (x: number): string => String(Math.round(x * 100) / 100);

/** The same elements again to the left and the right, so that a drawing repeats across. */
export const wrapAcross = (elements: string, width: number): string =>
  [-width, 0, width].map((x) => `<g transform="translate(${x} 0)">${elements}</g>`).join('');

/** The same elements all round, so that a drawing repeats both ways. */
export const wrapAround = (elements: string, width: number, height: number): string =>
  [-height, 0, height].map((y) => `<g transform="translate(0 ${y})">${wrapAcross(elements, width)}</g>`).join('');
