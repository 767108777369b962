import { brushBounds, type Brush } from '../../brush/index.ts';
import { boxCenter, boxOf, buildBvh, eachSwept, growBox, scale, sub, type Box, type Vec3 } from '../../math/index.ts';
import type { KeptResults } from '../../jobs/index.ts';
import { GUTTER } from './charts.ts';
import type { ChartTask, Shared } from './direct-job.ts';
import { FAR, sourcesOf } from './lights.ts';

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
  const all = sourcesOf(lights);
  return ({ surface, luxel, sources }) => {
    // Luxels, their gutter, and what they are filled from reach so far beyond the surface.
    const box = growBox(boxOf(surface.winding), (GUTTER + 1) * luxel + 1);
    const centre = boxCenter(box);
    const met = new Set<number>();
    const along = (way: Vec3, from: Box = box) => eachSwept(tree, boxes, from, way, (item) => met.add(item));
    along([0, 0, 0]);
    for (const place of sources) {
      const { light } = all[place]!;
      if (light.type === 'point') along(sub(light.at, centre));
      else if (light.type === 'parallel') along(scale(light.towards, FAR));
      // All ways to a face lie in what the surface sweeps on its way to the face's middle, grown by as much as the face is large.
      else {
        const face = boxOf(light.faces.flatMap((f) => f.winding));
        const half = Math.max(...[0, 1, 2].map((k) => face.max[k]! - face.min[k]!)) / 2;
        along(sub(boxCenter(face), centre), growBox(box, half));
      }
    }
    return JSON.stringify([
      surface.winding,
      surface.plane,
      luxel,
      samples,
      sources.map((place) => [all[place]!.place, all[place]!.light, all[place]!.thing]),
      lights.ambient,
      [...met].map(nameOf).sort(),
    ]);
  };
}

/** What light meets of a brush. */
const contentOf = ({ vertices, faces }: Brush): string =>
  JSON.stringify([vertices, faces.map(({ loop, show }) => [loop, show === 'sky'])]);
