import { brushBounds, type Brush } from '../brush/index.ts';
import { EditError, stretchPicked } from '../edit/index.ts';
import { entityNameWithin } from '../entity/index.ts';
import { newId, type MapDocument } from '../map/index.ts';
import { boxOf, boxSize, type Box, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { PLUG, plugFor } from './plug.ts';
import { SENTENCES } from './sentences.ts';
import type { Finding, Leak, Rule } from './types.ts';

/** The hole a map leaks through and the brushes beside it. */
export type LeakPlace = Pick<Leak, 'hole' | 'beside'> & Partial<Pick<Leak, 'trail'>>;

/** A structure brush in the hole, of the material that the brushes beside it show. */
export function fillHole(doc: MapDocument, { hole, beside, trail }: LeakPlace): MapDocument {
  const plug = plugFor(doc, hole, trail?.at(-2) ?? trail?.[0]);
  if (!plug) throw new EditError('leak.noHole', 'The hole has no outline. Go there and close it by hand.');
  const like = beside.map((id) => doc.brushes.get(id)).find((b) => b?.role === 'structure');
  const id = newId();
  return {
    ...doc,
    brushes: new Map(doc.brushes).set(id, dressSolid(plug, id, like?.faces[0]?.material ?? 'limewash')),
  };
}

/** Whether a box covers another along two axes and falls short of it along the third: then it can be drawn out over it. */
function shortAlong(box: Box, hole: Box): { axis: 0 | 1 | 2; to: Box } | null {
  const covers = (i: number) => box.min[i]! <= hole.min[i]! + 0.1 && box.max[i]! >= hole.max[i]! - 0.1;
  const flat = boxSize(hole).map((s) => s < 1);
  for (const axis of [0, 1, 2] as const) {
    if (covers(axis)) continue;
    const rest = [0, 1, 2].filter((i) => i !== axis);
    // Across the hole's own thickness it is enough that the brush stands in its plane.
    if (
      !rest.every(
        (i) => covers(i) || (flat[i] && box.min[i]! <= hole.max[i]! + PLUG && box.max[i]! >= hole.min[i]! - PLUG),
      )
    )
      continue;
    const min = box.min.map((c, i) => (i === axis ? Math.min(c, hole.min[axis]) : c)) as unknown as Vec3;
    const max = box.max.map((c, i) => (i === axis ? Math.max(c, hole.max[axis]) : c)) as unknown as Vec3;
    return { axis, to: { min, max } };
  }
  return null;
}

/** A brush beside the hole drawn out over it, the one that has to grow least. */
export function extendToClose(doc: MapDocument, { hole, beside }: LeakPlace): MapDocument {
  const gap = boxOf(hole);
  const grown = (b: Brush, to: Box) => boxSize(to).reduce((s, c, i) => s + c - boxSize(brushBounds(b))[i]!, 0);
  const ways = beside
    .flatMap((id) => doc.brushes.get(id) ?? [])
    .filter((b) => b.role === 'structure')
    .flatMap((b) => {
      const way = shortAlong(brushBounds(b), gap);
      return way ? [{ brush: b, to: way.to, by: grown(b, way.to) }] : [];
    })
    .sort((a, b) => a.by - b.by);
  const best = ways[0];
  if (!best)
    throw new EditError('leak.noNeighbour', 'No brush beside the hole covers it when drawn out. Fill it with a brush.');
  return stretchPicked(doc, new Set([best.brush.id]), best.to).doc;
}

const leakPlace = ({ hole = [], brushes = [], trail = [] }: Finding): LeakPlace => ({ hole, beside: brushes, trail });

export const leaking: Rule = {
  code: 'check.leak',
  about: 'hole',
  find: (doc, { leak, leaks = leak ? [leak] : [] }) =>
    leaks.map(({ entity, trail, hole, beside }, k): Finding => ({
      id: k === 0 ? 'check.leak' : `check.leak ${k + 1}`,
      code: 'check.leak',
      severity: 'error',
      text: k === 0 ? SENTENCES.leak(entityNameWithin(doc.entities.get(entity))) : SENTENCES.anotherLeak(k + 1),
      at: trail.at(-2) ?? trail[0],
      brushes: beside,
      entities: [entity],
      trail,
      hole,
    })),
  fixes: [
    { label: 'Fill with a brush', apply: (doc, finding) => fillHole(doc, leakPlace(finding)) },
    {
      label: 'Extend the neighbour to close',
      offered: (_, { hole = [] }) => hole.length >= 3,
      apply: (doc, finding) => extendToClose(doc, leakPlace(finding)),
    },
  ],
};
