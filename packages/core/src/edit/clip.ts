import { assertValid, type Brush } from '../brush/index.ts';
import { modelOf } from '../entity/index.ts';
import { newId, propBrushesOf, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { boundOf, type PropLookup } from '../prop/index.ts';
import { dressSolid } from '../surface/index.ts';
import { addBrushes } from './brushes.ts';
import { EditError } from './errors.ts';
import { guarded } from './guard.ts';

/** What a prop fills, also one that stops nobody. */
const filled =
  (lookup: PropLookup): PropLookup =>
  (name) => {
    const facts = lookup(name);
    return facts?.collision === 'none' ? { ...facts, collision: 'hulls' } : facts;
  };

/**
 * Wraps brushes and props, one or a row of them, in one convex clip brush of few faces: players run past it and catch on nothing. What
 * they collide as themselves stays as it is. Throws {@link EditError} where nothing of the selection is solid.
 */
export function wrapInClip(
  doc: MapDocument,
  picked: { readonly brushes?: readonly string[]; readonly things?: readonly string[] },
  lookup: PropLookup,
): { doc: MapDocument; made: { brushes: string[] } } {
  const brushes = (picked.brushes ?? []).flatMap((id) => doc.brushes.get(id) ?? []);
  const props = (picked.things ?? []).flatMap((id): readonly Brush[] => {
    const thing = doc.entities.get(id);
    return thing && modelOf(thing)
      ? propBrushesOf({ ...thing, params: { ...thing.params, collides: 'own' } }, filled(lookup))
      : [];
  });
  const corners: Vec3[] = [...brushes, ...props].flatMap((b) => b.vertices);
  if (corners.length === 0)
    throw new EditError('clip.nothing', 'Select the props or brushes that players are to run past.');
  const solid = guarded(() => {
    const made = boundOf(corners);
    assertValid(made);
    return made;
  });
  const id = newId();
  const layer = brushes[0]?.layer;
  const clip = dressSolid(solid, id, 'clear', { role: 'clip', ...(layer ? { layer } : {}) });
  return { doc: addBrushes(doc, [clip]), made: { brushes: [id] } };
}
