import { spreadDown, cosSin, jumpReach, PLAYER, type Box, type SectionLine, type Vec3 } from '@yesca/core';
import type { Overlay, OverlayLine, OverlayMark } from '../state/overlay.ts';
import type { Inks } from './inks.ts';
import { toScreen, type SheetView } from '../geometry/projection.ts';
import { handleAt } from '../geometry/handle-places.ts';

type Ctx = CanvasRenderingContext2D;

/** A number over a line, on a halo of paper. */
function label(ctx: Ctx, text: string, x: number, y: number, turn: number, inks: Inks): void {
  ctx.save();
  ctx.font = "500 11px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'center';
  ctx.translate(x, y);
  ctx.rotate(turn);
  ctx.lineWidth = 4;
  ctx.strokeStyle = inks.sheet;
  ctx.strokeText(text, 0, -4);
  ctx.fillText(text, 0, -4);
  ctx.restore();
}

/** Dimension lines of a box: its width below, its height to the left, with oblique ticks and the number over the line. */
export function drawSizes(ctx: Ctx, view: SheetView, box: Box, inks: Inks, show: (cm: number) => string): void {
  const [xa, ya] = handleAt(view, box, [-1, -1]);
  const [xb, yb0] = handleAt(view, box, [1, 1]);
  const [x0, x1] = [Math.min(xa, xb), Math.max(xa, xb)];
  const [y0, y1] = [Math.min(ya, yb0), Math.max(ya, yb0)];
  ctx.strokeStyle = ctx.fillStyle = inks.indigo;
  ctx.lineWidth = 1;
  const size = (axis: 0 | 1 | 2) => show(box.max[axis] - box.min[axis]);
  const oblique = (x: number, y: number) => {
    ctx.moveTo(x - 4, y + 4);
    ctx.lineTo(x + 4, y - 4);
  };
  const yb = y1 + 22;
  const xl = x0 - 22;
  ctx.beginPath();
  ctx.moveTo(x0 - 6, yb);
  ctx.lineTo(x1 + 6, yb);
  oblique(x0, yb);
  oblique(x1, yb);
  for (const x of [x0, x1]) {
    ctx.moveTo(x, y1 + 6);
    ctx.lineTo(x, yb + 5);
  }
  ctx.moveTo(xl, y0 - 6);
  ctx.lineTo(xl, y1 + 6);
  oblique(xl, y0);
  oblique(xl, y1);
  for (const y of [y0, y1]) {
    ctx.moveTo(x0 - 6, y);
    ctx.lineTo(xl - 5, y);
  }
  ctx.stroke();
  label(ctx, size(view.h), (x0 + x1) / 2, yb, 0, inks);
  label(ctx, size(view.v), xl, (y0 + y1) / 2, -Math.PI / 2, inks);
}

const DASHES = { fine: [3, 3], dashed: [10, 4] } as const;

/** A line of a tool, with its ends and what is written over it. */
function drawLine(ctx: Ctx, view: SheetView, { points, ink, style, ends, text }: OverlayLine, inks: Inks): void {
  ctx.strokeStyle = inks[ink];
  ctx.lineWidth = style === 'area' || style === 'fine' ? 1 : ends === 'ticks' ? 1.5 : 2;
  if (style === 'area') {
    ctx.fillStyle = inks.wash;
    trace(ctx, view, points);
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
    return;
  }
  if (style) ctx.setLineDash([...DASHES[style]]);
  polyline(ctx, view, points);
  ctx.setLineDash([]);
  if (ends === 'dots') dots(ctx, view, points, inks);
  const [a, b] = [toScreen(view, points[0]!), toScreen(view, points.at(-1)!)];
  if (ends === 'ticks') ticks(ctx, [a, b]);
  if (text === undefined) return;
  ctx.fillStyle = inks[ink];
  let turn = Math.atan2(b[1] - a[1], b[0] - a[0]);
  if (turn > Math.PI / 2 || turn < -Math.PI / 2) turn += Math.PI;
  label(ctx, text, (a[0] + b[0]) / 2, (a[1] + b[1]) / 2, turn, inks);
}

