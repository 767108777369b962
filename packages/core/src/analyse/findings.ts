import { FAR_RULES, runChecks, SCENERY_RULES, type Finding } from '../checks/index.ts';
import {
  areasOf,
  buildStructure,
  gatesOf,
  placesOf,
  seedsOf,
  type BlockCache,
  type Structure,
} from '../compile/index.ts';
import { sceneryOf, stillBrushes, withoutScenery, type MapDocument } from '../map/index.ts';
import { bodyIn } from '../play/index.ts';
import type { PropLookup } from '../prop/index.ts';
import type { MaterialLookup } from '../surface/index.ts';

/** Whether the inside is closed, open to the void, or there is none. */
export type Sealing = 'sealed' | 'leaking' | 'empty';

export interface Found {
  readonly findings: readonly Finding[];
  /** Without surfaces. */
  readonly structure: Structure;
  readonly sealing: Sealing;
}

/**
 * Everything that is found out about a map without building it: its structure, and what all rules say of it. Blocks that are in
 * the cache and did not change are not done again.
 */
export function findingsOf(
  whole: MapDocument,
  materials: MaterialLookup,
  cache?: BlockCache,
  props?: PropLookup,
): Found {
  const doc = withoutScenery(whole);
  const far = sceneryOf(whole)?.alone;
  const seeds = seedsOf(doc);
  const structure = buildStructure(stillBrushes(doc), seeds, {}, cache, false);
  const enclosed = structure.cells.some((c) => c.inside && !c.outer);
  return {
    structure,
    sealing: structure.leak ? 'leaking' : enclosed && structure.misplaced.length < seeds.length ? 'sealed' : 'empty',
    findings: [
      ...runChecks(doc, {
        leak: structure.leak,
        leaks: structure.leaks,
        gates: structure.leak ? [] : gatesOf(doc, areasOf(structure, doc.brushes.values()), materials),
        placeOf: placesOf(structure),
        body: bodyIn(doc),
        materials,
        props,
      }),
      ...runChecks(whole, {}, SCENERY_RULES),
      ...(far ? runChecks(far, { materials, props }, FAR_RULES) : []),
    ],
  };
}
