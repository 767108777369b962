import type { Region } from '@yesca/core';
import { letters } from './letters.ts';
import { frac, ink, mix, ramp, shade } from './patterns.ts';
import type { Pattern } from '../noise.ts';
import type { Recipe, Rgb, Texel } from './types.ts';

const region = (name: string, x: number, y: number, width: number, height: number): Region => ({
  name,
  x,
  y,
  width,
  height,
});

/** The bands of the trim sheet from top to bottom, in pixels. */
const BANDS: readonly Region[] = [
  region('cornice', 0, 0, 512, 96),
  region('beam', 0, 96, 512, 96),
  region('panel rail', 0, 192, 512, 64),
  region('skirting', 0, 256, 512, 64),
  region('kerb', 0, 320, 512, 64),
  region('iron band', 0, 384, 512, 32),
  region('rope edge', 0, 416, 512, 32),
  region('stone string', 0, 448, 512, 64),
];

/** One band of the trim sheet; `t` runs from its top (0) to its foot (1). */
function band(p: Pattern, name: string, u: number, v: number, t: number): Texel {
  const wood = (c: Rgb): Rgb => shade(c, 0.92 + 0.14 * p.noise(u, v, 30) + 0.06 * p.rough(u, v, 12));
  const rim = Math.min(t, 1 - t);
  switch (name) {
    case 'cornice': {
      const step = t < 0.3 ? 1 : t < 0.6 ? 0.75 : t < 0.85 ? 0.5 : 0.3;
      const tooth = t > 0.6 && t < 0.85 && frac(u * 32) < 0.5 ? 0.2 : 0;
      return { color: shade(wood([206, 198, 180]), 0.7 + 0.3 * step - tooth), height: step - tooth };
    }
    case 'beam':
      return {
        color: shade(wood([98, 70, 44]), rim < 0.06 ? 0.65 : 1 + 0.1 * Math.sin(t * 40 + p.noise(u, v, 5) * 5)),
        height: ramp(0, 0.08, rim),
      };
    case 'panel rail': {
      const inset = rim > 0.25 && Math.abs(frac(u * 4) - 0.5) < 0.42;
      return { color: shade(wood([84, 122, 110]), inset ? 0.86 : 1), height: inset ? 0.4 : 1 };
    }
    case 'skirting':
      return { color: shade(wood([66, 92, 84]), t < 0.18 ? 1.15 : t < 0.24 ? 0.7 : 1), height: t < 0.2 ? 0.6 : 1 };
    case 'kerb':
      return {
        color: shade([130, 128, 122], frac(u * 4) < 0.012 ? 0.55 : 0.9 + 0.14 * p.rough(u, v, 16)),
        height: frac(u * 4) < 0.012 ? 0 : ramp(0, 0.15, rim),
      };
    case 'iron band': {
      const stud = ramp(0.3, 0.2, Math.hypot((frac(u * 16) - 0.5) * 2 * 0.5, (t - 0.5) * 1.0));
      return {
        color: shade([62, 64, 68], 0.9 + 0.1 * p.noise(u, v, 30) + 0.35 * stud),
        height: 0.4 + 0.6 * stud,
        rough: 0.45,
      };
    }
    case 'rope edge': {
      const twist = Math.sin((u * 48 + t) * 2 * Math.PI);
      return {
        color: shade([156, 130, 86], 0.6 + 0.35 * Math.sin(t * Math.PI) + 0.15 * twist),
        height: Math.sin(t * Math.PI) * (0.8 + 0.2 * twist),
        rough: 1,
      };
    }
    default:
      return {
        color: shade([182, 174, 156], 0.92 + 0.1 * p.rough(u, v, 14) - (rim < 0.1 ? 0.25 : 0)),
        height: ramp(0, 0.12, rim),
      };
  }
}

const SIGNS: readonly (readonly [Region, string, Rgb, Rgb])[] = [
  [region('quay', 0, 0, 512, 96), 'QUAY', [38, 66, 84], [222, 212, 188]],
  [region('wheel hall', 0, 96, 512, 96), 'WHEEL HALL', [96, 42, 36], [226, 212, 180]],
  [region('grain loft', 0, 192, 512, 96), 'GRAIN LOFT', [60, 78, 52], [226, 216, 186]],
  [region('lamp oil', 0, 288, 256, 96), 'LAMP OIL', [44, 40, 38], [214, 172, 88]],
  [region('mind the race', 256, 288, 256, 96), 'MIND THE RACE', [200, 184, 148], [92, 34, 28]],
  [region('tide mark', 0, 384, 128, 128), '7', [214, 208, 192], [40, 52, 62]],
  [region('berth one', 128, 384, 128, 128), '1', [38, 66, 84], [222, 212, 188]],
  [region('berth two', 256, 384, 128, 128), '2', [38, 66, 84], [222, 212, 188]],
  [region('berth three', 384, 384, 128, 128), '3', [38, 66, 84], [222, 212, 188]],
];

