import { brushBounds, type Brush } from '../../brush/index.ts';
import type { Entity } from '../../entity/index.ts';
import type { Vec3 } from '../../math/index.ts';
import type { Job } from '../../jobs/index.ts';
import { locate, type Structure, type Surface } from '../structure/index.ts';
import { canSee, type Visibility } from '../visibility/index.ts';
import { makeChart } from './charts.ts';
import { directLight, type DirectScene } from './direct.ts';
import { collectLights, litBrushes, splitSkies, type Lights } from './lights.ts';
import { isSampled, makeLuxels } from './luxels.ts';
import { chartNames } from './names.ts';
import { makeOccluders } from './occluders.ts';
import { Openings } from './openings.ts';
import { packLayers, packPages, type ChartLayer, type ChartPlace, type LightLayer, type LightPage } from './pages.ts';
import { repairsOf } from './repair.ts';

export interface LightingOptions {
  /** Edge of a luxel, cm. */
  readonly luxel: number;
  /** Samples along each edge of a luxel: 1, 2 or 4. */
  readonly samples: number;
  readonly ambientColor: string;
  readonly ambientLux: number;
}

export interface Lighting {
  readonly pages: readonly LightPage[];
  /** By thing, in id order. Their light is not in the pages. */
  readonly layers: readonly LightLayer[];
  /** One per surface; null for surfaces that show the sky. */
  readonly places: readonly (ChartPlace | null)[];
  readonly luxels: number;
  /** Luxels that lay in solids and took light from neighbours. */
  readonly repaired: number;
}

export interface LightingInput {
  readonly structure: Structure;
  readonly visibility: Visibility | null;
  readonly brushes: readonly Brush[];
  readonly entities: readonly Entity[];
  /** Lamps whose light is kept apart, so that play can switch them. */
  readonly switched?: readonly string[];
  readonly options: LightingOptions;
}

/** What every chart is lit with. */
export interface Shared {
  readonly brushes: readonly Brush[];
  readonly lights: Lights;
  readonly samples: number;
}

/** A chart to light: its surface, the edge of its luxels (cm), and which point lights may reach it. */
export interface ChartTask {
  readonly surface: Surface;
  readonly luxel: number;
  readonly near: readonly number[];
  /** Those of them that are kept apart are not in `near`, but here. */
  readonly apart: readonly number[];
}

interface LitChart {
  /** Three floats (lux) a luxel with the gutter, row by row. */
  readonly light: Float32Array;
  /** Of each lamp that is kept apart, where its light comes to. */
  readonly layers: readonly ChartLayer[];
  readonly repaired: number;
}

/** Luxels a shard. */
const SHARD_LUXELS = 4096;

/**
 * The lighting stage: direct light from point lights and suns with shadows, and even ambient light, on charts of luxels. A chart
 * is lit by itself, and depends on the lights that reach it and the solids in their way alone.
 */
export const lightingJob: Job<LightingInput, Shared, ChartTask, LitChart, Lighting> = {
  name: 'lighting',
  cut: ({ structure, visibility, brushes, entities, switched, options }) => {
    const lights = collectLights(entities, options.ambientColor, options.ambientLux, new Set(switched));
    const cells = lights.points.map((l) => locate(structure.blocks, l.at));
    const items = structure.surfaces.flatMap((surface): ChartTask[] => {
      if (surface.sky) return [];
      const reached = cells.flatMap((cell, l) => (mayLight(cell, surface, visibility) ? [l] : []));
      const [apart, near] = [true, false].map((is) => reached.filter((l) => (lights.switched[l] !== null) === is));
      return [{ surface, luxel: options.luxel * surface.grain, near: near!, apart: apart! }];
    });
    return { shared: { brushes: litBrushes(brushes), lights, samples: options.samples }, items };
  },
  shard: SHARD_LUXELS,
  weight: ({ surface, luxel }) => {
    const { width, height } = makeChart(surface, luxel);
    return width * height;
  },
  names: (shared, hash) => chartNames(shared, hash),
  prepare: ({ brushes, lights, samples }) => {
    const lit = litBy(brushes);
    return (task) => lightChart(lit, lights, samples, task);
  },
  merge: ({ structure, options }, lit) => {
    let k = 0;
    const charts = structure.surfaces.map((s) => (s.sky ? null : makeChart(s, options.luxel * s.grain)));
    const charted = charts.map((chart) => (chart ? lit[k++]! : null));
    const packed = packPages(
      charts,
      charted.map((c) => c?.light ?? null),
    );
    return {
      ...packed,
      layers: packLayers(
        packed.places,
        charted.map((c) => c?.layers ?? []),
      ),
      luxels: charts.reduce((n, c) => n + (c ? c.width * c.height : 0), 0),
      repaired: lit.reduce((n, l) => n + l.repaired, 0),
    };
  },
  memory: ({ light, layers }) => [light.buffer, ...layers.map((l) => l.light.buffer)],
};

