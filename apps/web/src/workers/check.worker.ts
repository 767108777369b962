import * as Comlink from 'comlink';
import {
  applyChange,
  findingsOf,
  type BlockCache,
  type Change,
  type Finding,
  type Leak,
  type MapDocument,
  type MaterialFacts,
  type Sealing,
} from '@yesca/core';

export interface CheckAnswer {
  readonly state: Sealing;
  readonly leak: Leak | null;
  readonly findings: readonly Finding[];
}

let doc: MapDocument | null = null;
let materials: ReadonlyMap<string, MaterialFacts> = new Map();
const cache: BlockCache = new Map();

/** The live check: keeps its own copy of the map, follows its changes, and redoes only the blocks they touch. */
const checker = {
  reset(fresh: MapDocument): void {
    doc = fresh;
    cache.clear();
  },
  know(all: ReadonlyMap<string, MaterialFacts>): void {
    materials = all;
  },
  follow(change: Change): void {
    if (doc) doc = applyChange(doc, change, 'after');
  },
  run(): CheckAnswer | null {
    if (!doc) return null;
    const { sealing, structure, findings } = findingsOf(doc, (name) => materials.get(name), cache);
    return { state: sealing, leak: structure.leak, findings };
  },
};

export type Checker = typeof checker;
Comlink.expose(checker);
