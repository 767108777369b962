import { findingsOf, type BlockCache, type Finding, type Leak, type MaterialFacts, type Sealing } from '@yesca/core';
import type { Service } from './mirror.ts';

export interface CheckAnswer {
  readonly state: Sealing;
  readonly leak: Leak | null;
  readonly findings: readonly Finding[];
}

/** What is known of the materials; absent when it is what it was the last time. */
export interface CheckInput {
  readonly materials?: ReadonlyMap<string, MaterialFacts>;
}

/** The live check: follows the changes of the map, and redoes only the blocks they touch. */
export function checks(): Service<CheckInput, CheckAnswer> {
  const cache: BlockCache = new Map();
  let known: ReadonlyMap<string, MaterialFacts> = new Map();
  return {
    name: CHECKS.name,
    reset: () => cache.clear(),
    answer: (doc, { materials }) => {
      known = materials ?? known;
      const { sealing, structure, findings } = findingsOf(doc, (name) => known.get(name), cache);
      return { state: sealing, leak: structure.leak, findings };
    },
  };
}

/** What the check is asked by. */
export const CHECKS = { name: 'checks' } as const;
