import { brushBounds, type Brush } from '../../brush/index.ts';
import { openingName } from '../../checks/index.ts';
import { EditError } from '../../edit/index.ts';
import { entityKind, type Entity } from '../../entity/index.ts';
import { aroundIn, shownPropBrushes, type MapDocument } from '../../map/index.ts';
import type { Vec3 } from '../../math/index.ts';
import { params, type ParamSpecs, type ValuesOf } from '../../params/index.ts';
import type { PropLookup } from '../../prop/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import { svgElements } from '../symbol-svg.ts';
import { element, round, type SvgNode } from '../svg.ts';
import { sheetContents, type PathMaker } from './solids.ts';
import { gridNode, LONGEST_BAR, MARGIN, nameOf, STRIP, strip, type DrawingOf } from './svg-frame.ts';
import { FONT, group, INK, PAPER, SOFT, WAITING, widthOf, word } from './svg-ink.ts';
import { cutNodes, faceNodes, PATTERNS, propNodes } from './svg-solids.ts';
import { isDrawnAsIs, symbolBounds, symbolOf, thingNumbers } from './things.ts';
import { acrossOf, beyond, planView, sectionView, spanAlong, upOf, type DrawingView } from './view.ts';
import { roomNames, waitingOutlines, type OnPaper } from './words.ts';

/** How it is drawn. */
export const DRAWING_OPTIONS = {
  scale: params.integer(100, {
    label: 'Scale',
    help: 'So many cm of the map are one cm of paper: 100 is 1 : 100',
    min: 5,
    max: 5000,
  }),
  things: params.yesNo(true, { label: 'Things', help: 'Symbols of lights, spawns, doors and all other things' }),
  names: params.yesNo(true, { label: 'Room names', help: 'Names of the rooms that the plan cuts' }),
  grid: params.yesNo(false, { label: 'Grid', help: 'The lines of the map’s grid, as far apart as can be told' }),
} satisfies ParamSpecs;
export type DrawingOptions = ValuesOf<typeof DRAWING_OPTIONS>;

/** A file of a drawing, and how large a paper it takes, mm. */
export interface Drawing {
  readonly svg: string;
  readonly width: number;
  readonly height: number;
}

/** Units a mm of paper: symbols, letters and lines are as large as on screen, where a line of one unit is a pen of 0.25 mm. */
const UNITS_A_MM = 4;

/** Paths as SVG writes them. */
const pathMaker = (place: (p: Vec3) => OnPaper): PathMaker<string[]> => ({
  make: () => [],
  trace: (path, points) => {
    path.push(`M${points.map((p) => place(p).map(round).join(' ')).join('L')}Z`);
  },
});

/**
 * A Plan or Section of a map as an SVG file, true to scale: width and height in mm of paper, the drawing conventions of the Sheet, symbols of
 * things, and a strip with the name and a bar. Brushes on hidden layers are not drawn.
 *
 * @throws {EditError} `drawing.empty` where nothing of the map would be on it.
 */
