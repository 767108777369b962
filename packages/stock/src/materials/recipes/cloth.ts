import { frac, mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Cloth and rope. */
export const CLOTH: readonly Recipe[] = [
  {
    name: 'canvas',
    label: 'Canvas',
    tags: ['cloth', 'pale'],
    substance: 'cloth',
    rough: 0.95,
    relief: 0.3,
    paint: (p, u, v) => {
      const weave = Math.sin(u * 2 * Math.PI * 96) * Math.sin(v * 2 * Math.PI * 96);
      return shade(mix([196, 182, 150], [170, 154, 122], 0.5 + 0.5 * p.rough(u, v, 4)), 0.97 + 0.06 * weave);
    },
  },
  {
    name: 'sackcloth',
    label: 'Sackcloth',
    tags: ['cloth', 'brown'],
    substance: 'cloth',
    rough: 1,
    relief: 0.5,
    paint: (p, u, v) => {
      const weave = Math.sin(u * 2 * Math.PI * 48) * Math.sin(v * 2 * Math.PI * 48);
      return shade(mix([158, 128, 88], [126, 98, 64], 0.5 + 0.5 * p.rough(u, v, 5)), 0.92 + 0.13 * weave);
    },
  },
  {
    name: 'striped-sail',
    label: 'Striped sailcloth',
    tags: ['cloth', 'red', 'pale'],
    substance: 'cloth',
    rough: 0.9,
    relief: 0.3,
    paint: (p, u, v) => {
      const weave = Math.sin(u * 2 * Math.PI * 80) * Math.sin(v * 2 * Math.PI * 80);
      const stripe = ramp(0.24, 0.26, Math.abs(frac(u * 4) - 0.5));
      return shade(mix([150, 66, 52], [206, 194, 166], stripe), 0.95 + 0.05 * weave + 0.06 * p.rough(u, v, 4));
    },
  },
  {
    name: 'rope-mat',
    label: 'Rope matting',
    tags: ['cloth', 'floor', 'brown'],
    substance: 'rope',
    rough: 1,
    relief: 1,
    paint: (p, u, v) => {
      const [x, y] = [u * 16, v * 16];
      const over = (Math.floor(x) + Math.floor(y)) % 2 === 0;
      const [along, across] = over ? [frac(x), frac(y)] : [frac(y), frac(x)];
      const round = Math.sin(across * Math.PI) * (0.6 + 0.4 * Math.sin(along * Math.PI));
      const twist = Math.sin((along * 3 + across) * 2 * Math.PI) * 0.12;
      return {
        color: shade(mix([160, 132, 86], [122, 98, 62], 0.5 + 0.5 * p.noise(u, v, 40)), 0.45 + 0.6 * round + twist),
        height: round,
      };
    },
  },
];
