import {
  acrossOf,
  aroundIn,
  beyond,
  drawnBrush,
  endsOf,
  entityKind,
  openingName,
  roomNames,
  symbolBounds,
  symbolOf,
  thingNumbers,
  upOf,
  waitingOutlines,
  type Entity,
  type MapDocument,
  type Role,
  type SymbolBounds,
  type Vec3,
} from '@yesca/core';
import { drawSymbol } from './draw-symbol.ts';
import { traceOutline } from '../geometry/outline.ts';
import { isDrawnProp, propFacts } from '../state/library.ts';
import type { PropSolids } from '../state/prop-solids.ts';
import { propPaths } from '../geometry/prop-paths.ts';
import { useTrial } from '../state/trial.ts';
import type { Selection } from '../state/selection.ts';
import type { Chunks } from '../state/chunks.ts';
import { selectedBrushes } from '../state/selection.ts';
import { inkPattern, type Inks } from './inks.ts';
import { toScreen, type SheetView } from '../geometry/projection.ts';
import { onScreen, sheetPaths } from '../geometry/sheet-paths.ts';

type Ctx = CanvasRenderingContext2D;

/** Grid lines closer than this many pixels are left out; every eighth line is drawn stronger. */
const LEAST_GAP = 7;

export function drawGrid(ctx: Ctx, view: SheetView, inks: Inks, grid: number): void {
  let step = grid;
  while (step * view.zoom < LEAST_GAP) step *= 2;
  ctx.lineWidth = 1;
  // In a turned Section the upright lines are where the world's grid meets the line it looks along.
  const lines = [
    { low: acrossOf(view, view.centre), size: view.width, upright: true },
    { low: upOf(view, view.centre), size: view.height, upright: false },
  ];
  for (const [major, ink] of [
    [false, inks.minor],
    [true, inks.major],
  ] as const) {
    ctx.strokeStyle = ink;
    ctx.beginPath();
    for (const { low: c, size, upright } of lines) {
      const half = size / 2 / view.zoom;
      for (let k = Math.ceil((c - half) / step); k * step <= c + half; k++) {
        if ((k % 8 === 0) !== major) continue;
        const at = Math.round(size / 2 + (upright ? 1 : -1) * (k * step - c) * view.zoom) + 0.5;
        ctx.moveTo(upright ? at : 0, upright ? 0 : at);
        ctx.lineTo(upright ? at : view.width, upright ? view.height : at);
      }
    }
    ctx.stroke();
  }
}

const trace = (ctx: Ctx, view: SheetView, points: readonly Vec3[]): void =>
  traceOutline(
    ctx,
    points.map((p) => toScreen(view, p)),
  );

/** How a role is filled where it is cut. */
function fillOf(ctx: Ctx, role: Role, inks: Inks): string | CanvasPattern | null {
  if (role === 'structure') return inks.ink;
  if (role === 'detail') return inkPattern(ctx, 'stipple', inks.ink, inks.sunk);
  if (role === 'clip') return inkPattern(ctx, 'hatch', inks.soft, 'rgba(0,0,0,0)');
  if (role === 'liquid') return inkPattern(ctx, 'waves', inks.indigo, 'rgba(0,0,0,0)');
  if (role === 'ladder') return inkPattern(ctx, 'rungs', inks.soft, 'rgba(0,0,0,0)');
  return null;
}

