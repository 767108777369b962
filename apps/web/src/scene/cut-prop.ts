import {
  applyAffine,
  boxesOverlap,
  boxOf,
  cross,
  length,
  normalize,
  scale,
  sub,
  type Affine,
  type DecalThrow,
  type Vec3,
} from '@yesca/core';
import type { PropPiece } from './prop-models.ts';

/** Corners of what of a prop shows a decal: where they are in the map, which way they look, and their picture. */
export interface Cut {
  readonly position: number[];
  readonly normal: number[];
  readonly texel: number[];
  readonly ink: number[];
  readonly index: number[];
}

/** The way that a place of a triangle looks, between those of its corners. */
function normalAt(
  p: Vec3,
  [a, b, c]: readonly [Vec3, Vec3, Vec3],
  ways: readonly [Vec3, Vec3, Vec3],
  twice: number,
): Vec3 {
  const part = (q: Vec3, r: Vec3): number => length(cross(sub(q, p), sub(r, p))) / twice;
  const [u, v, w] = [part(b, c), part(c, a), part(a, b)];
  return normalize([0, 1, 2].map((k) => ways[0][k]! * u + ways[1][k]! * v + ways[2][k]! * w) as unknown as Vec3);
}

/** Cuts a decal to the triangles of a prop. */
export function cutProp(ready: DecalThrow, pose: Affine, pieces: readonly Pick<PropPiece, 'geometry'>[]): Cut | null {
  const out: Cut = { position: [], normal: [], texel: [], ink: [], index: [] };
  const turn: Affine = [pose[0], pose[1], pose[2], 0, pose[4], pose[5], pose[6], 0, pose[8], pose[9], pose[10], 0];
  for (const { geometry } of pieces) {
    const [place, way] = [geometry.getAttribute('position'), geometry.getAttribute('normal')];
    const index = geometry.getIndex();
    const count = index ? index.count : place.count;
    const corner = (k: number): number => (index ? index.getX(k) : k);
    for (let t = 0; t + 2 < count; t += 3) {
      const [i, j, k] = [corner(t), corner(t + 1), corner(t + 2)];
      const at = (v: number): Vec3 => applyAffine(pose, [place.getX(v), place.getY(v), place.getZ(v)]);
      const triangle: [Vec3, Vec3, Vec3] = [at(i), at(j), at(k)];
      if (!boxesOverlap(ready.bounds, boxOf(triangle))) continue;
      const square = cross(sub(triangle[1], triangle[0]), sub(triangle[2], triangle[0]));
      const twice = length(square);
      if (twice < 1e-9) continue;
      const looks = (v: number): Vec3 => applyAffine(turn, [way.getX(v), way.getY(v), way.getZ(v)]);
      const ways: [Vec3, Vec3, Vec3] = [looks(i), looks(j), looks(k)];
      for (const { winding, texels, inks } of ready.on(triangle, scale(square, 1 / twice))) {
        const first = out.position.length / 3;
        winding.forEach((p, n) => {
          out.position.push(...p);
          out.normal.push(...normalAt(p, triangle, ways, twice));
          out.texel.push(...texels[n]!);
          out.ink.push(...inks[n]!);
        });
        for (let n = 2; n < winding.length; n++) out.index.push(first, first + n - 1, first + n);
      }
    }
  }
  return out.index.length > 0 ? out : null;
}
