import type { Pattern } from './noise.ts';

export type Rgb = readonly [number, number, number];

/** How one material is made: a colour (sRGB, 0 to 255) for every point of the unit square, without seams. */
export interface Recipe {
  readonly name: string;
  readonly label: string;
  readonly tags: readonly string[];
  readonly paint: (p: Pattern, u: number, v: number) => Rgb;
}

const mix = (a: Rgb, b: Rgb, t: number): Rgb => {
  const k = Math.max(0, Math.min(1, t));
  return [a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k, a[2] + (b[2] - a[2]) * k];
};
const shade = (c: Rgb, by: number): Rgb => [c[0] * by, c[1] * by, c[2] * by];
const frac = (x: number): number => x - Math.floor(x);

/** Distance from the nearest joint of a grid of blocks, as a part of a block's height, and the block's number. */
function courses(p: Pattern, u: number, v: number, rows: number, columns: number, wobble: number) {
  const y = v * rows + p.noise(u, v, 6) * wobble;
  const row = ((Math.floor(y) % rows) + rows) % rows;
  const x = u * columns + (row % 2) * 0.5 + p.noise(u, v, 5) * wobble;
  const column = ((Math.floor(x) % columns) + columns) % columns;
  const aspect = rows / columns;
  const joint = Math.min(frac(y), 1 - frac(y), frac(x) * aspect, (1 - frac(x)) * aspect);
  return { joint, tone: p.pick(row, column) };
}

/** Boards that run along v: distance from the nearest gap and the board's number. */
function boards(u: number, count: number) {
  const x = u * count;
  return { gap: Math.min(frac(x), 1 - frac(x)), board: Math.floor(x) % count, x: frac(x) };
}