const sign = ([{ x, y, width, height }, text, ground, paint]: (typeof SIGNS)[number]): string => `
  <rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${ink(shade(ground, 0.7))}"/>
  <rect x="${x + 5}" y="${y + 5}" width="${width - 10}" height="${height - 10}" fill="${ink(ground)}"/>
  <rect x="${x + 11}" y="${y + 11}" width="${width - 22}" height="${height - 22}" fill="none" stroke="${ink(paint)}" stroke-width="2.5"/>
  ${letters(text, x + width / 2, y + height / 2, Math.min(height * 0.46, ((width - 48) / (text.length * 6)) * 7), ink(paint))}`;

const DOORS: readonly Region[] = [
  region('plank door', 0, 0, 224, 416),
  region('panel door', 224, 0, 224, 416),
  region('hatch', 0, 416, 192, 96),
  region('shutter', 192, 416, 128, 96),
  region('louvre', 320, 416, 128, 96),
  region('post', 448, 0, 64, 512),
];

function doors(p: Pattern): string {
  const boardsOf = (x: number, y: number, w: number, h: number, count: number, c: Rgb): string =>
    Array.from(
      { length: count },
      (_, i) =>
        `<rect x="${x + (i * w) / count}" y="${y}" width="${w / count - 2}" height="${h}" fill="${ink(shade(c, 0.85 + 0.3 * p.pick(i, x)))}"/>`,
    ).join('');
  const back = (r: Region, c: Rgb) =>
    `<rect x="${r.x}" y="${r.y}" width="${r.width}" height="${r.height}" fill="${ink(c)}"/>`;
  const [plank, panel, hatch, shutter, louvre, post] = DOORS as [Region, Region, Region, Region, Region, Region];
  const strap = (y: number) =>
    `<path d="M8 ${y}h170l16 7l-16 7h-170z" fill="#2c2d30"/>` +
    [20, 70, 120, 160].map((x) => `<circle cx="${x}" cy="${y + 7}" r="3.4" fill="#5c5e62"/>`).join('');
  const inset = (x: number, y: number, w: number, h: number) =>
    `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="#35524a"/><rect x="${x + 7}" y="${y + 7}" width="${w - 14}" height="${h - 14}" fill="#5a8375"/>`;
  const slats = (r: Region, c: Rgb, step: number) =>
    Array.from(
      { length: Math.floor((r.height - 16) / step) },
      (_, i) =>
        `<rect x="${r.x + 10}" y="${r.y + 8 + i * step}" width="${r.width - 20}" height="${step - 3}" fill="${ink(shade(c, 0.9 + 0.2 * p.pick(i, r.x)))}"/>`,
    ).join('');
  return [
    back(plank, [38, 28, 20]),
    boardsOf(4, 4, 218, 408, 6, [112, 80, 50]),
    strap(60),
    strap(340),
    '<circle cx="196" cy="216" r="11" fill="none" stroke="#2c2d30" stroke-width="5"/>',
    back(panel, [70, 100, 90]),
    inset(246, 24, 80, 160),
    inset(346, 24, 80, 160),
    inset(246, 208, 80, 184),
    inset(346, 208, 80, 184),
    '<circle cx="430" cy="216" r="7" fill="#b08d4a"/>',
    back(hatch, [44, 34, 26]),
    boardsOf(6, 420, 182, 88, 5, [128, 96, 62]),
    '<rect x="6" y="436" width="180" height="10" fill="#34353a"/><rect x="6" y="478" width="180" height="10" fill="#34353a"/>',
    back(shutter, [70, 100, 90]),
    slats(shutter, [92, 132, 120], 26),
    back(louvre, [40, 42, 44]),
    slats(louvre, [110, 112, 112], 10),
    back(post, [92, 66, 42]),
    boardsOf(452, 0, 56, 512, 1, [112, 82, 52]),
    '<rect x="448" y="60" width="64" height="14" fill="#34353a"/><rect x="448" y="438" width="64" height="14" fill="#34353a"/>',
  ].join('');
}

