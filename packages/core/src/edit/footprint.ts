import { crossesItself, outlineArea, straightened, type Point2 } from '../math/index.ts';
import { EditError } from './errors.ts';

/**
 * A footprint ready for use: counter-clockwise, without repeated corners or corners on a straight line.
 * Throws `room.footprint` when it crosses itself, has fewer than three corners or almost no area.
 */
export function tidyFootprint(outline: readonly Point2[]): Point2[] {
  if (!outline.every(([x, y]) => Number.isFinite(x) && Number.isFinite(y)))
    throw new EditError('room.footprint', 'A corner of the footprint is not a finite number. Type plain numbers.');
  const out = straightened(outline);
  if (crossesItself(out))
    throw new EditError('room.footprint', 'The footprint crosses itself. Click its corners in order round the room.');
  if (out.length < 3 || Math.abs(outlineArea(out)) < 100)
    throw new EditError('room.footprint', 'A footprint needs at least three corners and some floor. Drag further.');
  return outlineArea(out) < 0 ? out.reverse() : out;
}
