import { hypot, type Box, type Point2 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { checkExtent, extrude, type Heading } from './primitives.ts';
import { sector } from './round.ts';
import type { Solid } from './types.ts';

function checkSteps(steps: number): void {
  if (!Number.isInteger(steps) || steps < 1 || steps > 200)
    throw new BrushError('brush.steps', 'A stair has 1 to 200 steps. Type a whole number in that range.');
}

/** How steps are carried: by solid ground under each, or as treads alone of a thickness in cm. */
export interface StairBody {
  readonly solid: boolean;
  readonly tread: number;
}

const underside = (top: number, bottom: number, { solid, tread }: StairBody): number =>
  solid ? bottom : Math.max(bottom, top - tread);

/** A straight stair that fills a box and rises towards a heading, one brush a step. */
export function stairSolids(box: Box, rises: Heading, steps: number, body: StairBody): Solid[] {
  checkExtent(box);
  checkSteps(steps);
  const { min, max } = box;
  const axis = rises === 'east' || rises === 'west' ? 0 : 1;
  const forward = rises === 'east' || rises === 'north';
  const depth = max[axis] - min[axis];
  return Array.from({ length: steps }, (_, i) => {
    const at = (k: number) =>
      k === steps
        ? forward
          ? max[axis]
          : min[axis]
        : forward
          ? min[axis] + (depth * k) / steps
          : max[axis] - (depth * k) / steps;
    const [a, b] = [Math.min(at(i), at(i + 1)), Math.max(at(i), at(i + 1))];
    const top = i + 1 === steps ? max[2] : min[2] + ((max[2] - min[2]) * (i + 1)) / steps;
    const outline: Point2[] =
      axis === 0
        ? [
            [a, min[1]],
            [b, min[1]],
            [b, max[1]],
            [a, max[1]],
          ]
        : [
            [min[0], a],
            [max[0], a],
            [max[0], b],
            [min[0], b],
          ];
    return extrude(outline, underside(top, min[2], body), top);
  });
}

export interface TurningStair extends StairBody {
  readonly steps: number;
  /** Radius of the open eye, cm. */
  readonly innerRadius: number;
  /** How far the stair turns, degrees. */
  readonly angle: number;
  readonly turns: 'left' | 'right';
  /** Which way the first step is walked. */
  readonly rises: Heading;
}

/** A stair that turns about an eye and fills a box, one brush a step. */
export function turningStairSolids(box: Box, stair: TurningStair): Solid[] {
  checkExtent(box);
  checkSteps(stair.steps);
  const { steps, innerRadius, angle, turns, rises } = stair;
  if (!(angle >= 15 && angle <= 1080))
    throw new BrushError('brush.angle', 'A stair turns by 15 to 1080 degrees. Type a number in that range.');
  if (stair.solid && angle > 360)
    throw new BrushError(
      'brush.angle',
      'A stair that is solid underneath turns by 360 degrees at most. Choose treads.',
    );
  if (angle / steps > 90)
    throw new BrushError('brush.steps', 'A step may turn by 90 degrees at most. Type more steps or a smaller angle.');
  const heading = { east: 0, north: 90, west: 180, south: 270 }[rises];
  // Turning left one walks counter-clockwise, with the eye a quarter to the left of the way.
  const side = turns === 'left' ? 1 : -1;
  const start = heading - side * 90;
  const { outer, inner } = sector(box, steps, start, side * angle, () => innerRadius);
  if (!(innerRadius >= 0) || inner.some((p, i) => hypot(p[0] - outer[i]![0], p[1] - outer[i]![1]) < 1))
    throw new BrushError('brush.radius', 'The inner radius leaves no room for the steps. Type a smaller one.');
  const { min, max } = box;
  return Array.from({ length: steps }, (_, i) => {
    const corners = [outer[i]!, outer[i + 1]!, inner[i + 1]!, inner[i]!];
    const outline = corners.filter((p, k) => k < 3 || hypot(p[0] - corners[2]![0], p[1] - corners[2]![1]) > 0.2);
    const top = i + 1 === steps ? max[2] : min[2] + ((max[2] - min[2]) * (i + 1)) / steps;
    return extrude(side > 0 ? outline : outline.reverse(), underside(top, min[2], stair), top);
  });
}
