import { defineKind } from '../kind.ts';
import { round } from '../strokes.ts';

export const reflectionProbe = defineKind({
  kind: 'reflectionProbe',
  label: 'Reflection probe',
  help: 'A build looks around from here: what shines nearby reflects what is seen. Each face takes the nearest one in its cell, or the one chosen for it.',
  family: 'Light',
  // Where eyes are.
  standsAt: 160,
  reflects: true,
  params: {},
  symbol: () => [
    { circle: 8, fill: 'paper' },
    {
      line: [
        [-5, -3],
        [-1.5, 3],
      ],
    },
    {
      line: [
        [-1.5, -4.5],
        [2.5, 3],
      ],
    },
    { circle: 1.5, fill: 'ink' },
  ],
  mark: () => [
    round(16, (x, y) => [x * 12, y * 12, 0]),
    round(16, (x, y) => [x * 12, 0, y * 12]),
    round(16, (x, y) => [0, x * 12, y * 12]),
  ],
});
