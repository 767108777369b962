import { brushBounds, brushPlanes, type Brush } from '../../brush/index.ts';
import { buildBvh, type Bvh, type Vec3 } from '../../math/index.ts';

/**
 * Rays against solid brushes. The brushes themselves are the primitives: a convex solid is met by clipping the ray against
 * its planes (Cyrus & Beck, Generalized Two- and Three-Dimensional Clipping, 1978), an axis-aligned box by its slabs alone.
 * Axis-aligned boxes are stored inline in leaf order, so that leaves read straight through memory.
 */
export interface Tracer {
  readonly bvh: Bvh;
  readonly brushes: readonly Brush[];
  /** Per leaf slot: six bounds. */
  readonly slabs: Float64Array;
  /** Per leaf slot: first plane and number of planes; no planes for boxes. */
  readonly planeRange: Int32Array;
  /** Planes as normal and distance. */
  readonly planes: Float64Array;
  readonly stack: Int32Array;
}

export function makeTracer(brushes: readonly Brush[]): Tracer {
  const bvh = buildBvh(brushes.map(brushBounds));
  const slabs = new Float64Array(brushes.length * 6);
  const planeRange = new Int32Array(brushes.length * 2);
  const planes: number[] = [];
  bvh.order.forEach((item, slot) => {
    const { min, max } = brushBounds(brushes[item]!);
    for (let k = 0; k < 3; k++) {
      slabs[slot * 6 + k] = min[k]!;
      slabs[slot * 6 + k + 3] = max[k]!;
    }
    const own = brushPlanes(brushes[item]!);
    if (own.length === 6 && own.every((p) => p.normal.some((c) => Math.abs(c) === 1))) return;
    planeRange[slot * 2] = planes.length / 4;
    planeRange[slot * 2 + 1] = own.length;
    for (const p of own) planes.push(...p.normal, p.distance);
  });
  return {
    bvh,
    brushes,
    slabs,
    planeRange,
    planes: Float64Array.from(planes),
    stack: new Int32Array(bvh.depth * 2 + 8),
  };
}

/** Whether anything solid lies on the segment from `o` towards `d` (need not be a unit vector) for parameters from 0 to `far`. */
export function anyHit(
  t: Tracer,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  far: number,
): boolean {
  const { bounds, link } = t.bvh;
  const { slabs, planeRange, stack } = t;
  if (t.brushes.length === 0) return false;
  const ix = 1 / dx;
  const iy = 1 / dy;
  const iz = 1 / dz;
  // Which of a box's two sides the ray meets first depends on its direction alone.
  const nx = ix < 0 ? 3 : 0;
  const ny = iy < 0 ? 4 : 1;
  const nz = iz < 0 ? 5 : 2;
  const fx = 3 - nx;
  const fy = 5 - ny;
  const fz = 7 - nz;
  let top = 0;
  let i = 0;
  for (;;) {
    const o = i * 6;
    // Comparisons that skip NaN (a ray that runs in a side's plane) err towards a hit.
    let near = 0;
    let away = far;
    let a = (bounds[o + nx]! - ox) * ix;
    let b = (bounds[o + fx]! - ox) * ix;
    if (a > near) near = a;
    if (b < away) away = b;
    a = (bounds[o + ny]! - oy) * iy;
    b = (bounds[o + fy]! - oy) * iy;
    if (a > near) near = a;
    if (b < away) away = b;
    a = (bounds[o + nz]! - oz) * iz;
    b = (bounds[o + fz]! - oz) * iz;
    if (a > near) near = a;
    if (b < away) away = b;
    if (near <= away) {
      const n = link[i * 2 + 1]!;
      const first = link[i * 2]!;
      if (n === 0) {
        stack[top++] = first;
        i++;
        continue;
      }
      for (let s = first; s < first + n; s++) {
        const q = s * 6;
        near = 0;
        away = far;
        a = (slabs[q + nx]! - ox) * ix;
        b = (slabs[q + fx]! - ox) * ix;
        if (a > near) near = a;
        if (b < away) away = b;
        a = (slabs[q + ny]! - oy) * iy;
        b = (slabs[q + fy]! - oy) * iy;
        if (a > near) near = a;
        if (b < away) away = b;
        a = (slabs[q + nz]! - oz) * iz;
        b = (slabs[q + fz]! - oz) * iz;
        if (a > near) near = a;
        if (b < away) away = b;
        if (near < away) {
          const planes = planeRange[s * 2 + 1]!;
          if (planes === 0) return true;
          if (clipConvex(t.planes, planeRange[s * 2]!, planes, ox, oy, oz, dx, dy, dz, far)) return true;
        }
      }
    }
    if (top === 0) return false;
    i = stack[--top]!;
  }
}

