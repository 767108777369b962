import {
  addBrushes,
  buildStructure,
  drawnOnAverage,
  seedsOf,
  sightOf,
  stillBrushes,
  suggestSight,
  withoutScenery,
  type BlockCache,
  type Brush,
  type MapDocument,
  type MaterialFacts,
  type PropFacts,
  type Sight,
  type SightLookups,
  type Suggestion,
} from '@yesca/core';
import type { Service } from './mirror.ts';

/** What is known of what maps name. */
export interface SightKnowledge {
  readonly materials: ReadonlyMap<string, MaterialFacts>;
  readonly props: ReadonlyMap<string, PropFacts>;
}

const lookupsIn = ({ materials, props }: SightKnowledge): SightLookups => ({
  materials: (name) => materials.get(name),
  props: (name) => props.get(name),
});

/** What is seen from where in the map that is worked on; null where it leaks or holds nothing. */
export function sight(): Service<SightKnowledge, Sight | null> {
  const cache: BlockCache = new Map();
  return {
    name: SIGHT.name,
    reset: () => cache.clear(),
    answer: (doc, known, { signal, progress }) => {
      const rest = withoutScenery(doc);
      const structure = buildStructure(stillBrushes(rest), seedsOf(rest), { signal }, cache);
      return sightOf(rest, structure, lookupsIn(known), { signal, progress });
    },
  };
}

/** What would make the map cheaper; null where it leaks or holds nothing. */
export const suggestions = (): Service<SightKnowledge, Suggestion[] | null> => ({
  name: SUGGESTIONS.name,
  answer: (doc, known, control) => suggestSight(doc, lookupsIn(known), control),
});

/** A hint that is being drawn. */
export interface HintQuestion {
  readonly hint: Brush;
  readonly known: SightKnowledge;
}

/** Triangles drawn on average without a hint and with it. */
export interface HintSaving {
  readonly before: number;
  readonly after: number;
}

/** What a hint would save; null where the map leaks or holds nothing. */
export function hintSaving(): Service<HintQuestion, HintSaving | null> {
  const cache: BlockCache = new Map();
  let known: { readonly doc: MapDocument; readonly before: number | null } | null = null;
  return {
    name: HINT_SAVING.name,
    reset: () => cache.clear(),
    answer: (doc, { hint, known: lookups }, control) => {
      const drawn = (of: MapDocument) => drawnOnAverage(of, lookupsIn(lookups), cache, control);
      if (known?.doc !== doc) known = { doc, before: drawn(doc) };
      if (known.before === null) return null;
      const after = drawn(addBrushes(doc, [hint]));
      return after === null ? null : { before: known.before, after };
    },
  };
}

/** What they are asked by. */
export const SIGHT = { name: 'sight' } as const;
export const SUGGESTIONS = { name: 'suggestions' } as const;
export const HINT_SAVING = { name: 'hint saving' } as const;
