import { brushBounds, brushPlanes, faceWinding, type Brush } from '../brush/index.ts';
import { paintFaces, setFrames } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import {
  addScaled,
  boxesOverlap,
  intersectWindings,
  samePlane,
  windingArea,
  windingCentroid,
  type Vec3,
} from '../math/index.ts';
import type { CheckContext, Problem, Rule } from './types.ts';

/** Overlaps smaller than this (cm²) are rounding. */
const LEAST_OVERLAP = 1;

/** Edge of the squares by which near brushes are found, cm. */
const BUCKET = 512;

/** Pairs of brushes whose bounds touch, each once. */
function* touchingPairs(brushes: readonly Brush[]): Generator<[Brush, Brush]> {
  const buckets = new Map<string, number[]>();
  const spread = (b: Brush, visit: (key: string) => void) => {
    const { min, max } = brushBounds(b);
    for (let x = Math.floor(min[0] / BUCKET); x <= Math.floor(max[0] / BUCKET); x++)
      for (let y = Math.floor(min[1] / BUCKET); y <= Math.floor(max[1] / BUCKET); y++) visit(`${x},${y}`);
  };
  for (let i = 0; i < brushes.length; i++) {
    const near = new Set<number>();
    spread(brushes[i]!, (key) => {
      const list = buckets.get(key) ?? [];
      list.forEach((j) => near.add(j));
      list.push(i);
      buckets.set(key, list);
    });
    for (const j of near)
      if (boxesOverlap(brushBounds(brushes[i]!), brushBounds(brushes[j]!), -0.01)) yield [brushes[j]!, brushes[i]!];
  }
}

const sameLook = (a: Brush, i: number, b: Brush, j: number): boolean =>
  a.faces[i]!.material === b.faces[j]!.material &&
  [...a.faces[i]!.frame.u, ...a.faces[i]!.frame.v].every(
    (n, k) => Math.abs(n - [...b.faces[j]!.frame.u, ...b.faces[j]!.frame.v][k]!) < 1e-6,
  );

export const coplanarFaces: Rule = {
  code: 'check.coplanar',
  find: (doc: MapDocument, { placeOf }: CheckContext) => {
    const problems: Problem[] = [];
    const drawn = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
    for (const [a, b] of touchingPairs(drawn)) {
      const [pa, pb] = [brushPlanes(a), brushPlanes(b)];
      pa.forEach((plane, i) =>
        pb.forEach((other, j) => {
          if (!samePlane(plane, other) || sameLook(a, i, b, j)) return;
          const shared = intersectWindings(faceWinding(a, i), faceWinding(b, j), plane.normal);
          if (!shared || windingArea(shared) < LEAST_OVERLAP) return;
          const at: Vec3 = windingCentroid(shared);
          // Hidden in a wall or seen only by the void it cannot flicker.
          const front = addScaled(at, plane.normal, 0.5);
          if ((placeOf?.(front) ?? 'open') !== 'open') return;
          problems.push({
            id: `check.coplanar ${a.id} ${a.faces[i]!.id} ${b.id} ${b.faces[j]!.id}`, rule: 'check.coplanar', severity: 'warning', at, brushes: [a.id, b.id],
            text: 'Two faces with different looks lie in one plane and overlap: only one can be seen. Move one of the brushes, or give both the same look.',
          }); // prettier-ignore
        }),
      );
    }
    return problems;
  },
  fix: {
    label: 'Give the second face the look of the first',
    apply: (doc, problem) => {
      const [, a, fa, b, fb] = problem.id.split(' ') as [string, string, string, string, string];
      const from = doc.brushes.get(a)?.faces.find((f) => f.id === Number(fa));
      if (!from) return doc;
      const to = [{ brush: b, face: Number(fb) }];
      return setFrames(paintFaces(doc, to, from.material), to, () => from.frame);
    },
  },
};