/** Whether a ray passes through a convex solid for parameters from 0 to `far`. */
function clipConvex(
  planes: Float64Array,
  first: number,
  count: number,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  far: number,
): boolean {
  let near = 0;
  let away = far;
  for (let k = first * 4; k < (first + count) * 4; k += 4) {
    const slope = planes[k]! * dx + planes[k + 1]! * dy + planes[k + 2]! * dz;
    const height = planes[k + 3]! - (planes[k]! * ox + planes[k + 1]! * oy + planes[k + 2]! * oz);
    if (slope > 0) {
      const at = height / slope;
      if (at < away) away = at;
    } else if (slope < 0) {
      const at = height / slope;
      if (at > near) near = at;
    } else if (height < 0) return false;
    if (near >= away) return false;
  }
  return true;
}

export interface Hit {
  /** Parameter along the ray. */
  readonly at: number;
  readonly brush: Brush;
  /** Place of the face met first, in the brush's faces; −1 when the ray starts inside. */
  readonly face: number;
}

/**
 * The first solid a ray meets within `far`, or null; brushes in `gone` count as not there. Slower than {@link anyHit}; for rays that ask
 * what they met.
 */
export function firstHit(t: Tracer, o: Vec3, d: Vec3, far: number, gone?: ReadonlySet<Brush>): Hit | null {
  if (t.brushes.length === 0) return null;
  const { bounds, link, order } = t.bvh;
  let best: Hit | null = null;
  let limit = far;
  const stack = [0];
  while (stack.length) {
    const i = stack.pop()!;
    if (!entersBox(bounds, i * 6, o, d, limit)) continue;
    const n = link[i * 2 + 1]!;
    const first = link[i * 2]!;
    if (n === 0) {
      stack.push(first, i + 1);
      continue;
    }
    for (let s = first; s < first + n; s++) {
      const brush = t.brushes[order[s]!]!;
      if (gone?.has(brush)) continue;
      const hit = enterBrush(brush, o, d, limit);
      if (hit && (best === null || hit.at < limit)) {
        best = hit;
        limit = hit.at;
      }
    }
  }
  return best;
}

function entersBox(bounds: Float64Array, at: number, o: Vec3, d: Vec3, far: number): boolean {
  let near = 0;
  let away = far;
  for (let k = 0; k < 3; k++) {
    const inv = 1 / d[k]!;
    const a = (bounds[at + k]! - o[k]!) * inv;
    const b = (bounds[at + 3 + k]! - o[k]!) * inv;
    near = Math.max(near, Math.min(a, b));
    away = Math.min(away, Math.max(a, b));
  }
  return near <= away;
}

/** Where a ray enters a brush. */
export function enterBrush(brush: Brush, o: Vec3, d: Vec3, far: number): Hit | null {
  let near = 0;
  let away = far;
  let face = -1;
  const planes = brushPlanes(brush);
  for (let k = 0; k < planes.length; k++) {
    const { normal, distance } = planes[k]!;
    const slope = normal[0] * d[0] + normal[1] * d[1] + normal[2] * d[2];
    const height = distance - (normal[0] * o[0] + normal[1] * o[1] + normal[2] * o[2]);
    if (slope > 0) away = Math.min(away, height / slope);
    else if (slope < 0) {
      if (height / slope > near) {
        near = height / slope;
        face = k;
      }
    } else if (height < 0) return null;
    if (near >= away) return null;
  }
  return { at: near, brush, face };
}

/** The solid that holds a point deeper than `depth` cm, or null. */
export function solidAt(t: Tracer, p: Vec3, depth = 0, gone?: ReadonlySet<Brush>): Brush | null {
  const { bounds, link, order } = t.bvh;
  const { slabs, planeRange, planes, stack } = t;
  const [x, y, z] = p;
  if (t.brushes.length === 0) return null;
  let top = 0;
  let i = 0;
  for (;;) {
    const o = i * 6;
    if (
      bounds[o]! <= x &&
      bounds[o + 3]! >= x &&
      bounds[o + 1]! <= y &&
      bounds[o + 4]! >= y &&
      bounds[o + 2]! <= z &&
      bounds[o + 5]! >= z
    ) {
      const n = link[i * 2 + 1]!;
      const first = link[i * 2]!;
      if (n === 0) {
        stack[top++] = first;
        i++;
        continue;
      }
      for (let s = first; s < first + n; s++) {
        const q = s * 6;
        const d = depth;
        let within =
          x > slabs[q]! + d &&
          x < slabs[q + 3]! - d &&
          y > slabs[q + 1]! + d &&
          y < slabs[q + 4]! - d &&
          z > slabs[q + 2]! + d &&
          z < slabs[q + 5]! - d;
        const end = (planeRange[s * 2]! + planeRange[s * 2 + 1]!) * 4;
        for (let k = planeRange[s * 2]! * 4; within && k < end; k += 4)
          within = planes[k]! * x + planes[k + 1]! * y + planes[k + 2]! * z - planes[k + 3]! < -d;
        const brush = t.brushes[order[s]!]!;
        if (within && !gone?.has(brush)) return brush;
      }
    }
    if (top === 0) return null;
    i = stack[--top]!;
  }
}
