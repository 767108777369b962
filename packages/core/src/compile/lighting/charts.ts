import { boxOf, cross, dot, growBox, hypot, normalize, type Box, type Vec3 } from '../../math/index.ts';
import type { Surface } from '../structure/index.ts';

/**
 * A rectangle of luxels over one surface. Luxel (i, j) is the square `[(s0+i)·size, (s0+i+1)·size] × …` of a lattice that is
 * phased by the world, so that flush surfaces continue one another's lattice.
 */
export interface Chart {
  readonly surface: Surface;
  /** Edge of a luxel, cm. */
  readonly size: number;
  readonly s: Vec3;
  readonly t: Vec3;
  /** Lattice place of the first luxel. */
  readonly s0: number;
  readonly t0: number;
  /** Luxels across and down, without the gutter. */
  readonly width: number;
  readonly height: number;
  /** The surface's outline in lattice coordinates (cm), counter-clockwise. */
  readonly outline: readonly (readonly [number, number])[];
}

/** Luxels of border round every chart, so that filtering never reads a neighbour's light. */
export const GUTTER = 1;

/** Two unit directions in a plane; on axis planes they are axes. */
export function planeDirections(normal: Vec3): { s: Vec3; t: Vec3 } {
  const [x, y, z] = normal.map(Math.abs) as [number, number, number];
  const right: Vec3 = z >= x && z >= y ? [1, 0, 0] : x >= y ? [0, 1, 0] : [1, 0, 0];
  const t = normalize(cross(normal, right));
  return { s: cross(t, normal), t };
}

/** As far as the luxels of a surface's chart, their gutter, and what they are filled from reach. */
export const chartReach = (surface: Surface, luxel: number): Box =>
  growBox(boxOf(surface.winding), (GUTTER + 1) * luxel + 1);

export function makeChart(surface: Surface, size: number): Chart {
  const { s, t } = planeDirections(surface.plane.normal);
  // s × t is the normal, so a winding that is counter-clockwise from the front stays so in the lattice.
  const outline = surface.winding.map((p) => [dot(p, s), dot(p, t)] as const);
  const low = (k: 0 | 1) => Math.floor(Math.min(...outline.map((p) => p[k])) / size + 1e-6);
  const high = (k: 0 | 1) => Math.ceil(Math.max(...outline.map((p) => p[k])) / size - 1e-6);
  const [s0, t0] = [low(0), low(1)];
  return { surface, size, s, t, s0, t0, width: Math.max(1, high(0) - s0), height: Math.max(1, high(1) - t0), outline };
}

/** The world point at lattice coordinates (cm) on a chart's plane. */
export function chartPoint({ s, t, surface }: Chart, a: number, b: number): Vec3 {
  const { normal, distance } = surface.plane;
  const along = (c: 0 | 1 | 2) => s[c] * a + t[c] * b + normal[c] * distance;
  return [along(0), along(1), along(2)];
}

/** Whether lattice coordinates lie in the (convex) outline. */
export function inOutline(outline: Chart['outline'], a: number, b: number): boolean {
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [x, y] = outline[j]!;
    const [u, v] = outline[i]!;
    if ((u - x) * (b - y) - (v - y) * (a - x) < -1e-9) return false;
  }
  return true;
}

/** The point of the outline (a little inside it) nearest to lattice coordinates. */
export function nearestInOutline(outline: Chart['outline'], a: number, b: number): [number, number] {
  if (inOutline(outline, a, b)) return [a, b];
  let best: [number, number] = [a, b];
  let bestD = Infinity;
  const cx = outline.reduce((sum, p) => sum + p[0], 0) / outline.length;
  const cy = outline.reduce((sum, p) => sum + p[1], 0) / outline.length;
  outline.forEach(([x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length]!;
    const len2 = (u - x) ** 2 + (v - y) ** 2;
    const k = len2 > 0 ? Math.max(0, Math.min(1, ((a - x) * (u - x) + (b - y) * (v - y)) / len2)) : 0;
    const px = x + (u - x) * k;
    const py = y + (v - y) * k;
    const d = (px - a) ** 2 + (py - b) ** 2;
    if (d < bestD) {
      bestD = d;
      const pull = Math.min(0.02, 0.25 / Math.max(1e-6, hypot(cx - px, cy - py)));
      best = [px + (cx - px) * pull, py + (cy - py) * pull];
    }
  });
  return best;
}

/** The part of an upright rectangle of the lattice that lies in a convex outline (Sutherland & Hodgman, Reentrant Polygon Clipping, 1974). */
export function clipRectangle(
  outline: Chart['outline'],
  a0: number,
  b0: number,
  a1: number,
  b1: number,
): (readonly [number, number])[] {
  let part: (readonly [number, number])[] = [
    [a0, b0],
    [a1, b0],
    [a1, b1],
    [a0, b1],
  ];
  for (let i = 0, j = outline.length - 1; i < outline.length && part.length; j = i++) {
    const [x, y] = outline[j]!;
    const [u, v] = outline[i]!;
    const inside = ([a, b]: readonly [number, number]) => (u - x) * (b - y) - (v - y) * (a - x);
    const kept: (readonly [number, number])[] = [];
    part.forEach((p, k) => {
      const q = part[(k + 1) % part.length]!;
      const [h, g] = [inside(p), inside(q)];
      if (h >= 0) kept.push(p);
      if (h >= 0 === g >= 0) return;
      const t = h / (h - g);
      kept.push([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
    });
    part = kept;
  }
  return part;
}
