import type { Brush } from '../../brush/index.ts';
import { lightTint } from '../../entity/index.ts';
import type { Job } from '../../jobs/index.ts';
import type { Vec3 } from '../../math/index.ts';
import { locate, type Surface } from '../structure/index.ts';
import { canSee, type Visibility } from '../visibility/index.ts';
import { makeChart } from './charts.ts';
import { directLight, type Direct, type DirectScene } from './direct.ts';
import type { LightingInput } from './input.ts';
import {
  collectLights,
  litBrushes,
  sourcesOf,
  splitSkies,
  type AreaLight,
  type Lights,
  type Source,
} from './lights.ts';
import { isSampled, makeLuxels, spotOf, type Luxels } from './luxels.ts';
import { chartNames } from './names.ts';
import { makeOccluders } from './occluders.ts';
import { Openings } from './openings.ts';
import type { ChartLayer } from './pages.ts';
import { patchesOf, type ChartPatches } from './patches.ts';
import { repairsOf, type Repair } from './repair.ts';

/** What every chart is lit with. */
export interface Shared {
  readonly brushes: readonly Brush[];
  readonly lights: Lights;
  readonly samples: number;
}

/** A chart to light: its surface, the edge of its luxels (cm), and which lights may reach it: their places in {@link sourcesOf}. */
export interface ChartTask {
  readonly surface: Surface;
  readonly luxel: number;
  readonly sources: readonly number[];
}

/** What falls on a chart directly. Luxels that lie in solids are still dark: `repairs` fill them when all light is there. */
export interface LitChart {
  /** Three floats (lux) a luxel with the gutter, row by row. */
  readonly light: Float32Array;
  /** Of each lamp that is kept apart, where its light comes to. */
  readonly layers: readonly ChartLayer[];
  readonly patches: ChartPatches;
  /** Which sources reach it: their places in {@link sourcesOf}. */
  readonly reached: readonly number[];
  /** What falls on each patch of each of those, lux for a strength of 1. */
  readonly means: readonly Float32Array[];
  readonly repairs: readonly Repair[];
  /** Where luxels stand: two lattice coordinates each, NaN for those that are not used. */
  readonly spots: Float32Array;
}

/** Luxels a shard. */
const SHARD_LUXELS = 4096;

/**
 * Direct light from point lights and suns with shadows, and even ambient light, on charts of luxels. A chart is lit by itself, and
 * depends on the lights that reach it and the solids in their way alone. Surfaces that show the sky have none.
 */
export const directJob: Job<LightingInput, Shared, ChartTask, LitChart, readonly LitChart[]> = {
  name: 'lighting',
  cut: (input) => {
    const { structure, visibility, brushes, options } = input;
    const lights = lightsOf(input);
    const glowing = glowingSurfaces(input);
    const others = lights.points.length + lights.suns.length;
    const sources = sourcesOf(lights).map(({ light, place }) => ({
      place,
      cell: light.type === 'point' ? locate(structure.blocks, light.at) : null,
      cells: light.type === 'area' ? glowing[place - others]!.flatMap((s) => s.cells) : null,
    }));
    const items = structure.surfaces.flatMap((surface): ChartTask[] => {
      if (surface.sky) return [];
      const reached = sources.filter(
        ({ cell, cells }) =>
          !visibility ||
          ((cell === null || mayLight(cell, surface, visibility)) &&
            (cells === null || cells.some((c) => surface.cells.some((d) => canSee(visibility, c, d))))),
      );
      return [{ surface, luxel: options.luxel * surface.grain, sources: reached.map((s) => s.place) }];
    });
    return { shared: { brushes: litBrushes(brushes), lights, samples: options.samples }, items };
  },
  shard: SHARD_LUXELS,
  weight: ({ surface, luxel }) => {
    const { width, height } = makeChart(surface, luxel);
    return width * height;
  },
  names: chartNames,
  prepare: ({ brushes, lights, samples }) => {
    const scene = sceneOf(brushes);
    const sources = sourcesOf(lights);
    return (task) => lightChart(scene, sources, lights.ambient, samples, task);
  },
  merge: (_, lit) => lit,
  memory: ({ light, layers, spots }) => [light.buffer, spots.buffer, ...layers.map((l) => l.light.buffer)],
};

