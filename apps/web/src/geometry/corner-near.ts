import {
  add,
  addScaled,
  boxesOverlap,
  brushBounds,
  brushContains,
  brushPlanes,
  distance,
  dot,
  DRAWN_ROLES,
  edgePlane,
  faceWinding,
  growBox,
  normalize,
  signedDistance,
  sub,
  type Brush,
  type Vec3,
  type Winding,
} from '@yesca/core';

/** An edge at which a surface bends: a place on it, and the way half between those that its two sides look. */
export interface Corner {
  readonly at: Vec3;
  readonly normal: Vec3;
}

/** Surfaces that look as alike as this (cosine) do not bend, or are two sides of one sheet. */
const ALIKE = 0.95;

/** The place of a convex polygon that is nearest to a point. */
function nearestOn(w: Winding, normal: Vec3, p: Vec3): Vec3 {
  const flat = addScaled(p, normal, dot(sub(w[0]!, p), normal));
  if (w.every((_, i) => signedDistance(edgePlane(w, normal, i), flat) <= 0)) return flat;
  let best = w[0]!;
  w.forEach((a, i) => {
    const ab = sub(w[(i + 1) % w.length]!, a);
    const t = Math.max(0, Math.min(1, dot(sub(flat, a), ab) / Math.max(1e-9, dot(ab, ab))));
    const q = addScaled(a, ab, t);
    if (distance(q, flat) < distance(best, flat)) best = q;
  });
  return best;
}

/** The nearest edge, within so many cm of a place of a surface, at which what is seen bends; null for none. */
export function cornerNear(brushes: Iterable<Brush>, at: Vec3, normal: Vec3, reach: number): Corner | null {
  const around = growBox({ min: at, max: at }, reach);
  const near = [...brushes].filter((b) => DRAWN_ROLES.has(b.role) && boxesOverlap(brushBounds(b), around));
  let best: (Corner & { readonly far: number }) | null = null;
  for (const brush of near)
    brush.faces.forEach((face, k) => {
      const other = brushPlanes(brush)[k]!.normal;
      if (face.show || Math.abs(dot(other, normal)) > ALIKE) return;
      const on = nearestOn(faceWinding(brush, k), other, at);
      // Along the surface it was asked for: what stands apart from that is no bend of it.
      const beside = dot(sub(on, at), normal);
      const far = distance(on, at);
      if (Math.abs(beside) > 0.5 || far > reach || (best && far >= best.far)) return;
      const way = normalize(add(normal, other));
      const before = addScaled(on, way, 1);
      if (near.some((b) => brushContains(b, before))) return;
      best = { at: on, normal: way, far };
    });
  return best;
}
