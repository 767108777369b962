import { linearColor } from '../../entity/index.ts';
import { dueJob, type DueJob, type StageControl } from '../../jobs/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import { bounce, linkShares, luminanceOf, type PatchWorld } from './bounce.ts';
import { makeChart, type Chart } from './charts.ts';
import { directJob, lightsOf, type LitChart } from './direct-job.ts';
import { gatherJob, NEAR, type NearPatch } from './gather.ts';
import { hotJob, type HotPairs } from './hot.ts';
import type { LightingInput } from './input.ts';
import { litBrushes, sourcesOf, type Source } from './lights.ts';
import { linksJob } from './links.ts';
import { packLayers, packPages, type ChartLayer, type ChartPlace, type LightLayer, type LightPage } from './pages.ts';
import { PlaneTable } from './planes.ts';
import type { Repair } from './repair.ts';

export interface Lighting {
  readonly pages: readonly LightPage[];
  /** By thing, in id order. Their light is not in the pages. */
  readonly layers: readonly LightLayer[];
  /** One per surface; null for surfaces that show the sky. */
  readonly places: readonly (ChartPlace | null)[];
  readonly luxels: number;
  /** Luxels that lay in solids and took light from neighbours. */
  readonly repaired: number;
  /** After each bounce, how much of the light can still come, as a share of what was given off at first. */
  readonly left: readonly number[];
}

/** What materials reflect that nobody knows. */
const UNKNOWN = 0.5;

/** A surface that gives back more than this would keep light for ever. */
const MOST_REFLECTED = 0.95;

/** Lux of a bounce that a lamp's layer does not hold: many times under what is seen. */
const LEAST_BOUNCED = 0.002;

/** How much of the stage is done after direct light, after links, and after looks at hot patches. */
const DIRECT = 0.5;
const LINKED = 0.75;
const HOT = 0.9;

/**
 * The lighting stage, as jobs for whoever drives it: direct light on each chart; links between patches; what bounces over them; and
 * that spread over the luxels.
 */
export function* lightLevel(input: LightingInput, control: StageControl): Generator<DueJob, Lighting, unknown> {
  const { structure, options } = input;
  const part = (from: number, to: number): StageControl => ({
    ...control,
    progress: (done) => control.progress?.(from + (to - from) * done),
  });
  const surfaces = structure.surfaces.filter((s) => !s.sky);
  const charts = surfaces.map((s) => makeChart(s, options.luxel * s.grain));
  const lit = (yield dueJob(directJob, input, part(0, options.links ? DIRECT : 1))) as readonly LitChart[];
  // What came out may be kept for later builds: it is not changed.
  const lights = lit.map((c) => c.light.slice());
  const layers = lit.map((c) => c.layers.map(({ thing, light }): ChartLayer => ({ thing, light: light.slice() })));
  let left: readonly number[] = [];
  if (options.links > 0) {
    const brushes = litBrushes(input.brushes);
    const linked = charts.map(({ surface, size, outline }, i) => ({
      plane: surface.plane,
      luxel: size,
      outline,
      patches: lit[i]!.patches,
    }));
    const links = (yield dueJob(
      linksJob,
      { brushes, charts: linked, count: options.links },
      part(DIRECT, LINKED),
    )) as readonly Int32Array[];
    const world = worldOf(charts, lit, links, options.links, input.materials);
    const sources = sourcesOf(lightsOf(input));
    const groups = groupsOf(world, lit, sources);
    const given = groups.map((g) => Float32Array.from(world.area, (_, p) => luminanceOf(g.given, p * 3)));
    const hot = (yield dueJob(hotJob, { brushes, charts: linked, given }, part(LINKED, HOT))) as readonly HotPairs[];
    const lamps = [...new Set(groups.flatMap((g) => g.thing ?? []))].sort();
    const all = [null, ...lamps].map((thing) =>
      bounce(
        world,
        groups.flatMap((g, i) => (g.thing === thing ? [{ given: g.given, hot: hot[i]! }] : [])),
      ),
    );
    left = all[0]!.left;
    const items = nearPatches(charts, lit).map(({ near, places }, i) => ({
      surface: charts[i]!.surface,
      luxel: charts[i]!.size,
      spots: lit[i]!.spots,
      near,
      values: all.map(({ light, noise }) => {
        const own = new Float32Array(places.length * 3);
        places.forEach((p, k) => {
          for (let c = 0; c < 3; c++) own[k * 3 + c] = light[p * 3 + c]!;
        });
        return { light: own, noise: Float32Array.from(places, (p) => noise[p]!) };
      }),
    }));
    const spread = (yield dueJob(gatherJob, { brushes, items }, part(HOT, 1))) as readonly Float32Array[][];
    spread.forEach(([light, ...ofLamps], i) => {
      addTo(lights[i]!, light!);
      ofLamps.forEach((own, l) => {
        const layer = layers[i]!.find((x) => x.thing === lamps[l]);
        if (layer) addTo(layer.light, own);
        else if (own.some((x) => x > LEAST_BOUNCED))
          layers[i]!.push({ thing: lamps[l]!, light: own.map((x) => (x > LEAST_BOUNCED ? x : 0)) });
      });
    });
  }
  lit.forEach(({ repairs }, i) => {
    for (const list of [lights[i]!, ...layers[i]!.map((l) => l.light)]) repair(list, repairs);
  });
  let k = 0;
  const chartOf = structure.surfaces.map((s) => (s.sky ? null : k++));
  const packed = packPages(
    chartOf.map((i) => (i === null ? null : charts[i]!)),
    chartOf.map((i) => (i === null ? null : lights[i]!)),
  );
  return {
    ...packed,
    layers: packLayers(
      packed.places,
      chartOf.map((i) => (i === null ? [] : layers[i]!)),
    ),
    luxels: charts.reduce((n, c) => n + c.width * c.height, 0),
    repaired: lit.reduce((n, c) => n + c.repairs.length, 0),
    left,
  };
}

