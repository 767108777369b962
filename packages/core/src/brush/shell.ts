import { boxSize, growBox, type Plane } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { mergeConvex } from './merge.ts';
import { solidFromPlanes } from './planes.ts';
import { brushBounds, brushPlanes } from './solid.ts';
import { splitBrush } from './split.ts';
import type { Dresser } from './subtract.ts';
import type { Brush, Solid } from './types.ts';

/** A brush with every face moved outward by `by` cm (inward when negative). Throws `brush.empty` when nothing is left. */
export function offsetSolid(brush: Brush, by: number): Solid {
  const planes = brushPlanes(brush).map((p): Plane => ({ normal: p.normal, distance: p.distance + by }));
  const reach = Math.abs(by) * 16 + 1;
  return solidFromPlanes(planes, growBox(brushBounds(brush), by > 0 ? reach : 0));
}

/**
 * Makes a brush hollow: walls of a thickness (cm) inside or outside its present faces, as convex pieces. The wall at a face
 * shows that face's material on both sides.
 */
export function shellBrush(brush: Brush, thickness: number, where: 'inside' | 'outside', dress: Dresser): Brush[] {
  if (!(thickness >= 0.5) || !Number.isFinite(thickness))
    throw new BrushError('shell.thickness', 'The thickness of a shell is 0.5 cm or more. Type a larger number.');
  if (where === 'inside' && Math.min(...boxSize(brushBounds(brush))) <= thickness * 2)
    throw new BrushError('shell.thickness', 'The walls would meet in the middle. Type a smaller thickness.');
  const other = offsetSolid(brush, where === 'inside' ? -thickness : thickness);
  const outer = where === 'inside' ? brush : dress.like(other, [brush]);
  const hollow = where === 'inside' ? dress.like(other, [brush]) : brush;
  const pieces: Brush[] = [];
  let rest: Brush | null = outer;
  brushPlanes(hollow).forEach((plane, i) => {
    if (!rest) return;
    const face = hollow.faces[i]!;
    const { front, back } = splitBrush(rest, plane, (cut) => ({
      material: face.material,
      frame: dress.cap(cut, brush).frame,
    }));
    if (front && back) pieces.push(front);
    rest = back;
  });
  return mergeConvex(pieces, dress.like);
}
