import { collisionOf, type Collision, type MapDocument } from '@yesca/core';

let known: { brushes: MapDocument['brushes']; world: Collision } | null = null;

/** The solids of a map as play meets them, kept while the brushes stay the same. */
export function solidsOf(doc: MapDocument): Collision {
  if (known?.brushes !== doc.brushes) known = { brushes: doc.brushes, world: collisionOf(doc) };
  return known.world;
}
