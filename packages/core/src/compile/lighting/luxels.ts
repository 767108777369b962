import { hypot, outlineArea } from '../../math/index.ts';
import { clipRectangle, GUTTER, inOutline, nearestInOutline, type Chart } from './charts.ts';
import type { Openings } from './openings.ts';

/**
 * Where the luxels of a chart and its gutter are sampled, in lattice coordinates. A luxel with its square open is sampled evenly
 * over it, also beyond the surface's edge, so that flush surfaces have the same light along their seam; one with nothing open is
 * sampled at the nearest place of the surface. Where what is sampled lies beside the luxel's middle, in which filtering takes
 * it to be, a place beyond says how the light goes on.
 */
export interface Luxels {
  readonly chart: Chart;
  /** With the gutter. */
  readonly width: number;
  readonly height: number;
  /** Samples along an edge. */
  readonly samples: number;
  /** A bit for each of a luxel's even places that is open, row by row. */
  readonly mask: Uint16Array;
  /** The one place where a luxel without open ones is sampled; NaN for none. */
  readonly only: Float64Array;
  /** The place beyond; NaN for none. */
  readonly beyond: Float64Array;
  /** Whether filtering reads a luxel anywhere on the surface: others stay dark. */
  readonly used: Uint8Array;
  /** A bit for each of a luxel's open places that lies on the surface itself. */
  readonly within: Uint16Array;
  /** How much of a luxel is surface, open or not, cm². */
  readonly area: Float32Array;
  readonly tree: LuxelTree;
}

/** A luxel that has light of its own, not of its neighbours. */
export const isSampled = ({ mask, only }: Luxels, k: number): boolean => mask[k] !== 0 || !Number.isNaN(only[k * 2]!);

/** Where a luxel stands for its neighbours: the middle of what of it is open and surface; else open; else the surface's nearest place. */
export function spotOf({ chart, width, samples, mask, within, only }: Luxels, k: number): readonly [number, number] {
  const { s0, t0, size, outline } = chart;
  const [i, j] = [k % width, Math.floor(k / width)];
  const all = samples * samples;
  const bits = within[k] || mask[k]!;
  if (bits === 0) {
    if (!Number.isNaN(only[k * 2]!)) return [only[k * 2]!, only[k * 2 + 1]!];
    return nearestInOutline(outline, (s0 + i - GUTTER + 0.5) * size, (t0 + j - GUTTER + 0.5) * size);
  }
  let [a, b, n] = [0, 0, 0];
  for (let bit = 0; bit < all; bit++) {
    if (!(bits & (1 << bit))) continue;
    a += samplePlace(s0, i, bit % samples, samples, size);
    b += samplePlace(t0, j, Math.floor(bit / samples), samples, size);
    n++;
  }
  return [a / n, b / n];
}

/** The lattice coordinate of a luxel's `u`-th sample; `first` is that of the chart's first luxel. */
export const samplePlace = (first: number, i: number, u: number, samples: number, size: number): number =>
  (first + i - GUTTER + (u + 0.5) / samples) * size;

