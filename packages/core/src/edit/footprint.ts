import earcut from 'earcut';
import type { Point2 } from '../map/index.ts';
import { EditError } from './errors.ts';

const turn = (a: Point2, b: Point2, c: Point2): number => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

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
  const [s, t, u, v] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
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

/**
 * A footprint ready for use: counter-clockwise, without repeated corners or corners on a straight line.
 * Throws `room.footprint` when it crosses itself, has fewer than three corners or almost no area.
 */
export function tidyFootprint(outline: readonly Point2[]): Point2[] {
  if (!outline.every(([x, y]) => Number.isFinite(x) && Number.isFinite(y)))
    throw new EditError('room.footprint', 'A corner of the footprint is not a finite number. Type plain numbers.');
  let out = outline.filter((p, i) => {
    const q = outline[(i + 1) % outline.length]!;
    return Math.hypot(p[0] - q[0], p[1] - q[1]) > 0.5;
  });
  out = out.filter(
    (p, i) => Math.abs(turn(out[(i + out.length - 1) % out.length]!, p, out[(i + 1) % out.length]!)) > 1e-6,
  );
  for (let i = 0; i < out.length; i++)
    for (let j = i + 2; j < out.length; j++) {
      if (i === 0 && j === out.length - 1) continue;
      if (segmentsCross(out[i]!, out[i + 1]!, out[j]!, out[(j + 1) % out.length]!))
        throw new EditError(
          'room.footprint',
          'The footprint crosses itself. Click its corners in order round the room.',
        );
    }
  if (out.length < 3 || Math.abs(outlineArea(out)) < 100)
    throw new EditError('room.footprint', 'A footprint needs at least three corners and some floor. Drag further.');
  return outlineArea(out) < 0 ? out.reverse() : out;
}

/**
 * Cuts a counter-clockwise outline into convex parts that use only its corners: triangulation, then joining while the
 * union stays convex (Hertel & Mehlhorn, Fast Triangulation of Simple Polygons, 1983; at most four times the fewest parts).
 */
export function convexParts(outline: readonly Point2[]): Point2[][] {
  const triangles = earcut(outline.flat() as number[]);
  let parts: number[][] = [];
  for (let i = 0; i < triangles.length; i += 3) {
    const part = triangles.slice(i, i + 3);
    parts.push(outlineArea(part.map((k) => outline[k]!)) < 0 ? part.reverse() : part);
  }
  for (let joined = true; joined;) {
    joined = false;
    search: for (let a = 0; a < parts.length; a++)
      for (let b = a + 1; b < parts.length; b++) {
        const union = joinConvex(parts[a]!, parts[b]!, outline);
        if (!union) continue;
        parts = parts.filter((_, i) => i !== a && i !== b);
        parts.push(union);
        joined = true;
        break search;
      }
  }
  return parts.map((part) => part.map((k) => outline[k]!));
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
        turn(at[union[(p + union.length - 1) % union.length]!]!, at[k]!, at[union[(p + 1) % union.length]!]!) >= -1e-9,
    );
    return convex ? union : null;
  }
  return null;
}

const rotate = <T>(list: readonly T[], by: number): T[] => [...list.slice(by), ...list.slice(0, by)];
