import type { Region } from '@yesca/core';
import type { Pattern } from '../noise.ts';
import { letters } from './letters.ts';
import { frac, mix, ramp, shade } from './patterns.ts';
import type { Recipe, Rgb, Texel } from './types.ts';

const region = (name: string, x: number, y: number, width: number, height: number): Region => ({
  name,
  x,
  y,
  width,
  height,
});

const EDGE = 512;

/** What a place of a region looks like: `s` across and `t` down from its upper left corner, 0 to 1; `wide` is its width by its height. */
type Look = (p: Pattern, s: number, t: number, wide: number) => Texel & { readonly opacity: number };

/** The recipe's painting of a sheet: nothing between its regions, and a free rim round each, so that none shows its neighbours. */
const sheet =
  (looks: readonly (readonly [Region, Look])[]): NonNullable<Recipe['paint']> =>
  (p, u, v) => {
    const [x, y] = [u * EDGE, v * EDGE];
    for (const [{ x: left, y: top, width, height }, look] of looks) {
      if (x < left || y < top || x >= left + width || y >= top + height) continue;
      const texel = look(p, (x - left) / width, (y - top) / height, width / height);
      const rim = Math.min(x - left, left + width - 1 - x, y - top, top + height - 1 - y);
      return { ...texel, opacity: texel.opacity * ramp(3, 9, rim) };
    }
    return { color: [128, 128, 128], opacity: 0 };
  };

/** How far a place lies from the middle of its region: 1 on an oval that touches its sides, with an uneven edge. */
const blot = (p: Pattern, s: number, t: number, wide: number, rough: number): number =>
  Math.hypot(s - 0.5, t - 0.5) * 2 + rough * p.rough(s * 0.19 * wide, t * 0.19, 24, 4);

const grain = (p: Pattern, s: number, t: number): number => p.rough(s * 0.37, t * 0.37, 60, 3);

/** What runs down from its top: more of it above, in streaks. */
const run = (p: Pattern, s: number, t: number, count: number): number =>
  p.noise(s * 0.21, 0.3, count) + 0.35 * p.noise(s * 0.4, t * 0.06, count * 2) - t * 1.1 + 0.45;

const DAMP: Rgb = [58, 54, 44];
const RUST: Rgb = [124, 62, 26];
const SOOT: Rgb = [24, 22, 22];
const MOSS: Rgb = [70, 92, 36];
const OIL: Rgb = [22, 20, 26];
const TIDE: Rgb = [74, 78, 58];
const LICHEN: Rgb = [176, 178, 132];

