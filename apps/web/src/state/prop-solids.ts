import {
  brushBounds,
  shownPropBrushes,
  uniteBoxes,
  type Box,
  type Brush,
  type Entity,
  type MapDocument,
} from '@yesca/core';
import { useLibrary } from './library.ts';

/** The solids of a prop, as brushes that are in no document. */
export interface PropSolids {
  readonly thing: string;
  readonly brushes: readonly Brush[];
  readonly bounds: Box;
}

type Library = ReturnType<typeof useLibrary.getState>['props'];

const ofThing = new WeakMap<Entity, { readonly library: Library; readonly solids: PropSolids | null }>();
const ofAll = new WeakMap<
  MapDocument['entities'],
  { readonly library: Library; readonly all: readonly PropSolids[] }
>();
const together = new WeakMap<
  MapDocument['brushes'],
  { readonly props: readonly PropSolids[]; readonly all: MapDocument['brushes'] }
>();

/** The solids of a thing as it is pointed at; null for what is no prop. */
export function propSolids(thing: Entity): PropSolids | null {
  const library = useLibrary.getState().props;
  const known = ofThing.get(thing);
  if (known?.library === library) return known.solids;
  const brushes = shownPropBrushes(thing, (name) => library.get(name));
  const solids = brushes.length > 0 ? { thing: thing.id, brushes, bounds: uniteBoxes(brushes.map(brushBounds)) } : null;
  ofThing.set(thing, { library, solids });
  return solids;
}

/** The solids of a document's props, the same list for the same things. */
export function propSolidsIn({ entities }: Pick<MapDocument, 'entities'>): readonly PropSolids[] {
  const library = useLibrary.getState().props;
  const known = ofAll.get(entities);
  if (known?.library === library) return known.all;
  const all = [...entities.values()].flatMap((e) => propSolids(e) ?? []);
  ofAll.set(entities, { library, all });
  return all;
}

/** All brushes of a document, and the solids of its props. */
export function withPropSolids(doc: MapDocument): MapDocument['brushes'] {
  const props = propSolidsIn(doc);
  if (props.length === 0) return doc.brushes;
  const known = together.get(doc.brushes);
  if (known?.props === props) return known.all;
  const all = new Map(doc.brushes);
  for (const { brushes } of props) for (const brush of brushes) all.set(brush.id, brush);
  together.set(doc.brushes, { props, all });
  return all;
}

/** The solids of some things of a document, as far as they are props. */
export const propsOf = ({ entities }: Pick<MapDocument, 'entities'>, things: ReadonlySet<string>): PropSolids[] =>
  [...things].flatMap((id) => {
    const thing = entities.get(id);
    return (thing && propSolids(thing)) ?? [];
  });
