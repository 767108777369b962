import { brushBounds, type Brush } from '../../brush/index.ts';
import { buildBvh, eachSwept, type Box } from '../../math/index.ts';
import { lightShape } from '../../entity/index.ts';
import type { KeptResults } from '../../jobs/index.ts';
import { chartReach } from './charts.ts';
import type { ChartTask, Shared } from './direct-job.ts';
import { eachOnTheWay } from './light-ways.ts';
import { brightnessOf, sourcesOf, type Lights, type Source } from './lights.ts';

/** The solids that were lit, each by a name for what light meets of it, with its box. */
export type NamedSolids = ReadonlyMap<string, Box>;

/** The names of brushes, in their order; two that are alike have the same. */
export const solidNames = (brushes: readonly Brush[], hash: KeptResults['hash']): string[] =>
  brushes.map((b) => hash(contentOf(b)));

/** Names lights by all that matters to where they shine, in the order of {@link sourcesOf}. */
export const sourceNames = (lights: Lights, hash: KeptResults['hash']): string[] =>
  sourcesOf(lights).map((source) => hash(JSON.stringify(nameOfSource(source))));

/** Names what of a chart is the same for all lights: the surface, how finely it is sampled, the solids (by `names`) that its luxels reach into. */
export function frameNames(
  { brushes, samples, quick }: Shared,
  names: readonly string[],
  hash: KeptResults['hash'],
): (task: ChartTask) => string {
  const boxes = brushes.map(brushBounds);
  const tree = buildBvh(boxes);
  return (task) => {
    const met: string[] = [];
    eachSwept(tree, boxes, chartReach(task.surface, task.luxel), [0, 0, 0], (item) => met.push(names[item]!));
    const { surface, luxel } = task;
    return hash(JSON.stringify([surface.winding, surface.plane, luxel, samples, quick, met.sort()]));
  };
}

/** Tells whether what a light gives a chart is still what it was among other solids: none that came or went lies between them. */
export function stillShines(
  before: NamedSolids,
  now: NamedSolids,
  lights: Lights,
): (task: ChartTask, place: number) => boolean {
  const other = (some: NamedSolids, than: NamedSolids) =>
    [...some].flatMap(([name, box]) => (than.has(name) ? [] : [box]));
  const boxes = [...other(before, now), ...other(now, before)];
  if (boxes.length === 0) return () => true;
  const tree = buildBvh(boxes);
  const sources = sourcesOf(lights);
  return (task, place) => {
    let met = false;
    eachOnTheWay(tree, boxes, chartReach(task.surface, task.luxel), sources[place]!.light, () => (met = true));
    return !met;
  };
}

/** A light without its colour, and with as much of its strength as matters to where it shines. */
const nameOfSource = ({ id, light, strength }: Source): readonly unknown[] => [
  id,
  light.type === 'area' ? light.faces.map(({ winding, normal }) => [winding, normal]) : lightShape(light),
  brightnessOf(strength),
];

/** What light meets of a brush. */
const contentOf = ({ vertices, faces }: Brush): string =>
  JSON.stringify([vertices, faces.map(({ loop, show }) => [loop, show === 'sky'])]);