/** Solids and what lies beyond them: thinner and lighter with depth; what is before the cut dashed. `grid` 0 draws none. */
export function drawSolids(ctx: Ctx, brushes: Chunks, view: SheetView, inks: Inks, grid: number): void {
  const { faces, before, cut } = sheetPaths(brushes, view);
  ctx.lineJoin = 'round';
  for (const { role, depth, path } of faces) {
    const shape = onScreen(path, view);
    if (role === 'structure' || role === 'detail') {
      ctx.globalAlpha = 1;
      ctx.fillStyle = inks.sheet;
      ctx.fill(shape);
      ctx.globalAlpha = Math.min(0.55, depth / 1600);
      ctx.fillStyle = inks.sunk;
      ctx.fill(shape);
    }
    ctx.globalAlpha = Math.max(0.25, 0.75 - depth / 1400);
    ctx.lineWidth = depth < 200 ? 1 : 0.7;
    outline(ctx, shape, role, inks);
  }
  ctx.globalAlpha = 1;
  if (grid > 0) drawGrid(ctx, view, inks, grid);
  ctx.setLineDash([5, 4]);
  ctx.lineWidth = 0.8;
  ctx.strokeStyle = inks.soft;
  ctx.globalAlpha = 0.55;
  ctx.stroke(onScreen(before, view));
  ctx.setLineDash([]);
  ctx.globalAlpha = 1;
  for (const { role, path } of cut) {
    const shape = onScreen(path, view);
    const fill = fillOf(ctx, role, inks);
    if (fill) {
      ctx.fillStyle = fill;
      ctx.fill(shape);
    }
    ctx.lineWidth = 1.4;
    outline(ctx, shape, role, inks);
  }
}

/** Strokes a path in the convention of a role. */
function outline(ctx: Ctx, shape: Path2D, role: Role, inks: Inks): void {
  ctx.strokeStyle = role === 'hint' || role === 'zone' ? inks.soft : inks.ink;
  if (role === 'hint' || role === 'gate') {
    // A double line: a wide stroke with a narrower one of paper in it.
    if (role === 'hint') ctx.setLineDash([6, 3]);
    const width = ctx.lineWidth;
    ctx.lineWidth = width + 3;
    ctx.stroke(shape);
    ctx.strokeStyle = inks.sheet;
    ctx.lineWidth = width + 1;
    ctx.stroke(shape);
    ctx.lineWidth = width;
  } else {
    if (role === 'zone') ctx.setLineDash([1, 4]);
    ctx.stroke(shape);
  }
  ctx.setLineDash([]);
}

const taken = new WeakMap<Entity, { readonly away: string; readonly bounds: SymbolBounds }>();

/** What a thing's symbol takes of a drawing; kept, also where that turns with what is round it. */
function roomOf(e: Entity, view: SheetView, doc: MapDocument): SymbolBounds {
  const away = view.away.join(' ');
  let known = taken.get(e);
  if (known?.away !== away)
    taken.set(e, (known = { away, bounds: symbolBounds(symbolOf(e, { ...view, number: 1 }, aroundIn(doc))) }));
  return known.bounds;
}

/** Names of rooms, on the plan. */
export function drawRoomNames(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks, level: number): void {
  if (view.kind !== 'plan' || doc.rooms.size === 0) return;
  ctx.font = "500 11px 'Archivo Variable', sans-serif";
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillStyle = inks.soft;
  const here = [...doc.rooms.values()].filter((r) => r.floor <= level + 150 && r.ceiling >= level + 50);
  const symbols = [...doc.entities.values()]
    .filter((e) => !isDrawnProp(e))
    .map((e) => ({ at: e.at, bounds: roomOf(e, view, doc) }));
  const paper = {
    place: (p: Vec3) => toScreen(view, p),
    zoom: view.zoom,
    measure: (word: string) => ctx.measureText(word).width,
    symbols,
  };
  for (const { name, at } of roomNames(here, paper)) {
    ctx.lineWidth = 3;
    ctx.strokeStyle = inks.sheet;
    ctx.strokeText(name, ...at);
    ctx.fillText(name, ...at);
  }
  ctx.textBaseline = 'alphabetic';
}

