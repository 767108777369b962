import type { Stroke } from '@yesca/core';

type Ctx = CanvasRenderingContext2D;

/** Draws a symbol round the origin of a context. */
export function drawSymbol(ctx: Ctx, strokes: readonly Stroke[], ink: string, paper: string): void {
  ctx.strokeStyle = ink;
  for (const stroke of strokes) {
    if ('text' in stroke) {
      ctx.fillStyle = ink;
      ctx.font = "600 9px 'JetBrains Mono Variable', monospace";
      ctx.textAlign = 'center';
      ctx.fillText(stroke.text, stroke.at[0], -stroke.at[1]);
      continue;
    }
    ctx.beginPath();
    if ('circle' in stroke) ctx.arc(stroke.at?.[0] ?? 0, -(stroke.at?.[1] ?? 0), stroke.circle, 0, Math.PI * 2);
    else stroke.line.forEach(([x, y], i) => (i === 0 ? ctx.moveTo(x, -y) : ctx.lineTo(x, -y)));
    if ('closed' in stroke && stroke.closed) ctx.closePath();
    if (stroke.fill) {
      ctx.fillStyle = stroke.fill === 'ink' ? ink : paper;
      ctx.fill();
    }
    if (stroke.fill !== 'ink') ctx.stroke();
  }
}
