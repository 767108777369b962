import {
  entityKind,
  lightReach,
  sunDirection,
  type Entity,
  type MapDocument,
  type Role,
  type Vec3,
  openingHole,
  openingName,
  pointOnSide,
  boxOfRoom,
  sideOf,
  waitingOpenings,
} from '@yesca/core';
import { traceOutline } from './outline.ts';
import { Labels, placesAround } from './labels.ts';
import type { Selection } from '../state/selection.ts';
import type { Chunks } from '../state/chunks.ts';
import { selectedBrushes } from '../state/selection.ts';
import { inkPattern, type Inks } from './inks.ts';
import { acrossOf, beyond, toScreen, upOf, type SheetView } from './projection.ts';
import { drawnBrush } from './sheet-geometry.ts';
import { onScreen, sheetPaths } from './sheet-paths.ts';

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
  traceOutline(ctx, points.map((p) => toScreen(view, p))); // prettier-ignore

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

/** Symbols take this much of the drawing (pixels from their place): words keep clear of it. */
const SYMBOL = 13;

/** Names of rooms near their middles, on the plan, clear of symbols and of each other; one with no room for it is left out. */
export function drawRoomNames(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks, level: number): void {
  if (view.kind !== 'plan') return;
  const labels = new Labels();
  for (const e of doc.entities.values()) {
    const [x, y] = toScreen(view, e.at);
    labels.take({ x: x - SYMBOL, y: y - (e.kind === 'spawn' ? 24 : SYMBOL), width: SYMBOL * 2 + 4, height: e.kind === 'spawn' ? 30 : SYMBOL * 2 }); // prettier-ignore
  }
  ctx.font = "500 11px 'Archivo Variable', sans-serif";
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  ctx.fillStyle = inks.soft;
  for (const room of doc.rooms.values()) {
    if (room.floor > level + 150 || room.ceiling < level + 50) continue;
    const { min, max } = boxOfRoom(room);
    const [x, y] = toScreen(view, [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, 0]);
    const [w, h] = [(max[0] - min[0]) * view.zoom, (max[1] - min[1]) * view.zoom];
    const width = ctx.measureText(room.name).width + 6;
    if (w < Math.min(64, width)) continue;
    const at = labels.place(placesAround(x, y, Math.max(0, (w - width) / 2), Math.max(0, (h - 20) / 2)), width, 14);
    if (!at) continue;
    ctx.lineWidth = 3;
    ctx.strokeStyle = inks.sheet;
    ctx.strokeText(room.name, ...at);
    ctx.fillText(room.name, ...at);
  }
  ctx.textBaseline = 'alphabetic';
}

/** Openings that wait for their wall: dashed, with a word, where they are cut again when the rooms meet. */
export function drawWaiting(ctx: Ctx, doc: MapDocument, view: SheetView, inks: Inks): void {
  for (const o of waitingOpenings(doc)) {
    const first = doc.rooms.get(o.rooms[0]);
    if (!first?.footprint[o.side]) continue;
    const side = sideOf(first, o.side);
    const { bottom, top } = openingHole(o, doc.rooms);
    const corners = [-1, 1].flatMap((along) =>
      [0, first.wall].map((out) => pointOnSide(side, o.at + (along * o.width) / 2, out)),
    );
    const order = [0, 1, 3, 2];
    const points = view.kind === 'plan' ? order.map((k) => toScreen(view, [...corners[k]!, bottom])) : (() => {
      const on = corners.flatMap(([x, y]) => [bottom, top].map((z) => toScreen(view, [x, y, z])));
      const [xs, ys] = [on.map((p) => p[0]), on.map((p) => p[1])];
      const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
      return [[x0, y0], [x1, y0], [x1, y1], [x0, y1]] as const;
    })(); // prettier-ignore
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
    ctx.strokeText(`${openingName(o)} waiting`, x, y);
    ctx.fillText(`${openingName(o)} waiting`, x, y);
  }
}

/** Symbols thin out when the drawing is far away. */
const thinness = (view: SheetView): number => Math.max(0.4, Math.min(1, view.zoom / 0.16));

/** A thing as a map symbol: numbered flag, lamp with its reach, sun with its direction. */
function symbol(
  ctx: Ctx,
  e: Entity,
  view: SheetView,
  inks: Inks,
  number: number,
  selected: boolean,
  reach: boolean,
): void {
  const place = toScreen(view, e.at);
  const thin = selected ? 1 : thinness(view);
  if (reach && e.kind === 'pointLight') {
    ctx.beginPath();
    ctx.arc(...place, lightReach(Number(e.params.candela)) * view.zoom, 0, Math.PI * 2);
    ctx.strokeStyle = selected ? inks.indigo : inks.ink;
    ctx.lineWidth = 0.7;
    ctx.stroke();
  }
  ctx.save();
  ctx.translate(...place);
  ctx.scale(thin, thin);
  strokeSymbol(ctx, e, view, inks, number, selected);
  ctx.restore();
}

