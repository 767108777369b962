import { meetPlane, ON_PLANE, signedDistance, type Plane, type Vec3 } from '../math/index.ts';
import { findFlaw, solidOf } from './solid.ts';
import type { Brush, Face } from './types.ts';

/** How the fresh face of a cut is dressed; `plane` faces out of the half it closes. */
export type DressCap = (plane: Plane, brush: Brush) => Pick<Face, 'material' | 'frame'>;

/**
 * Splits a brush by a plane into what lies in front and behind. Corners that stay are exactly those of the brush,
 * faces keep id, material and frame, and the cap gets a new id. A half thinner than a valid brush is null,
 * and the other half is then the whole brush.
 */
export function splitBrush(
  brush: Brush,
  plane: Plane,
  dressCap: DressCap,
): { front: Brush | null; back: Brush | null } {
  const d = brush.vertices.map((v) => signedDistance(plane, v));
  if (Math.min(...d) >= -ON_PLANE) return { front: brush, back: null };
  if (Math.max(...d) <= ON_PLANE) return { front: null, back: brush };
  const back = half(brush, plane, d, dressCap);
  const front = half(
    brush,
    flipped(plane),
    d.map((x) => -x),
    dressCap,
  );
  if (!back || !front) return back || !front ? { front: null, back: brush } : { front: brush, back: null };
  return { front, back };
}

/**
 * The part of a brush behind a plane, cut exactly: unlike {@link splitBrush} it takes nothing that lies within the tolerance
 * to the other side. Null when that is no valid brush.
 */
export function cutBehind(brush: Brush, plane: Plane, dressCap: DressCap): Brush | null {
  const d = brush.vertices.map((v) => signedDistance(plane, v));
  if (Math.max(...d) <= ROUNDING) return brush;
  if (Math.min(...d) >= -ROUNDING) return null;
  return half(brush, plane, d, dressCap, ROUNDING);
}

export const flipped = ({ normal: [x, y, z], distance }: Plane): Plane => ({
  normal: [-x, -y, -z],
  distance: -distance,
});

/** Overshoot (cm) that is only rounding. */
const ROUNDING = 1e-6;

/**
 * The part of a brush behind all of some planes, null when none is left that makes a valid brush. `exact` is false when a
 * plane would have cut off or left less than a brush can be (that sliver then stays or goes with the rest), or passed a corner
 * so near that the corner was taken to lie on it.
 */
export function clipToPlanes(
  brush: Brush,
  planes: readonly Plane[],
  dressCap: DressCap,
): { inside: Brush | null; exact: boolean } {
  let inside = brush;
  let exact = true;
  for (const plane of planes) {
    const d = inside.vertices.map((v) => signedDistance(plane, v));
    if (Math.max(...d) <= ROUNDING) continue;
    if (Math.min(...d) >= -ROUNDING) return { inside: null, exact };
    const { front, back } = splitBrush(inside, plane, dressCap);
    if (!front || !back || d.some((x) => Math.abs(x) > ROUNDING && Math.abs(x) <= ON_PLANE)) exact = false;
    if (!back) return { inside: null, exact };
    inside = back;
  }
  return { inside, exact };
}

/** The part of a brush behind a plane. */
function half(brush: Brush, plane: Plane, d: readonly number[], dressCap: DressCap, on = ON_PLANE): Brush | null {
  const vertices: Vec3[] = [];
  const kept = new Map<number | string, number>();
  const corner = (key: number | string, make: () => Vec3): number => {
    let at = kept.get(key);
    if (at === undefined) {
      kept.set(key, (at = vertices.length));
      vertices.push(make());
    }
    return at;
  };
  const faces: Face[] = [];
  const next = new Map<number, number>();
  for (const face of brush.faces) {
    const loop: number[] = [];
    const onCut: number[] = [];
    face.loop.forEach((i, k) => {
      const j = face.loop[(k + 1) % face.loop.length]!;
      const [di, dj] = [d[i]!, d[j]!];
      if (di <= on) {
        const at = corner(i, () => brush.vertices[i]!);
        loop.push(at);
        if (di >= -on) onCut.push(at);
      }
      if ((di > on && dj < -on) || (di < -on && dj > on)) {
        const [a, b] = i < j ? [i, j] : [j, i];
        const at = corner(`${a} ${b}`, () => meetPlane(plane, brush.vertices[a]!, brush.vertices[b]!, d[a]!, d[b]!));
        loop.push(at);
        onCut.push(at);
      }
    });
    const touches = face.loop.some((i) => d[i]! < -on);
    if (loop.length < 3 || !touches) continue;
    faces.push({ ...face, loop });
    // The cut crosses this face along one edge; the cap walks it the other way.
    if (onCut.length === 2) {
      const [a, b] = onCut as [number, number];
      if (loop[(loop.indexOf(a) + 1) % loop.length] === b) next.set(b, a);
      else next.set(a, b);
    }
  }
  const begin = next.keys().next().value;
  if (begin === undefined) return null;
  const cap = [begin];
  for (let at = next.get(begin); at !== undefined && at !== begin && cap.length <= next.size; at = next.get(at))
    cap.push(at);
  const used = new Set([...faces.flatMap((f) => f.loop), ...cap]);
  const place = new Map([...used].sort((a, b) => a - b).map((i, k) => [i, k]));
  const capId = Math.max(...brush.faces.map((f) => f.id)) + 1;
  const made: Brush = {
    ...brush,
    vertices: [...place.keys()].map((i) => vertices[i]!),
    faces: [...faces, { id: capId, loop: cap, ...dressCap(plane, brush) }].map((f) => ({
      ...f,
      loop: f.loop.map((i) => place.get(i)!),
    })),
  };
  return findFlaw(solidOf(made)) ? null : made;
}
