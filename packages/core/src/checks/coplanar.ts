import { brushPlanes, faceWinding, type Brush } from '../brush/index.ts';
import { paintFaces, setFrames } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import { addScaled, intersectWindings, samePlane, windingArea, windingCentroid, type Vec3 } from '../math/index.ts';
import { nearPairs } from './pairs.ts';
import type { CheckContext, Finding, Rule } from './types.ts';

/** Overlaps smaller than this (cm²) are rounding. */
const LEAST_OVERLAP = 1;

const sameLook = (a: Brush, i: number, b: Brush, j: number): boolean =>
  a.faces[i]!.material === b.faces[j]!.material &&
  [...a.faces[i]!.frame.u, ...a.faces[i]!.frame.v].every(
    (n, k) => Math.abs(n - [...b.faces[j]!.frame.u, ...b.faces[j]!.frame.v][k]!) < 1e-6,
  );

export const coplanarFaces: Rule = {
  code: 'check.coplanar',
  about: 'brushes',
  least: 2,
  find: (doc: MapDocument, { placeOf, leak }: CheckContext) => {
    const problems: Finding[] = [];
    // Seen from the void all outsides lie open: what overlaps there is no matter once the hole is closed.
    if (leak) return problems;
    const drawn = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
    for (const [a, b] of nearPairs(drawn, 0.01)) {
      const [pa, pb] = [brushPlanes(a), brushPlanes(b)];
      pa.forEach((plane, i) =>
        pb.forEach((other, j) => {
          if (!samePlane(plane, other) || sameLook(a, i, b, j)) return;
          // What is never drawn cannot flicker.
          if (a.faces[i]!.show === 'unseen' || b.faces[j]!.show === 'unseen') return;
          const shared = intersectWindings(faceWinding(a, i), faceWinding(b, j), plane.normal);
          if (!shared || windingArea(shared) < LEAST_OVERLAP) return;
          const at: Vec3 = windingCentroid(shared);
          // Hidden in a wall or seen only by the void it cannot flicker.
          const front = addScaled(at, plane.normal, 0.5);
          if ((placeOf?.(front) ?? 'open') !== 'open') return;
          problems.push({
            id: `check.coplanar ${a.id} ${a.faces[i]!.id} ${b.id} ${b.faces[j]!.id}`,
            code: 'check.coplanar',
            severity: 'warning',
            at,
            brushes: [a.id, b.id],
            text: 'Two faces with different looks lie in one plane and overlap: only one can be seen. Move one of the brushes, or give both the same look.',
          });
        }),
      );
    }
    return problems;
  },
  fixes: [
    {
      label: 'Give the second face the look of the first',
      apply: (doc, problem) => {
        const [, a, fa, b, fb] = problem.id.split(' ') as [string, string, string, string, string];
        const from = doc.brushes.get(a)?.faces.find((f) => f.id === Number(fa));
        if (!from) return doc;
        const to = [{ brush: b, face: Number(fb) }];
        return setFrames(paintFaces(doc, to, from.material), to, () => from.frame);
      },
    },
  ],
};
