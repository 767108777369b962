import { cosSin, jumpReach, PLAYER, type Box, type SectionLine, type Vec3 } from '@yesca/core';
import { spreadDown } from '../geometry/labels.ts';
import type { Mark, Measured, Overlay } from '../state/editor.ts';
import type { TransformBox } from '../geometry/own-axes.ts';
import type { Inks } from './inks.ts';
import { toScreen, type SheetView } from '../geometry/projection.ts';
import type { ThingHandle } from '../tools/thing-handles.ts';
import { HANDLES, handleAt, skewTabs, turnKnob } from '../geometry/handle-places.ts';

type Ctx = CanvasRenderingContext2D;

/** The transform box with its handles. What has no size of its own, as a lamp, has only the knob that turns it. */
export function drawHandles(ctx: Ctx, view: SheetView, { box, turn }: TransformBox, inks: Inks, sized: boolean): void {
  ctx.strokeStyle = inks.indigo;
  ctx.fillStyle = inks.sheet;
  ctx.lineWidth = 1.5;
  if (sized) drawSides(ctx, view, box, turn);
  const [kx, ky] = turnKnob(view, box, turn);
  const [tx, ty] = handleAt(view, box, [0, 0], turn);
  const reach = Math.max(1, Math.hypot(tx - kx, ty - ky));
  const towards = (d: number) => [kx + ((tx - kx) / reach) * d, ky + ((ty - ky) / reach) * d] as const;
  ctx.beginPath();
  ctx.moveTo(...towards(5));
  ctx.lineTo(...towards(22));
  ctx.stroke();
  ctx.beginPath();
  ctx.arc(kx, ky, 5, 0, Math.PI * 2);
  ctx.fill();
  ctx.stroke();
}

/** Handles of a thing: a line from it where the handle says so, and a diamond to drag. */
export function drawThingHandles(ctx: Ctx, view: SheetView, handles: readonly ThingHandle[], inks: Inks): void {
  for (const { handle, at, from } of handles) {
    const [x, y] = toScreen(view, at);
    ctx.strokeStyle = inks.indigo;
    ctx.fillStyle = inks.sheet;
    if (handle.line) {
      ctx.lineWidth = 1;
      ctx.setLineDash([3, 3]);
      ctx.beginPath();
      ctx.moveTo(...toScreen(view, from));
      ctx.lineTo(x, y);
      ctx.stroke();
      ctx.setLineDash([]);
    }
    ctx.lineWidth = 1.5;
    ctx.beginPath();
    for (const [dx, dy] of [
      [0, -5],
      [5, 0],
      [0, 5],
      [-5, 0],
    ] as const)
      ctx.lineTo(x + dx, y + dy);
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
  }
}

/** The point that turns go round: a ring with a cross through it. */
export function drawPivot(ctx: Ctx, view: SheetView, at: Vec3, inks: Inks): void {
  const [x, y] = toScreen(view, at);
  ctx.strokeStyle = inks.ember;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  ctx.arc(x, y, 6, 0, Math.PI * 2);
  for (const [dx, dy] of [
    [10, 0],
    [0, 10],
  ] as const) {
    ctx.moveTo(x - dx, y - dy);
    ctx.lineTo(x + dx, y + dy);
  }
  ctx.stroke();
}

function drawSides(ctx: Ctx, view: SheetView, box: Box, turn: number): void {
  ctx.lineWidth = 1;
  ctx.setLineDash([3, 3]);
  ctx.beginPath();
  for (const corner of [
    [-1, -1],
    [1, -1],
    [1, 1],
    [-1, 1],
  ] as const)
    ctx.lineTo(...handleAt(view, box, corner, turn));
  ctx.closePath();
  ctx.stroke();
  ctx.setLineDash([]);
  ctx.lineWidth = 1.5;
  for (const h of HANDLES) {
    const [x, y] = handleAt(view, box, h, turn);
    ctx.beginPath();
    // Corners are diamonds, sides are bars along the side they move.
    if (h[0] !== 0 && h[1] !== 0) {
      ctx.moveTo(x - 5, y);
      ctx.lineTo(x, y - 5);
      ctx.lineTo(x + 5, y);
      ctx.lineTo(x, y + 5);
      ctx.closePath();
    } else if (h[0] === 0) ctx.rect(x - 6, y - 2.5, 12, 5);
    else ctx.rect(x - 2.5, y - 6, 5, 12);
    ctx.fill();
    ctx.stroke();
  }
  // The tabs are leaning bars, as what they make of the box.
  if (turn !== 0) return;
  for (const {
    at: [x, y],
    along,
  } of skewTabs(view, box)) {
    const lean = [
      [-8, 3],
      [4, 3],
      [8, -3],
      [-4, -3],
    ] as const;
    ctx.beginPath();
    lean.forEach(([a, b], i) =>
      (i ? ctx.lineTo.bind(ctx) : ctx.moveTo.bind(ctx))(x + (along === 'h' ? a : b), y + (along === 'h' ? b : a)),
    );
    ctx.closePath();
    ctx.fill();
    ctx.stroke();
  }
}

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

