import { propBrushes, type Brush, type MapDocument, type PropLookup } from '@yesca/core';
import { propFacts, useLibrary } from './library.ts';

const made = new WeakMap<MapDocument['entities'], { readonly library: unknown; readonly brushes: readonly Brush[] }>();
const together = new WeakMap<
  MapDocument['brushes'],
  { readonly props: readonly Brush[]; readonly all: MapDocument['brushes'] }
>();

/** The solids of a document's props, as brushes that are in no document. */
export function propSolidsOf({ entities }: Pick<MapDocument, 'entities'>): readonly Brush[] {
  const library = useLibrary.getState().props;
  const known = made.get(entities);
  if (known?.library === library) return known.brushes;
  const all: PropLookup = propFacts;
  // What collides with nothing can be pointed at all the same.
  const brushes = propBrushes({ entities }, (name) => {
    const facts = all(name);
    return facts?.collision === 'none' ? { ...facts, collision: 'box' } : facts;
  });
  made.set(entities, { library, brushes });
  return brushes;
}

/** All brushes of a document, and the solids of its props. */
export function withPropSolids(doc: MapDocument): MapDocument['brushes'] {
  const props = propSolidsOf(doc);
  if (props.length === 0) return doc.brushes;
  const known = together.get(doc.brushes);
  if (known?.props === props) return known.all;
  const all = new Map(doc.brushes);
  for (const brush of props) all.set(brush.id, brush);
  together.set(doc.brushes, { props, all });
  return all;
}
