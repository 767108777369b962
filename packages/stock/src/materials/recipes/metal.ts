import { boards, courses, frac, mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Iron, brass, copper and zinc. */
export const METAL: readonly Recipe[] = [
  {
    name: 'brass',
    label: 'Brass',
    tags: ['metal', 'trim'],
    substance: 'metal',
    rough: 0.3,
    relief: 0.1,
    paint: (p, u, v) =>
      shade(
        mix([182, 146, 78], [128, 96, 48], 0.45 + 0.55 * p.rough(u, v, 4)),
        0.95 + 0.1 * p.noise(frac(u * 1), v, 90),
      ),
  },
  {
    name: 'black-iron',
    label: 'Black iron',
    tags: ['metal', 'dark'],
    substance: 'metal',
    rough: 0.5,
    relief: 0.3,
    paint: (p, u, v) =>
      mix(
        shade([58, 60, 64], 0.92 + 0.14 * p.rough(u, v, 14)),
        [94, 66, 50],
        0.6 * Math.max(0, p.rough(u, v, 5) - 0.12),
      ),
  },
  {
    name: 'rust-plate',
    label: 'Riveted plate',
    tags: ['metal', 'wall', 'rust', 'dark'],
    substance: 'metal',
    rough: 0.6,
    relief: 0.7,
    paint: (p, u, v) => {
      const { joint } = courses(p, u, v, 2, 2, 0);
      const [x, y] = [frac(u * 16 + 0.5) - 0.5, frac(v * 16 + 0.5) - 0.5];
      const rivet = joint < 0.09 ? ramp(0.34, 0.2, Math.hypot(x, y)) : 0;
      const rust = ramp(-0.1, 0.5, p.rough(u, v, 6, 5));
      const color = mix(
        shade([92, 92, 94], 0.95 + 0.08 * p.noise(u, v, 50)),
        shade([122, 70, 44], 0.85 + 0.25 * p.noise(u, v, 40)),
        rust,
      );
      return {
        color: joint < 0.012 ? [40, 34, 32] : shade(color, 1 + 0.2 * rivet),
        height: joint < 0.012 ? 0.1 : 0.5 + 0.5 * rivet + 0.04 * rust,
        rough: 0.4 + 0.5 * rust,
      };
    },
  },
  {
    name: 'verdigris',
    label: 'Weathered copper',
    tags: ['metal', 'roof', 'trim', 'green'],
    substance: 'metal',
    rough: 0.7,
    relief: 0.3,
    paint: (p, u, v) => {
      const green = ramp(-0.35, 0.25, p.rough(u, v, 5, 5) + 0.12 * Math.sin(v * 2 * Math.PI * 6));
      return {
        color: mix(
          shade([140, 92, 60], 0.95 + 0.1 * p.noise(u, v, 40)),
          shade([104, 152, 132], 0.94 + 0.1 * p.rough(u, v, 30)),
          green,
        ),
        rough: 0.4 + 0.45 * green,
        height: 0.5 + 0.2 * green,
      };
    },
  },
  {
    name: 'zinc',
    label: 'Seamed zinc',
    tags: ['metal', 'roof', 'wall', 'pale'],
    substance: 'metal',
    rough: 0.45,
    relief: 0.6,
    paint: (p, u, v) => {
      const { gap } = boards(u, 4);
      const seam = ramp(0.05, 0.02, gap);
      return {
        color: shade(
          mix([158, 164, 168], [136, 142, 148], 0.5 + 0.5 * p.rough(u, v, 4)),
          1 + 0.12 * seam - (gap > 0.05 && gap < 0.065 ? 0.25 : 0),
        ),
        height: 0.2 + 0.8 * seam,
      };
    },
  },
  {
    name: 'chequer-plate',
    label: 'Tread plate',
    tags: ['metal', 'floor'],
    substance: 'metal',
    rough: 0.4,
    relief: 0.8,
    paint: (p, u, v) => {
      const [x, y] = [u * 16, v * 16];
      const odd = (Math.floor(x) + Math.floor(y)) % 2 === 0;
      const [a, b] = [frac(x) - 0.5, frac(y) - 0.5];
      const [s, t] = odd ? [(a + b) * 0.71, (a - b) * 0.71] : [(a - b) * 0.71, (a + b) * 0.71];
      const rib = ramp(0.42, 0.34, Math.hypot(s, t * 3.4));
      return { color: shade([104, 106, 108], 0.9 + 0.16 * p.rough(u, v, 8) + 0.28 * rib), height: rib };
    },
  },
];