function addTo(light: Float32Array, more: Float32Array): void {
  for (let k = 0; k < light.length; k++) light[k]! += more[k]!;
}

function repair(light: Float32Array, repairs: readonly Repair[]): void {
  for (const { luxel, from } of repairs)
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (const k of from) sum += light[k * 3 + c]!;
      light[luxel * 3 + c] = sum / from.length;
    }
}

function worldOf(
  charts: readonly Chart[],
  lit: readonly LitChart[],
  links: readonly Int32Array[],
  count: number,
  materials: MaterialLookup,
): PatchWorld {
  const total = lit.reduce((n, c) => n + c.patches.area.length, 0);
  const area = new Float32Array(total);
  const reflects = new Float32Array(total * 3);
  const all = new Int32Array(total * count);
  let first = 0;
  lit.forEach(({ patches }, i) => {
    area.set(patches.area, first);
    all.set(links[i]!, first * count);
    const color = materials(charts[i]!.surface.material)?.average;
    const given = (color ? linearColor(color) : [UNKNOWN, UNKNOWN, UNKNOWN]).map((c) => Math.min(MOST_REFLECTED, c));
    for (let p = first; p < first + patches.area.length; p++) reflects.set(given, p * 3);
    first += patches.area.length;
  });
  return { area, reflects, links: all, count, share: linkShares(all, count) };
}

/** Lights whose bounces are found together, and what patches give off of them at first, three floats each. */
interface Group {
  /** The thing whose light is kept apart; null for what always shines. */
  readonly thing: string | null;
  readonly given: Float32Array;
}

/** So many lights that always shine go each by itself; more of them go together: each costs a pass over all links. */
const MOST_ALONE = 48;

/** The lights by groups: all faces that glow, each lamp that is kept apart, and the others. */
function groupsOf(world: PatchWorld, lit: readonly LitChart[], sources: readonly Source[]): Group[] {
  const always = sources.filter((s) => s.thing === null && s.light.type !== 'area');
  const lists = [
    sources.filter((s) => s.light.type === 'area'),
    ...(always.length > MOST_ALONE ? [always] : always.map((s) => [s])),
    ...sources.filter((s) => s.thing !== null).map((s) => [s]),
  ];
  const groups = lists.map((list): Group => {
    const strengths = new Map(list.map((s) => [s.place, s.strength]));
    const given = new Float32Array(world.area.length * 3);
    let first = 0;
    for (const { patches, reached, means } of lit) {
      reached.forEach((source, l) => {
        const strength = strengths.get(source);
        if (!strength) return;
        means[l]!.forEach((mean, p) => {
          for (let c = 0; c < 3; c++) {
            const at = (first + p) * 3 + c;
            given[at]! += mean * strength[c]! * world.reflects[at]!;
          }
        });
      });
      first += patches.area.length;
    }
    return { thing: list[0]?.thing ?? null, given };
  });
  const dark = (given: Float32Array) => given.every((x) => x === 0);
  return groups.filter((g) => !dark(g.given));
}

/** For each chart the patches of its plane that lie around it, its own among them, and their places in the list of all. */
function nearPatches(
  charts: readonly Chart[],
  lit: readonly LitChart[],
): { readonly near: readonly NearPatch[]; readonly places: readonly number[] }[] {
  const table = new PlaneTable();
  const groups = new Map<string, number[]>();
  const starts: number[] = [];
  let first = 0;
  const keys = charts.map(({ surface, size }, i) => {
    const key = `${table.add(surface.plane)} ${size}`;
    const group = groups.get(key);
    if (group) group.push(i);
    else groups.set(key, [i]);
    starts.push(first);
    first += lit[i]!.patches.area.length;
    return key;
  });
  const bounds = lit.map(({ patches: { cells } }) => {
    const out = [Infinity, Infinity, -Infinity, -Infinity];
    for (let k = 0; k < cells.length; k++) {
      out[k % 2] = Math.min(out[k % 2]!, cells[k]!);
      out[2 + (k % 2)] = Math.max(out[2 + (k % 2)]!, cells[k]!);
    }
    return out as [number, number, number, number];
  });
  return charts.map((_, i) => {
    const near: NearPatch[] = [];
    const places: number[] = [];
    const [c0, r0, c1, r1] = bounds[i]!;
    for (const other of groups.get(keys[i]!)!) {
      const [u0, v0, u1, v1] = bounds[other]!;
      if (u0 > c1 + NEAR || u1 < c0 - NEAR || v0 > r1 + NEAR || v1 < r0 - NEAR) continue;
      const { cells, centre, area } = lit[other]!.patches;
      for (let p = 0; p < area.length; p++) {
        const [column, row] = [cells[p * 2]!, cells[p * 2 + 1]!];
        if (column < c0 - NEAR || column > c1 + NEAR || row < r0 - NEAR || row > r1 + NEAR) continue;
        near.push({ column, row, a: centre[p * 2]!, b: centre[p * 2 + 1]!, area: area[p]!, own: other === i });
        places.push(starts[other]! + p);
      }
    }
    return { near, places };
  });
}
