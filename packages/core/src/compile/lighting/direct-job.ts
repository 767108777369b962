import { brushBounds, type Brush } from '../../brush/index.ts';
import { dueJob, type DueJob, type Job, type StageControl } from '../../jobs/index.ts';
import type { Vec3 } from '../../math/index.ts';
import { locate, type Surface } from '../structure/index.ts';
import { canSee, type Visibility } from '../visibility/index.ts';
import { makeChart } from './charts.ts';
import { directLight, type Direct, type DirectScene } from './direct.ts';
import type { LightingInput } from './input.ts';
import {
  collectLights,
  glowing,
  glowOf,
  litBrushes,
  SKY,
  sourcesOf,
  splitSkies,
  type AreaLight,
  type Light,
  type Lights,
  type Source,
} from './lights.ts';
import { isSampled, makeLuxels, spotOf, type Luxels } from './luxels.ts';
import { frameNames, solidNames, sourceNames, stillShines, type NamedSolids } from './names.ts';
import { sourceAt } from './light-sources.ts';
import { makeOccluders, type Occluders } from './occluders.ts';
import { Openings } from './openings.ts';
import { patchesOf, type ChartPatches } from './patches.ts';
import { makeQuickScene, quickLight } from './quick.ts';
import { repairsOf, type Repair } from './repair.ts';
import { Unshaded } from './unshaded.ts';
import { veiled } from './veiled.ts';
import { Veils, type Veil } from './veils.ts';

/** What every chart is lit with. */
export interface Shared {
  /** What light ends at, and what it comes through in part. */
  readonly brushes: readonly Brush[];
  readonly veils: readonly Veil[];
  readonly lights: Lights;
  readonly samples: number;
  readonly quick: boolean;
}

/** A chart to light: its surface, the edge of its luxels (cm), and which lights may reach it: places in {@link sourcesOf}. */
export interface ChartTask {
  readonly surface: Surface;
  readonly luxel: number;
  readonly sources: readonly number[];
  /** What is the same for all lights is known. */
  readonly framed?: boolean;
}

/** What one light gives a chart. Nothing in it changes with the light's strength. */
export interface Shine {
  /** A source's {@link Source.id}. */
  readonly source: string;
  /** What falls on each luxel with the gutter, row by row: lux for a strength of 1. */
  readonly share: Float32Array;
  /** The same of patches. */
  readonly means: Float32Array;
  /** {@link Direct.work} */
  readonly work: number;
  /** Both in red, green and blue, where something tints the light on its way: 3 a luxel, 3 a patch. */
  readonly colors?: { readonly share: Float32Array; readonly means: Float32Array };
}

/** What of a chart is the same for all lights. */
export interface ChartFrame {
  /** Of each luxel whether it is somewhere open. */
  readonly open: Uint8Array;
  readonly patches: ChartPatches;
  readonly repairs: readonly Repair[];
  /** Where luxels stand: two lattice coordinates each, NaN for those that are not used. */
  readonly spots: Float32Array;
}

/** What falls on a chart directly. Luxels that lie in solids are still dark: `repairs` fill them when all light is there. */
export interface LitChart extends ChartFrame {
  readonly shines: readonly Shine[];
}

/** What came of a task: of each of its sources what it gives, null for nothing. */
interface Lit<F = ChartFrame | null> {
  /** Null where it was known. */
  readonly frame: F;
  readonly shines: readonly (Shine | null)[];
}

/** Luxels a shard. */
const SHARD_LUXELS = 4096;

interface DirectInput {
  readonly shared: Shared;
  readonly tasks: readonly ChartTask[];
}

/**
 * Direct light with shadows on charts of luxels. A chart is lit by itself, and what each light gives it depends on that light and the
 * solids in its way alone.
 */
export const directJob: Job<DirectInput, Shared, ChartTask, Lit, readonly Lit[]> = {
  name: 'lighting',
  cut: ({ shared, tasks }) => ({ shared, items: tasks }),
  shard: SHARD_LUXELS,
  weight: ({ surface, luxel }) => {
    const { width, height } = makeChart(surface, luxel);
    return width * height;
  },
  prepare: ({ brushes, veils: some, lights, samples, quick }) => {
    const sources = sourcesOf(lights);
    const veils = new Veils(some);
    if (quick) {
      const [solids, scene] = [makeOccluders(brushes), makeQuickScene(brushes)];
      const direct = (luxels: Luxels, light: Light) => veiled(quickLight(luxels, scene, light), luxels, light, veils);
      return (task) => lightChart(solids, direct, sources, samples, task);
    }
    const scene = sceneOf(brushes);
    const direct = (luxels: Luxels, light: Light) => veiled(directLight(luxels, scene, light), luxels, light, veils);
    return (task) => lightChart(scene.all, direct, sources, samples, task);
  },
  merge: (_, lit) => lit,
  memory: ({ frame, shines }) => [
    ...(frame ? [frame.spots.buffer] : []),
    ...shines.flatMap((shine) =>
      [shine, shine?.colors].flatMap((of) => (of ? [of.share.buffer, of.means.buffer] : [])),
    ),
  ],
};

