import type { Brush } from '../../brush/index.ts';
import { flipPlane, planeFromLoop } from '../../math/index.ts';
import { DIVIDING_ROLES, dividingShape } from './block.ts';
import { hintedBy, joinConvex, joinLinks } from './cells.ts';
import { PlaneTable } from './planes.ts';
import type { PolyFace, Polyhedron } from './polyhedron.ts';
import type { BlockGrid, Cell, Portal } from './types.ts';

/** Cells across the whole world, without the borders of blocks. */
export interface JoinedCells {
  /** The blocks, their cells numbered anew. */
  readonly grid: BlockGrid;
  readonly cells: readonly Pick<Cell, 'bounds' | 'sides'>[];
  readonly portals: readonly Portal[];
}

/**
 * Joins the inside's cells across the borders of blocks, where these divide what is convex: a border that nobody drew must cost
 * neither cells nor portals. Cells that are not in `inside` stay as they are. Hints divide here as in a block.
 */
export function joinBlocks(
  grid: BlockGrid,
  portals: readonly Portal[],
  inside: ReadonlySet<number>,
  brushes: readonly Brush[],
): JoinedCells {
  const table = new PlaneTable();
  const shapes = grid.blocks.flatMap((b) => b.cells.map((cell) => ({ cell, planes: b.planes })));
  const pieces = shapes.map(({ cell, planes }, i): Polyhedron | null =>
    inside.has(i)
      ? {
          bounds: cell.bounds,
          faces: cell.faces.map((f): PolyFace => {
            const plane =
              f.plane < 0 ? planeFromLoop(f.winding) : f.along ? planes[f.plane]! : flipPlane(planes[f.plane]!);
            if (!plane) return f;
            const { index, along } = table.indexOf(plane);
            return { ...f, plane: index, along };
          }),
        }
      : null,
  );
  const links = portals
    .filter((p) => inside.has(p.a) && inside.has(p.b))
    .map((p) => {
      const { index, along } = table.indexOf(p.plane);
      const plane = table.planes[index]!;
      return along ? { ...p, plane } : { a: p.b, b: p.a, plane, winding: p.winding.toReversed() };
    });
  const hints = brushes
    .filter((b) => DIVIDING_ROLES.has(b.role))
    .flatMap((b) => dividingShape(b, (plane) => table.indexOf(plane)).faces.filter((f) => f.open));
  const { shapes: joined, numbers } = joinConvex(pieces, table.planes, links, hintedBy(table.planes, hints));
  const cells: Pick<Cell, 'bounds' | 'sides'>[] = joined.map(({ bounds, faces }) => ({
    bounds,
    sides: faces.map((f) => f.winding),
  }));
  const cellOf = numbers.map((number, i) =>
    number >= 0 ? number : cells.push({ bounds: shapes[i]!.cell.bounds, sides: [] }) - 1,
  );
  return { grid: { ...grid, cellOf }, cells, portals: joinLinks(portals, cellOf) };
}
