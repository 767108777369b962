import { entityKind, farthestMove, movedBox, type Around, type Entity, type Pose } from '../../entity/index.ts';
import { aroundIn, bodiesOf, type MapDocument } from '../../map/index.ts';
import { brushBounds } from '../../brush/index.ts';
import { growBox, uniteBoxes, type Box } from '../../math/index.ts';
import { buildStructure } from './structure.ts';
import type { BlockGrid, Structure, Surface } from './types.ts';

/**
 * The structure with the surfaces of what moves: each body's faces as far as its own brushes leave them open, where they were drawn,
 * filed in every cell that the body can touch on its way.
 */
export function withBodies(structure: Structure, doc: MapDocument): Structure {
  const around = aroundIn(doc);
  const surfaces = [...structure.surfaces];
  const bodyFirst = [surfaces.length];
  for (const { thing, part, brushes } of bodiesOf(doc)) {
    const bounds = uniteBoxes(brushes.map(brushBounds));
    const cells = new Set<number>();
    for (const box of reachOf(doc.entities.get(thing)!, part, bounds, around))
      eachCellIn(structure.blocks, box, (cell) => structure.cells[cell]!.inside && cells.add(cell));
    const filed = [...cells].sort((a, b) => a - b);
    // Alone in the open all that is not covered by its other brushes is seen.
    surfaces.push(...buildStructure(brushes, []).surfaces.map((s): Surface => ({ ...s, cells: filed })));
    bodyFirst.push(surfaces.length);
  }
  return { ...structure, surfaces, bodyFirst };
}

/** Boxes that hold a part wherever it can be: along its own way, carried along the ways of what it rides on. */
function reachOf(thing: Entity, part: number, bounds: Box, around: Around): Box[] {
  let boxes = sweptBoxes(bounds, wayOf(thing, part, around));
  for (let up = carrierOf(thing, around); up; up = carrierOf(up, around)) {
    const way = wayOf(up, 0, around);
    if (way.length > 0) boxes = sweptBoxes(uniteBoxes(boxes), way);
  }
  return boxes;
}

const wayOf = (thing: Entity, part: number, around: Around): readonly Pose[] =>
  entityKind(thing.kind)?.behaviour?.way?.(thing, around)[part] ?? [];

const carrierOf = (thing: Entity, around: Around): Entity | undefined =>
  thing.carrier && around.thing(thing.carrier.id);

/** Boxes that hold a box all along a way. */
function sweptBoxes(bounds: Box, way: readonly Pose[]): Box[] {
  const out: Box[] = [bounds];
  way.forEach((pose, i) => {
    const before = way[i - 1];
    // Between two places it is in neither's box; it gets no farther from them than half of what lies between.
    const far = before ? farthestMove(bounds, before, pose) : 0;
    const here = movedBox(pose, bounds);
    out.push(growBox(before ? uniteBoxes([here, movedBox(before, bounds)]) : here, far / 2));
  });
  return out;
}

/** Every cell of the structure that a box may touch. */
export function eachCellIn(grid: BlockGrid, { min, max }: Box, give: (cell: number) => void): void {
  grid.blocks.forEach((block, b) => {
    const { box } = block;
    if ([0, 1, 2].some((a) => min[a]! > box.max[a]! || max[a]! < box.min[a]!)) return;
    const open = [block.root];
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      if (at < 0) {
        const cell = block.leafCell[-1 - at]!;
        if (cell >= 0) give(grid.cellOf[grid.firstCell[b]! + cell]!);
        continue;
      }
      const { plane, front, back } = block.nodes[at]!;
      const { normal, distance } = block.planes[plane]!;
      let low = -distance;
      let high = -distance;
      for (let a = 0; a < 3; a++) {
        low += Math.min(normal[a]! * min[a]!, normal[a]! * max[a]!);
        high += Math.max(normal[a]! * min[a]!, normal[a]! * max[a]!);
      }
      if (high >= 0) open.push(front);
      if (low <= 0) open.push(back);
    }
  });
}
