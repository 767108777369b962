import { brushPlanes, type Brush } from '../brush/index.ts';
import {
  clipBehind,
  cross,
  dot,
  hypot,
  planeSquare,
  signedDistance,
  sub,
  type Plane,
  type Vec3,
  type Winding,
} from '../math/index.ts';

/** A free stretch of a line. */
export type Stretch = readonly [low: number, high: number];

/** A plane through a point, with two directions in it that lie square to one another, of length 1. */
export interface SectionPlane {
  readonly at: Vec3;
  readonly u: Vec3;
  readonly v: Vec3;
}

/** What a plane cuts out of the solids: convex outlines in its two directions, cm from its point. */
export type Section = readonly (readonly (readonly [number, number])[])[];

/** A narrower gap (cm) between solids is none. */
export const LEAST_GAP = 1;
/** Just beside a corner, cm. */
export const BESIDE = 0.01;

/** What the plane cuts out of solids. */
export function sectionAt(solids: readonly Brush[], { at, u, v }: SectionPlane): Section {
  const normal = cross(u, v);
  const plane: Plane = { normal, distance: dot(normal, at) };
  return solids.flatMap((brush) => {
    let [under, over] = [false, false];
    for (const p of brush.vertices) {
      const h = signedDistance(plane, p);
      under ||= h < 0;
      over ||= h > 0;
    }
    if (!under || !over) return [];
    let cut: Winding | null = planeSquare(plane);
    for (const p of brushPlanes(brush)) cut &&= clipBehind(cut, p, false, 1e-6);
    return cut ? [cut.map((p) => [dot(sub(p, at), u), dot(sub(p, at), v)] as const)] : [];
  });
}

/** What is free between two outlines of a section, by their places in it; −1 where there is none on that side. */
interface Between {
  readonly free: Stretch;
  readonly under: number;
  readonly over: number;
}

/** What is free along one direction of a section, at a place of the other, in order; the first and the last do not end. */
function gapsAt(section: Section, axis: 0 | 1, at: number, least: number): Between[] {
  const across = axis === 0 ? 1 : 0;
  const blocked = section
    .flatMap((outline, o): (readonly [from: number, to: number, outline: number])[] => {
      let [from, to] = [Infinity, -Infinity];
      outline.forEach((p, i) => {
        const q = outline[(i + 1) % outline.length]!;
        const [a, b] = [p[across] - at, q[across] - at];
        if ((a < 0 && b < 0) || (a > 0 && b > 0) || a === b) return;
        const x = p[axis] + ((q[axis] - p[axis]) * a) / (a - b);
        [from, to] = [Math.min(from, x), Math.max(to, x)];
      });
      return to > from ? [[from, to, o]] : [];
    })
    .sort((a, b) => a[0] - b[0]);
  const gaps: Between[] = [];
  let [past, under] = [-Infinity, -1];
  for (const [from, to, over] of [...blocked, [Infinity, Infinity, -1] as const]) {
    if (from - past > least) gaps.push({ free: [past, from], under, over });
    if (to > past) [past, under] = [to, over];
  }
  return gaps;
}

const away = ([low, high]: Stretch, from: number): number => Math.max(0, low - from, from - high);
const ends = ([low, high]: Stretch): boolean => high - low < Infinity;

/**
 * The free stretch along one direction of a section, at a place of the other: the nearest to `near` of those that end on both sides,
 * else of all.
 */
export function freeAt(section: Section, axis: 0 | 1, at: number, near: number): Stretch {
  const all = gapsAt(section, axis, at, LEAST_GAP).map(({ free }) => free);
  const closed = all.filter(ends);
  return (closed.length ? closed : all).reduce((best, one) => (away(one, near) < away(best, near) ? one : best));
}

/** A place that is looked at, and which of its gaps. */
type Gap = readonly [place: number, gap: number];

/** Gaps narrower than this (cm) are shut for {@link freeRegion}. */
const SHUT = 0.01;

