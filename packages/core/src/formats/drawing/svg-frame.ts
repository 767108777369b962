import { wrapDegrees } from '../../math/index.ts';
import type { SectionLine } from '../../map/index.ts';
import { element, round, type SvgNode } from '../svg.ts';
import { group, INK, MAJOR, MINOR, PAPER, SOFT, word } from './svg-ink.ts';
import type { OnPaper } from './words.ts';

/** What is drawn: the plan cut at a height, or the section along a line. */
export type DrawingOf =
  { readonly kind: 'plan'; readonly height: number } | { readonly kind: 'section'; readonly line: SectionLine };

/** Paper round what is drawn, units. */
export const MARGIN = 40;
/** Height of the strip below with the name, the scale and its bar, units. */
export const STRIP = 56;
/** Lines of the grid that would lie nearer to each other than this are left out, units. */
const LEAST_GAP = 7;
/** A scale bar is at most so long, units. */
export const LONGEST_BAR = 200;

const COMPASS = ['east', 'north', 'west', 'south'] as const;

/** Which way a section looks, in words. */
export function looksTo(degrees: number): string {
  const turn = wrapDegrees(degrees);
  return turn % 90 === 0 ? `looking ${COMPASS[turn / 90]}` : `looking to ${Math.round(turn)}°`;
}

/** Lines of the grid over a whole paper: from its origin, so far apart. */
export function gridNode(gap: number, [width, height]: OnPaper, [x0, y0]: OnPaper): SvgNode {
  let step = gap;
  while (step < LEAST_GAP) step *= 2;
  const lines = (major: boolean): string => {
    let d = '';
    const each = (origin: number, size: number, write: (at: number) => string) => {
      for (let k = Math.ceil(-origin / step); origin + k * step <= size; k++)
        if ((k % 8 === 0) === major) d += write(round(origin + k * step));
    };
    each(x0, width, (x) => `M${x} 0V${round(height)}`);
    each(y0, height, (y) => `M0 ${y}H${round(width)}`);
    return d;
  };
  return group('grid', { 'stroke-width': 0.5 }, [
    element('path', { d: lines(false), stroke: MINOR }),
    element('path', { d: lines(true), stroke: MAJOR }),
  ]);
}

const metres = (cm: number): string => `${Math.round(cm) / 100} m`;
/** What a drawing is of, in words. */
export const nameOf = (of: DrawingOf): string =>
  of.kind === 'plan' ? `Plan, cut at ${metres(of.height)}` : `Section, ${looksTo(of.line.looks)}`;

/** The longest of 1, 2 and 5 times a power of ten that fits, cm. */
function barLength(zoom: number): number {
  const most = LONGEST_BAR / zoom;
  const ten = 10 ** Math.floor(Math.log10(most));
  return ten * ([5, 2].find((n) => n * ten <= most) ?? 1);
}

/** What the drawing is of, and a bar by which it can be measured also when it was printed larger or smaller. */
export function strip(name: string, of: DrawingOf, scale: number, zoom: number, [width, top]: OnPaper): SvgNode {
  const cm = barLength(zoom);
  const right = width - MARGIN;
  const [x, y] = [right - cm * zoom, top + 16];
  const ink = { fill: INK, stroke: 'none', 'stroke-width': 0 };
  return group('about', { stroke: INK }, [
    element('path', { d: `M${MARGIN} ${round(top)}H${round(right)}`, 'stroke-width': 0.7 }),
    word(name, MARGIN, top + 22, { ...ink, 'font-size': 13, 'font-weight': 600 }),
    word(`${nameOf(of)}, 1 : ${scale}`, MARGIN, top + 38, { ...ink, fill: SOFT, 'font-size': 10 }),
    element('rect', {
      id: 'scale-bar',
      x: round(x),
      y: round(y),
      width: round(cm * zoom),
      height: 4,
      fill: PAPER,
      'stroke-width': 0.7,
    }),
    element('rect', { x: round(x), y: round(y), width: round((cm * zoom) / 2), height: 4, fill: INK, stroke: 'none' }),
    word(metres(cm), right, y + 16, { ...ink, 'font-size': 10, 'text-anchor': 'end' }),
  ]);
}
