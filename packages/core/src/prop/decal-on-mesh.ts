import type { DecalThrow } from '../decal/index.ts';
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
  type Vec3,
} from '../math/index.ts';
import type { PropMesh } from './mesh.ts';

/** Corners of what of a prop shows a decal: where they are in the map, which way they look, and their picture. */
export interface MeshDecal {
  readonly position: number[];
  readonly normal: number[];
  /** In texels of the picture. */
  readonly texel: number[];
  readonly ink: number[];
  /** Between which three vertices of the prop a corner lies, and how much of each it has. */
  readonly vertex: number[];
  readonly share: number[];
  /** In which triangle of the mesh: its place among them. */
  readonly face: number[];
  /** Corners of triangles. */
  readonly index: number[];
}

/** Cuts a decal to the triangles of a prop that stands as `pose` says; null where none shows it. */
export function decalOnMesh(ready: DecalThrow, pose: Affine, { places, normals, index }: PropMesh): MeshDecal | null {
  const out: MeshDecal = { position: [], normal: [], texel: [], ink: [], vertex: [], share: [], face: [], index: [] };
  const turn: Affine = [pose[0], pose[1], pose[2], 0, pose[4], pose[5], pose[6], 0, pose[8], pose[9], pose[10], 0];
  const of = (list: Float32Array, v: number): Vec3 => [list[v * 3]!, list[v * 3 + 1]!, list[v * 3 + 2]!];
  for (let t = 0; t + 2 < index.length; t += 3) {
    const vertices = [index[t]!, index[t + 1]!, index[t + 2]!] as const;
    const triangle = vertices.map((v) => applyAffine(pose, of(places, v))) as [Vec3, Vec3, Vec3];
    if (!boxesOverlap(ready.bounds, boxOf(triangle))) continue;
    const square = cross(sub(triangle[1], triangle[0]), sub(triangle[2], triangle[0]));
    const twice = length(square);
    if (twice < 1e-9) continue;
    const pieces = ready.on(triangle, scale(square, 1 / twice));
    if (pieces.length === 0) continue;
    const ways = vertices.map((v) => applyAffine(turn, of(normals, v)));
    for (const { winding, texels, inks } of pieces) {
      const first = out.position.length / 3;
      winding.forEach((p, n) => {
        const shares = sharesAt(p, triangle, twice);
        out.position.push(...p);
        out.normal.push(...normalize([0, 1, 2].map((k) => mixed(ways, k, shares)) as unknown as Vec3));
        out.texel.push(...texels[n]!);
        out.ink.push(...inks[n]!);
        out.vertex.push(...vertices);
        out.share.push(...shares);
        out.face.push(t / 3);
      });
      for (let n = 2; n < winding.length; n++) out.index.push(first, first + n - 1, first + n);
    }
  }
  return out.index.length > 0 ? out : null;
}

/** How much a place in a triangle has of each of its corners: 1 together. */
function sharesAt(p: Vec3, [a, b, c]: readonly [Vec3, Vec3, Vec3], twice: number): Vec3 {
  const part = (q: Vec3, r: Vec3): number => length(cross(sub(q, p), sub(r, p))) / twice;
  return [part(b, c), part(c, a), part(a, b)];
}

const mixed = (ways: readonly Vec3[], k: number, shares: Vec3): number =>
  ways[0]![k]! * shares[0] + ways[1]![k]! * shares[1] + ways[2]![k]! * shares[2];
