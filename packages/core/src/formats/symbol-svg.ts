import { entityKind, type Entity, type Stroke } from '../entity/index.ts';
import { initialValues } from '../params/index.ts';
import { symbolBounds } from './drawing/things.ts';
import { element, round } from './svg.ts';

/** A kind's symbol as it is drawn by itself: its strokes, and what holds them (left, top, width, height; down is positive). */
export interface SymbolDrawing {
  readonly strokes: readonly Stroke[];
  readonly viewBox: readonly [number, number, number, number];
}

/** Room round the strokes, in their units. */
const MARGIN = 2;
/** What faces some way is shown looking to the upper right. */
const TURN = 40;

/** The symbol of a kind as the Plan shows a fresh one; null for a kind that there is not. */
export function symbolDrawing(kind: string): SymbolDrawing | null {
  const known = entityKind(kind);
  if (!known) return null;
  const entity: Entity = { id: kind, kind, at: [0, 0, 0], turn: TURN, params: initialValues(known.params) };
  const strokes = known.symbol(entity, { right: [1, 0, 0], up: [0, 1, 0], number: 1 });
  const { left: x0, right: x1, top: y0, bottom: y1 } = symbolBounds(strokes);
  const side = Math.max(x1 - x0, y1 - y0) + 2 * MARGIN;
  return { strokes, viewBox: [(x0 + x1 - side) / 2, (y0 + y1 - side) / 2, side, side] };
}

const short = (n: number): string => String(round(n));

/** An element of SVG as data; `text` is what stands in it. */
export interface SvgElement {
  readonly name: 'path' | 'circle' | 'text';
  readonly attributes: Readonly<Record<string, string>>;
  readonly text?: string;
}

/** The strokes of a symbol as elements of SVG, filled with a paper where they hide what lies under them. */
export function svgElements(strokes: readonly Stroke[], paper = 'var(--sheet)'): readonly SvgElement[] {
  return strokes.map((stroke): SvgElement => {
    if ('text' in stroke)
      return {
        name: 'text',
        attributes: {
          x: short(stroke.at[0]),
          y: short(-stroke.at[1]),
          'text-anchor': 'middle',
          'font-size': '9',
          fill: INK,
          stroke: 'none',
        },
        text: stroke.text,
      };
    const fill = stroke.fill === 'ink' ? INK : stroke.fill === 'paper' ? paper : 'none';
    if ('circle' in stroke)
      return {
        name: 'circle',
        attributes: {
          cx: short(stroke.at?.[0] ?? 0),
          cy: short(-(stroke.at?.[1] ?? 0)),
          r: short(stroke.circle),
          fill,
        },
      };
    const d = `M${stroke.line.map(([x, y]) => `${short(x)} ${short(-y)}`).join('L')}${stroke.closed ? 'Z' : ''}`;
    return { name: 'path', attributes: { d, fill } };
  });
}

const INK = 'currentColor';

/** The symbol of a kind as an SVG file; empty for a kind that there is not. */
export function symbolSvg(kind: string): string {
  const drawing = symbolDrawing(kind);
  if (!drawing) return '';
  const elements = svgElements(drawing.strokes, '#fff').map(({ name, attributes, text }) => {
    return element(name, attributes, text).text;
  });
  const box = drawing.viewBox.map(short).join(' ');
  return `<svg xmlns="http://www.w3.org/2000/svg" width="32" height="32" viewBox="${box}" fill="none" stroke="${INK}" stroke-width="1.4">${elements.join('')}</svg>\n`;
}