/** Oblique ticks, as draughtsmen end measured lines. */
function ticks(ctx: Ctx, at: readonly (readonly [number, number])[]): void {
  ctx.beginPath();
  for (const [x, y] of at) {
    ctx.moveTo(x - 5, y + 5);
    ctx.lineTo(x + 5, y - 5);
  }
  ctx.stroke();
}

/** The outlines of handles, pixels from their places; those that are not round. */
const OUTLINES: Readonly<Partial<Record<OverlayMark['shape'], readonly (readonly [number, number])[]>>> = {
  square: [[-3.5, -3.5], [3.5, -3.5], [3.5, 3.5], [-3.5, 3.5]],
  diamond: [[-5, 0], [0, -5], [5, 0], [0, 5]],
  bar: [[-6, -2.5], [6, -2.5], [6, 2.5], [-6, 2.5]],
  // Leaning, as what it makes of the box.
  tab: [[-8, 3], [4, 3], [8, -3], [-4, -3]],
}; // prettier-ignore

/** A handle, filled when it is chosen. */
function drawMark(ctx: Ctx, view: SheetView, { at, shape, along, chosen }: OverlayMark, inks: Inks): void {
  const [x, y] = toScreen(view, at);
  ctx.strokeStyle = shape === 'cross' ? inks.ember : inks.indigo;
  ctx.fillStyle = chosen ? inks.indigo : inks.sheet;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  const outline = OUTLINES[shape];
  if (outline) {
    for (const [a, b] of outline) ctx.lineTo(x + (along === 'v' ? b : a), y + (along === 'v' ? a : b));
    ctx.closePath();
  } else if (shape === 'oval') ctx.ellipse(x, y, 5, 3, 0, 0, Math.PI * 2);
  else if (shape === 'disc') ctx.arc(x, y, 5, 0, Math.PI * 2);
  else {
    // A ring with a cross through it.
    ctx.arc(x, y, 6, 0, Math.PI * 2);
    ctx.moveTo(x - 10, y);
    ctx.lineTo(x + 10, y);
    ctx.moveTo(x, y - 10);
    ctx.lineTo(x, y + 10);
  }
  if (shape !== 'cross') ctx.fill();
  ctx.stroke();
}

/** Lines along which something is flush with a neighbour. */
function drawGuides(ctx: Ctx, view: SheetView, guides: NonNullable<Overlay['guides']>, inks: Inks): void {
  ctx.strokeStyle = inks.ember;
  ctx.lineWidth = 1;
  ctx.setLineDash([2, 3]);
  ctx.beginPath();
  for (const { axis, at } of guides) {
    if (!view.square || axis === view.d) continue;
    const p: [number, number, number] = [...view.centre];
    p[axis] = at;
    const [x, y] = toScreen(view, p);
    if (axis === view.h) {
      ctx.moveTo(Math.round(x) + 0.5, 0);
      ctx.lineTo(Math.round(x) + 0.5, view.height);
    } else {
      ctx.moveTo(0, Math.round(y) + 0.5);
      ctx.lineTo(view.width, Math.round(y) + 0.5);
    }
  }
  ctx.stroke();
  ctx.setLineDash([]);
}

function trace(ctx: Ctx, view: SheetView, points: readonly Vec3[]): void {
  ctx.beginPath();
  for (const p of points) ctx.lineTo(...toScreen(view, p));
}

function polyline(ctx: Ctx, view: SheetView, points: readonly Vec3[]): void {
  trace(ctx, view, points);
  ctx.stroke();
}

/** What the active tool shows: guides, lines, handles, and sizes beside a box. */
export function drawOverlay(
  ctx: Ctx,
  view: SheetView,
  overlay: Overlay,
  inks: Inks,
  show: (cm: number) => string,
): void {
  if (overlay.guides) drawGuides(ctx, view, overlay.guides, inks);
  for (const line of overlay.lines ?? []) drawLine(ctx, view, line, inks);
  for (const mark of overlay.marks ?? []) drawMark(ctx, view, mark, inks);
  if (overlay.sizes && view.square) drawSizes(ctx, view, overlay.sizes, inks, show);
}

