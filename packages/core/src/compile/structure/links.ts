import { ON_PLANE, type Plane, type Winding } from '../../math/index.ts';
import { matchSides, sideFace } from './cells.ts';
import type { BlockGrid, Portal } from './types.ts';

/** All portals of the world: those inside blocks and those across their sides; and the cells that touch the world's border. */
export function linkBlocks(grid: BlockGrid): { portals: Portal[]; outer: Set<number> } {
  const portals: Portal[] = [];
  const outer = new Set<number>();
  const [nx, ny, nz] = grid.counts;
  const strides = [1, nx, nx * ny];
  grid.blocks.forEach((block, b) => {
    const first = grid.firstCell[b]!;
    for (const link of block.links)
      portals.push({ a: first + link.a, b: first + link.b, winding: link.winding, plane: link.plane });
    const at = [b % nx, Math.floor(b / nx) % ny, Math.floor(b / (nx * ny))];
    for (let axis = 0; axis < 3; axis++) {
      if (at[axis] === 0) for (const { cell } of facesOn(grid, b, axis, 'min')) outer.add(first + cell);
      const mine = facesOn(grid, b, axis, 'max');
      if (at[axis]! + 1 === [nx, ny, nz][axis]) {
        for (const { cell } of mine) outer.add(first + cell);
        continue;
      }
      const next = b + strides[axis]!;
      const normal = [0, 1, 2].map((i) => (i === axis ? 1 : 0)) as unknown as Plane['normal'];
      const plane: Plane = { normal, distance: block.box.max[axis]! };
      const theirs = facesOn(grid, next, axis, 'min');
      // Numbered apart so that a cell of one block never counts as a cell of the other.
      const out = mine.map(({ cell, winding }) => sideFace(first + cell, winding));
      const inn = theirs.map(({ cell, winding }) => sideFace(grid.firstCell[next]! + cell, winding));
      matchSides(out, inn, plane, (link) => portals.push(link));
    }
  });
  return { portals, outer };
}

/** The faces of a block's cells that lie in one of its sides. */
function facesOn(grid: BlockGrid, b: number, axis: number, end: 'min' | 'max'): { cell: number; winding: Winding }[] {
  const block = grid.blocks[b]!;
  const at = block.box[end][axis]!;
  return block.cells.flatMap((cell, c) =>
    cell.faces
      .filter((f) => f.plane < 0 && f.winding.every((p) => Math.abs(p[axis]! - at) <= ON_PLANE))
      .map((f) => ({ cell: c, winding: f.winding })),
  );
}