/** Openings that wait for their wall: dashed, with a word, where they are cut again when the rooms meet. */
export function drawWaiting(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks): void {
  const [x0, y0] = [acrossOf(view, view.centre), upOf(view, view.centre)];
  for (const { opening, outline } of waitingOutlines(doc, view)) {
    const points = outline.map(
      ([a, b]) => [view.width / 2 + (a - x0) * view.zoom, view.height / 2 - (b - y0) * view.zoom] as const,
    );
    const words = `${openingName(opening)} waiting`;
    ctx.strokeStyle = ctx.fillStyle = inks.ochre;
    ctx.lineWidth = 1.6;
    ctx.setLineDash([4, 3]);
    ctx.beginPath();
    points.forEach(([x, y], i) => (i ? ctx.lineTo(x, y) : ctx.moveTo(x, y)));
    ctx.closePath();
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.font = "500 10px 'Archivo Variable', sans-serif";
    ctx.textAlign = 'center';
    const x = points.reduce((t, p) => t + p[0], 0) / points.length;
    const y = Math.min(...points.map((p) => p[1])) - 4;
    ctx.strokeStyle = inks.sheet;
    ctx.lineWidth = 3;
    ctx.strokeText(words, x, y);
    ctx.fillText(words, x, y);
  }
}

/** Symbols thin out when the drawing is far away. */
const thinness = (view: SheetView): number => Math.max(0.4, Math.min(1, view.zoom / 0.16));

/** How far a thing reaches: a lamp's light, all round or in its cone. */
function drawReach(ctx: Ctx, e: Entity, doc: MapDocument, view: SheetView, ink: string): void {
  ctx.strokeStyle = ink;
  ctx.lineWidth = 0.7;
  ctx.beginPath();
  for (const reach of entityKind(e.kind)?.reach(e, aroundIn(doc)) ?? []) {
    if ('sphere' in reach) {
      const [x, y] = toScreen(view, e.at);
      ctx.moveTo(x + reach.sphere * view.zoom, y);
      ctx.arc(x, y, reach.sphere * view.zoom, 0, Math.PI * 2);
    } else
      reach.line.forEach((p, i) => {
        const [x, y] = toScreen(view, [e.at[0] + p[0], e.at[1] + p[1], e.at[2] + p[2]]);
        if (i === 0) ctx.moveTo(x, y);
        else ctx.lineTo(x, y);
      });
  }
  ctx.stroke();
}

/** Where a thing's parts come to rest, as ghosts: dashed outlines. */
function drawEnds(ctx: Ctx, doc: MapDocument, thing: string, view: SheetView, inks: Inks): void {
  ctx.strokeStyle = inks.indigo;
  ctx.lineWidth = 1.2;
  ctx.setLineDash([5, 3]);
  ctx.beginPath();
  for (const brush of endsOf(doc, thing, propFacts))
    for (const o of drawnBrush(brush, view).outlines) trace(ctx, view, o.points);
  ctx.stroke();
  ctx.setLineDash([]);
}

/** Wires that begin or end at what is selected: from thing to thing, with an arrow in the middle. */
export function drawWires(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks, selection: Selection): void {
  ctx.strokeStyle = inks.ember;
  ctx.lineWidth = 1.4;
  ctx.beginPath();
  for (const { from, to } of doc.wires.values()) {
    if (!selection.entities.has(from.thing) && !selection.entities.has(to.thing)) continue;
    const [a, b] = [doc.entities.get(from.thing), doc.entities.get(to.thing)];
    if (!a || !b) continue;
    const [ax, ay] = toScreen(view, a.at);
    const [bx, by] = toScreen(view, b.at);
    ctx.moveTo(ax, ay);
    ctx.lineTo(bx, by);
    const l = Math.hypot(bx - ax, by - ay);
    if (l < 24) continue;
    const [c, s] = [(bx - ax) / l, (by - ay) / l];
    const [mx, my] = [(ax + bx) / 2 + c * 5, (ay + by) / 2 + s * 5];
    ctx.moveTo(mx - c * 9 - s * 4.5, my - s * 9 + c * 4.5);
    ctx.lineTo(mx, my);
    ctx.lineTo(mx - c * 9 + s * 4.5, my - s * 9 - c * 4.5);
  }
  ctx.stroke();
}

