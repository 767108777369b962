import { ink, mix, n, shade, wrapAcross, wrapAround } from './patterns.ts';
import type { Pattern } from '../noise.ts';
import type { Recipe, Rgb } from './types.ts';

type Point = readonly [number, number];
const at = ([x, y]: Point): string => `${n(x)} ${n(y)}`;

/** A blade from its foot to its tip, bent by `lean`, `w` wide at the foot. */
function blade([x, y]: Point, length: number, lean: number, w: number, c: Rgb): string {
  const tip: Point = [x + lean, y - length];
  const bend: Point = [x + lean * 0.25, y - length * 0.6];
  return `<path d="M${at([x - w / 2, y])}Q${at([bend[0] - w / 2, bend[1]])} ${at(tip)}Q${at([bend[0] + w / 2, bend[1]])} ${at([x + w / 2, y])}z" fill="${ink(c)}"/>`;
}

/** A leaf of a length along a direction (degrees; 0 points right), with a lighter half. */
function leaf([x, y]: Point, length: number, degrees: number, width: number, c: Rgb): string {
  const shape = (half: number) => `M0 0Q${n(length * 0.45)} ${n(half)} ${n(length)} 0`;
  return `<g transform="translate(${at([x, y])}) rotate(${n(degrees)})"><path d="${shape(width)}Q${n(length * 0.45)} ${n(-width)} 0 0z" fill="${ink(c)}"/><path d="${shape(-width)}L0 0z" fill="${ink(shade(c, 1.2))}"/></g>`;
}

function reeds(p: Pattern): string {
  const parts = Array.from({ length: 46 }, (_, i) => {
    const x = (i * 512) / 46 + p.pick(i, 1) * 10;
    const length = 280 + 215 * p.pick(i, 2);
    const lean = (p.pick(i, 3) - 0.5) * 70;
    const c = mix([132, 140, 72], [96, 112, 60], p.pick(i, 4));
    const head =
      p.pick(i, 5) > 0.6
        ? `<ellipse cx="${n(x + lean)}" cy="${n(512 - length + 18)}" rx="7" ry="26" transform="rotate(${n(lean * 0.12)} ${n(x + lean)} ${n(512 - length + 18)})" fill="#6d4a30"/>`
        : '';
    return blade([x, 514], length, lean, 9 + 5 * p.pick(i, 6), c) + head;
  });
  return wrapAcross(parts.join(''), 512);
}

function ferns(p: Pattern): string {
  const fronds = Array.from({ length: 11 }, (_, i) => {
    const out = -80 + i * 16;
    const length = 190 + 60 * p.pick(i, 1) - Math.abs(out) * 0.5;
    const rad = ((out - 90) * Math.PI) / 180;
    const leaves: string[] = [];
    for (let k = 2; k < 22; k++) {
      const t = k / 22;
      const droop = t * t * 40 * Math.sign(out || 1);
      const [x, y] = [
        256 + Math.cos(rad) * length * t + droop * 0.5,
        506 + Math.sin(rad) * length * t * 2 + Math.abs(droop) * 1.2,
      ];
      const size = 46 * Math.sin(Math.PI * (0.25 + 0.75 * t)) + 6;
      const c = mix([74, 112, 50], [110, 146, 66], p.pick(i, k));
      leaves.push(
        leaf([x, y], size, out - 90 + 58, size * 0.24, c),
        leaf([x, y], size, out - 90 - 58, size * 0.24, shade(c, 0.88)),
      );
    }
    return leaves.join('');
  });
  return fronds.join('');
}

function ivy(p: Pattern): string {
  const parts: string[] = [];
  for (let s = 0; s < 9; s++) {
    let [x, y] = [s * 57 + 20, -30];
    const path: Point[] = [];
    for (let k = 0; k < 14; k++) {
      x += (p.pick(s, k) - 0.5) * 44;
      y += 38;
      path.push([x, y]);
    }
    parts.push(
      `<path d="M${path.map(at).join('L')}" fill="none" stroke="#4b3a28" stroke-width="4" stroke-linejoin="round"/>`,
    );
    path.forEach((q, k) => {
      for (let l = 0; l < 3; l++) {
        const c = mix([52, 84, 44], [92, 120, 60], p.pick(s, k, l));
        const [dx, dy] = [(p.pick(s, k, l, 1) - 0.5) * 46, (p.pick(s, k, l, 2) - 0.5) * 40];
        const turn = 90 + (p.pick(s, k, l, 3) - 0.5) * 120;
        const size = 24 + 12 * p.pick(s, k, l, 4);
        parts.push(
          [-42, 0, 42]
            .map((spread) =>
              leaf([q[0] + dx, q[1] + dy], spread === 0 ? size : size * 0.75, turn + spread, size * 0.36, c),
            )
            .join(''),
        );
      }
    });
  }
  return wrapAround(parts.join(''), 512, 512);
}

function canopy(p: Pattern): string {
  const parts = Array.from({ length: 820 }, (_, i) => {
    const c = mix([66, 98, 46], [128, 148, 72], p.pick(i, 1));
    return leaf(
      [p.pick(i, 2) * 512, p.pick(i, 3) * 512],
      34 + 22 * p.pick(i, 4),
      p.pick(i, 5) * 360,
      9 + 5 * p.pick(i, 6),
      c,
    );
  });
  return wrapAround(parts.join(''), 512, 512);
}

