import { boards, frac, mix, ramp, shade } from './patterns.ts';
import type { Recipe } from './types.ts';

/** Boards, planks and beams. */
export const WOOD: readonly Recipe[] = [
  {
    name: 'oak-plank',
    label: 'Oak plank',
    tags: ['wood', 'floor'],
    substance: 'wood',
    rough: 0.6,
    relief: 0.5,
    paint: (p, u, v) => {
      const { gap, board } = boards(u, 8);
      const end = Math.abs(frac(v + p.pick(board, 3)) - 0.5) > 0.4965;
      const grain =
        p.noise(frac(u * 2 + p.pick(board)), v, 3) * 0.5 +
        Math.sin(u * 240 + p.noise(u, v, 4) * 5 + p.pick(board) * 40) * 0.22 +
        p.noise(u, v, 50) * 0.12;
      const wood = shade(mix([143, 104, 66], [116, 80, 48], 0.5 + 0.5 * grain), 0.86 + 0.28 * p.pick(board, 9));
      return gap < 0.028 || end ? shade([52, 36, 24], 1) : wood;
    },
  },
  {
    name: 'tarred-board',
    label: 'Tarred board',
    tags: ['wood', 'wall', 'dark'],
    substance: 'wood',
    rough: 0.45,
    relief: 0.6,
    paint: (p, u, v) => {
      const { gap, board, x } = boards(v, 6);
      const grain = Math.sin(v * 300 + p.noise(u, v, 4) * 6) * 0.14 + p.rough(u, v, 10, 3) * 0.3;
      const wood = shade(mix([66, 60, 54], [44, 40, 38], 0.5 + grain), 0.85 + 0.3 * p.pick(board));
      return gap < 0.03 ? [20, 19, 18] : x > 0.9 ? shade(wood, 0.8) : wood;
    },
  },
  {
    name: 'sea-paint',
    label: 'Sea-green paint',
    tags: ['wood', 'trim', 'painted'],
    substance: 'wood',
    rough: 0.5,
    relief: 0.3,
    paint: (p, u, v) => {
      const flake = p.rough(u, v, 9, 4);
      const paint = shade([86, 128, 116], 0.95 + 0.08 * p.noise(u, v, 30) + 0.04 * Math.sin(u * 200));
      return flake > 0.34 ? mix([138, 108, 76], paint, (0.44 - flake) * 6) : paint;
    },
  },
  {
    name: 'pine-board',
    label: 'Pine boards',
    tags: ['wood', 'floor', 'wall', 'pale'],
    substance: 'wood',
    rough: 0.65,
    relief: 0.4,
    paint: (p, u, v) => {
      const { gap, board } = boards(u, 6);
      const grain = Math.sin(u * 320 + p.noise(u, v, 3) * 7 + p.pick(board) * 50) * 0.2 + p.rough(u, v, 9, 3) * 0.4;
      const knot = p.cells(u, v, 5);
      const wood = mix(
        shade(mix([200, 164, 112], [176, 136, 86], 0.5 + grain), 0.94 + 0.12 * p.pick(board, 2)),
        [112, 72, 42],
        knot.near < 0.1 && p.pick(knot.id, 5) > 0.6 ? 0.7 : 0,
      );
      return { color: gap < 0.022 ? [88, 62, 38] : wood, height: gap < 0.022 ? 0 : 0.85 + 0.15 * grain };
    },
  },
  {
    name: 'ship-plank',
    label: 'Silvered planks',
    tags: ['wood', 'wall', 'floor', 'weathered'],
    substance: 'wood',
    rough: 0.85,
    relief: 0.6,
    paint: (p, u, v) => {
      const { gap, board, x } = boards(v, 8);
      const grain = Math.sin(v * 420 + p.noise(u, v, 3) * 8) * 0.22 + p.rough(u, v, 12, 3) * 0.4;
      const nail = Math.hypot(frac(u * 4 + 0.5 * (board % 2)) - 0.5, (x - 0.5) * 0.5) < 0.018;
      const wood = shade(mix([150, 146, 134], [116, 112, 104], 0.5 + grain), 0.9 + 0.2 * p.pick(board, 4));
      return {
        color: nail ? [60, 50, 44] : gap < 0.03 ? [48, 46, 42] : wood,
        height: gap < 0.03 ? 0 : 0.8 + 0.2 * grain,
      };
    },
  },
  {
    name: 'herringbone',
    label: 'Herringbone oak',
    tags: ['wood', 'floor', 'warm'],
    substance: 'wood',
    rough: 0.4,
    relief: 0.25,
    paint: (p, u, v) => {
      // Blocks of 1 × 4 in a lattice of 8 × 8: the first of four cells along the way a block lies names it.
      const [x, y] = [u * 16, v * 16];
      const [i, j] = [Math.floor(x), Math.floor(y)];
      const k = (((i - j) % 8) + 8) % 8;
      const lies = k < 4;
      const [a, b] = lies ? [i - k, j] : [i, j - (7 - k)];
      const id = p.pick(((a % 16) + 16) % 16, ((b % 16) + 16) % 16, lies ? 1 : 2);
      const [along, across] = lies ? [x - a, frac(y)] : [y - b, frac(x)];
      const joint = Math.min(along, 4 - along, across, 1 - across);
      const grain = Math.sin(across * 22 + p.noise(u, v, 6) * 3 + id * 30) * 0.25 + p.noise(u, v, 50) * 0.15;
      return {
        color: joint < 0.05 ? [58, 38, 22] : shade(mix([150, 106, 64], [112, 74, 42], 0.5 + grain), 0.85 + 0.3 * id),
        height: ramp(0.02, 0.09, joint),
      };
    },
  },
  {
    name: 'beam-end',
    label: 'End grain',
    tags: ['wood', 'beam'],
    substance: 'wood',
    rough: 0.8,
    relief: 0.4,
    paint: (p, u, v) => {
      const { near, id } = p.cells(u, v, 4);
      const ring = Math.sin(near * 40 + p.noise(u, v, 10) * 2 + p.pick(id) * 6);
      return shade(mix([150, 112, 72], [108, 76, 46], 0.5 + 0.4 * ring), 0.92 + 0.1 * p.rough(u, v, 20));
    },
  },
];
