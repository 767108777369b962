import { modelOf, propPose } from '../../entity/index.ts';
import { factsOfProp, propSize, type MapDocument } from '../../map/index.ts';
import { applyAffine, boxCorners } from '../../math/index.ts';
import type { PropLookup } from '../../prop/index.ts';
import { cellsReached, type Structure } from '../structure/index.ts';
import type { Drawn } from './seen.ts';
import type { KeptCells } from './space.ts';

/** From which cells the props of a level are seen; which they are say `meta.props`. */
export interface LevelProps {
  readonly propCellFirst: Uint32Array;
  readonly propCell: Uint32Array;
}

/** A prop of a map, with the cells of a structure that it stands in. */
export interface FiledProp extends Drawn {
  readonly thing: string;
}

/**
 * The props of a map, each filed in every cell inside that its box touches as it stands, wherever what it rides on can take it: the place of
 * its pivot does not count. Of what nobody knows the box that it had when it was placed is taken, and no triangles.
 */
export function fileProps(doc: MapDocument, structure: Structure, lookup: PropLookup): FiledProp[] {
  return [...doc.entities.values()]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .flatMap((thing) => {
      const model = modelOf(thing);
      if (!model) return [];
      const facts = factsOfProp(model, lookup);
      const pose = propPose(model, thing.at, thing.turn);
      const corners = boxCorners(facts?.bounds ?? propSize(thing)).map((p) => applyAffine(pose, p));
      const cells = cellsReached(structure, doc, corners, thing.carrier);
      return [{ thing: thing.id, triangles: facts?.triangles ?? 0, cells }];
    });
}

export function packProps(filed: readonly FiledProp[], { number }: KeptCells): LevelProps {
  const first = [0];
  const cells: number[] = [];
  for (const prop of filed) {
    for (const cell of prop.cells) cells.push(number[cell]!);
    first.push(cells.length);
  }
  return { propCellFirst: Uint32Array.from(first), propCell: Uint32Array.from(cells) };
}
