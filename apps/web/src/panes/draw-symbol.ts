import { entityKind, type Around, type Entity, type Stroke, type SymbolView } from '@yesca/core';

type Ctx = CanvasRenderingContext2D;

/** What stands for a kind of a newer version: a plain square with its facing. */
const unknown: readonly Stroke[] = [
  {
    line: [
      [-5, -5],
      [5, -5],
      [5, 5],
      [-5, 5],
    ],
    closed: true,
  },
];

/** The strokes of a thing's symbol. */
export const symbolOf = (e: Entity, view: SymbolView, around: Around): readonly Stroke[] =>
  entityKind(e.kind)?.symbol(e, view, around) ?? unknown;

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

/** How far a symbol reaches from its place, in pixels: left, top, right and bottom on screen. */
export function symbolBounds(strokes: readonly Stroke[]): { left: number; top: number; right: number; bottom: number } {
  const out = { left: 0, top: 0, right: 0, bottom: 0 };
  const grow = (x: number, y: number, r: number) => {
    out.left = Math.min(out.left, x - r);
    out.right = Math.max(out.right, x + r);
    out.top = Math.min(out.top, -y - r);
    out.bottom = Math.max(out.bottom, -y + r);
  };
  for (const s of strokes) {
    if ('text' in s) continue;
    if ('circle' in s) grow(s.at?.[0] ?? 0, s.at?.[1] ?? 0, s.circle);
    else for (const [x, y] of s.line) grow(x, y, 0);
  }
  return out;
}