/** A light can only reach surfaces filed in cells seen from its own. Without a visibility every light may reach everything. */
function mayLight(cell: number | 'solid' | 'beyond', surface: Surface, visibility: Visibility | null): boolean {
  if (!visibility) return true;
  // A light stuck in a solid or in the void lights nothing; one on a surface is found a nudge away by its own rays.
  if (typeof cell !== 'number') return cell === 'solid';
  return surface.cells.some((c) => canSee(visibility, cell, c));
}

/** What light meets, ready for charts. */
interface LitBy extends DirectScene {
  readonly boxes: readonly ReturnType<typeof brushBounds>[];
}

function litBy(brushes: readonly Brush[]): LitBy {
  const { solids, skies } = splitSkies(brushes);
  return {
    all: makeOccluders(brushes),
    solids: makeOccluders(solids),
    skies: makeOccluders(skies),
    boxes: brushes.map(brushBounds),
  };
}

function lightChart(
  scene: LitBy,
  lights: Lights,
  samples: number,
  { surface, luxel, near, apart }: ChartTask,
): LitChart {
  const chart = makeChart(surface, luxel);
  const openings = new Openings(chart, scene.all, scene.boxes);
  const luxels = makeLuxels(chart, samples, openings);
  const count = luxels.width * luxels.height;
  const repairs = repairsOf(luxels, openings);
  /** Adds a source's light. */
  const add = (light: Float32Array, share: Float64Array, [r, g, b]: Vec3) => {
    for (let k = 0; k < count; k++) {
      if (share[k] === 0) continue;
      light[k * 3]! += r * share[k]!;
      light[k * 3 + 1]! += g * share[k]!;
      light[k * 3 + 2]! += b * share[k]!;
    }
  };
  const repair = (light: Float32Array) => {
    for (const { luxel: k, from } of repairs)
      for (let c = 0; c < 3; c++) light[k * 3 + c] = from.reduce((sum, m) => sum + light[m * 3 + c]!, 0) / from.length;
    return light;
  };
  const light = new Float32Array(count * 3);
  for (let k = 0; k < count; k++)
    if (isSampled(luxels, k)) for (let c = 0; c < 3; c++) light[k * 3 + c] = lights.ambient[c]!;
  for (const l of near) {
    const share = directLight(luxels, scene, lights.points[l]!);
    if (share) add(light, share, lights.points[l]!.intensity);
  }
  for (const sun of lights.suns) {
    const share = directLight(luxels, scene, sun);
    if (share) add(light, share, sun.illuminance);
  }
  const layers = apart.flatMap((l) => {
    const share = directLight(luxels, scene, lights.points[l]!);
    if (!share) return [];
    const own = new Float32Array(count * 3);
    add(own, share, lights.points[l]!.intensity);
    return [{ thing: lights.switched[l]!, light: repair(own) }];
  });
  return { light: repair(light), layers, repaired: repairs.length };
}
