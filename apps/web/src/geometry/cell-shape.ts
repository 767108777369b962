import { clipBehind, planeSquare, type Plane, type Sight, type Winding } from '@yesca/core';

type Cells = Pick<Sight, 'cellPlane' | 'cellPlaneFirst'>;

/** The sides of a cell, as planes that look outward. */
function sidesOf({ cellPlane, cellPlaneFirst }: Cells, cell: number): Plane[] {
  return Array.from({ length: cellPlaneFirst[cell + 1]! - cellPlaneFirst[cell]! }, (_, i): Plane => {
    const k = (cellPlaneFirst[cell]! + i) * 4;
    return { normal: [cellPlane[k]!, cellPlane[k + 1]!, cellPlane[k + 2]!], distance: cellPlane[k + 3]! };
  });
}

/** Half the edge of the square that is cut down, cm: larger than any map. */
const LARGE = 200_000;

/** Where a plane goes through a cell; null where it does not. */
export function cellSection(cells: Cells, cell: number, plane: Plane): Winding | null {
  let out: Winding | null = planeSquare(plane, LARGE);
  for (const side of sidesOf(cells, cell)) out = out && clipBehind(out, side);
  return out;
}

/** The faces of a cell, or of what lies so far within it, cm. */
export function cellFaces(cells: Cells, cell: number, within = 0): Winding[] {
  const sides = sidesOf(cells, cell).map(({ normal, distance }): Plane => ({ normal, distance: distance - within }));
  return sides.flatMap((side, i) => {
    let out: Winding | null = planeSquare(side, LARGE);
    sides.forEach((other, k) => {
      if (k !== i) out = out && clipBehind(out, other);
    });
    return out ? [out] : [];
  });
}