/**
 * The outline corners, in the section's two directions, of the free place round its point, or no farther than `reach` (cm) from it: what
 * is reached without going through what was cut. Null where it goes on for ever, and where nothing is free.
 */
export function freeRegion(section: Section, reach: number): (readonly [number, number])[] | null {
  const corners = [...section.flat().map(([x]) => x), ...crossings(section)]
    .sort((a, b) => a - b)
    .filter((x, i, all) => i === 0 || x - all[i - 1]! > SHUT);
  // In each column between corners and crossings the same gaps go on from end to end.
  const places = corners.slice(1).flatMap((to, i) => {
    const from = corners[i]!;
    const beside = Math.min(BESIDE, (to - from) / 3);
    return [
      { at: from + beside, x: from },
      { at: to - beside, x: to },
    ];
  });
  const gaps = places.map(({ at }) => gapsAt(section, 1, at, 0));
  // Round the point, or where it is free nearest to it.
  const near = places
    .flatMap(({ at }, k) => {
      // A column that has the point in it is at it.
      const other = places[k % 2 === 0 ? k + 1 : k - 1]!.at;
      const beside = at < 0 === other < 0 ? Math.min(Math.abs(at), Math.abs(other)) : 0;
      return gaps[k]!.flatMap(({ free }, i) =>
        free[1] - free[0] > SHUT ? [{ from: [k, i] as const, far: hypot(beside, away(free, 0)) }] : [],
      );
    })
    .reduce<{ from: Gap; far: number } | null>((best, one) => (best && best.far <= one.far ? best : one), null);
  if (!near || near.far > reach) return null;
  const seen = new Set<string>();
  const out: (readonly [number, number])[] = [];
  const stack: Gap[] = [near.from];
  for (let next = stack.pop(); next; next = stack.pop()) {
    const [k, g] = next;
    if (seen.has(next.join())) continue;
    seen.add(next.join());
    const { free: here, under, over } = gaps[k]![g]!;
    // Past the first and the last corner nothing stands: but where two solids meet in such a corner it narrows to nothing.
    const last = k === 0 || k === places.length - 1;
    if (!ends(here) || (last && here[1] - here[0] > LEAST_GAP)) return null;
    out.push([places[k]!.x, here[0]], [places[k]!.x, here[1]]);
    // To the other end of the column what lies between the same two, also where it narrows to nothing; to the next column whatever it
    // opens into.
    const other = k % 2 === 0 ? k + 1 : k - 1;
    const same = gaps[other]!.findIndex((b) => b.under === under && b.over === over);
    if (same >= 0) stack.push([other, same]);
    gaps[k % 2 === 0 ? k - 1 : k + 1]?.forEach(({ free: there }, i) => {
      if (Math.min(here[1], there[1]) - Math.max(here[0], there[0]) > SHUT)
        stack.push([k % 2 === 0 ? k - 1 : k + 1, i]);
    });
  }
  return out;
}

/** Where edges of different outlines cross, along the first direction. */
function crossings(section: Section): number[] {
  const edges = section.flatMap((outline, o) =>
    outline.map((p, i) => ({ o, p, q: outline[(i + 1) % outline.length]! })),
  );
  return edges.flatMap(({ o, p, q }, i) =>
    edges.slice(i + 1).flatMap((other): number[] => {
      if (other.o === o) return [];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const [ex, ey] = [other.q[0] - other.p[0], other.q[1] - other.p[1]];
      const turn = dx * ey - dy * ex;
      if (Math.abs(turn) < 1e-9) return [];
      const [fx, fy] = [other.p[0] - p[0], other.p[1] - p[1]];
      const [s, t] = [(fx * ey - fy * ex) / turn, (fx * dy - fy * dx) / turn];
      return s > 0 && s < 1 && t > 0 && t < 1 ? [p[0] + dx * s] : [];
    }),
  );
}
