import { createXXHash128 } from 'hash-wasm';
import {
  buildLevelOn,
  hasProps,
  keepThreads,
  writeLedger,
  type KeptResults,
  type KeptThreads,
  type MaterialFacts,
  type PropFacts,
  type PropMesh,
  type Fineness,
  type Stage,
  type Thread,
} from '@yesca/core';
import type { Service } from './mirror.ts';

export interface LightInput {
  readonly preset: Fineness;
  /** What is known of the materials; absent when it is what it was the last time. */
  readonly materials?: ReadonlyMap<string, MaterialFacts>;
  /** What is known of props, the same way. */
  readonly props?: ReadonlyMap<string, PropFacts>;
  /** What props look like of which the build has to know it; absent where that is no matter. */
  readonly meshes?: ReadonlyMap<string, PropMesh>;
}

/** A level and its ledger, as files. */
export interface LightAnswer {
  readonly level: Uint8Array;
  readonly ledger: Uint8Array;
}

/** What the light is asked by. */
export const LIGHT = { name: 'light' } as const;

/** Where the stages of a build begin, as a share of all that is done. */
const BEGINS: Readonly<Record<Stage, number>> = { structure: 0, visibility: 0.08, lighting: 0.1, level: 0.97 };
const ENDS: Readonly<Record<Stage, number>> = { structure: 0.08, visibility: 0.1, lighting: 0.97, level: 1 };

/** As fine as a build that is kept: with the light for props, and not to be found anew for being too coarse. */
export const FINE: ReadonlySet<string> = new Set(['review', 'final']);

/** Results of so many builds back are kept: those of each preset, and of what was undone. */
const GENERATIONS = 4;

/** What earlier builds made, while it is of use. */
class Kept implements KeptResults {
  readonly hash: KeptResults['hash'];
  private readonly found = new Map<string, { result: unknown; used: number }>();
  private now = 0;

  constructor(hash: KeptResults['hash']) {
    this.hash = hash;
  }

  get(name: string): unknown {
    const entry = this.found.get(name);
    if (entry) entry.used = this.now;
    return entry?.result;
  }

  put(name: string, result: unknown): void {
    this.found.set(name, { result, used: this.now });
  }

  /** Another build begins. */
  next(): void {
    this.now++;
    for (const [name, { used }] of this.found) if (used < this.now - GENERATIONS) this.found.delete(name);
  }

  clear(): void {
    this.found.clear();
  }
}

const makeKept = async (): Promise<Kept> => {
  const hasher = await createXXHash128();
  return new Kept((text) => hasher.init().update(text).digest('hex'));
};

/** Lights the map as a build of a preset does, anew only where something changed. */
export function light(open: () => Thread, count: number): Service<LightInput, LightAnswer> {
  let kept: Promise<Kept> | undefined;
  let threads: KeptThreads | undefined;
  let known: ReadonlyMap<string, MaterialFacts> = new Map();
  let models: ReadonlyMap<string, PropFacts> = new Map();
  return {
    name: LIGHT.name,
    reset: () => void kept?.then((k) => k.clear()),
    answer: async (doc, { preset, materials, props, meshes }, { signal, progress }) => {
      known = materials ?? known;
      models = props ?? models;
      const store = await (kept ??= makeKept());
      threads ??= keepThreads(open);
      store.next();
      const { bytes, ledger } = await buildLevelOn(
        { open: threads.open, count },
        doc,
        preset,
        {
          signal,
          kept: store,
          progress: (stage, done) => progress(BEGINS[stage] + (ENDS[stage] - BEGINS[stage]) * done),
        },
        {
          materials: (name) => known.get(name),
          props: (name) => models.get(name),
          ...(meshes && { meshes: (name: string) => meshes.get(name) }),
          ledger: true,
          // Props are seen by it, when there is time to find it.
          ...(FINE.has(preset) && hasProps(doc) ? {} : { probes: false as const }),
        },
      );
      return { level: bytes, ledger: writeLedger(ledger!) };
    },
  };
}