function dots(ctx: Ctx, view: SheetView, points: readonly Vec3[], inks: Inks): void {
  ctx.fillStyle = inks.sheet;
  for (const p of points) {
    const [x, y] = toScreen(view, p);
    ctx.beginPath();
    ctx.arc(x, y, 3.5, 0, Math.PI * 2);
    ctx.fill();
    ctx.stroke();
  }
}

/** The leak trail: a madder line with beads from the entity to a cross at the hole. */
export function drawTrail(ctx: Ctx, view: SheetView, trail: readonly Vec3[], inks: Inks): void {
  ctx.strokeStyle = inks.madder;
  ctx.fillStyle = inks.madder;
  ctx.lineWidth = 2.5;
  ctx.setLineDash([8, 4]);
  polyline(ctx, view, trail);
  ctx.setLineDash([]);
  trail.forEach((p, i) => {
    const [x, y] = toScreen(view, p);
    ctx.beginPath();
    if (i === trail.length - 2) {
      ctx.moveTo(x - 8, y - 8);
      ctx.lineTo(x + 8, y + 8);
      ctx.moveTo(x + 8, y - 8);
      ctx.lineTo(x - 8, y + 8);
      ctx.stroke();
    } else {
      ctx.arc(x, y, 3, 0, Math.PI * 2);
      ctx.fill();
    }
  });
}

/** Where the section line leaves the Plan, a little inside its border, and the grip that turns it; null when it is off the paper. */
export function sectionGrips(
  view: SheetView,
  line: SectionLine,
): { ends: [number, number][]; knob: [number, number] } | null {
  const [c, s] = cosSin(line.looks);
  // On screen y runs down; the line runs square to the way it looks.
  const [dx, dy] = [s, c];
  const [px, py] = toScreen(view, [line.at[0], line.at[1], 0]);
  let low = -Infinity;
  let high = Infinity;
  for (const [p, d, size] of [
    [px, dx, view.width],
    [py, dy, view.height],
  ] as const) {
    if (Math.abs(d) < 1e-9) {
      if (p < 0 || p > size) return null;
      continue;
    }
    const [a, b] = [(12 - p) / d, (size - 12 - p) / d];
    low = Math.max(low, Math.min(a, b));
    high = Math.min(high, Math.max(a, b));
  }
  if (low >= high - 80) return null;
  const at = (t: number): [number, number] => [px + dx * t, py + dy * t];
  return { ends: [at(low), at(high)], knob: at(high - 44) };
}

/** The section line on the Plan with arrows the way it looks, a knob to turn it, and the limit of its depth. */
export function drawSectionLine(ctx: Ctx, view: SheetView, line: SectionLine, inks: Inks): void {
  const grips = sectionGrips(view, line);
  if (!grips) return;
  const [c, s] = cosSin(line.looks);
  ctx.strokeStyle = ctx.fillStyle = inks.ember;
  ctx.lineWidth = 1;
  ctx.setLineDash([14, 4, 2, 4]);
  ctx.beginPath();
  ctx.moveTo(...grips.ends[0]!);
  ctx.lineTo(...grips.ends[1]!);
  ctx.stroke();
  if (line.depth) {
    const [ox, oy] = [c * line.depth * view.zoom, -s * line.depth * view.zoom];
    ctx.setLineDash([2, 5]);
    ctx.beginPath();
    ctx.moveTo(grips.ends[0]![0] + ox, grips.ends[0]![1] + oy);
    ctx.lineTo(grips.ends[1]![0] + ox, grips.ends[1]![1] + oy);
    ctx.stroke();
  }
  ctx.setLineDash([]);
  for (const [x, y] of grips.ends) {
    ctx.beginPath();
    ctx.moveTo(x - s * 6, y - c * 6);
    ctx.lineTo(x + s * 6, y + c * 6);
    ctx.lineTo(x + c * 8, y - s * 8);
    ctx.fill();
  }
  ctx.fillStyle = inks.sheet;
  ctx.beginPath();
  ctx.arc(...grips.knob, 5, 0, Math.PI * 2);
  ctx.fill();
  ctx.stroke();
}

