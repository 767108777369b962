import { DRAWING_OPTIONS, drawingSvg, paramFlaw, usualCut, type DrawingOf, type DrawingOptions } from '@yesca/core';
import { propFacts } from '@yesca/stock';
import { orUnusable, readMap, readNumbers, Unusable, writeText } from './input.ts';
import { shipped } from './shipped.ts';

export interface DrawOptions {
  readonly out: string;
  readonly height?: string;
  readonly section?: string;
  readonly depth?: string;
  readonly scale: string;
  readonly things: boolean;
  readonly names: boolean;
  readonly grid?: boolean;
}

/** Writes a drawing of a map; says how large a paper it takes. */
export function runDraw(path: string, wishes: DrawOptions): number {
  const doc = readMap(path);
  const options = drawingOptions(wishes);
  const of = drawingOf(wishes, usualCut(doc));
  const { svg, width, height } = orUnusable(path, () => drawingSvg(doc, of, options, propFacts, shipped));
  writeText(wishes.out, svg);
  console.log(`${wishes.out}: ${Math.ceil(width)} × ${Math.ceil(height)} mm.`);
  return 0;
}

function drawingOptions({ scale, things, names, grid }: DrawOptions): DrawingOptions {
  const options = { scale: readNumbers('--scale', scale, 1)[0]!, things, names, grid: grid === true };
  const flaw = paramFlaw(DRAWING_OPTIONS.scale, options.scale);
  if (flaw) throw new Unusable(`--scale: ${flaw}`);
  return options;
}

function drawingOf({ height, section, depth }: DrawOptions, usual: number): DrawingOf {
  if (section === undefined) {
    if (depth !== undefined) throw new Unusable('--depth belongs to a section. Give --section too, or leave it out.');
    return { kind: 'plan', height: height === undefined ? usual : readNumbers('--height', height, 1)[0]! };
  }
  if (height !== undefined) throw new Unusable('A drawing is a plan or a section. Give --height or --section.');
  const [x, y, looks] = readNumbers('--section', section, 3) as [number, number, number];
  const far = depth === undefined ? {} : { depth: readNumbers('--depth', depth, 1)[0]! };
  if (far.depth !== undefined && far.depth <= 0) throw new Unusable('--depth must be more than 0 cm.');
  return { kind: 'section', line: { at: [x, y], looks, ...far } };
}
