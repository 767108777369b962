import {
  findingsOf,
  type BlockCache,
  type Finding,
  type Leak,
  type MaterialFacts,
  type PropFacts,
  type Sealing,
} from '@yesca/core';
import type { Service } from './mirror.ts';

export interface CheckAnswer {
  readonly state: Sealing;
  readonly leak: Leak | null;
  readonly findings: readonly Finding[];
}

/** What is known of the materials; absent when it is what it was the last time. */
export interface CheckInput {
  readonly materials?: ReadonlyMap<string, MaterialFacts>;
  /** The same of props. */
  readonly props?: ReadonlyMap<string, PropFacts>;
}

/** The live check: follows the changes of the map, and redoes only the blocks they touch. */
export function checks(): Service<CheckInput, CheckAnswer> {
  const cache: BlockCache = new Map();
  let known: ReadonlyMap<string, MaterialFacts> = new Map();
  let models: ReadonlyMap<string, PropFacts> = new Map();
  return {
    name: CHECKS.name,
    reset: () => cache.clear(),
    answer: (doc, { materials, props }) => {
      known = materials ?? known;
      models = props ?? models;
      const { sealing, structure, findings } = findingsOf(
        doc,
        (name) => known.get(name),
        cache,
        // Before the server told of them nothing is said.
        models.size > 0 ? (name) => models.get(name) : undefined,
      );
      return { state: sealing, leak: structure.leak, findings };
    },
  };
}

/** What the check is asked by. */
export const CHECKS = { name: 'checks' } as const;
