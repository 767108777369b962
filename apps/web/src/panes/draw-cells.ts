import {
  beyond,
  lerp,
  portalOutline,
  type Box,
  type Sight,
  type SightLine,
  type Vec3,
  type Winding,
} from '@yesca/core';
import { cellSection } from '../geometry/cell-shape.ts';
import { toScreen, type SheetView } from '../geometry/projection.ts';
import { cellAt, isSeen, scaleOf, STEPS, type Measure, type useSight } from '../state/sight.ts';
import type { Inks } from './inks.ts';

type Ctx = CanvasRenderingContext2D;
type Shown = ReturnType<typeof useSight.getState>;

/** Opacities of the steps of the scale: apart in lightness, so that they tell without their colour. */
export const STEP_OPACITY = [0.06, 0.2, 0.38, 0.58, 0.8] as const;

const sections = new WeakMap<Sight, Map<string, (Winding | null)[]>>();

/** The cuts through all cells, worked out once for each cut. */
function allSections(sight: Sight, view: SheetView): (Winding | null)[] {
  const known = sections.get(sight) ?? new Map<string, (Winding | null)[]>();
  sections.set(sight, known);
  const key = `${view.away.join()} ${view.cut}`;
  let all = known.get(key);
  if (!all) {
    all = Array.from({ length: sight.meta.cells }, (_, c) =>
      cellSection(sight, c, { normal: view.away, distance: view.cut }),
    );
    if (known.size > 8) known.clear();
    known.set(key, all);
  }
  return all;
}

const path = (ctx: Ctx, view: SheetView, w: Winding) => {
  ctx.beginPath();
  for (const p of w) ctx.lineTo(...toScreen(view, p));
  ctx.closePath();
};

/** Cells by what they cost, portals, the pin and what is seen from it, long lines and the line between two points. */
export function drawCells(
  ctx: Ctx,
  view: SheetView,
  shown: Shown,
  measure: Measure,
  why: SightLine | null,
  inks: Inks,
): void {
  const { sight, pin, goal, hovered, line, proposal } = shown;
  if (!sight) return;
  const { step } = scaleOf(sight, measure);
  const from = pin ? cellAt(sight, pin) : hovered;
  ctx.font = "500 11px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'center';
  ctx.textBaseline = 'middle';
  allSections(sight, view).forEach((w, cell) => {
    if (!w) return;
    const seen = isSeen(sight, from, cell);
    path(ctx, view, w);
    ctx.globalAlpha = seen ? STEP_OPACITY[step(sight[measure][cell]!)]! : 0.03;
    ctx.fillStyle = inks.indigo;
    ctx.fill();
    ctx.globalAlpha = 1;
    ctx.strokeStyle = cell === from ? inks.ember : inks.indigo;
    ctx.lineWidth = cell === from ? 2.5 : 0.75;
    ctx.setLineDash(seen ? [] : [2, 4]);
    ctx.stroke();
    ctx.setLineDash([]);
    drawFigure(
      ctx,
      view,
      w,
      Math.round(sight[measure][cell]!).toLocaleString('en'),
      seen,
      step(sight[measure][cell]!),
      inks,
    );
  });
  drawPortals(ctx, view, sight, inks);
  drawGates(ctx, view, sight, inks);
  const stroke = (points: readonly Vec3[], ink: string, dash: number[]) => {
    ctx.strokeStyle = ink;
    ctx.lineWidth = 2.25;
    ctx.setLineDash(dash);
    ctx.beginPath();
    for (const p of points) ctx.lineTo(...toScreen(view, p));
    ctx.stroke();
    ctx.setLineDash([]);
  };
  if (proposal) drawProposal(ctx, view, proposal, inks);
  if (line) stroke(line, inks.madder, []);
  if (why) stroke(why, inks.verdigris, [9, 3]);
  for (const [at, name, ink] of [
    [pin, 'A', inks.ember],
    [goal, 'B', inks.verdigris],
  ] as const) {
    if (!at) continue;
    const [x, y] = toScreen(view, at);
    ctx.fillStyle = ink;
    ctx.beginPath();
    ctx.arc(x, y, 8, 0, Math.PI * 2);
    ctx.fill();
    ctx.fillStyle = inks.sheet;
    ctx.fillText(name, x, y + 0.5);
  }
}