const STAINS: readonly (readonly [Region, Look])[] = [
  [
    region('damp patch', 0, 0, 192, 192),
    (p, s, t, w) => {
      const d = blot(p, s, t, w, 0.45);
      const ring = ramp(0.2, 0.05, Math.abs(d - 0.78));
      return { color: shade(DAMP, 1 + 0.25 * grain(p, s, t)), opacity: ramp(0.95, 0.6, d) * 0.45 + ring * 0.3 };
    },
  ],
  [
    region('soot', 192, 0, 160, 192),
    (p, s, t, w) => ({
      color: shade(SOOT, 1 + 0.3 * grain(p, s, t)),
      opacity:
        ramp(
          1,
          0.1,
          Math.hypot((s - 0.5) * 2.1, (t - 0.68) * (t < 0.68 ? 1.5 : 3)) + 0.3 * p.rough(s * 0.2 * w, t * 0.2, 20),
        ) * 0.92,
    }),
  ],
  [
    region('moss patch', 352, 0, 160, 192),
    (p, s, t, w) => {
      const high = p.rough(s * 0.31, t * 0.31, 40, 4);
      return {
        color: mix(shade(MOSS, 0.75), [118, 138, 58], 0.5 + 0.6 * high),
        height: 0.5 + 0.5 * high,
        opacity: ramp(0.72, 0.62, blot(p, s, t, w, 0.75)) * (high > -0.55 ? 1 : 0.55),
      };
    },
  ],
  [
    region('tide mark', 0, 192, 512, 96),
    (p, s, t) => {
      const top = 0.22 + 0.14 * p.rough(s, 0.1, 9);
      const line = ramp(0.09, 0.02, Math.abs(t - top - 0.03));
      const weed = ramp(0.1, 0.5, p.rough(s, t * 0.19, 50, 3) + (t - 0.55));
      return {
        color: mix(TIDE, shade(MOSS, 0.7), weed),
        opacity: ramp(top, top + 0.08, t) * (0.5 + 0.35 * weed) * ramp(1, 0.75, t) + line * 0.35,
      };
    },
  ],
  [
    region('rust run', 0, 288, 96, 224),
    (p, s, t) => ({
      color: mix(shade(RUST, 0.75), [168, 96, 44], 0.5 + 0.5 * p.noise(s * 0.3, t * 0.3, 20)),
      opacity: ramp(-0.45, 0.25, run(p, s + 0.42, t, 9)) * ramp(0.5, 0.28, Math.abs(s - 0.5)) * 0.9,
    }),
  ],
  [
    region('dark run', 96, 288, 96, 224),
    (p, s, t) => ({
      color: DAMP,
      opacity: ramp(0, 0.5, run(p, s + 0.37, t, 12)) * ramp(0.5, 0.25, Math.abs(s - 0.5)) * 0.7,
    }),
  ],
  [
    region('oil spill', 192, 288, 160, 112),
    (p, s, t, w) => {
      const d = blot(p, s, t, w, 0.5);
      const spot = p.cells(s * 0.9, t * 0.7, 9);
      return {
        color: shade(OIL, 1 + 0.3 * ramp(0.5, 0.8, d)),
        rough: 0.3,
        opacity: Math.max(ramp(0.78, 0.68, d), ramp(1, 0.8, d) * ramp(0.24, 0.16, spot.near)) * 0.92,
      };
    },
  ],
  [
    region('puddle', 192, 400, 160, 112),
    (p, s, t, w) => ({
      color: shade(DAMP, 0.75),
      rough: 0.08,
      opacity: ramp(0.84, 0.76, blot(p, s, t, w, 0.42)) * 0.6,
    }),
  ],
  [
    region('lichen', 352, 288, 160, 112),
    (p, s, t, w) => {
      const { near, id } = p.cells(s * 0.8, t * 0.8 * (1 / w) * 1.3, 8);
      const size = 0.2 + 0.3 * p.pick(id, 3);
      const rough = near + 0.12 * p.rough(s * 0.3, t * 0.3, 60);
      return {
        color: shade(LICHEN, 0.85 + 0.25 * ramp(size * 0.4, size, near) + 0.1 * grain(p, s, t)),
        opacity: p.pick(id, 5) < 0.75 ? ramp(size, size * 0.8, rough) * ramp(1, 0.8, blot(p, s, t, w, 0.2)) : 0,
      };
    },
  ],
  [
    region('moss edge', 352, 400, 160, 112),
    (p, s, t) => {
      const high = p.rough(s * 0.31, t * 0.31, 40, 4);
      return {
        color: mix(shade(MOSS, 0.8), [126, 144, 62], 0.5 + 0.6 * high),
        height: 0.5 + 0.5 * high,
        opacity: ramp(0, 0.12, t - 0.45 - 0.35 * p.rough(s * 0.31, 0.2, 14, 3)),
      };
    },
  ],
];

/** How far a place lies from a crooked line across its region, in parts of its height. */
const fromCrack = (p: Pattern, s: number, t: number, seed: number, start: number, slope: number): number =>
  Math.abs(t - start - slope * s - 0.16 * p.rough(s * 0.23, 0.13 * seed, 16, 4));