/** What is kept of direct light from one build to the next. */
export interface KeptDirect {
  readonly solids: NamedSolids;
  /** By the names of their frames: the frame, and what lights give, by their names. */
  readonly charts: ReadonlyMap<
    string,
    { readonly frame: ChartFrame; readonly shines: ReadonlyMap<string, Shine | null> }
  >;
  /** How many times light had to be found that one light gives one chart. */
  readonly made: number;
}

/** Direct light on all charts, in the order of their surfaces; what is kept of earlier work is not found again, light by light. */
export function* litCharts(
  input: LightingInput,
  lights: Lights,
  control: StageControl,
): Generator<DueJob, LitChart[], unknown> {
  const { kept } = control;
  const { shared, tasks } = tasksOf(input, lights);
  if (!kept) {
    const all = (yield dueJob(directJob, { shared, tasks }, control)) as readonly Lit<ChartFrame>[];
    return all.map(litOf);
  }
  const ofSolids = solidNames(shared.brushes, kept.hash);
  const solids: NamedSolids = new Map([
    ...shared.brushes.map((b, i) => [ofSolids[i]!, brushBounds(b)] as const),
    ...shared.veils.map((v) => [kept.hash(JSON.stringify(v)), brushBounds(v.brush)] as const),
  ]);
  const frameOf = frameNames(shared, ofSolids, kept.hash);
  const names = sourceNames(shared.lights, kept.hash);
  const name = `direct ${input.options.luxel} ${shared.samples} ${shared.quick}`;
  const before = kept.get(name) as KeptDirect | undefined;
  const still = stillShines(before?.solids ?? solids, solids, shared.lights);
  const asked = tasks.map((task) => {
    const frame = frameOf(task);
    const known = before?.charts.get(frame);
    const missing = task.sources.filter((k) => !known?.shines.has(names[k]!) || !still(task, k));
    return { task, frame, known, missing };
  });
  const todo = asked.filter(({ known, missing }) => !known || missing.length > 0);
  const made = (yield dueJob(
    directJob,
    {
      shared,
      tasks: todo.map(({ task, missing, known }) => ({ ...task, sources: missing, framed: known !== undefined })),
    },
    control,
  )) as readonly Lit[];
  const fresh = new Map(todo.map((x, i) => [x, made[i]!]));
  const charts = new Map<string, { frame: ChartFrame; shines: Map<string, Shine | null> }>();
  const out = asked.map((x) => {
    const { task, known, missing } = x;
    const lit = fresh.get(x);
    const own = new Map(missing.map((k, i) => [k, lit!.shines[i]!]));
    const shines = new Map(
      task.sources.map((k) => [names[k]!, own.has(k) ? own.get(k)! : known!.shines.get(names[k]!)!]),
    );
    const frame = known?.frame ?? lit!.frame!;
    charts.set(x.frame, { frame, shines });
    return litOf({ frame, shines: [...shines.values()] });
  });
  const count = todo.reduce((n, { missing }) => n + missing.length, 0);
  if (count > 0 || !before || before.charts.size !== charts.size)
    kept.put(name, { solids, charts, made: count } satisfies KeptDirect);
  return out;
}

const litOf = ({ frame, shines }: Lit<ChartFrame>): LitChart => ({
  ...frame,
  shines: shines.filter((s) => s !== null),
});

/** What there is to light. Surfaces that show the sky have no light. */
function tasksOf({ structure, visibility, brushes, materials, options }: LightingInput, lights: Lights): DirectInput {
  const sources = sourcesOf(lights).map(({ light }, place) => ({
    place,
    cell: light.type === 'point' ? locate(structure.blocks, light.at) : null,
    cells: light.type === 'area' ? light.cells : null,
  }));
  const tasks = structure.surfaces.flatMap((surface): ChartTask[] => {
    if (surface.sky) return [];
    const reached = sources.filter(
      ({ cell, cells }) =>
        !visibility ||
        ((cell === null || mayLight(cell, surface, visibility)) &&
          (cells === null || cells.some((c) => surface.cells.some((d) => canSee(visibility, c, d))))),
    );
    return [{ surface, luxel: options.luxel * surface.grain, sources: reached.map((s) => s.place) }];
  });
  const { solids, veils } = litBrushes(brushes, materials);
  const shared = { brushes: solids, veils, lights, samples: options.samples, quick: options.quick ?? false };
  return { shared, tasks };
}

