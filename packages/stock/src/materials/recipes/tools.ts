import { letters } from './letters.ts';
import { shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** A drawing of four by four metres on grey paper, each metre numbered. */
function metres(): string {
  const lines = (step: number, color: string, w: number) =>
    Array.from(
      { length: 800 / step + 1 },
      (_, i) => `<path d="M${i * step} 0V800M0 ${i * step}H800" stroke="${color}" stroke-width="${w}"/>`,
    ).join('');
  const numbers = Array.from({ length: 16 }, (_, i) =>
    letters(String(i + 1), (i % 4) * 200 + 100, Math.floor(i / 4) * 200 + 100, 56, '#77808a'),
  );
  return `<rect width="800" height="800" fill="#b9bcbd"/>${lines(20, '#aeb2b4', 1)}${lines(100, '#9aa0a4', 2)}${lines(200, '#626b74', 5)}${numbers.join('')}`;
}

/** What a designer works with and nobody sees in the end. */
export const TOOLS: readonly Recipe[] = [
  {
    name: 'placeholder',
    label: 'Placeholder, numbered metres',
    tags: ['tool', 'grid', 'measure'],
    substance: 'none',
    rough: 1,
    relief: 0,
    size: [800, 800],
    tool: 'placeholder',
    draw: metres,
  },
  {
    name: 'unseen',
    label: 'Unseen',
    tags: ['tool', 'never drawn'],
    substance: 'none',
    rough: 1,
    relief: 0,
    size: [64, 64],
    tool: 'unseen',
    draw: () =>
      '<rect width="64" height="64" fill="#c6c2b8"/><path d="M0 64L64 0M-16 16L16 -16M48 80L80 48" stroke="#8b877d" stroke-width="3" stroke-dasharray="7 6"/>',
  },
  {
    name: 'sky',
    label: 'Sky',
    tags: ['tool', 'light', 'open'],
    substance: 'none',
    rough: 1,
    relief: 0,
    size: [128, 128],
    tool: 'sky',
    paint: (p, u, v) => shade([188, 211, 230], 0.97 + 0.05 * p.rough(u, v, 3, 4)),
  },
];