export function drawingSvg(
  doc: MapDocument,
  of: DrawingOf,
  options: DrawingOptions,
  props: PropLookup,
  materials: MaterialLookup,
): Drawing {
  const view = of.kind === 'plan' ? planView(of.height) : sectionView(of.line);
  const shown = shownIn(doc);
  const propBrushes = shown.things.flatMap((e) => shownPropBrushes(e, props));
  const near = (b: Brush) => spanAlong(brushBounds(b), view.away)[0] - view.cut <= view.reach;
  const solids = shown.brushes.filter(near);
  const things = options.things ? shown.things.filter((e) => beyond(view, e.at) <= view.reach) : [];
  const box = boundsOf([...solids, ...propBrushes.filter(near)], things, view);
  if (!box)
    throw new EditError(
      'drawing.empty',
      'Nothing of the map would be on this drawing. Draw a room first, show its layers, or move the section line.',
    );
  const zoom = (UNITS_A_MM * 10) / options.scale;
  const [x0, x1, y0, y1] = box;
  const width = Math.max((x1 - x0) * zoom, widthOf(doc.name, 13) + MARGIN + LONGEST_BAR) + 2 * MARGIN;
  const height = (y1 - y0) * zoom + 2 * MARGIN;
  const onPaper = (across: number, up: number): OnPaper => [
    width / 2 + (across - (x0 + x1) / 2) * zoom,
    MARGIN + (y1 - up) * zoom,
  ];
  const place = (p: Vec3): OnPaper => onPaper(acrossOf(view, p), upOf(view, p));
  const { faces, before, cut } = sheetContents(solids, view, pathMaker(place));
  const drawn = things.filter((e) => !isDrawnAsIs(e, props, materials));
  const symbols = drawn.map((e) => symbolAt(e, doc, view, place));
  const body: SvgNode[] = [
    group(
      'beyond',
      {},
      faces.flatMap(({ role, depth, path }) => faceNodes(role, depth, path.join(''))),
    ),
    ...(options.grid ? [gridNode(doc.settings.grid * zoom, [width, height], onPaper(0, 0))] : []),
    group('before-the-cut', { stroke: SOFT, 'stroke-width': 0.8, 'stroke-dasharray': '5 4', 'stroke-opacity': 0.55 }, [
      ...(before.length ? [element('path', { d: before.join('') })] : []),
    ]),
    group(
      'cut',
      {},
      cut.flatMap(({ role, path }) => cutNodes(role, path.join(''))),
    ),
    group('props', { fill: PAPER, stroke: INK }, propNodes(propBrushes, view, pathMaker(place))),
    group(
      'rooms',
      { fill: SOFT, 'font-size': 11, 'font-weight': 500, 'text-anchor': 'middle' },
      options.names && of.kind === 'plan'
        ? roomNames(
            [...doc.rooms.values()].filter((r) => r.floor < of.height && r.ceiling > of.height),
            { place, zoom, measure: (name) => widthOf(name, 11), symbols },
          ).map(({ name, at: [x, y] }) => word(name, x, y + 4))
        : [],
    ),
    group(
      'waiting-openings',
      { stroke: WAITING, 'stroke-width': 1.6, 'stroke-dasharray': '4 3' },
      waitingOutlines(doc, view).map(({ opening, outline }) =>
        element('path', { d: `M${outline.map(([a, b]) => onPaper(a, b).map(round).join(' ')).join('L')}Z` }, [
          element('title', {}, `A ${openingName(opening)} that waits for its wall`),
        ]),
      ),
    ),
    group(
      'things',
      { stroke: INK, color: INK, 'stroke-width': 1.3 },
      symbols.map((s) => s.node),
    ),
    strip(doc.name, of, options.scale, zoom, [width, height]),
  ];
  const mm = (units: number) => `${round(units / UNITS_A_MM)}mm`;
  const root = element(
    'svg',
    {
      xmlns: 'http://www.w3.org/2000/svg',
      width: mm(width),
      height: mm(height + STRIP),
      viewBox: `0 0 ${round(width)} ${round(height + STRIP)}`,
      fill: 'none',
      'stroke-linejoin': 'round',
      'font-family': FONT,
    },
    [
      element('title', {}, `${doc.name}: ${nameOf(of)}`),
      element('defs', {}, PATTERNS),
      element('rect', { width: round(width), height: round(height + STRIP), fill: PAPER }),
      ...body,
    ],
  );
  return { svg: `${root.text}\n`, width: width / UNITS_A_MM, height: (height + STRIP) / UNITS_A_MM };
}

/** What is on no hidden layer. */
function shownIn(doc: MapDocument): { brushes: Brush[]; things: Entity[] } {
  const shows = ({ layer }: { readonly layer?: string }) => !layer || doc.layers.get(layer)?.visible !== false;
  return { brushes: [...doc.brushes.values()].filter(shows), things: [...doc.entities.values()].filter(shows) };
}

/** From where to where it all reaches across and up, cm; null for nothing. */
function boundsOf(
  solids: readonly Brush[],
  things: readonly Entity[],
  view: DrawingView,
): readonly [number, number, number, number] | null {
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  const grow = (a: readonly [number, number], b: readonly [number, number]) => {
    [x0, x1] = [Math.min(x0, a[0]), Math.max(x1, a[1])];
    [y0, y1] = [Math.min(y0, b[0]), Math.max(y1, b[1])];
  };
  for (const b of solids) grow(spanAlong(brushBounds(b), view.right), spanAlong(brushBounds(b), view.up));
  for (const { at } of things) {
    const [a, b] = [acrossOf(view, at), upOf(view, at)];
    grow([a, a], [b, b]);
  }
  return x0 <= x1 ? [x0, x1, y0, y1] : null;
}

/** A thing's symbol where it stands; what lies far before or beyond the cut is pale. */
function symbolAt(e: Entity, doc: MapDocument, view: DrawingView, place: (p: Vec3) => OnPaper) {
  const seen = { right: view.right, up: view.up, number: thingNumbers(doc).get(e.id) ?? 1 };
  const strokes = symbolOf(e, seen, aroundIn(doc));
  const [x, y] = place(e.at);
  const depth = beyond(view, e.at);
  const name = [entityKind(e.kind)?.label ?? e.kind, e.name].filter(Boolean).join(': ');
  const node = element(
    'g',
    { transform: `translate(${round(x)} ${round(y)})`, opacity: depth < -300 || depth > 400 ? 0.35 : undefined },
    [
      element('title', {}, name),
      ...svgElements(strokes, PAPER).map(({ name: tag, attributes, text }) => element(tag, attributes, text)),
    ],
  );
  return { at: e.at, bounds: symbolBounds(strokes), node };
}
