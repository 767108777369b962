import { buildStructure, seedsOf, sightOf, stillBrushes, type BlockCache, type Sight } from '@yesca/core';
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

/** What it is asked by. */
export const SIGHT = { name: 'sight' } as const;