/** Ropes both ways on the slant, with a knot where they cross. */
function net(): string {
  const rope = (d: string) =>
    `<path d="${d}" stroke="#6f5836" stroke-width="11"/><path d="${d}" stroke="#a98a56" stroke-width="7"/><path d="${d}" stroke="#cdb07a" stroke-width="2.5" stroke-dasharray="5 6"/>`;
  const lines = Array.from({ length: 17 }, (_, i) => {
    const c = (i - 8) * 64;
    return rope(`M${c} 0L${c + 512} 512`) + rope(`M${c + 512} 0L${c} 512`);
  });
  const knots = Array.from({ length: 17 * 17 }, (_, i) => [(i % 17) * 32, Math.floor(i / 17) * 32] as const).filter(
    ([x, y]) => (x / 32 + y / 32) % 2 === 0,
  );
  return `<g fill="none">${lines.join('')}</g>${knots.map(([x, y]) => `<circle cx="${x}" cy="${y}" r="9" fill="#8a6d42"/><circle cx="${x - 2}" cy="${y - 2}" r="4" fill="#c2a46c"/>`).join('')}`;
}

const bar = (x: number, w: number, h: number) =>
  `<rect x="${x - w / 2}" width="${w}" height="${h}" fill="#34363a"/><rect x="${x - w / 2}" width="${w * 0.32}" height="${h}" fill="#5d6166"/>`;
const crossbar = (y: number, h: number, w: number) =>
  `<rect y="${y - h / 2}" width="${w}" height="${h}" fill="#34363a"/><rect y="${y - h / 2}" width="${w}" height="${h * 0.3}" fill="#63676c"/>`;

/** One link lying flat, one seen edge on, in turn. */
const chain = (): string =>
  Array.from({ length: 8 }, (_, i) =>
    i % 2 === 0
      ? `<rect x="36" y="${i * 64 - 12}" width="56" height="88" rx="28" fill="none" stroke="#2c2e32" stroke-width="16"/><rect x="36" y="${i * 64 - 12}" width="56" height="88" rx="28" fill="none" stroke="#6d7176" stroke-width="6"/>`
      : `<rect x="55" y="${i * 64 - 14}" width="18" height="92" rx="9" fill="#3b3d42"/><rect x="58" y="${i * 64 - 10}" width="6" height="84" rx="3" fill="#75797e"/>`,
  ).join('');

/** What has holes: growth, netting and ironwork. */
export const CUT_OUTS: readonly Recipe[] = [
  {
    name: 'reed',
    label: 'Reed',
    tags: ['plant', 'green', 'thin', 'wet'],
    substance: 'plant',
    rough: 0.9,
    relief: 0.4,
    solidity: 'cutOut',
    grain: 0.16,
    draw: reeds,
  },
  {
    name: 'fern',
    label: 'Fern',
    tags: ['plant', 'green', 'thin'],
    substance: 'plant',
    rough: 0.9,
    relief: 0.4,
    solidity: 'cutOut',
    grain: 0.1,
    draw: ferns,
  },
  {
    name: 'ivy',
    label: 'Ivy',
    tags: ['plant', 'green', 'thin', 'wall'],
    substance: 'plant',
    rough: 0.6,
    relief: 0.5,
    solidity: 'cutOut',
    grain: 0.1,
    draw: ivy,
  },
  {
    name: 'leaf-canopy',
    label: 'Leaf canopy',
    tags: ['plant', 'green', 'thin', 'tree'],
    substance: 'plant',
    rough: 0.8,
    relief: 0.5,
    solidity: 'cutOut',
    grain: 0.1,
    draw: canopy,
  },
  {
    name: 'rope-net',
    label: 'Rope net',
    tags: ['rope', 'net', 'thin'],
    substance: 'rope',
    rough: 1,
    relief: 0.7,
    solidity: 'cutOut',
    grain: 0.1,
    draw: net,
  },
  {
    name: 'iron-grille',
    label: 'Iron grille',
    tags: ['metal', 'grille', 'dark', 'thin'],
    substance: 'metal',
    rough: 0.5,
    relief: 0.7,
    solidity: 'cutOut',
    size: [256, 256],
    grain: 0.1,
    draw: () =>
      [32, 96, 160, 224].map((c) => crossbar(c, 14, 256)).join('') +
      [32, 96, 160, 224].map((c) => bar(c, 14, 256)).join(''),
  },
  {
    name: 'iron-bars',
    label: 'Iron bars',
    tags: ['metal', 'bars', 'dark', 'thin'],
    substance: 'metal',
    rough: 0.5,
    relief: 0.7,
    solidity: 'cutOut',
    size: [256, 512],
    grain: 0.1,
    draw: () =>
      [40, 472].map((y) => crossbar(y, 26, 256)).join('') + [32, 96, 160, 224].map((c) => bar(c, 20, 512)).join(''),
  },
  {
    name: 'chain',
    label: 'Chain',
    tags: ['metal', 'dark', 'thin'],
    substance: 'metal',
    rough: 0.4,
    relief: 0.8,
    solidity: 'cutOut',
    size: [128, 512],
    grain: 0.08,
    draw: chain,
  },
];