/** The lights of a map that is to be lit. */
export function lightsOf(input: LightingInput): Lights {
  const { entities, options } = input;
  const lights = collectLights(entities, options.ambientColor, options.ambientLux);
  return { ...lights, areas: areasOf(input) };
}

/** The faces that shine: those that glow, and those that show a bright sky; of one brush and alike together. */
function areasOf({ structure, materials, options }: LightingInput): AreaLight[] {
  const lists = new Map<string, { group: string; luminance: Vec3; surfaces: Surface[] }>();
  for (const surface of structure.surfaces) {
    const facts = materials(surface.material);
    const luminance = surface.sky ? options.sky : glowing(facts);
    if (luminance.every((c) => c === 0)) continue;
    const group = surface.sky ? SKY : glowOf(surface.material);
    const key = `${surface.brush} ${group}`;
    const list = lists.get(key);
    if (list) list.surfaces.push(surface);
    else lists.set(key, { group, luminance, surfaces: [surface] });
  }
  return [...lists.values()].map(({ group, luminance, surfaces }) => ({
    type: 'area',
    brush: surfaces[0]!.brush,
    group,
    faces: surfaces.map(({ winding, plane }) => ({ winding, normal: plane.normal })),
    cells: [...new Set(surfaces.flatMap((s) => s.cells))],
    luminance,
  }));
}

/** A light can only reach surfaces filed in cells seen from its own. */
function mayLight(cell: number | 'solid' | 'beyond', surface: Surface, visibility: Visibility): boolean {
  // A light stuck in a solid or in the void lights nothing; one on a surface is found a nudge away by its own rays.
  if (typeof cell !== 'number') return cell === 'solid';
  return surface.cells.some((c) => canSee(visibility, cell, c));
}

export function sceneOf(brushes: readonly Brush[]): DirectScene {
  const { solids, skies } = splitSkies(brushes);
  const all = makeOccluders(brushes);
  const open = makeOccluders(solids);
  const unshaded = { all: new Unshaded(all), solids: new Unshaded(open) };
  return { all, solids: open, skies: makeOccluders(skies), unshaded };
}

function lightChart(
  solids: Occluders,
  directOf: (luxels: Luxels, light: Light) => Direct | null,
  all: readonly Source[],
  samples: number,
  { surface, luxel, sources, framed }: ChartTask,
): Lit {
  const chart = makeChart(surface, luxel);
  // Nothing need be known of the luxels of a chart that faces none of the lights.
  if (framed && sources.every((place) => !sourceAt({ chart, samples }, all[place]!.light)))
    return { frame: null, shines: sources.map(() => null) };
  const openings = new Openings(chart, solids);
  const luxels = makeLuxels(chart, samples, openings);
  const directs = sources.map((place) => directOf(luxels, all[place]!.light));
  const found = directs.filter((d) => d !== null);
  const { patches, means } = patchesOf(
    luxels,
    openings,
    found.flatMap((direct) => [direct, ...channelsOf(direct)]),
  );
  let next = 0;
  const shines = directs.map((direct, k): Shine | null => {
    if (!direct) return null;
    const shine = {
      source: all[sources[k]!]!.id,
      share: Float32Array.from(direct.share),
      means: means[next++]!,
      work: direct.work,
    };
    if (!direct.tints) return shine;
    const tinted = {
      share: direct.tints.map((t, i) => t * direct.share[Math.floor(i / 3)]!),
      means: interleaved(means.slice(next, next + 3)),
    };
    next += 3;
    return { ...shine, colors: tinted };
  });
  if (framed) return { frame: null, shines };
  const open = Uint8Array.from({ length: luxels.width * luxels.height }, (_, k) => Number(isSampled(luxels, k)));
  return { frame: { open, patches, repairs: repairsOf(luxels, openings), spots: spotsOf(luxels) }, shines };
}

/** What comes of a light that is tinted in red, green and blue, each as a light of its own; nothing for one that is not. */
function channelsOf({ share, surface, tints }: Direct): Omit<Direct, 'work'>[] {
  if (!tints) return [];
  return [0, 1, 2].map((c) => ({
    share: share.map((light, k) => light * tints[k * 3 + c]!),
    surface: new Map([...surface].map(([k, light]) => [k, light * tints[k * 3 + c]!])),
  }));
}

const interleaved = (lists: readonly Float32Array[]): Float32Array =>
  Float32Array.from(
    { length: lists[0]!.length * lists.length },
    (_, i) => lists[i % lists.length]![Math.floor(i / lists.length)]!,
  );

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
