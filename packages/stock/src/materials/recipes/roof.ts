import { courses, frac, mix, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Coverings of roofs. */
export const ROOF: readonly Recipe[] = [
  {
    name: 'roof-tile',
    label: 'Roof tile',
    tags: ['roof', 'clay'],
    substance: 'tile',
    rough: 0.8,
    relief: 1,
    paint: (p, u, v) => {
      const { tone } = courses(p, u, v, 8, 8, 0);
      const y = frac(v * 8);
      const x = frac(u * 8 + (Math.floor(v * 8) % 2) * 0.5);
      const round = Math.sin(x * Math.PI);
      const edge = x < 0.03 || x > 0.97 || y > 0.95;
      return edge
        ? [66, 34, 26]
        : shade(
            mix([156, 84, 58], [120, 62, 46], tone),
            0.72 + 0.26 * round + 0.1 * (1 - y) + 0.06 * p.noise(u, v, 40),
          );
    },
  },
  {
    name: 'thatch',
    label: 'Reed thatch',
    tags: ['roof', 'plant', 'brown'],
    substance: 'plant',
    rough: 1,
    relief: 0.9,
    paint: (p, u, v) => {
      const layer = frac(v * 3);
      const straw = Math.sin(u * 2 * Math.PI * 144 + p.noise(u, v, 8) * 20) * 0.3 + p.noise(frac(u * 3), v, 30) * 0.5;
      return {
        color: shade(mix([166, 140, 92], [116, 92, 58], 0.5 + 0.5 * straw), 0.72 + 0.36 * layer),
        height: 0.5 * layer + 0.4 * (0.5 + 0.5 * straw),
      };
    },
  },
  {
    name: 'lead',
    label: 'Lead sheet',
    tags: ['roof', 'metal', 'dark'],
    substance: 'metal',
    rough: 0.6,
    relief: 0.3,
    paint: (p, u, v) => {
      const { joint } = courses(p, u, v, 2, 3, 0.02);
      return {
        color: shade(
          mix([112, 116, 122], [92, 96, 102], 0.5 + 0.5 * p.rough(u, v, 5)),
          joint < 0.012 ? 0.6 : joint < 0.03 ? 1.12 : 1,
        ),
        height: joint < 0.03 ? 0.9 : 0.5 + 0.2 * p.rough(u, v, 6),
      };
    },
  },
  {
    name: 'slate-roof',
    label: 'Hung slates',
    tags: ['roof', 'stone', 'dark'],
    substance: 'tile',
    rough: 0.6,
    relief: 0.9,
    paint: (p, u, v) => {
      const y = v * 10;
      const row = Math.floor(y) % 10;
      const x = u * 10 + (row % 2) * 0.5;
      const tone = p.pick(row, Math.floor(x) % 10);
      const edge = Math.min(frac(x), 1 - frac(x));
      return {
        color:
          edge < 0.025 || frac(y) > 0.96
            ? [38, 40, 46]
            : shade(mix([92, 98, 110], [70, 76, 88], tone), 0.9 + 0.12 * p.rough(u, v, 20) + 0.1 * frac(y)),
        height: edge < 0.025 ? 0 : 0.2 + 0.8 * frac(y) * 0.9,
      };
    },
  },
];
