import { element, round, type SvgAttributes, type SvgNode } from '../svg.ts';

/** The colours of a drawing on paper, and how it is written. */
export const INK = '#23211d';
export const SOFT = '#6b675e';
export const PAPER = '#fffdf7';
export const SUNK = '#e9e4d6';
export const WATER = '#3d5a80';
export const WAITING = '#8a5a00';
export const MINOR = '#ece7da';
export const MAJOR = '#dcd5c3';
export const FONT = 'Archivo, Helvetica, Arial, sans-serif';

export const group = (id: string, attributes: SvgAttributes, children: readonly SvgNode[]) =>
  element('g', { id, ...attributes }, children);

/** A word that keeps clear of lines under it. */
export const word = (text: string, x: number, y: number, more: SvgAttributes = {}): SvgNode =>
  element(
    'text',
    { x: round(x), y: round(y), stroke: PAPER, 'stroke-width': 3, 'paint-order': 'stroke', ...more },
    text,
  );

/** About how wide a word comes out in letters of a size: which letters a reader of the file has is not known here. */
export const widthOf = (text: string, size: number): number => text.length * size * 0.58;
