import type { Draft } from '../drafting.ts';

/** The grain loft under the roof. */
export function loft(d: Draft): void {
  for (const y of [160, 400, 640]) d.box([0, y - 12, 816], [1024, y + 12, 864], 'oak-plank', 'Tie beam');
  for (const x of [340, 684]) d.box([x - 16, 384, 576], [x + 16, 416, 816], 'oak-plank', 'King post');
  for (const [x, y] of [
    [96, 80],
    [180, 72],
    [110, 160],
    [820, 660],
    [900, 620],
    [860, 560],
  ] as const)
    d.box([x, y, 576], [x + 72, y + 56, 624], 'sackcloth', 'Sack');
  d.box([400, 560, 576], [560, 720, 592], 'sea-paint', 'Hatch rim');
  d.thing('pointLight', [512, 400, 770], 'Loft lamp', 0, { candela: 300, color: '#ffe9c9' });
  d.thing('pointLight', [160, 640, 740], 'Sack lamp', 0, { candela: 120, color: '#ffd9a0', lit: false, fades: 1.5 });
}
