import { entityKind, farthestMove, movedBox, type Around, type Entity, type Pose } from '../../entity/index.ts';
import { aroundIn, bodiesOf, type MapDocument } from '../../map/index.ts';
import { boxCorners, boxOf, dot, growBox, uniteBoxes, type Box, type Vec3 } from '../../math/index.ts';
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
  for (const { thing, part, brushes, bounds } of bodiesOf(doc)) {
    if (brushes.length === 0) {
      // Its props are drawn by themselves.
      bodyFirst.push(surfaces.length);
      continue;
    }
    const filed = cellsIn(structure, reachOf(doc.entities.get(thing)!, part, bounds, around).map(boxCorners));
    // Alone in the open all that is not covered by its other brushes is seen.
    surfaces.push(...buildStructure(brushes, []).surfaces.map((s): Surface => ({ ...s, cells: filed })));
    bodyFirst.push(surfaces.length);
  }
  return { ...structure, surfaces, bodyFirst };
}

/** The cells inside that a convex body touches by its corners, also wherever a thing that carries it takes it; ascending. */
export function cellsReached(
  structure: Structure,
  doc: MapDocument,
  corners: readonly Vec3[],
  carrier: Entity['carrier'],
): number[] {
  const ways = carrier ? carriedBoxes([boxOf(corners)], carrier, aroundIn(doc)).map(boxCorners) : [];
  return cellsIn(structure, [corners, ...ways]);
}

/** The cells inside that convex bodies touch, ascending. */
function cellsIn({ blocks, cells }: Structure, bodies: readonly (readonly Vec3[])[]): number[] {
  const found = new Set<number>();
  for (const corners of bodies) eachCellTouched(blocks, corners, (cell) => cells[cell]!.inside && found.add(cell));
  return [...found].sort((a, b) => a - b);
}

/** Boxes that hold a part wherever it can be: along its own way, carried along the ways of what it rides on. */
const reachOf = (thing: Entity, part: number, bounds: Box, around: Around): Box[] =>
  carriedBoxes(sweptBoxes(bounds, wayOf(thing, part, around)), thing.carrier, around);

/** Boxes that hold what lies in some boxes wherever a part of a thing carries it, and what carries that. */
function carriedBoxes(from: Box[], carrier: Entity['carrier'], around: Around): Box[] {
  let boxes = from;
  for (let on = carrier; on;) {
    const up = around.thing(on.id);
    if (!up) break;
    const way = wayOf(up, on.part ?? 0, around);
    if (way.length > 0) boxes = sweptBoxes(uniteBoxes(boxes), way);
    on = up.carrier;
  }
  return boxes;
}

const wayOf = (thing: Entity, part: number, around: Around): readonly Pose[] =>
  entityKind(thing.kind)?.behaviour?.way?.(thing, around)[part] ?? [];

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

/** Every cell of the structure that a convex body may touch, by its corners. */
function eachCellTouched(grid: BlockGrid, corners: readonly Vec3[], give: (cell: number) => void): void {
  const { min, max } = boxOf(corners);
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
      let low = Infinity;
      let high = -Infinity;
      for (const corner of corners) {
        const off = dot(normal, corner) - distance;
        low = Math.min(low, off);
        high = Math.max(high, off);
      }
      if (high >= 0) open.push(front);
      if (low <= 0) open.push(back);
    }
  });
}
