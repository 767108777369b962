import type { Box, Vec3 } from '@yesca/core';
import type { Overlay } from '../state/editor.ts';
import type { Inks } from './inks.ts';
import { toScreen, type SheetView } from './projection.ts';

type Ctx = CanvasRenderingContext2D;

/** Handles of the transform box: which side of each axis they move (−1 low, 1 high, 0 none). */
export const HANDLES: readonly (readonly [-1 | 0 | 1, -1 | 0 | 1])[] = [[-1, -1], [0, -1], [1, -1], [1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0]]; // prettier-ignore

/** Where a handle lies on screen. */
export function handleAt(view: SheetView, box: Box, [a, b]: readonly [number, number]): [number, number] {
  const p: [number, number, number] = [0, 0, 0];
  p[view.h] = a < 0 ? box.min[view.h] : a > 0 ? box.max[view.h] : (box.min[view.h] + box.max[view.h]) / 2;
  p[view.v] = b < 0 ? box.min[view.v] : b > 0 ? box.max[view.v] : (box.min[view.v] + box.max[view.v]) / 2;
  return toScreen(view, p);
}

export function drawHandles(ctx: Ctx, view: SheetView, box: Box, inks: Inks): void {
  const [x0, y1] = handleAt(view, box, [-1, -1]);
  const [x1, y0] = handleAt(view, box, [1, 1]);
  ctx.strokeStyle = inks.indigo;
  ctx.lineWidth = 1;
  ctx.setLineDash([3, 3]);
  ctx.strokeRect(Math.round(x0) + 0.5, Math.round(y0) + 0.5, Math.round(x1 - x0), Math.round(y1 - y0));
  ctx.setLineDash([]);
  ctx.fillStyle = inks.sheet;
  ctx.lineWidth = 1.5;
  for (const h of HANDLES) {
    const [x, y] = handleAt(view, box, h);
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
}

/** Dimension lines of a box: its width below, its height to the left, with oblique ticks and the number over the line. */
export function drawSizes(ctx: Ctx, view: SheetView, box: Box, inks: Inks): void {
  const [x0, y1] = handleAt(view, box, [-1, -1]);
  const [x1, y0] = handleAt(view, box, [1, 1]);
  ctx.strokeStyle = ctx.fillStyle = inks.indigo;
  ctx.lineWidth = 1;
  ctx.font = "500 11px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'center';
  const label = (text: string, x: number, y: number, turn: number) => {
    ctx.save();
    ctx.translate(x, y);
    ctx.rotate(turn);
    ctx.lineWidth = 4;
    ctx.strokeStyle = inks.sheet;
    ctx.strokeText(text, 0, -4);
    ctx.fillText(text, 0, -4);
    ctx.restore();
  };
  const size = (axis: 0 | 1 | 2) => String(Math.round((box.max[axis] - box.min[axis]) * 100) / 100);
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
  label(size(view.h), (x0 + x1) / 2, yb, 0);
  label(size(view.v), xl, (y0 + y1) / 2, -Math.PI / 2);
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

export function drawOverlay(ctx: Ctx, view: SheetView, overlay: Overlay, inks: Inks): void {
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
    ctx.fillStyle = inks.sheet;
    for (const p of overlay.outline) {
      const [x, y] = toScreen(view, p);
      ctx.beginPath();
      ctx.arc(x, y, 3.5, 0, Math.PI * 2);
      ctx.fill();
      ctx.stroke();
    }
  }
  if (overlay.sizes) drawSizes(ctx, view, overlay.sizes, inks);
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

/** The section line on the plan, with the way it looks; the cut and level on the section. */
export function drawCutLine(ctx: Ctx, view: SheetView, at: number, label: string, inks: Inks): void {
  const p: [number, number, number] = [...view.centre];
  p[view.v] = at;
  const y = Math.round(toScreen(view, p)[1]) + 0.5;
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
    ctx.lineTo(x, y - 8);
    ctx.fill();
  }
  ctx.font = "500 10px 'JetBrains Mono Variable', monospace";
  ctx.textAlign = 'left';
  ctx.fillText(label, 22, y - 4);
}
