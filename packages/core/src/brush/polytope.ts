import {
  arcTangent2,
  areaVector,
  centroid,
  cross,
  dot,
  hypot,
  type Plane,
  signedDistance,
  sub,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import { faceWinding } from './solid.ts';
import type { Brush } from './types.ts';

/**
 * A closed convex region by its faces alone. Unlike a brush it may have edges and extents as short as they come, so that
 * volumes can be told exactly before anything is decided about what becomes a brush.
 */
export type Polytope = readonly Winding[];

/** Points this near to a plane (cm) lie on it: the rounding of doubles at the world's size, and nothing more. */
const ROUNDING = 1e-7;

export const polytopeOf = (brush: Brush): Polytope => brush.faces.map((_, i) => faceWinding(brush, i));

/** Volume in cm³, by the divergence theorem; 0 for nothing. */
export function polytopeVolume(p: Polytope): number {
  const o = p[0]?.[0];
  if (!o) return 0;
  let six = 0;
  for (const w of p)
    for (let i = 2; i < w.length; i++) six += dot(sub(w[0]!, o), cross(sub(w[i - 1]!, o), sub(w[i]!, o)));
  return six / 6;
}

/** The part of a region behind a plane; empty when there is none. */
export function clipPolytope(p: Polytope, plane: Plane): Polytope {
  const out: Winding[] = [];
  const rim: Vec3[] = [];
  let cut = false;
  for (const w of p) {
    const d = w.map((v) => signedDistance(plane, v));
    if (Math.max(...d) <= ROUNDING) {
      out.push(w);
      continue;
    }
    cut = true;
    const kept: Vec3[] = [];
    w.forEach((a, i) => {
      const j = (i + 1) % w.length;
      const [da, db] = [d[i]!, d[j]!];
      if (da <= ROUNDING) kept.push(a);
      if (Math.abs(da) <= ROUNDING) rim.push(a);
      if ((da > ROUNDING && db < -ROUNDING) || (da < -ROUNDING && db > ROUNDING)) {
        const t = da / (da - db);
        const b = w[j]!;
        const q: Vec3 = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
        kept.push(q);
        rim.push(q);
      }
    });
    if (kept.length >= 3 && Math.min(...d) < -ROUNDING) out.push(kept);
  }
  if (!cut) return p;
  if (out.length < 3) return [];
  const cap = round(rim, plane.normal);
  return cap ? [...out, cap] : out;
}

/** Points of one plane in order round their middle, counter-clockwise seen from where the normal points. */
function round(points: readonly Vec3[], normal: Vec3): Winding | null {
  if (points.length < 3) return null;
  const middle = centroid(points);
  const side: Vec3 = Math.abs(normal[2]) > 0.7 ? [1, 0, 0] : [0, 0, 1];
  const x = cross(side, normal);
  const y = cross(normal, x);
  const angle = (p: Vec3): number => arcTangent2(dot(sub(p, middle), y), dot(sub(p, middle), x));
  const sorted = points
    .map((p) => ({ p, a: angle(p) }))
    .sort((a, b) => a.a - b.a)
    .map(({ p }) => p);
  return hypot(...areaVector(sorted)) > 0 ? sorted : null;
}

/** The part of a region behind all of some planes. */
export const clipPolytopeAll = (p: Polytope, planes: readonly Plane[]): Polytope =>
  planes.reduce((r, plane) => (r.length ? clipPolytope(r, plane) : r), p);