/** A measured line with oblique ticks at its ends and words over it. */
function drawMeasure(ctx: Ctx, view: SheetView, { from, to, text }: Measured, inks: Inks): void {
  const [ax, ay] = toScreen(view, from);
  const [bx, by] = toScreen(view, to);
  ctx.strokeStyle = ctx.fillStyle = inks.indigo;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  ctx.moveTo(ax, ay);
  ctx.lineTo(bx, by);
  for (const [x, y] of [
    [ax, ay],
    [bx, by],
  ] as const) {
    ctx.moveTo(x - 5, y + 5);
    ctx.lineTo(x + 5, y - 5);
  }
  ctx.stroke();
  let turn = Math.atan2(by - ay, bx - ax);
  if (turn > Math.PI / 2 || turn < -Math.PI / 2) turn += Math.PI;
  label(ctx, text, (ax + bx) / 2, (ay + by) / 2, turn, inks);
}

/** Reshape's handles: corners as squares, edges as bars across, faces as discs; chosen ones filled. */
function drawMarks(ctx: Ctx, view: SheetView, marks: readonly Mark[], inks: Inks): void {
  ctx.lineWidth = 1.5;
  ctx.strokeStyle = inks.indigo;
  for (const { at, kind, chosen } of marks) {
    const [x, y] = toScreen(view, at);
    ctx.fillStyle = chosen ? inks.indigo : inks.sheet;
    ctx.beginPath();
    if (kind === 'vertex') ctx.rect(x - 3.5, y - 3.5, 7, 7);
    else if (kind === 'edge') ctx.ellipse(x, y, 5, 3, 0, 0, Math.PI * 2);
    else ctx.arc(x, y, 4.5, 0, Math.PI * 2);
    ctx.fill();
    ctx.stroke();
  }
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

function polyline(ctx: Ctx, view: SheetView, points: readonly Vec3[]): void {
  ctx.beginPath();
  points.forEach((p, i) => {
    const [x, y] = toScreen(view, p);
    if (i === 0) ctx.moveTo(x, y);
    else ctx.lineTo(x, y);
  });
  ctx.stroke();
}

export function drawOverlay(
  ctx: Ctx,
  view: SheetView,
  overlay: Overlay,
  inks: Inks,
  show: (cm: number) => string,
): void {
  if (overlay.guides) drawGuides(ctx, view, overlay.guides, inks);
  if (overlay.marquee && overlay.marquee.pane === view.kind) {
    const [ax, ay] = toScreen(view, overlay.marquee.from);
    const [bx, by] = toScreen(view, overlay.marquee.to);
    ctx.fillStyle = inks.wash;
    ctx.strokeStyle = inks.indigo;
    ctx.lineWidth = 1;
    ctx.fillRect(ax, ay, bx - ax, by - ay);
    ctx.strokeRect(Math.round(ax) + 0.5, Math.round(ay) + 0.5, Math.round(bx - ax), Math.round(by - ay));
  }
  if (overlay.outline?.length && view.kind === 'plan') {
    ctx.strokeStyle = inks.indigo;
    ctx.lineWidth = 2;
    polyline(ctx, view, overlay.outline);
    dots(ctx, view, overlay.outline, inks);
  }
  if (overlay.cut) {
    ctx.strokeStyle = inks.ember;
    ctx.lineWidth = 2;
    ctx.setLineDash([10, 4]);
    polyline(ctx, view, overlay.cut);
    ctx.setLineDash([]);
    dots(ctx, view, overlay.cut, inks);
  }
  if (overlay.marks) drawMarks(ctx, view, overlay.marks, inks);
  for (const m of overlay.measured ?? []) drawMeasure(ctx, view, m, inks);
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