export function makeLuxels(chart: Chart, samples: number, openings: Openings): Luxels {
  const { size, s0, t0, outline } = chart;
  const width = chart.width + 2 * GUTTER;
  const height = chart.height + 2 * GUTTER;
  const mask = new Uint16Array(width * height);
  const only = new Float64Array(width * height * 2).fill(NaN);
  const beyond = new Float64Array(width * height * 2).fill(NaN);
  const all = (1 << (samples * samples)) - 1;
  const put = (list: Float64Array, k: number, a: number, b: number) => {
    list[k * 2] = a;
    list[k * 2 + 1] = b;
  };
  const used = new Uint8Array(width * height);
  const on = new Uint16Array(width * height);
  const area = new Float32Array(width * height);
  let next = spanAt(outline, (t0 - GUTTER) * size);
  for (let j = 0; j < height; j++) {
    const b0 = (t0 + j - GUTTER) * size;
    const [low, high] = [next, spanAt(outline, b0 + size)];
    next = high;
    for (let i = 0; i < width; i++) {
      const k = j * width + i;
      const a0 = (s0 + i - GUTTER) * size;
      const [x, y] = [a0 + size / 2, b0 + size / 2];
      const whole = a0 >= low[0] && a0 >= high[0] && a0 + size <= low[1] && a0 + size <= high[1];
      if (!whole) {
        const [a, b] = nearestInOutline(outline, x, y);
        if (hypot(a - x, b - y) > size * 1.5) continue;
      }
      used[k] = 1;
      area[k] = whole ? size * size : outlineArea(clipRectangle(outline, a0, b0, a0 + size, b0 + size));
      // As far as places of a luxel that is used can lie beside the surface.
      const reach = whole ? 0 : 2.5 * size;
      if (!openings.meets(a0 - reach, b0 - reach, a0 + size + reach, b0 + size + reach)) {
        mask[k] = all;
        on[k] = whole ? all : withinOf(outline, s0, t0, i, j, samples, size);
        continue;
      }
      let [sumA, sumB, open, within] = [0, 0, 0, false];
      for (let v = 0; v < samples; v++)
        for (let u = 0; u < samples; u++) {
          const a = samplePlace(s0, i, u, samples, size);
          const b = samplePlace(t0, j, v, samples, size);
          const inside = whole || inOutline(outline, a, b);
          within ||= inside;
          if (!openings.open(a, b) || (!inside && !isReached(chart, openings, a, b))) continue;
          mask[k]! |= 1 << (v * samples + u);
          if (inside) on[k]! |= 1 << (v * samples + u);
          open++;
          sumA += a;
          sumB += b;
        }
      if (open === 0) {
        if (within) continue;
        const [a, b] = nearestInOutline(outline, x, y);
        if (!openings.open(a, b)) continue;
        put(only, k, a, b);
        [sumA, sumB, open] = [a, b, 1];
      }
      const [a, b] = [sumA / open, sumB / open];
      const [farA, farB] = [2 * a - x, 2 * b - y];
      if (hypot(x - a, y - b) > size / 16 && inOutline(outline, farA, farB) && openings.open(farA, farB))
        put(beyond, k, farA, farB);
    }
  }
  const luxels = { chart, width, height, samples, mask, only, beyond, used, within: on, area };
  return { ...luxels, tree: new LuxelTree(luxels) };
}

/** The bits of a luxel's places that lie on the surface. */
export function withinOf(
  outline: Chart['outline'],
  s0: number,
  t0: number,
  i: number,
  j: number,
  samples: number,
  size: number,
): number {
  let bits = 0;
  for (let v = 0, bit = 1; v < samples; v++)
    for (let u = 0; u < samples; u++, bit <<= 1)
      if (inOutline(outline, samplePlace(s0, i, u, samples, size), samplePlace(t0, j, v, samples, size))) bits |= bit;
  return bits;
}

/** From where to where a convex outline goes in a row of the lattice; nowhere when it does not meet the row. */
function spanAt(outline: Chart['outline'], b: number): readonly [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [x, y] = outline[j]!;
    const [u, v] = outline[i]!;
    if ((y < b && v < b) || (y > b && v > b)) continue;
    const a = y === v ? u : x + ((u - x) * (b - y)) / (v - y);
    least = Math.min(least, a, y === v ? x : a);
    most = Math.max(most, a, y === v ? x : a);
  }
  // A corner of the lattice that lies on an edge is within.
  return [least - 1e-9, most + 1e-9];
}

/** Whether a place beside a surface, in its plane, is open to it: nothing stands between it and the surface's nearest place. */
function isReached({ outline }: Chart, openings: Openings, a: number, b: number): boolean {
  const [fromA, fromB] = nearestInOutline(outline, a, b);
  return openings.open(fromA, fromB) && openings.clear(fromA, fromB, a, b);
}

/**
 * A binary tree over a chart's luxels: each node a rectangle of them, cut across its longer side, with the rectangle of the
 * places that are sampled in it. Node 0 holds all; nodes without places do not exist.
 */
