import { brushBounds, type Brush } from '../../brush/index.ts';
import { boxCenter, boxOf, buildBvh, eachSwept, growBox, scale, sub, type Vec3 } from '../../math/index.ts';
import type { KeptResults } from '../../jobs/index.ts';
import { GUTTER } from './charts.ts';
import type { ChartTask, Shared } from './lighting.ts';
import { FAR } from './lights.ts';

/**
 * Names charts by all that their light depends on: the surface, how finely it is sampled, the lights that may reach it, and the
 * solids between them and it, or where its luxels reach into. Solids elsewhere may change without it.
 */
export function chartNames(
  { brushes, lights, samples }: Shared,
  hash: KeptResults['hash'],
): (task: ChartTask) => string {
  const boxes = brushes.map(brushBounds);
  const tree = buildBvh(boxes);
  const named = new Map<number, string>();
  const nameOf = (item: number): string => {
    let name = named.get(item);
    if (!name) named.set(item, (name = hash(contentOf(brushes[item]!))));
    return name;
  };
  return ({ surface, luxel, near, apart }) => {
    // Luxels, their gutter, and what they are filled from reach so far beyond the surface.
    const box = growBox(boxOf(surface.winding), (GUTTER + 1) * luxel + 1);
    const centre = boxCenter(box);
    const met = new Set<number>();
    const along = (way: Vec3) => eachSwept(tree, boxes, box, way, (item) => met.add(item));
    along([0, 0, 0]);
    const points = near.map((l) => lights.points[l]!);
    const alone = apart.map((l) => lights.points[l]!);
    for (const { at } of [...points, ...alone]) along(sub(at, centre));
    for (const { towards } of lights.suns) along(scale(towards, FAR));
    return JSON.stringify([
      surface.winding,
      surface.plane,
      luxel,
      samples,
      points,
      apart.map((l, i) => [lights.switched[l], alone[i]]),
      lights.suns,
      lights.ambient,
      [...met].map(nameOf).sort(),
    ]);
  };
}

/** What light meets of a brush. */
const contentOf = ({ vertices, faces }: Brush): string =>
  JSON.stringify([vertices, faces.map(({ loop, show }) => [loop, show === 'sky'])]);