/** A cell's figure in its middle, where there is room for it. */
function drawFigure(
  ctx: Ctx,
  view: SheetView,
  w: Winding,
  text: string,
  seen: boolean,
  step: number,
  inks: Inks,
): void {
  const at = w.map((p) => toScreen(view, p));
  const span = (k: 0 | 1) => Math.max(...at.map((p) => p[k])) - Math.min(...at.map((p) => p[k]));
  if (span(0) < text.length * 7 + 6 || span(1) < 15) return;
  const middle = (k: 0 | 1) => at.reduce((n, p) => n + p[k], 0) / at.length;
  ctx.fillStyle = !seen ? inks.soft : step >= STEPS - 2 ? inks.sheet : inks.ink;
  ctx.fillText(text, middle(0), middle(1));
}

/** Where the cut goes through portals: a line across the opening. */
function drawPortals(ctx: Ctx, view: SheetView, sight: Sight, inks: Inks): void {
  ctx.beginPath();
  for (let portal = 0; portal + 1 < sight.portalFirst.length; portal++) {
    const outline = portalOutline(sight, portal);
    const ends: Vec3[] = [];
    outline.forEach((p, i) => {
      const q = outline[(i + 1) % outline.length]!;
      const [d, e] = [beyond(view, p), beyond(view, q)];
      if (d < 0 === e < 0) return;
      const t = d / (d - e);
      ends.push(lerp(p, q, t));
    });
    if (ends.length < 2) continue;
    ctx.moveTo(...toScreen(view, ends[0]!));
    ctx.lineTo(...toScreen(view, ends[1]!));
  }
  ctx.strokeStyle = inks.sheet;
  ctx.lineWidth = 5;
  ctx.stroke();
  ctx.strokeStyle = inks.ochre;
  ctx.lineWidth = 2.5;
  ctx.stroke();
}

/** Gates that the cut goes through: what closes with a door drawn through, what never closes dashed. */
function drawGates(ctx: Ctx, view: SheetView, sight: Sight, inks: Inks): void {
  const all = allSections(sight, view);
  for (const { cells, bodies } of sight.meta.gates)
    for (const cell of cells) {
      const w = all[cell];
      if (!w) continue;
      path(ctx, view, w);
      ctx.lineWidth = 6;
      ctx.strokeStyle = inks.sheet;
      ctx.stroke();
      ctx.lineWidth = 3;
      ctx.strokeStyle = inks.verdigris;
      ctx.setLineDash(bodies.length > 0 ? [] : [4, 3]);
      ctx.stroke();
      ctx.setLineDash([]);
      ctx.globalAlpha = 0.55;
      ctx.fillStyle = inks.verdigris;
      if (bodies.length > 0) ctx.fill();
      ctx.globalAlpha = 1;
    }
}

/** Where what is suggested would stand. */
function drawProposal(ctx: Ctx, view: SheetView, { min, max }: Box, inks: Inks): void {
  const [ax, ay] = toScreen(view, min);
  const [bx, by] = toScreen(view, max);
  ctx.fillStyle = inks.ember;
  ctx.strokeStyle = inks.sheet;
  ctx.lineWidth = 1.5;
  const [x, y] = [Math.min(ax, bx) - 2, Math.min(ay, by) - 2];
  ctx.fillRect(x, y, Math.abs(bx - ax) + 4, Math.abs(by - ay) + 4);
  ctx.strokeRect(x, y, Math.abs(bx - ax) + 4, Math.abs(by - ay) + 4);
}
