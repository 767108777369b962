import type { Brush, Role } from '../../brush/index.ts';
import { element, round, type SvgNode } from '../svg.ts';
import { propOutline, type PathMaker } from './solids.ts';
import { INK, PAPER, SOFT, SUNK, WATER } from './svg-ink.ts';
import type { DrawingView } from './view.ts';

const tile = (id: string, ground: string | null, ink: readonly SvgNode[]): SvgNode =>
  element('pattern', { id, width: 8, height: 8, patternUnits: 'userSpaceOnUse' }, [
    ...(ground ? [element('rect', { width: 8, height: 8, fill: ground, stroke: 'none' })] : []),
    ...ink,
  ]);
const dot = (x: number, y: number) => element('rect', { x, y, width: 1, height: 1, fill: INK, stroke: 'none' });
const line = (d: string, stroke: string) => element('path', { d, stroke, 'stroke-width': 1, fill: 'none' });

/** How roles are filled where they are cut. */
export const PATTERNS: readonly SvgNode[] = [
  tile('stipple', SUNK, [dot(1, 1), dot(5, 3), dot(3, 6), dot(7, 7)]),
  tile('hatch', null, [line('M-8 8L0 0M0 8L8 0M8 8L16 0', SOFT)]),
  tile('waves', null, [line('M0 5C2 2 6 8 8 5', WATER)]),
  tile('rungs', null, [line('M0 3.5H8', SOFT)]),
];
const FILLS: Partial<Readonly<Record<Role, string>>> = {
  structure: INK,
  detail: 'url(#stipple)',
  clip: 'url(#hatch)',
  liquid: 'url(#waves)',
  ladder: 'url(#rungs)',
};

/** The outline of a role in its convention. */
function outlineNodes(role: Role, d: string, width: number, opacity: number): SvgNode[] {
  const seen = opacity < 1 ? round(opacity) : undefined;
  const ink = role === 'hint' || role === 'zone' ? SOFT : INK;
  const path = (stroke: string, width: number, dashes?: string) =>
    element('path', { d, stroke, 'stroke-width': width, 'stroke-dasharray': dashes, 'stroke-opacity': seen });
  if (role === 'hint' || role === 'gate') {
    // A double line: a wide stroke with a narrower one of paper in it.
    const dashes = role === 'hint' ? '6 3' : undefined;
    return [path(ink, width + 3, dashes), path(PAPER, width + 1, dashes)];
  }
  return [path(ink, width, role === 'zone' ? '1 4' : undefined)];
}

/** Faces beyond the cut: paler and thinner with depth. */
export function faceNodes(role: Role, depth: number, d: string): SvgNode[] {
  const fills =
    role === 'structure' || role === 'detail'
      ? [
          element('path', { d, fill: PAPER }),
          element('path', { d, fill: SUNK, 'fill-opacity': round(Math.min(0.55, depth / 1600)) }),
        ]
      : [];
  return [...fills, ...outlineNodes(role, d, depth < 200 ? 1 : 0.7, Math.max(0.25, 0.75 - depth / 1400))];
}

export const cutNodes = (role: Role, d: string): SvgNode[] => [
  ...(FILLS[role] ? [element('path', { d, fill: FILLS[role] })] : []),
  ...outlineNodes(role, d, 1.4, 1),
];

export function propNodes(
  brushes: readonly Brush[],
  view: DrawingView,
  { make, trace }: PathMaker<string[]>,
): SvgNode[] {
  const outlines = brushes.flatMap((b) => propOutline(b, view) ?? []).sort((a, b) => a.order - b.order);
  return outlines.map(({ where, points }) => {
    const path = make();
    trace(path, points);
    const before = where === 'before';
    return element('path', {
      d: path.join(''),
      'stroke-width': where === 'cut' ? 1.1 : 0.6,
      fill: before ? 'none' : undefined,
      'stroke-opacity': before ? 0.35 : undefined,
    });
  });
}