/** The height of the Plan's cut, on the Section. */
export function drawCutHeight(ctx: Ctx, view: SheetView, height: number, inks: Inks): void {
  const y = Math.round(toScreen(view, [0, 0, height])[1]) + 0.5;
  ctx.strokeStyle = ctx.fillStyle = inks.ember;
  ctx.lineWidth = 1;
  ctx.setLineDash([14, 4, 2, 4]);
  ctx.beginPath();
  ctx.moveTo(0, y);
  ctx.lineTo(view.width, y);
  ctx.stroke();
  ctx.setLineDash([]);
  for (const x of [12, view.width - 12]) {
    ctx.beginPath();
    ctx.moveTo(x - 6, y);
    ctx.lineTo(x + 6, y);
    ctx.lineTo(x, y + 8);
    ctx.fill();
  }
  ctx.font = "500 10px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'left';
  ctx.lineWidth = 4;
  ctx.strokeStyle = inks.sheet;
  ctx.strokeText(`plan cut ${Math.round(height)}`, 22, y - 5);
  ctx.fillText(`plan cut ${Math.round(height)}`, 22, y - 5);
}

/** The player's figure in the Section, with the heights of a step and of a jump beside it. */
export function drawFigure(ctx: Ctx, view: SheetView, at: Vec3, crouching: boolean, inks: Inks): void {
  if (view.kind !== 'section') return;
  const [x, foot] = toScreen(view, at);
  const k = view.zoom;
  const high = (crouching ? PLAYER.crouching : PLAYER.standing) * k;
  const half = PLAYER.halfWidth * k;
  ctx.strokeStyle = inks.verdigris;
  ctx.fillStyle = inks.verdigris;
  ctx.lineWidth = 1.2;
  ctx.strokeRect(x - half, foot - high, half * 2, high);
  ctx.globalAlpha = 0.5;
  const head = 11 * k;
  ctx.beginPath();
  ctx.arc(x, foot - high + head, head, 0, Math.PI * 2);
  ctx.moveTo(x - half * 0.55, foot - high + head * 2.3);
  ctx.lineTo(x + half * 0.55, foot - high + head * 2.3);
  ctx.lineTo(x + half * 0.3, foot);
  ctx.lineTo(x - half * 0.3, foot);
  ctx.fill();
  ctx.globalAlpha = 1;
  ctx.font = "500 10px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'left';
  ctx.setLineDash([4, 3]);
  const words: { text: string; x: number; y: number }[] = [];
  for (const [name, height] of [
    ['step', PLAYER.step],
    ['jump', PLAYER.jump],
  ] as const) {
    const y = foot - height * k;
    ctx.beginPath();
    ctx.moveTo(x + half, y);
    ctx.lineTo(x + half + 46, y);
    ctx.stroke();
    words.push({ text: `${name} ${height}`, x: x + half + 4, y: name === 'step' ? y + 10 : y - 3 });
  }
  // How far a running jump carries on level ground.
  const reach = jumpReach() * k;
  ctx.beginPath();
  ctx.moveTo(x, foot);
  ctx.quadraticCurveTo(x + reach / 2, foot - PLAYER.jump * 2 * k, x + reach, foot);
  ctx.stroke();
  words.push({ text: `gap ${Math.round(jumpReach())}`, x: x + reach + 3, y: foot - 2 });
  const lines = spreadDown(
    words.map((w) => ({ ...w, width: ctx.measureText(w.text).width + 4 })),
    12,
  );
  words.forEach((w, i) => ctx.fillText(w.text, w.x, lines[i]!));
  ctx.setLineDash([]);
}