/** Sheets that hold several pictures, lamps and glass. */
export const SHEETS: readonly Recipe[] = [
  {
    name: 'mill-trim',
    label: 'Mill trim',
    tags: ['trim', 'wood', 'stone', 'sheet'],
    substance: 'wood',
    rough: 0.7,
    relief: 0.8,
    regions: BANDS,
    paint: (p, u, v) => {
      const y = v * 512;
      const b = BANDS.find((r) => y < r.y + r.height)!;
      return band(p, b.name, u, v, (y - b.y) / b.height);
    },
  },
  {
    name: 'painted-signs',
    label: 'Painted signs',
    tags: ['sign', 'letters', 'sheet', 'painted'],
    substance: 'wood',
    rough: 0.6,
    relief: 0.2,
    grain: 0.12,
    regions: SIGNS.map(([r]) => r),
    draw: () => SIGNS.map(sign).join(''),
  },
  {
    name: 'mill-doors',
    label: 'Doors and shutters',
    tags: ['door', 'wood', 'sheet', 'trim'],
    substance: 'wood',
    rough: 0.65,
    relief: 0.6,
    grain: 0.14,
    regions: DOORS,
    draw: doors,
  },
  {
    name: 'lamp-glass',
    label: 'Lamp glass',
    tags: ['lamp', 'light', 'warm', 'glow'],
    substance: 'glass',
    rough: 0.2,
    relief: 0.3,
    size: [128, 128],
    glow: 4000,
    paint: (_, u, v) => {
      const bar = Math.min(frac(u * 2), 1 - frac(u * 2), frac(v * 2), 1 - frac(v * 2));
      return {
        color: bar < 0.05 ? [70, 54, 34] : mix([255, 214, 140], [255, 240, 208], ramp(0.1, 0.5, bar)),
        height: bar < 0.05 ? 1 : 0.4,
      };
    },
  },
  {
    name: 'lamp-panel',
    label: 'Ground-glass panel',
    tags: ['lamp', 'light', 'cool', 'glow'],
    substance: 'glass',
    rough: 0.5,
    relief: 0.1,
    size: [128, 128],
    glow: 1800,
    paint: (p, u, v) => {
      const rim = Math.min(u, 1 - u, v, 1 - v);
      return rim < 0.04 ? [96, 100, 102] : shade([226, 236, 240], 0.97 + 0.03 * p.noise(u, v, 20));
    },
  },
  {
    name: 'pane-glass',
    label: 'Window panes',
    tags: ['glass', 'window', 'clear'],
    substance: 'glass',
    rough: 0.05,
    relief: 0.3,
    solidity: 'seeThrough',
    size: [256, 256],
    draw: () =>
      `<rect width="256" height="256" fill="#b9d2d6" fill-opacity="0.28"/><path d="M20 110L110 20M150 236L236 150" stroke="#fff" stroke-opacity="0.35" stroke-width="9"/><path d="M0 0H256V256H0ZM10 10V123H123V10ZM133 10V123H246V10ZM10 133V246H123V133ZM133 133V246H246V133Z" fill="#4c6f66" fill-rule="evenodd"/>`,
  },
  {
    name: 'leaded-light',
    label: 'Leaded lights',
    tags: ['glass', 'window', 'green'],
    substance: 'glass',
    rough: 0.1,
    relief: 0.4,
    solidity: 'seeThrough',
    size: [256, 256],
    draw: (p) =>
      Array.from({ length: 9 }, (_, i) =>
        Array.from({ length: 9 }, (_, k) => {
          const [x, y] = [k * 64 - 128 + (i % 2) * 32, i * 32 - 32];
          const c = mix([128, 168, 148], [176, 190, 160], p.pick(i % 8, (k % 4) + (i % 2) * 7));
          return `<path d="M${x + 32} ${y - 32}l32 32l-32 32l-32 -32z" fill="${ink(c)}" fill-opacity="0.5" stroke="#3a3d40" stroke-width="4"/>`;
        }).join(''),
      ).join(''),
  },
  {
    name: 'pond-ice',
    label: 'Pond ice',
    tags: ['ice', 'ground', 'pale', 'clear'],
    substance: 'ice',
    rough: 0.1,
    relief: 0.3,
    solidity: 'seeThrough',
    paint: (p, u, v) => {
      const { near, second } = p.cells(u, v, 5);
      const crack = ramp(0.05, 0.015, second - near + 0.03 * p.noise(u, v, 12));
      return mix(shade([176, 204, 212], 0.92 + 0.12 * p.rough(u, v, 5)), [236, 244, 246], crack);
    },
  },
];
