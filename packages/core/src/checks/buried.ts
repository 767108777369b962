import { brushBounds, brushPlanes, type Brush } from '../brush/index.ts';
import { removePicked } from '../edit/index.ts';
import { boxCenter, ON_PLANE, signedDistance } from '../math/index.ts';
import { nearPairs } from './pairs.ts';
import type { Finding, Rule } from './types.ts';

const within = (a: Brush, b: Brush): boolean =>
  brushPlanes(b).every((plane) => a.vertices.every((v) => signedDistance(plane, v) <= ON_PLANE));

/** Which of two brushes lies wholly in the other and does nothing there; null for neither. Structure in detail still seals. */
function buriedOf(a: Brush, b: Brush): [inner: Brush, outer: Brush] | null {
  if (within(a, b) && !(a.role === 'structure' && b.role === 'detail'))
    return within(b, a) && a.id < b.id ? [b, a] : [a, b];
  return within(b, a) && !(b.role === 'structure' && a.role === 'detail') ? [b, a] : null;
}

export const buriedBrush: Rule = {
  code: 'check.buried',
  about: 'brushes',
  find: (doc) => {
    const solid = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
    const found = new Map<string, Finding>();
    for (const [a, b] of nearPairs(solid, 0.01)) {
      // What a room made is its own business.
      if (a.room && !a.room.released && b.room && !b.room.released) continue;
      const [inner, outer] = buriedOf(a, b) ?? [];
      if (!inner || !outer || found.has(inner.id) || (inner.room && !inner.room.released)) continue;
      found.set(inner.id, {
        id: `check.buried ${inner.id}`,
        code: 'check.buried',
        severity: 'warning',
        text: 'A brush lies wholly inside another one: nobody can see or touch it.',
        at: boxCenter(brushBounds(inner)),
        brushes: [inner.id, outer.id],
      });
    }
    return [...found.values()];
  },
  fixes: [
    {
      label: 'Remove the inner brush',
      apply: (doc, problem) => removePicked(doc, { brushes: new Set(problem.brushes!.slice(0, 1)) }),
    },
  ],
};
