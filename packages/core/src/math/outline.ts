import { hypot } from './exact.ts';
import earcut from 'earcut';

/** A place on the ground plan, in cm: X east, Y north. */
export type Point2 = readonly [number, number];

/** Twice the area of a triangle; positive when it runs counter-clockwise. */
export const turnOf = (a: Point2, b: Point2, c: Point2): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

/** Area in cm²; positive when the outline runs counter-clockwise. */
export function outlineArea(outline: readonly Point2[]): number {
  let twice = 0;
  outline.forEach(([x, y], i) => {
    const [u, v] = outline[(i + 1) % outline.length]!;
    twice += x * v - u * y;
  });
  return twice / 2;
}

/** Whether two segments meet anywhere but in a shared end. */
function segmentsCross(a: Point2, b: Point2, c: Point2, d: Point2): boolean {
  const [s, t, u, v] = [turnOf(a, b, c), turnOf(a, b, d), turnOf(c, d, a), turnOf(c, d, b)];
  const between = (p: Point2, q: Point2, r: Point2) =>
    Math.min(p[0], q[0]) <= r[0] &&
    r[0] <= Math.max(p[0], q[0]) &&
    Math.min(p[1], q[1]) <= r[1] &&
    r[1] <= Math.max(p[1], q[1]);
  if (s * t < 0 && u * v < 0) return true;
  return (
    (s === 0 && between(a, b, c)) ||
    (t === 0 && between(a, b, d)) ||
    (u === 0 && between(c, d, a)) ||
    (v === 0 && between(c, d, b))
  );
}

/** Whether an outline runs across itself. */
export function crossesItself(outline: readonly Point2[]): boolean {
  for (let i = 0; i < outline.length; i++)
    for (let j = i + 2; j < outline.length; j++) {
      if (i === 0 && j === outline.length - 1) continue;
      if (segmentsCross(outline[i]!, outline[i + 1]!, outline[j]!, outline[(j + 1) % outline.length]!)) return true;
    }
  return false;
}

/** Without repeated corners (nearer than `least` cm) and without corners on a straight line. */
export function straightened(outline: readonly Point2[], least = 0.5): Point2[] {
  const apart = outline.filter((p, i) => {
    const q = outline[(i + 1) % outline.length]!;
    return hypot(p[0] - q[0], p[1] - q[1]) > least;
  });
  return apart.filter(
    (p, i) => Math.abs(turnOf(apart[(i + apart.length - 1) % apart.length]!, p, apart[(i + 1) % apart.length]!)) > 1e-6,
  );
}

/** Whether a point lies inside an outline; on its border either answer may come. */
export function insideOutline(outline: readonly Point2[], [x, y]: Point2): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, ay] = outline[i]!;
    const [bx, by] = outline[j]!;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/**
 * Cuts a counter-clockwise outline (with holes, if any) into convex parts that use only its corners: triangulation, then
 * joining while the union stays convex (Hertel & Mehlhorn, Fast Triangulation of Simple Polygons, 1983; at most four
 * times the fewest parts).
 */
export function convexParts(outline: readonly Point2[], holes: readonly (readonly Point2[])[] = []): Point2[][] {
  const corners = [...outline, ...holes.flat()];
  const starts: number[] = [];
  holes.reduce((at, hole) => (starts.push(at), at + hole.length), outline.length);
  const triangles = earcut(corners.flat() as number[], starts);
  let parts: number[][] = [];
  for (let i = 0; i < triangles.length; i += 3) {
    const part = triangles.slice(i, i + 3);
    const area = outlineArea(part.map((k) => corners[k]!));
    if (area !== 0) parts.push(area < 0 ? part.reverse() : part);
  }
  for (let joined = true; joined;) {
    joined = false;
    search: for (let a = 0; a < parts.length; a++)
      for (let b = a + 1; b < parts.length; b++) {
        const union = joinConvex(parts[a]!, parts[b]!, corners);
        if (!union) continue;
        parts = parts.filter((_, i) => i !== a && i !== b);
        parts.push(union);
        joined = true;
        break search;
      }
  }
  return parts.map((part) => part.map((k) => corners[k]!));
}

/** The union of two convex parts that share an edge, or null when there is none or it is not convex. */
function joinConvex(a: readonly number[], b: readonly number[], at: readonly Point2[]): number[] | null {
  for (let i = 0; i < a.length; i++) {
    const [u, v] = [a[i]!, a[(i + 1) % a.length]!];
    const j = b.findIndex((w, k) => w === v && b[(k + 1) % b.length] === u);
    if (j < 0) continue;
    const union = [...rotate(a, (i + 1) % a.length), ...rotate(b, (j + 1) % b.length).slice(1, -1)];
    const convex = union.every(
      (k, p) =>
        turnOf(at[union[(p + union.length - 1) % union.length]!]!, at[k]!, at[union[(p + 1) % union.length]!]!) >=
        -1e-9,
    );
    return convex ? union : null;
  }
  return null;
}

const rotate = <T>(list: readonly T[], by: number): T[] => [...list.slice(by), ...list.slice(0, by)];