/** The lights of a map that is to be lit. */
export function lightsOf(input: LightingInput): Lights {
  const { entities, switched, options, materials } = input;
  const lights = collectLights(entities, options.ambientColor, options.ambientLux, new Set(switched));
  const areas = glowingSurfaces(input).map((faces): AreaLight => {
    const { glow, average } = materials(faces[0]!.material)!;
    const luminance = lightTint(average ?? '#ffffff').map((c) => c * glow!) as unknown as Vec3;
    return {
      type: 'area',
      brush: faces[0]!.brush,
      faces: faces.map(({ winding, plane }) => ({ winding, normal: plane.normal })),
      luminance,
    };
  });
  return { ...lights, areas };
}

/** The surfaces that glow, those of one brush and material together. */
function glowingSurfaces({ structure, materials }: LightingInput): Surface[][] {
  const byBrush = new Map<string, Surface[]>();
  for (const surface of structure.surfaces) {
    if (surface.sky || !((materials(surface.material)?.glow ?? 0) > 0)) continue;
    const key = `${surface.brush} ${surface.material}`;
    const list = byBrush.get(key);
    if (list) list.push(surface);
    else byBrush.set(key, [surface]);
  }
  return [...byBrush.values()];
}

/** A light can only reach surfaces filed in cells seen from its own. */
function mayLight(cell: number | 'solid' | 'beyond', surface: Surface, visibility: Visibility): boolean {
  // A light stuck in a solid or in the void lights nothing; one on a surface is found a nudge away by its own rays.
  if (typeof cell !== 'number') return cell === 'solid';
  return surface.cells.some((c) => canSee(visibility, cell, c));
}

function sceneOf(brushes: readonly Brush[]): DirectScene {
  const { solids, skies } = splitSkies(brushes);
  return { all: makeOccluders(brushes), solids: makeOccluders(solids), skies: makeOccluders(skies) };
}

function lightChart(
  scene: DirectScene,
  all: readonly Source[],
  ambient: Vec3,
  samples: number,
  { surface, luxel, sources }: ChartTask,
): LitChart {
  const chart = makeChart(surface, luxel);
  const openings = new Openings(chart, scene.all);
  const luxels = makeLuxels(chart, samples, openings);
  const count = luxels.width * luxels.height;
  const add = (to: Float32Array, { share }: Direct, strength: Vec3): Float32Array => {
    for (let k = 0; k < count; k++) {
      if (share[k] === 0) continue;
      for (let c = 0; c < 3; c++) to[k * 3 + c]! += strength[c]! * share[k]!;
    }
    return to;
  };
  const reached: number[] = [];
  const directs: Direct[] = [];
  const layers: ChartLayer[] = [];
  const light = new Float32Array(count * 3);
  for (const place of sources) {
    const source = all[place]!;
    const direct = directLight(luxels, scene, source.light);
    if (!direct) continue;
    reached.push(source.place);
    directs.push(direct);
    if (source.thing === null) add(light, direct, source.strength);
    else layers.push({ thing: source.thing, light: add(new Float32Array(count * 3), direct, source.strength) });
  }
  const { patches, means } = patchesOf(luxels, openings, directs);
  for (let k = 0; k < count; k++)
    if (isSampled(luxels, k)) for (let c = 0; c < 3; c++) light[k * 3 + c]! += ambient[c]!;
  return { light, layers, patches, reached, means, repairs: repairsOf(luxels, openings), spots: spotsOf(luxels) };
}

function spotsOf(luxels: Luxels): Float32Array {
  const spots = new Float32Array(luxels.used.length * 2).fill(NaN);
  for (let k = 0; k < luxels.used.length; k++) {
    if (!luxels.used[k]) continue;
    const [a, b] = spotOf(luxels, k);
    spots[k * 2] = a;
    spots[k * 2 + 1] = b;
  }
  return spots;
}
