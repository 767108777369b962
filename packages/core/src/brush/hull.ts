import { orient3d } from 'robust-predicates';
import {
  areaVector,
  cross,
  distance,
  dot,
  length,
  ON_PLANE,
  planeFromLoop,
  SAME_POINT,
  signedDistance,
  sub,
  type Vec3,
} from '../math/index.ts';
import { BrushError } from './errors.ts';
import type { Solid } from './types.ts';

type Triangle = [number, number, number];

/**
 * Positive when `d` is strictly in front of the triangle (counter-clockwise from its front). Exact (Shewchuk, Adaptive Precision
 * Floating-Point Arithmetic, 1997).
 */
const inFront = (p: readonly Vec3[], [a, b, c]: Triangle, d: number): number => {
  const [A, B, C, D] = [p[a]!, p[b]!, p[c]!, p[d]!];
  return -orient3d(A[0], A[1], A[2], B[0], B[1], B[2], C[0], C[1], C[2], D[0], D[1], D[2]);
};

/**
 * The convex hull of points as a closed solid with flat faces of any number of corners.
 * Incremental insertion with exact orientation tests; nearly coplanar triangles are joined afterwards.
 * Throws `brush.flat` when the points lie in one plane.
 */
export function hullOf(input: readonly Vec3[]): Solid {
  const points = weld(input);
  return mergeFlat(points, hullTriangles(points));
}

/** What the hull of points holds, cm³. Throws `brush.flat` when they lie in one plane. */
export function hullVolume(input: readonly Vec3[]): number {
  const points = weld(input);
  const o = points[0]!;
  let sum = 0;
  for (const [a, b, c] of hullTriangles(points))
    sum += dot(sub(points[a]!, o), cross(sub(points[b]!, o), sub(points[c]!, o)));
  return sum / 6;
}

function hullTriangles(points: readonly Vec3[]): Triangle[] {
  const first = firstTetrahedron(points);
  if (!first)
    throw new BrushError('brush.flat', 'These points lie in one plane and enclose nothing. Add a point off the plane.');
  let triangles = first;
  const n = points.length;
  const start = new Set(first.flat());
  for (let i = 0; i < n; i++) {
    if (start.has(i)) continue;
    const kept: Triangle[] = [];
    // An edge from u to v is u · n + v.
    const edges = new Set<number>();
    for (const t of triangles) {
      if (inFront(points, t, i) > 0) for (let k = 0; k < 3; k++) edges.add(t[k]! * n + t[(k + 1) % 3]!);
      else kept.push(t);
    }
    if (edges.size === 0) continue;
    triangles = kept;
    for (const e of edges) {
      const [u, v] = [Math.floor(e / n), e % n];
      if (!edges.has(v * n + u)) triangles.push([u, v, i]);
    }
  }
  return triangles;
}

/** The hull of points, or null where they enclose nothing. */
export function hullOrNull(points: readonly Vec3[]): Solid | null {
  try {
    return hullOf(points);
  } catch (error) {
    if (error instanceof BrushError) return null;
    throw error;
  }
}

function weld(input: readonly Vec3[]): Vec3[] {
  const out: Vec3[] = [];
  for (const p of input) if (!out.some((q) => distance(p, q) <= SAME_POINT)) out.push(p);
  return out;
}

function firstTetrahedron(p: readonly Vec3[]): Triangle[] | null {
  if (p.length < 4) return null;
  const far = (measure: (q: Vec3) => number) =>
    p.reduce((best, q, i) => (measure(q) > measure(p[best]!) ? i : best), 0);
  const a = 0;
  const b = far((q) => distance(q, p[a]!));
  const ab = sub(p[b]!, p[a]!);
  const c = far((q) => length(cross(ab, sub(q, p[a]!))));
  const normal = cross(ab, sub(p[c]!, p[a]!));
  if (length(normal) < 1e-6) return null;
  const plane = planeFromLoop([p[a]!, p[b]!, p[c]!])!;
  const d = far((q) => Math.abs(signedDistance(plane, q)));
  if (Math.abs(signedDistance(plane, p[d]!)) < ON_PLANE) return null;
  return inFront(p, [a, b, c], d) > 0
    ? [
        [a, c, b],
        [a, b, d],
        [b, c, d],
        [c, a, d],
      ]
    : [
        [a, b, c],
        [a, d, b],
        [b, d, c],
        [c, d, a],
      ];
}

/** Joins triangles that lie in one plane into one face and drops corners that lie on a straight edge. */
function mergeFlat(points: readonly Vec3[], triangles: readonly Triangle[]): Solid {
  const n = points.length;
  const owner = new Map<number, number>();
  triangles.forEach((corners, t) => {
    for (let k = 0; k < 3; k++) owner.set(corners[k]! * n + corners[(k + 1) % 3]!, t);
  });
  const group = triangles.map(() => -1);
  const areas = triangles.map((t) => areaOf(points, t));
  const order = triangles.map((_, t) => t).sort((s, t) => areas[t]! - areas[s]!);
  const members: number[][] = [];
  for (const seed of order) {
    if (group[seed] !== -1) continue;
    const g = members.length;
    const plane = planeFromLoop(triangles[seed]!.map((i) => points[i]!));
    const stack = [seed];
    const own = [seed];
    group[seed] = g;
    while (stack.length) {
      const corners = triangles[stack.pop()!]!;
      for (let k = 0; k < 3; k++) {
        const next = owner.get(corners[(k + 1) % 3]! * n + corners[k]!)!;
        if (group[next] !== -1 || !plane) continue;
        if (triangles[next]!.every((i) => Math.abs(signedDistance(plane, points[i]!)) <= ON_PLANE / 2)) {
          group[next] = g;
          own.push(next);
          stack.push(next);
        }
      }
    }
    members.push(own.sort((s, t) => s - t));
  }
  const loops: number[][] = [];
  const meets = new Map<number, Set<number>>();
  members.forEach((own, g) => {
    const next = new Map<number, number>();
    for (const t of own) {
      const corners = triangles[t]!;
      for (let k = 0; k < 3; k++) {
        const [u, v] = [corners[k]!, corners[(k + 1) % 3]!];
        if (group[owner.get(v * n + u)!] !== g) next.set(u, v);
      }
    }
    const begin = next.keys().next().value as number;
    const loop = [begin];
    for (let at = next.get(begin)!; at !== begin && loop.length <= next.size; at = next.get(at)!) loop.push(at);
    loops.push(loop);
    for (const i of loop) meets.set(i, (meets.get(i) ?? new Set()).add(g));
  });
  // A corner of fewer than three faces lies on a straight edge.
  const keep = [...meets]
    .filter(([, faces]) => faces.size >= 3)
    .map(([i]) => i)
    .sort((a, b) => a - b);
  const place = new Map(keep.map((i, k) => [i, k]));
  return {
    vertices: keep.map((i) => points[i]!),
    loops: loops
      .map((loop) => loop.filter((i) => place.has(i)).map((i) => place.get(i)!))
      .filter((loop) => loop.length >= 3),
  };
}

const areaOf = (points: readonly Vec3[], t: Triangle): number => length(areaVector(t.map((i) => points[i]!)));