function strokeSymbol(ctx: Ctx, e: Entity, view: SheetView, inks: Inks, number: number, selected: boolean): void {
  const [x, y] = [0, 0];
  const ink = selected ? inks.indigo : inks.ink;
  ctx.strokeStyle = ink;
  ctx.fillStyle = inks.sheet;
  ctx.lineWidth = selected ? 2 : 1.3;
  if (e.kind === 'pointLight') {
    ctx.beginPath();
    ctx.arc(x, y, 4.5, 0, Math.PI * 2);
    ctx.fill();
    ctx.stroke();
    ctx.beginPath();
    for (let k = 0; k < 8; k++) {
      const a = (k * Math.PI) / 4;
      ctx.moveTo(x + Math.cos(a) * 6.5, y + Math.sin(a) * 6.5);
      ctx.lineTo(x + Math.cos(a) * 9.5, y + Math.sin(a) * 9.5);
    }
    ctx.stroke();
    return;
  }
  if (e.kind === 'sun') {
    const towards = sunDirection(e);
    const dx = -acrossOf(view, towards);
    const dy = upOf(view, towards);
    const l = Math.hypot(dx, dy) || 1;
    ctx.beginPath();
    ctx.arc(x, y, 7, 0, Math.PI * 2);
    ctx.fill();
    ctx.stroke();
    ctx.beginPath();
    ctx.arc(x, y, 2.5, 0, Math.PI * 2);
    ctx.stroke();
    arrow(ctx, x + (dx / l) * 9, y + (dy / l) * 9, x + (dx / l) * 30, y + (dy / l) * 30);
    return;
  }
  const facing: Vec3 = [Math.cos((e.turn * Math.PI) / 180), Math.sin((e.turn * Math.PI) / 180), 0];
  ctx.beginPath();
  ctx.moveTo(x, y);
  ctx.lineTo(x + acrossOf(view, facing) * 18, y - upOf(view, facing) * 18);
  ctx.stroke();
  if (e.kind === 'spawn') {
    ctx.beginPath();
    ctx.moveTo(x, y);
    ctx.lineTo(x, y - 20);
    ctx.lineTo(x + 15, y - 20);
    ctx.lineTo(x + 11, y - 14.5);
    ctx.lineTo(x + 15, y - 9);
    ctx.lineTo(x, y - 9);
    ctx.fill();
    ctx.stroke();
    ctx.fillStyle = ink;
    ctx.font = "600 9px 'JetBrains Mono Variable', monospace";
    ctx.textAlign = 'center';
    ctx.fillText(String(number), x + 6, y - 11.5);
    ctx.beginPath();
    ctx.arc(x, y, 2.5, 0, Math.PI * 2);
    ctx.fill();
    return;
  }
  ctx.strokeRect(x - 5, y - 5, 10, 10);
}

function arrow(ctx: Ctx, x0: number, y0: number, x1: number, y1: number): void {
  const a = Math.atan2(y1 - y0, x1 - x0);
  ctx.beginPath();
  ctx.moveTo(x0, y0);
  ctx.lineTo(x1, y1);
  for (const turn of [2.6, -2.6]) {
    ctx.moveTo(x1, y1);
    ctx.lineTo(x1 + Math.cos(a + turn) * 7, y1 + Math.sin(a + turn) * 7);
  }
  ctx.stroke();
}

/** Things as symbols. How far a lamp reaches is drawn for those selected or pointed at, or for all. */
export function drawEntities(
  ctx: Ctx,
  doc: MapDocument,
  view: SheetView,
  inks: Inks,
  selection: Selection,
  reaches: { readonly all: boolean; readonly pointed: string | null },
): void {
  let spawns = 0;
  for (const e of doc.entities.values()) {
    if (e.kind === 'spawn') spawns++;
    const depth = beyond(view, e.at);
    ctx.globalAlpha = selection.entities.has(e.id) ? 1 : depth < -300 || depth > 400 ? 0.35 : 1;
    const selected = selection.entities.has(e.id);
    symbol(ctx, e, view, inks, spawns, selected, selected || reaches.all || reaches.pointed === e.id);
    if (selection.entities.has(e.id) && entityKind(e.kind)) {
      const [x, y] = toScreen(view, e.at);
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
    if (b && f) trace(ctx, view, f.loop.map((i) => b.vertices[i]!)); // prettier-ignore
  }
  ctx.stroke();
}