/** What props fill: thin lines on paper. */
export function drawProps(ctx: Ctx, props: readonly PropSolids[], view: SheetView, inks: Inks, selected = false): void {
  ctx.lineJoin = 'round';
  ctx.fillStyle = inks.sheet;
  ctx.strokeStyle = selected ? inks.indigo : inks.ink;
  for (const { where, path } of propPaths(props, view)) {
    const shape = onScreen(path, view);
    ctx.globalAlpha = selected ? 1 : where === 'before' ? 0.35 : 0.9;
    ctx.lineWidth = selected ? 1.6 : where === 'cut' ? 1.1 : 0.6;
    if (where !== 'before') ctx.fill(shape);
    ctx.stroke(shape);
  }
  ctx.globalAlpha = 1;
}

/**
 * Things as symbols; what is drawn as it is needs none until it is picked. How far a lamp reaches is drawn for those selected or pointed
 * at, or for all.
 */
export function drawEntities(
  ctx: Ctx,
  doc: MapDocument,
  things: readonly Entity[],
  view: SheetView,
  inks: Inks,
  selection: Selection,
  reaches: { readonly all: boolean; readonly pointed: string | null },
): void {
  const number = thingNumbers(doc);
  const thin = thinness(view);
  for (const e of things) {
    const selected = selection.entities.has(e.id);
    const reach = selected || reaches.all || reaches.pointed === e.id;
    const plain = selected || !isDrawnProp(e);
    if (!reach && !plain) continue;
    const depth = beyond(view, e.at);
    const ink = selected ? inks.indigo : inks.ink;
    ctx.globalAlpha = selected ? 1 : depth < -300 || depth > 400 ? 0.35 : 1;
    if (selected && !useTrial.getState().running) drawEnds(ctx, doc, e.id, view, inks);
    if (reach) drawReach(ctx, e, doc, view, ink);
    if (!plain) continue;
    const [x, y] = toScreen(view, e.at);
    const size = selected ? 1 : thin;
    ctx.save();
    ctx.translate(x, y);
    ctx.scale(size, size);
    ctx.lineWidth = selected ? 2 : 1.3;
    drawSymbol(ctx, symbolOf(e, { ...view, number: number.get(e.id) ?? 1 }, aroundIn(doc)), ink, inks.sheet);
    ctx.restore();
    if (selected && entityKind(e.kind)) {
      tick(ctx, x - 13, y - 13, inks);
      tick(ctx, x + 13, y + 13, inks);
    }
  }
  ctx.globalAlpha = 1;
}

/** A short oblique stroke, as at the end of a dimension line. */
function tick(ctx: Ctx, x: number, y: number, inks: Inks): void {
  ctx.strokeStyle = inks.indigo;
  ctx.lineWidth = 1.6;
  ctx.beginPath();
  ctx.moveTo(x - 4, y + 4);
  ctx.lineTo(x + 4, y - 4);
  ctx.stroke();
}

/** Selected brushes: a heavier indigo line with end ticks, so that it can be told without colour. */
export function drawSelected(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks, selection: Selection): void {
  ctx.strokeStyle = inks.indigo;
  ctx.fillStyle = inks.wash;
  ctx.lineWidth = 2;
  ctx.beginPath();
  for (const id of selectedBrushes(selection, doc)) {
    const brush = doc.brushes.get(id);
    if (brush) for (const o of drawnBrush(brush, view).outlines) trace(ctx, view, o.points);
  }
  ctx.fill();
  ctx.stroke();
  ctx.lineWidth = 3;
  ctx.beginPath();
  for (const { brush, face } of selection.faces) {
    const b = doc.brushes.get(brush);
    const f = b?.faces.find((x) => x.id === face);
    if (b && f)
      trace(
        ctx,
        view,
        f.loop.map((i) => b.vertices[i]!),
      );
  }
  ctx.stroke();
}
