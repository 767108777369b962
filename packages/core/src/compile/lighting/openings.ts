import { brushPlanes, type Brush } from '../../brush/index.ts';
import { boxOf, dot, eachSwept, growBox, OFF_SURFACE } from '../../math/index.ts';
import { GUTTER, type Chart } from './charts.ts';
import type { Occluders } from './occluders.ts';

/** Covered areas reach so much farther, cm: nothing is open where two solids touch. */
const TIGHT = 1e-3;

/** What solids cover of a chart a little off its surface: each convex area as half planes `x·a + y·b < d` of the lattice, and what holds it. */
interface Cover {
  readonly sides: Float64Array;
  readonly a0: number;
  readonly b0: number;
  readonly a1: number;
  readonly b1: number;
}

/** Says where on a chart's plane, in lattice coordinates, there is no solid. */
export class Openings {
  private readonly covers: readonly Cover[];

  /** Looks so many luxels beyond the surface; by default as far as its gutter goes. */
  constructor(chart: Chart, { brushes, bvh, boxes }: Occluders, luxels = GUTTER + 1) {
    const covers: Cover[] = [];
    const reach = growBox(boxOf(chart.surface.winding), luxels * chart.size + 1);
    eachSwept(bvh, boxes, reach, [0, 0, 0], (i) => {
      const cover = coverOf(chart, brushes[i]!);
      if (cover) covers.push(cover);
    });
    this.covers = covers;
  }

  get none(): boolean {
    return this.covers.length === 0;
  }

  /** Whether any area comes near a rectangle. */
  meets(a0: number, b0: number, a1: number, b1: number): boolean {
    return this.covers.some((c) => c.a0 < a1 && c.a1 > a0 && c.b0 < b1 && c.b1 > b0);
  }

  open(a: number, b: number): boolean {
    return !this.covers.some((cover) => holds(cover, a, b));
  }

  /** Whether nothing lies on the straight way between two places, but what the second lies in when `into` is set. */
  clear(a: number, b: number, toA: number, toB: number, into = false): boolean {
    const [da, db] = [toA - a, toB - b];
    const [lowA, highA] = a < toA ? [a, toA] : [toA, a];
    const [lowB, highB] = b < toB ? [b, toB] : [toB, b];
    return !this.covers.some((cover) => {
      if (cover.a0 > highA || cover.a1 < lowA || cover.b0 > highB || cover.b1 < lowB) return false;
      if (into && holds(cover, toA, toB)) return false;
      const { sides } = cover;
      let near = 0;
      let away = 1;
      for (let k = 0; k < sides.length; k += 3) {
        const slope = sides[k]! * da + sides[k + 1]! * db;
        const height = sides[k + 2]! - sides[k]! * a - sides[k + 1]! * b;
        if (slope > 0) away = Math.min(away, height / slope);
        else if (slope < 0) near = Math.max(near, height / slope);
        else if (height <= 0) return false;
      }
      return near < away;
    });
  }
}

function holds({ sides, a0, b0, a1, b1 }: Cover, a: number, b: number): boolean {
  if (a <= a0 || a >= a1 || b <= b0 || b >= b1) return false;
  for (let k = 0; k < sides.length; k += 3) if (sides[k]! * a + sides[k + 1]! * b >= sides[k + 2]!) return false;
  return true;
}

/** What a solid covers of a chart's plane, raised by {@link OFF_SURFACE}; null for nothing. */
function coverOf({ s, t, surface }: Chart, brush: Brush): Cover | null {
  const { normal } = surface.plane;
  const raised = surface.plane.distance + OFF_SURFACE;
  let [least, most] = [Infinity, -Infinity];
  for (const v of brush.vertices) {
    const h = dot(normal, v);
    if (h < least) least = h;
    if (h > most) most = h;
  }
  if (most <= raised || least >= raised) return null;
  let [a0, b0, a1, b1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { loop } of brush.faces)
    for (let i = 0; i < loop.length; i++) {
      const [p, q] = [brush.vertices[loop[i]!]!, brush.vertices[loop[(i + 1) % loop.length]!]!];
      const [h, g] = [dot(normal, p) - raised, dot(normal, q) - raised];
      if (h * g > 0) continue;
      const k = h === g ? 0 : h / (h - g);
      const a = dot(p, s) * (1 - k) + dot(q, s) * k;
      const b = dot(p, t) * (1 - k) + dot(q, t) * k;
      if (a < a0) a0 = a;
      if (a > a1) a1 = a;
      if (b < b0) b0 = b;
      if (b > b1) b1 = b;
    }
  const planes = brushPlanes(brush);
  const sides = new Float64Array(planes.length * 3);
  planes.forEach(({ normal: n, distance }, i) => {
    sides[i * 3] = dot(n, s);
    sides[i * 3 + 1] = dot(n, t);
    sides[i * 3 + 2] = distance + TIGHT - dot(n, normal) * raised;
  });
  return { sides, a0: a0 - TIGHT, b0: b0 - TIGHT, a1: a1 + TIGHT, b1: b1 + TIGHT };
}
