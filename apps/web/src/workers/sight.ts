import {
  buildStructure,
  seedsOf,
  sightOf,
  stillBrushes,
  suggestSight,
  type BlockCache,
  type MaterialFacts,
  type Sight,
  type Suggestion,
} from '@yesca/core';
import type { Service } from './mirror.ts';

/** What is seen from where in the map that is worked on; null where it leaks or holds nothing. */
export function sight(): Service<null, Sight | null> {
  const cache: BlockCache = new Map();
  return {
    name: SIGHT.name,
    reset: () => cache.clear(),
    answer: (doc, _, { signal, progress }) => {
      const structure = buildStructure(stillBrushes(doc), seedsOf(doc), { signal }, cache);
      return sightOf(doc, structure, { signal, progress });
    },
  };
}

/** What would make the map cheaper; null where it leaks or holds nothing. */
export const suggestions = (): Service<ReadonlyMap<string, MaterialFacts>, Suggestion[] | null> => ({
  name: SUGGESTIONS.name,
  answer: (doc, materials, control) => suggestSight(doc, (name) => materials.get(name), control),
});

/** What they are asked by. */
export const SIGHT = { name: 'sight' } as const;
export const SUGGESTIONS = { name: 'suggestions' } as const;
