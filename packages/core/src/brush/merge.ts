import { boxesOverlap, ON_PLANE, signedDistance, type Vec3 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { hullOf, hullOrNull } from './hull.ts';
import { brushBounds, brushPlanes, brushVolume, findFlaw, solidVolume } from './solid.ts';
import { clipPolytopeAll, polytopeOf, polytopeVolume } from './polytope.ts';
import { splitBrush } from './split.ts';
import type { Brush, DressLike, Solid } from './types.ts';

/** Volumes that differ by less than this part are the same. */
const SAME_VOLUME = 1e-9;

const bare = () => ({ material: '', frame: { u: [0, 0, 0, 0], v: [0, 0, 0, 0] } as const });

/** Volume two brushes share, cm³. */
export function sharedVolume(a: Brush, b: Brush): number {
  if (!boxesOverlap(brushBounds(a), brushBounds(b))) return 0;
  return polytopeVolume(clipPolytopeAll(polytopeOf(a), brushPlanes(b)));
}

/**
 * Whether every face of `a` beyond whose plane `b` reaches is covered by `b`: otherwise that face would be a dent in the
 * union. Cheap, and rules nearly all pairs out.
 */
function facesCovered(a: Brush, b: Brush): boolean {
  const inB = brushPlanes(b);
  return brushPlanes(a).every(
    (plane, i) =>
      !b.vertices.some((v) => signedDistance(plane, v) > ON_PLANE) ||
      a.faces[i]!.loop.every((k) => inB.every((q) => signedDistance(q, a.vertices[k]!) <= ON_PLANE)),
  );
}

/** The union of two brushes when it is convex, else null. */
export function uniteConvex(a: Brush, b: Brush, like: DressLike): Brush | null {
  if (!boxesOverlap(brushBounds(a), brushBounds(b), -0.005) || !facesCovered(a, b) || !facesCovered(b, a)) return null;
  const [va, vb] = [brushVolume(a), brushVolume(b)];
  // Sheets thinner than corners are told apart enclose nothing for the hull, and stay as they are.
  const solid = hullOrNull([...a.vertices, ...b.vertices]);
  if (!solid) return null;
  const hull = solidVolume(solid);
  if (hull > (va + vb) * (1 + SAME_VOLUME)) return null;
  const union = va + vb - sharedVolume(a, b);
  if (Math.abs(hull - union) > SAME_VOLUME * hull || findFlaw(solid)) return null;
  return like(solid, [a, b]);
}

/** Joins brushes pair by pair while the union of a pair is convex and both have the same role. The first of a pair gives the id. */
export function mergeConvex(brushes: readonly Brush[], like: DressLike): Brush[] {
  const out = [...brushes];
  for (let i = 0; i < out.length; i++)
    for (let j = i + 1; j < out.length; j++) {
      if (out[i]!.role !== out[j]!.role) continue;
      const union = uniteConvex(out[i]!, out[j]!, like);
      if (!union) continue;
      out.splice(j, 1);
      out[i] = union;
      // The grown brush may now fit with any other.
      i = -1;
      break;
    }
  return out;
}

/** The convex hull of all corners of some brushes. */
export const hullOfBrushes = (brushes: readonly Brush[]): Solid =>
  hullOf(brushes.flatMap((b): readonly Vec3[] => b.vertices));

/**
 * The exact union of brushes as one solid. Throws `merge.notConvex` when the union is not convex: when the hull has a part
 * that none of the brushes fills.
 */
export function exactUnion(brushes: readonly Brush[]): Solid {
  const solid = hullOfBrushes(brushes);
  const first = brushes[0]!;
  let gaps: Brush[] = [
    { ...first, vertices: solid.vertices, faces: solid.loops.map((loop, i) => ({ id: i + 1, loop, ...bare() })) },
  ];
  for (const brush of brushes)
    gaps = gaps.flatMap((gap) => {
      if (sharedVolume(gap, brush) === 0) return [gap];
      const pieces: Brush[] = [];
      let rest: Brush | null = gap;
      for (const plane of brushPlanes(brush)) {
        if (!rest) break;
        const { front, back } = splitBrush(rest, plane, bare);
        if (front) pieces.push(front);
        rest = back;
      }
      return pieces;
    });
  const left = gaps.reduce((v, g) => v + brushVolume(g), 0);
  if (left > 1e-7 * solidVolume(solid))
    throw new BrushError(
      'merge.notConvex',
      'Together these brushes are not convex, so they cannot be one brush. Merge to the hull, or group them.',
    );
  return solid;
}