const crack = (p: Pattern, s: number, t: number, seed: number, start: number, slope: number, from = 0): number =>
  s < from
    ? 0
    : ramp(
        0.035,
        0.008,
        fromCrack(p, s, t, seed, start, slope) + 0.02 * ramp(0.55, 1, s) + 0.02 * ramp(0.15, 0, s - from),
      );

const CRACKED: Rgb = [30, 27, 24];
const PLANK: Rgb = [122, 92, 60];

/** A round place's share of a shadow of a rope of some width that hangs through it. */
const rope = (s: number, at: number, width: number): number => ramp(width, width * 0.35, Math.abs(s - at));

/** Thrown paint: a blot, drops round it and runs below. */
const splash =
  (color: Rgb, seed: number): Look =>
  (p, s, t, w) => {
    const [x, y] = [(s - 0.5) * w, t - 0.42];
    const angle = Math.atan2(y, x) / (2 * Math.PI) + 0.5;
    const spikes = 0.24 + 0.16 * p.noise(angle, 0.1 * seed, 14) + 0.07 * p.noise(angle, 0.1 * seed + 0.4, 40);
    const { near, id } = p.cells(s * 0.7 + seed * 0.3, t * 0.5, 14);
    const drop = p.pick(id, seed) < 0.35 ? ramp(0.3, 0.2, near + 0.5 * Math.max(0, Math.hypot(x, y) - 0.4)) : 0;
    const { near: across, id: which } = p.cells(s * 0.9 + seed * 0.1, 0.5, 11);
    const long = 0.25 + 0.5 * p.pick(which, seed + 4);
    const drip = t > 0.42 && Math.hypot(x, 0) < 0.3 ? ramp(0.2, 0.12, across) * ramp(long, long - 0.04, t - 0.42) : 0;
    const body = ramp(spikes, spikes - 0.03, Math.hypot(x, y));
    return { color: shade(color, 0.94 + 0.08 * grain(p, s, t)), rough: 0.5, opacity: Math.max(body, drop, drip) };
  };