export const RECIPES: readonly Recipe[] = [
  {
    name: 'limewash', label: 'Limewash', tags: ['plaster', 'wall', 'pale'],
    paint: (p, u, v) => shade(mix([226, 219, 203], [203, 194, 175], 0.5 + 0.5 * p.rough(u, v, 5, 5)), 1 + 0.035 * p.noise(u, v, 60)),
  },
  {
    name: 'tide-stone', label: 'Tide-stained stone', tags: ['stone', 'wall', 'wet'],
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 8, 4, 0.05);
      const stone = shade(mix([132, 131, 122], [98, 104, 98], tone), 0.92 + 0.16 * p.rough(u, v, 18));
      const stained = mix(stone, [76, 92, 78], 0.45 * Math.max(0, p.rough(u, v, 4) + 0.15));
      return joint < 0.05 ? shade([70, 68, 62], 0.9 + 0.2 * p.noise(u, v, 40)) : joint < 0.1 ? shade(stained, 0.88) : stained;
    },
  },
  {
    name: 'oak-plank', label: 'Oak plank', tags: ['wood', 'floor'],
    paint: (p, u, v) => {
      const { gap, board } = boards(u, 8);
      const end = Math.abs(frac(v + p.pick(board, 3)) - 0.5) > 0.4965;
      const grain = p.noise(frac(u * 2 + p.pick(board)), v, 3) * 0.5 + Math.sin((u * 240 + p.noise(u, v, 4) * 5 + p.pick(board) * 40)) * 0.22 + p.noise(u, v, 50) * 0.12;
      const wood = shade(mix([143, 104, 66], [116, 80, 48], 0.5 + 0.5 * grain), 0.86 + 0.28 * p.pick(board, 9));
      return gap < 0.028 || end ? shade([52, 36, 24], 1) : wood;
    },
  },
  {
    name: 'slate', label: 'Slate', tags: ['stone', 'floor', 'roof'],
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 4, 4, 0.015);
      const stone = shade(mix([84, 92, 102], [66, 74, 86], tone), 0.93 + 0.12 * p.rough(u, v, 12) + 0.04 * p.noise(u, v, 80));
      return joint < 0.022 ? [48, 50, 54] : stone;
    },
  },
  {
    name: 'brass', label: 'Brass', tags: ['metal', 'trim'],
    paint: (p, u, v) => shade(mix([182, 146, 78], [128, 96, 48], 0.45 + 0.55 * p.rough(u, v, 4)), 0.95 + 0.1 * p.noise(frac(u * 1), v, 90)),
  },
  {
    name: 'wet-sand', label: 'Wet sand', tags: ['ground', 'wet'],
    paint: (p, u, v) => {
      const ripple = Math.sin((v * 14 + p.rough(u, v, 4, 3) * 0.9) * 2 * Math.PI);
      return shade(mix([150, 132, 102], [118, 102, 78], 0.5 + 0.32 * ripple), 0.96 + 0.09 * p.noise(u, v, 90));
    },
  },
  {
    name: 'roof-tile', label: 'Roof tile', tags: ['roof', 'clay'],
    paint: (p, u, v) => {
      const { tone } = courses(p, u, v, 8, 8, 0);
      const y = frac(v * 8);
      const x = frac(u * 8 + (Math.floor(v * 8) % 2) * 0.5);
      const round = Math.sin(x * Math.PI);
      const edge = x < 0.03 || x > 0.97 || y > 0.95;
      return edge ? [66, 34, 26] : shade(mix([156, 84, 58], [120, 62, 46], tone), 0.72 + 0.26 * round + 0.1 * (1 - y) + 0.06 * p.noise(u, v, 40));
    },
  },
  {
    name: 'canvas', label: 'Canvas', tags: ['cloth', 'pale'],
    paint: (p, u, v) => {
      const weave = Math.sin(u * 2 * Math.PI * 96) * Math.sin(v * 2 * Math.PI * 96);
      return shade(mix([196, 182, 150], [170, 154, 122], 0.5 + 0.5 * p.rough(u, v, 4)), 0.97 + 0.06 * weave);
    },
  },
  {
    name: 'red-brick', label: 'Red brick', tags: ['brick', 'wall'],
    paint: (p, u, v) => {
      const { joint, tone } = courses(p, u, v, 16, 8, 0.02);
      return joint < 0.07 ? shade([168, 158, 142], 0.9 + 0.12 * p.noise(u, v, 50)) : shade(mix([150, 80, 60], [108, 58, 50], tone), 0.9 + 0.16 * p.rough(u, v, 24, 3));
    },
  },
  {
    name: 'black-iron', label: 'Black iron', tags: ['metal', 'dark'],
    paint: (p, u, v) => mix(shade([58, 60, 64], 0.92 + 0.14 * p.rough(u, v, 14)), [94, 66, 50], 0.6 * Math.max(0, p.rough(u, v, 5) - 0.12)),
  },
  {
    name: 'tarred-board', label: 'Tarred board', tags: ['wood', 'wall', 'dark'],
    paint: (p, u, v) => {
      const { gap, board, x } = boards(v, 6);
      const grain = Math.sin(v * 300 + p.noise(u, v, 4) * 6) * 0.14 + p.rough(u, v, 10, 3) * 0.3;
      const wood = shade(mix([66, 60, 54], [44, 40, 38], 0.5 + grain), 0.85 + 0.3 * p.pick(board));
      return gap < 0.03 ? [20, 19, 18] : x > 0.9 ? shade(wood, 0.8) : wood;
    },
  },
  {
    name: 'cobble', label: 'Quay cobble', tags: ['stone', 'ground', 'floor'],
    paint: (p, u, v) => {
      const { near, second, id } = p.cells(u, v, 11);
      const edge = second - near;
      const stone = shade(mix([136, 128, 116], [98, 98, 100], p.pick(id)), 1.06 - 0.4 * near * near + 0.06 * p.noise(u, v, 50));
      return edge < 0.09 ? mix([54, 52, 46], stone, edge / 0.14) : stone;
    },
  },
  {
    name: 'dark-water', label: 'Race water', tags: ['water', 'wet', 'dark'],
    paint: (p, u, v) => {
      const wave = p.noise(u, v + 0.02 * p.noise(u, v, 8), 9) * 0.6 + p.noise(u, v, 26) * 0.25;
      return mix([30, 52, 56], [78, 110, 108], 0.28 + 0.5 * wave * Math.abs(wave) + 0.1);
    },
  },
  {
    name: 'sea-paint', label: 'Sea-green paint', tags: ['wood', 'trim', 'painted'],
    paint: (p, u, v) => {
      const flake = p.rough(u, v, 9, 4);
      const paint = shade([86, 128, 116], 0.95 + 0.08 * p.noise(u, v, 30) + 0.04 * Math.sin(u * 200));
      return flake > 0.34 ? mix([138, 108, 76], paint, (0.44 - flake) * 6) : paint;
    },
  },
  {
    name: 'sackcloth', label: 'Sackcloth', tags: ['cloth', 'brown'],
    paint: (p, u, v) => {
      const weave = Math.sin(u * 2 * Math.PI * 48) * Math.sin(v * 2 * Math.PI * 48);
      return shade(mix([158, 128, 88], [126, 98, 64], 0.5 + 0.5 * p.rough(u, v, 5)), 0.92 + 0.13 * weave);
    },
  },
]; // prettier-ignore
