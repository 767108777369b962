import { BufferAttribute, BufferGeometry, DoubleSide, Ray as ThreeRay, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { asBrushes, strewnBoxes, strewnRays } from './scenes.ts';
import { anyHit, makeRays, makeTracer, type Box } from '@yesca/core';
import { best, note } from './table.ts';

/** The same boxes as triangles for the peer. */
function triangles(boxes: readonly Box[]): BufferGeometry {
  const position: number[] = [];
  const index: number[] = [];
  for (const { min, max } of boxes) {
    const base = position.length / 3;
    for (let k = 0; k < 8; k++)
      position.push(k & 1 ? max[0] : min[0], k & 2 ? max[1] : min[1], k & 4 ? max[2] : min[2]);
    for (const [a, b, c, d] of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ] as const)
      index.push(base + a, base + b, base + c, base + a, base + c, base + d);
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(position), 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(index), 1));
  return geometry;
}

export function rays(): void {
  for (const count of [200, 2_000, 10_000]) {
    const boxes = strewnBoxes(count);
    const list = strewnRays(100_000, count);
    const brushes = asBrushes(boxes);
    const tracer = makeTracer(brushes);
    const rays = makeRays(brushes);
    const flat = Float64Array.from(list.flatMap(({ o, d, far }) => [...o, ...d, far]));
    const hit = new Uint8Array(list.length);
    const solids = new Int32Array(list.length);
    const at = new Float64Array(list.length);
    const bvh = new MeshBVH(triangles(boxes));
    const threeRays = list.map((r) => new ThreeRay(new Vector3(...r.o), new Vector3(...r.d)));
    let peerHits = 0;
    const ours = best(() => rays.anyHits(flat, list.length, hit));
    const nearest = best(() => rays.firstHits(flat, list.length, solids, at));
    const hits = hit.reduce((n, h) => n + h, 0);
    const plain = best(() => {
      for (const { o, d, far } of list) anyHit(tracer, o[0], o[1], o[2], d[0], d[1], d[2], far);
    });
    const peer = best(() => {
      peerHits = 0;
      for (let i = 0; i < list.length; i++) {
        const hit = bvh.raycastFirst(threeRays[i]!, DoubleSide);
        if (hit && hit.distance <= list[i]!.far) peerHits++;
      }
    });
    // A ray that starts in a solid counts for us and only as far as it leaves it for the peer, so the counts differ a little.
    if (Math.abs(hits - peerHits) > list.length * 0.05)
      throw new Error(`the tracers disagree: ${hits} and ${peerHits} hits`);
    note(`100,000 any-hit rays on ${count.toLocaleString('en')} boxes`, ours, peer, '≥ 30 ×', 'three-mesh-bvh');
    note(`… beside the plain tracer`, ours, plain, '≥ 8 ×', 'plain tracer');
    note(`100,000 nearest hits on ${count.toLocaleString('en')} boxes`, nearest, peer, '', 'three-mesh-bvh');
  }
}
