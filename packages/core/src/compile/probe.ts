import type { MapDocument } from '../map/index.ts';
import { length, normalize, type Vec3 } from '../math/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import type { BuildResult } from './build.ts';
import { levelCell, levelSees } from './level/index.ts';
import { addDirect, collectLights, makeLitScene } from './lighting/index.ts';

export interface ProbePoint {
  readonly at: Vec3;
  readonly normal?: Vec3;
}

export interface ProbeAnswer {
  readonly at: Vec3;
  readonly inside: 'open' | 'solid' | 'void';
  readonly cell: number;
  readonly sees: readonly number[];
  /** Lux in linear red, green, blue on a surface with the given normal. */
  readonly illuminance?: readonly [number, number, number];
}

/** What is at some points of a built map: open or not, the cell and what it sees, and the light that falls there. */
export function probe(
  doc: MapDocument,
  { level }: BuildResult,
  points: readonly ProbePoint[],
  materials: MaterialLookup = () => undefined,
): ProbeAnswer[] {
  const scene = makeLitScene(doc.brushes.values(), materials);
  const lights = collectLights(doc.entities.values(), doc.settings.ambientColor, doc.settings.ambientLux);
  return points.map(({ at, normal }) => {
    const cell = levelCell(level, at);
    const open = cell >= 0;
    const inside = cell === -1 ? 'solid' : open ? 'open' : 'void';
    const sees: number[] = [];
    if (open) for (let c = 0; c < level.meta.cells; c++) if (levelSees(level, cell, c)) sees.push(c);
    const answer: ProbeAnswer = { at, inside, cell: Math.max(-1, cell), sees };
    if (!normal || length(normal) === 0) return answer;
    const n = normalize(normal);
    const sum = Float64Array.from(lights.ambient);
    addDirect(scene, lights, lights.points, at, n, sum);
    return { ...answer, illuminance: [sum[0]!, sum[1]!, sum[2]!] };
  });
}