const WEAR: readonly (readonly [Region, Look])[] = [
  [
    region('crack', 0, 0, 256, 128),
    (p, s, t) => ({ color: CRACKED, height: 0, opacity: crack(p, s, t, 1, 0.38, 0.2) * 0.95 }),
  ],
  [
    region('forked crack', 256, 0, 256, 128),
    (p, s, t) => ({
      color: CRACKED,
      height: 0,
      opacity:
        Math.max(
          crack(p, s, t, 2, 0.3, 0.25),
          crack(p, s, t, 5, 0.62, -0.42, 0.35),
          crack(p, s, t, 7, 0.1, 0.75, 0.5),
        ) * 0.95,
    }),
  ],
  [
    region('scratches', 0, 128, 192, 128),
    (p, s, t) => {
      const lines = [0, 1, 2, 3, 4].map((k) => {
        const at = 0.18 + 0.15 * k + 0.05 * p.pick(k, 1) + (s - 0.5) * (0.25 + 0.1 * p.pick(k, 2));
        const from = 0.08 + 0.25 * p.pick(k, 3);
        const to = 0.95 - 0.3 * p.pick(k, 4);
        return ramp(0.014, 0.004, Math.abs(t - at)) * ramp(from, from + 0.06, s) * ramp(to, to - 0.15, s);
      });
      return { color: [214, 206, 190], opacity: Math.max(...lines) * (0.65 + 0.3 * grain(p, s, t)) };
    },
  ],
  [
    region('chipped plaster', 192, 128, 160, 128),
    (p, s, t, w) => {
      const d = blot(p, s, t, w, 0.6);
      const brick = Math.min(frac(t * 4), frac(s * 2.5 + (Math.floor(t * 4) % 2) * 0.5) * 1.6);
      const stone: Rgb =
        brick < 0.12
          ? [150, 142, 128]
          : shade([138, 78, 58], 0.85 + 0.25 * p.pick(Math.floor(t * 4), Math.floor(s * 2.5)));
      const rim = ramp(0.62, 0.72, d);
      return {
        color: mix(shade(stone, 0.95 + 0.15 * grain(p, s, t)), [222, 216, 202], rim),
        height: rim,
        opacity: ramp(0.8, 0.76, d),
      };
    },
  ],
  [
    region('boot marks', 352, 128, 160, 128),
    (p, s, t) => {
      const foot = (x: number, y: number) => {
        const [dx, dy] = [(s - x) * 1.25, t - y];
        const sole = Math.hypot(dx / 0.13, (dy + 0.08) / 0.2);
        const heel = Math.hypot(dx / 0.1, (dy - 0.22) / 0.1);
        const ribs = frac(t * 14) < 0.62 ? 1 : 0.25;
        return Math.max(ramp(1, 0.85, sole), ramp(1, 0.85, heel)) * ribs;
      };
      return {
        color: [52, 44, 34],
        opacity: Math.max(foot(0.3, 0.36), foot(0.7, 0.62)) * ramp(-0.5, 0.3, p.rough(s * 0.3, t * 0.3, 30)) * 0.75,
      };
    },
  ],
  [
    region('planks', 0, 256, 192, 128),
    (p, s, t) => {
      const board = Math.floor(t * 3.2 - 0.1);
      const y = frac(t * 3.2 - 0.1);
      const shift = (p.pick(board, 8) - 0.5) * 0.14;
      const there = board >= 0 && board < 3 && s > 0.1 + shift && s < 0.9 + shift && y > 0.06 && y < 0.94;
      const nail = [0.16, 0.84].some((x) => [0.25, 0.75].some((z) => Math.hypot((s - x - shift) * 4.8, y - z) < 0.09));
      const wood = shade(PLANK, 0.85 + 0.2 * p.pick(board, 9) + 0.22 * p.rough(s * 0.06, t * 0.6, 60, 3));
      return { color: nail ? [48, 44, 42] : y < 0.1 || y > 0.9 ? shade(wood, 0.65) : wood, opacity: there ? 1 : 0 };
    },
  ],
  [
    region('rope shadow', 192, 256, 128, 256),
    (p, s, t) => {
      const sway = 0.06 * p.noise(0.2, t * 0.2, 8);
      const dark = Math.max(rope(s, 0.3 + sway, 0.07), rope(s, 0.68 - sway * 0.7 + t * 0.06, 0.05));
      return { color: [14, 14, 22], opacity: dark * (0.5 + 0.12 * Math.sin(t * 90)) };
    },
  ],
  [
    region('net shadow', 320, 256, 192, 128),
    (p, s, t, w) => {
      const [x, y] = [s * w * 5 + 0.2 * p.noise(s * 0.2, t * 0.2, 9), t * 5];
      const line = Math.max(Math.abs(frac(x + y) - 0.5), Math.abs(frac(x - y) - 0.5));
      return { color: [14, 14, 22], opacity: ramp(0.42, 0.47, line) * 0.5 };
    },
  ],
  [region('red splash', 0, 384, 192, 128), splash([150, 42, 34], 1)],
  [region('pale splash', 320, 384, 192, 128), splash([222, 214, 196], 2)],
];

