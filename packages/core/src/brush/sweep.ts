import { cross, dot, length, normalize, type Vec3 } from '../math/index.ts';
import { brushPlanes } from './solid.ts';
import type { Brush } from './types.ts';

/** Axes that differ by less than this are one. */
const SAME = 1e-9;

/** The directions of a brush's edges, each once. */
function edgeDirections(brush: Brush): readonly Vec3[] {
  const known = directions.get(brush);
  if (known) return known;
  const out: Vec3[] = [];
  for (const { loop } of brush.faces)
    loop.forEach((a, i) => {
      const [p, q] = [brush.vertices[a]!, brush.vertices[loop[(i + 1) % loop.length]!]!];
      const d = normalize([q[0] - p[0], q[1] - p[1], q[2] - p[2]]);
      if (!out.some((o) => Math.abs(Math.abs(dot(o, d)) - 1) < SAME)) out.push(d);
    });
  directions.set(brush, out);
  return out;
}

const directions = new WeakMap<Brush, readonly Vec3[]>();

/** What a brush takes up along an axis. */
function spanOf({ vertices }: Brush, axis: Vec3): [number, number] {
  let [least, most] = [Infinity, -Infinity];
  for (const v of vertices) {
    const d = dot(v, axis);
    if (d < least) least = d;
    if (d > most) most = d;
  }
  return [least, most];
}

/**
 * How far (cm) a brush can go in a direction, a unit vector, until it is in another one by more than `touching` cm: 0 when it
 * is in it where it stands. Null: it never is. Separating axes of two convex solids, each with the time its spans begin and cease to
 * overlap (Ericson, Real-Time Collision Detection, 5.5.8).
 */
export function sweptContact(moving: Brush, still: Brush, direction: Vec3, touching = 0): number | null {
  let [enters, leaves] = [0, Infinity];
  /** Whether there may yet be a contact after this axis too. */
  const narrows = (axis: Vec3): boolean => {
    const [a0, a1] = spanOf(moving, axis);
    const [b0, b1] = spanOf(still, axis);
    // Spans overlap while low < speed · t < high.
    const [low, high] = [b0 + touching - a1, b1 - touching - a0];
    if (low >= high) return false;
    const speed = dot(axis, direction);
    if (Math.abs(speed) < 1e-12) return low < 0 && high > 0;
    const [t0, t1] = speed > 0 ? [low / speed, high / speed] : [high / speed, low / speed];
    enters = Math.max(enters, t0);
    leaves = Math.min(leaves, t1);
    return enters < leaves;
  };
  for (const { normal } of brushPlanes(moving)) if (!narrows(normal)) return null;
  for (const { normal } of brushPlanes(still)) if (!narrows(normal)) return null;
  for (const a of edgeDirections(moving))
    for (const b of edgeDirections(still)) {
      const axis = cross(a, b);
      const l = length(axis);
      if (l > 1e-6 && !narrows([axis[0] / l, axis[1] / l, axis[2] / l])) return null;
    }
  return enters;
}