export class LuxelTree {
  /** Four a node: least and greatest lattice coordinates of what is sampled, `a0, b0, a1, b1`. */
  readonly places: Float64Array;
  /** Four a node: first column and row, and those after the last. */
  readonly luxels: Int32Array;
  /** Two a node: its children, or −1; a node without any is one luxel. */
  readonly children: Int32Array;

  constructor(luxels: Omit<Luxels, 'tree'>) {
    const { width, height } = luxels;
    const most = Math.max(1, 2 * width * height);
    this.places = new Float64Array(most * 4);
    this.luxels = new Int32Array(most * 4);
    this.children = new Int32Array(most * 2).fill(-1);
    let count = 0;
    const build = (i0: number, j0: number, i1: number, j1: number): number => {
      const own = count++;
      const at = own * 4;
      this.luxels[at] = i0;
      this.luxels[at + 1] = j0;
      this.luxels[at + 2] = i1;
      this.luxels[at + 3] = j1;
      if (i1 - i0 === 1 && j1 - j0 === 1) {
        if (!spread(luxels, i0, j0, this.places, at)) count = own;
        return count === own ? -1 : own;
      }
      const [middleI, middleJ] = [(i0 + i1) >> 1, (j0 + j1) >> 1];
      const across = i1 - i0 >= j1 - j0;
      const a = across ? build(i0, j0, middleI, j1) : build(i0, j0, i1, middleJ);
      const b = across ? build(middleI, j0, i1, j1) : build(i0, middleJ, i1, j1);
      if (a < 0 && b < 0) {
        count = own;
        return -1;
      }
      this.children[own * 2] = a;
      this.children[own * 2 + 1] = b;
      const { places } = this;
      for (let k = 0; k < 2; k++) {
        places[at + k] = Math.min(a < 0 ? Infinity : places[a * 4 + k]!, b < 0 ? Infinity : places[b * 4 + k]!);
        places[at + k + 2] = Math.max(
          a < 0 ? -Infinity : places[a * 4 + k + 2]!,
          b < 0 ? -Infinity : places[b * 4 + k + 2]!,
        );
      }
      return own;
    };
    this.empty = build(0, 0, width, height) < 0;
  }

  /** Nothing of the chart is sampled. */
  readonly empty: boolean;
}

/** Puts the rectangle of a luxel's places into a list; false when it has none. */
function spread(luxels: Omit<Luxels, 'tree'>, i: number, j: number, out: Float64Array, at: number): boolean {
  const { chart, width, samples, mask, only, beyond } = luxels;
  const { size, s0, t0 } = chart;
  const k = j * width + i;
  const bits = mask[k]!;
  // Columns and rows of the places that are open.
  let [u0, v0, u1, v1] = [samples, samples, -1, -1];
  for (let n = 0; n < samples * samples; n++) {
    if (!(bits & (1 << n))) continue;
    const [u, v] = [n % samples, (n - (n % samples)) / samples];
    u0 = Math.min(u0, u);
    u1 = Math.max(u1, u);
    v0 = Math.min(v0, v);
    v1 = Math.max(v1, v);
  }
  const open = u1 >= 0;
  let a0 = open ? samplePlace(s0, i, u0, samples, size) : Infinity;
  let a1 = open ? samplePlace(s0, i, u1, samples, size) : -Infinity;
  let b0 = open ? samplePlace(t0, j, v0, samples, size) : Infinity;
  let b1 = open ? samplePlace(t0, j, v1, samples, size) : -Infinity;
  for (let list = only; ; list = beyond) {
    const [a, b] = [list[k * 2]!, list[k * 2 + 1]!];
    if (!Number.isNaN(a)) {
      a0 = Math.min(a0, a);
      a1 = Math.max(a1, a);
      b0 = Math.min(b0, b);
      b1 = Math.max(b1, b);
    }
    if (list === beyond) break;
  }
  out[at] = a0;
  out[at + 1] = b0;
  out[at + 2] = a1;
  out[at + 3] = b1;
  return a0 <= a1;
}
