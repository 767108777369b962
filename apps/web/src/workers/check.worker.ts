import * as Comlink from 'comlink';
import {
  applyChange,
  bodyIn,
  buildStructure,
  placesOf,
  runChecks,
  seedsOf,
  type BlockCache,
  type Change,
  type Leak,
  type MaterialFacts,
  type MapDocument,
  type Problem,
} from '@yesca/core';

export interface CheckAnswer {
  readonly state: 'sealed' | 'leaking' | 'empty';
  readonly leak: Leak | null;
  readonly problems: readonly Problem[];
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
    const structure = buildStructure(doc.brushes.values(), seedsOf(doc), {}, cache);
    const enclosed = structure.cells.some((c) => c.inside && !c.outer);
    const state = structure.leak
      ? 'leaking'
      : enclosed && structure.misplaced.length < seedsOf(doc).length
        ? 'sealed'
        : 'empty';
    return {
      state,
      leak: structure.leak,
      problems: runChecks(doc, {
        placeOf: placesOf(structure),
        body: bodyIn(doc),
        materials: (name) => materials.get(name),
      }),
    };
  },
};

export type Checker = typeof checker;
Comlink.expose(checker);
