import { boxCenter, boxOf, eachSwept, growBox, scale, sub, tangent, type Box, type Bvh } from '../../math/index.ts';
import { FAR, type Light } from './lights.ts';

/** Visits what may lie between a box and a light: its box meets what the first one sweeps on its way there. Some that do not are visited too. */
export function eachOnTheWay(
  tree: Bvh,
  boxes: readonly Box[],
  from: Box,
  light: Light,
  visit: (item: number) => void,
): void {
  const centre = boxCenter(from);
  if (light.type === 'point') {
    eachSwept(tree, boxes, growBox(from, light.radius ?? 0), sub(light.at, centre), visit);
    return;
  }
  if (light.type === 'parallel') {
    // What is wide in the sky is reached by ways that spread.
    const wide = light.spread ? FAR * tangent(light.spread) : 0;
    eachSwept(tree, boxes, growBox(from, wide), scale(light.towards, FAR), visit);
    return;
  }
  // All ways to a face lie in what the box sweeps on its way to the face's middle, grown by as much as the face is large.
  const face = boxOf(light.faces.flatMap((f) => f.winding));
  const half = Math.max(...[0, 1, 2].map((k) => face.max[k]! - face.min[k]!)) / 2;
  eachSwept(tree, boxes, growBox(from, half), sub(boxCenter(face), centre), visit);
}
