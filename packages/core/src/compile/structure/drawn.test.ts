import { readFileSync } from 'node:fs';
import { brushPlanes } from '../../brush/index.ts';
import { parseMap, stillBrushes } from '../../map/index.ts';
import { dot, hashRandom, normalize, sub, cross, type Vec3 } from '../../math/index.ts';
import { seedsOf } from '../build.ts';
import { makeRays } from '../tracing/index.ts';
import { buildStructure } from './structure.ts';
import { locate } from './grid.ts';

test('whatever is seen from the inside of the Tidemill is drawn: along many lines of sight', () => {
  const path = new URL('../../../../stock/assets/maps/halyard-tidemill.yesca.json', import.meta.url);
  const doc = parseMap(readFileSync(path, 'utf8'));
  const brushes = stillBrushes(doc);
  const structure = buildStructure(brushes, seedsOf(doc));
  const solids = brushes.filter((b) => b.role === 'structure' || b.role === 'detail');
  const rays = makeRays(solids);
  const inside = (p: Vec3): boolean => {
    const cell = locate(structure.blocks, p);
    return typeof cell === 'number' && structure.cells[cell]!.inside;
  };
  /** Surfaces by the direction they face, so that few have to be looked at. */
  const byNormal = new Map<string, typeof structure.surfaces>();
  const key = (n: Vec3) => n.map((c) => Math.round(c * 100)).join();
  for (const s of structure.surfaces)
    byNormal.set(key(s.plane.normal), [...(byNormal.get(key(s.plane.normal)) ?? []), s]);
  let looked = 0;
  const missing = new Set<string>();
  for (let k = 0; looked < 6000; k++) {
    const from: Vec3 = [hashRandom(k, 1) * 2600 - 700, hashRandom(k, 2) * 2400 - 700, hashRandom(k, 3) * 1000 - 60];
    if (!inside(from) || rays.firstHit(...from, 0, 0, 1, 0.01) >= 0) continue;
    const d = normalize([hashRandom(k, 4) - 0.5, hashRandom(k, 5) - 0.5, hashRandom(k, 6) - 0.5]);
    const solid = rays.firstHit(...from, ...d, 400_000);
    if (solid < 0 || rays.lastHitAt() < 1) continue;
    const brush = solids[solid]!;
    let [near, face] = [-Infinity, -1];
    brushPlanes(brush).forEach(({ normal, distance }, i) => {
      const slope = dot(normal, d);
      if (slope < 0 && (distance - dot(normal, from)) / slope > near)
        [near, face] = [(distance - dot(normal, from)) / slope, i];
    });
    if (brush.faces[face]!.show === 'unseen') continue;
    looked++;
    const at = from.map((c, i) => c + d[i]! * near) as unknown as Vec3;
    const { normal } = brushPlanes(brush)[face]!;
    const drawn = (byNormal.get(key(normal)) ?? []).some(
      ({ plane, winding }) =>
        Math.abs(dot(plane.normal, at) - plane.distance) < 0.05 &&
        winding.every((p, i) => {
          const edge = sub(winding[(i + 1) % winding.length]!, p);
          // A line of sight may end a hair beside an edge that two surfaces share.
          return dot(cross(edge, sub(at, p)), plane.normal) > -0.1 * Math.hypot(...edge);
        }),
    );
    if (!drawn) missing.add(`${brush.id} ${face} at ${at.map(Math.round).join(' ')}`);
  }
  expect([...missing]).toEqual([]);
});