/** Painted through stencils: one colour, worn where the brush was dry. */
const MARKS: readonly (readonly [Region, string])[] = [
  [region('arrow', 0, 0, 128, 128), '<path d="M20 52H70V26L112 64L70 102V76H20z" fill="#e7dcc0"/>'],
  [
    region('bent arrow', 128, 0, 128, 128),
    '<path d="M24 108V62Q24 40 46 40H66V18L106 54L66 90V68H54Q50 68 50 72V108z" fill="#e7dcc0"/>',
  ],
  [
    region('no entry', 256, 0, 128, 128),
    '<circle cx="64" cy="64" r="44" fill="none" stroke="#9c3126" stroke-width="13"/><path d="M34 34L94 94" stroke="#9c3126" stroke-width="13"/>',
  ],
  [
    region('wheel', 384, 0, 128, 128),
    `<g fill="none" stroke="#e7dcc0" stroke-width="8"><circle cx="64" cy="64" r="42"/><circle cx="64" cy="64" r="11"/>${[0, 45, 90, 135].map((a) => `<path d="M64 22V53M64 75V106" transform="rotate(${a} 64 64)"/>`).join('')}</g>`,
  ],
  ...['1', '2', '3', '4', '5', '6'].map((digit, k): readonly [Region, string] => [
    region(`number ${digit}`, (k % 6) * 85, 128, 85, 112),
    letters(digit, 42, 56, 78, '#e7dcc0'),
  ]),
  [
    region('quay sign', 0, 240, 256, 80),
    `<rect x="12" y="10" width="232" height="60" rx="6" fill="#2f5a63"/><rect x="18" y="16" width="220" height="48" rx="3" fill="none" stroke="#e7dcc0" stroke-width="3"/>${letters('QUAY', 128, 40, 32, '#e7dcc0')}`,
  ],
  [
    region('loft sign', 256, 240, 256, 80),
    `<rect x="12" y="10" width="232" height="60" rx="6" fill="#7a4326"/><rect x="18" y="16" width="220" height="48" rx="3" fill="none" stroke="#ecd9a8" stroke-width="3"/>${letters('LOFT', 128, 40, 32, '#ecd9a8')}`,
  ],
  [region('sluice letters', 0, 320, 320, 64), letters('SLUICE', 160, 32, 40, '#23211f')],
  [region('grain letters', 320, 320, 192, 64), letters('GRAIN', 96, 32, 34, '#e7dcc0')],
  [
    region('warning stripes', 0, 384, 512, 64),
    `<path d="M12 12H500V52H12z" fill="#d9a834"/>${Array.from({ length: 11 }, (_, k) => `<path d="M${22 + k * 42} 52l22-40h19l-22 40z" fill="#25221f"/>`).join('')}`,
  ],
  [region('lane stripe', 0, 448, 320, 64), '<path d="M12 26H308V38H12z" fill="#e7dcc0"/>'],
  [region('target cross', 320, 448, 64, 64), '<path d="M14 32H50M32 14V50" stroke="#9c3126" stroke-width="8"/>'],
  [
    region('step edge', 384, 448, 128, 64),
    `<path d="M12 52V40H40V28H68V16H116" fill="none" stroke="#d9a834" stroke-width="8"/>`,
  ],
];

const sheetOf = (looks: readonly (readonly [Region, unknown])[]): Region[] => looks.map(([r]) => r);

/** Pictures that are thrown on what is there. */
export const DECALS: readonly Recipe[] = [
  {
    name: 'stencil-marks',
    label: 'Stencilled marks',
    tags: ['decal', 'sign', 'letters', 'painted'],
    substance: 'none',
    rough: 0.8,
    relief: 0.1,
    solidity: 'seeThrough',
    regions: sheetOf(MARKS),
    grain: 0.12,
    draw: () => MARKS.map(([r, drawing]) => `<g transform="translate(${r.x} ${r.y})">${drawing}</g>`).join(''),
  },
  {
    name: 'stains',
    label: 'Stains and growth',
    tags: ['decal', 'dirt', 'wet', 'green'],
    substance: 'none',
    rough: 0.85,
    relief: 0.2,
    solidity: 'seeThrough',
    regions: sheetOf(STAINS),
    paint: sheet(STAINS),
  },
  {
    name: 'wear-and-tear',
    label: 'Wear and tear',
    tags: ['decal', 'worn', 'crack', 'shadow', 'painted'],
    substance: 'none',
    rough: 0.85,
    relief: 0.2,
    solidity: 'seeThrough',
    regions: sheetOf(WEAR),
    paint: sheet(WEAR),
  },
];
