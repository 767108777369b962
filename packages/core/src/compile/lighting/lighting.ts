import { partOf, type DueJob, type StageControl } from '../../jobs/index.ts';
import { bounces, reflectanceOf } from './bounces.ts';
import { makeChart, type Chart } from './charts.ts';
import { lightsOf, litCharts, type LitChart } from './direct-job.ts';
import { Directions } from './directions.ts';
import { evenRegions, evenShares } from './evens.ts';
import { groupsOf, openArea, type Group } from './groups.ts';
import type { LightingInput } from './input.ts';
import { EVEN, sourcesOf, type Lights, type Source } from './lights.ts';
import { LayerWriter, layOutPages, PageWriter, type ChartPlace, type LightLayer, type LightPage } from './pages.ts';
import { repair } from './repair.ts';

export interface Lighting {
  readonly pages: readonly LightPage[];
  /** What lamps add that play can switch, by thing. Their light is not in the pages. */
  readonly layers: readonly LightLayer[];
  /** What all others add and the even light, whose sum the pages are. Only made when it is asked for. */
  readonly ledger: readonly LightLayer[];
  /** One per surface; null for surfaces that show the sky. */
  readonly places: readonly (ChartPlace | null)[];
  readonly luxels: number;
  /** Luxels that lay in solids and took light from neighbours. */
  readonly repaired: number;
  /** What came to nothing: things that shine, and faces that glow, of which no light falls on any surface. */
  readonly lost: readonly Source[];
  /** After each bounce, how much of the light can still come, as a share of what was given off at first. */
  readonly left: readonly number[];
  /** What it was lit by. */
  readonly lights: Lights;
  /** Of what had to be looked at for direct light each light's part, 0 to 1, by what it is counted to. */
  readonly work: ReadonlyMap<string, number>;
}

/** More luxels than this are not lit: their light alone would take gigabytes. */
const MOST_LUXELS = 24_000_000;

/** What a luxel takes while it is lit, bytes, about. */
const EACH = 120;

/** A map whose lightmap would be too large. */
export class TooFine extends Error {
  override name = 'TooFine';
  readonly code = 'build.tooFine';
}

/** Throws {@link TooFine} for more luxels than can be lit, with what would fit. */
export function assertFits(luxels: number, luxel: number, most = MOST_LUXELS): void {
  if (luxels <= most) return;
  // Twice as coarse is a quarter as many.
  const fits = Math.ceil(luxel * Math.sqrt(luxels / most));
  throw new TooFine(
    `The light would be ${(luxels / 1e6).toFixed(0)} million luxels, about ${((luxels * EACH) / 1e9).toFixed(1)} GB. Luxels of ${fits} cm in place of ${luxel} would fit: take a coarser preset, or a grain of ${(fits / luxel).toFixed(1)} on large faces.`,
  );
}

/** How much of the stage is done after direct light. */
const DIRECT = 0.5;

/**
 * The lighting stage, as jobs for whoever drives it: direct light on each chart; links between patches; what bounces over them; and
 * that spread over the luxels. All of it is found for each group of lights by itself, as if they were white, and the pages are the
 * sum: so any of them can be dimmed, coloured or put out afterwards.
 */
export function* lightLevel(input: LightingInput, control: StageControl): Generator<DueJob, Lighting, unknown> {
  const { structure, options } = input;
  const surfaces = structure.surfaces.filter((s) => !s.sky);
  const charts = surfaces.map((s) => makeChart(s, options.luxel * s.grain));
  const luxels = charts.reduce((n, c) => n + c.width * c.height, 0);
  assertFits(luxels, options.luxel);
  const lights = lightsOf(input);
  const lit = yield* litCharts(input, lights, partOf(control, 0, options.links ? DIRECT : 1));
  const sources = sourcesOf(lights);
  const groups = groupsOf(lit, sources, new Set(input.switched));
  const { lists, left } = options.links
    ? yield* bounces(input, partOf(control, DIRECT, 1), charts, lit, groups)
    : { lists: options.guess ? guessed(input, charts, lit, groups) : charts.map(() => []), left: [] };
  let k = 0;
  const chartOf = structure.surfaces.map((s) => (s.sky ? null : k++));
  const { sizes, places } = layOutPages(chartOf.map((i) => (i === null ? null : charts[i]!)));
  const pages = new PageWriter(sizes);
  const directions = new Directions(sources, groups);
  const writers = groups.map((g) => (g.switched || input.ledger ? new LayerWriter() : null));
  const regions = evenRegions(lights.evens, input.region);
  /** The even light: that of the map, and of each region. */
  const evens = [
    { thing: EVEN, color: lights.ambient },
    ...regions.map(({ light }) => ({ thing: light.thing, color: light.illuminance })),
  ].map((e) => ({ ...e, writer: input.ledger ? new LayerWriter() : null, sum: 0 }));
  let openLuxels = 0;
  places.forEach((place, s) => {
    if (!place) return;
    const i = chartOf[s]!;
    const { open, repairs } = lit[i]!;
    const light = new Float32Array(open.length * 3);
    const shares = evenShares(charts[i]!, lit[i]!, regions);
    openLuxels += open.reduce((sum, is) => sum + is, 0) * charts[i]!.size ** 2;
    [shares.rest, ...shares.regions].forEach((share, e) => {
      if (!share) return;
      const { color, writer } = evens[e]!;
      for (let n = 0; n < share.length; n++) for (let c = 0; c < 3; c++) light[n * 3 + c]! += share[n]! * color[c]!;
      evens[e]!.sum += share.reduce((sum, x) => sum + x, 0) * charts[i]!.size ** 2;
      if (!writer) return;
      const own = Float32Array.from(light, (_, n) => share[Math.floor(n / 3)]!);
      repair(own, repairs);
      writer.write(place, own);
    });
    groups.forEach((group, g) => {
      const own = groupLight(group, lit[i]!, lists[i]![g] ?? null, options.bounced ?? 1);
      if (!own) return;
      if (!group.switched)
        for (let n = 0; n < light.length; n += 3)
          for (let c = 0; c < 3; c++) light[n + c]! += own[n + c]! * group.tint[c]!;
      const writer = writers[g];
      if (!writer) return;
      repair(own, repairs);
      writer.write(place, own);
    });
    const ways = directions.of(charts[i]!, lit[i]!, light);
    repair(light, repairs);
    pages.write(place, light, ways);
  });
  const layersOf = (switched: boolean) =>
    groups.flatMap(({ name, tint, strength, flux, switched: is }, g): LightLayer[] => {
      const writer = is === switched && writers[g];
      return writer ? [{ thing: name, tint, strength, flux, ...writer.done() }] : [];
    });
  return {
    pages: pages.pages,
    layers: layersOf(true),
    ledger: [
      ...layersOf(false),
      ...evens.flatMap(({ thing, color, writer, sum }): LightLayer[] => {
        // The layer holds shares, so its light is of a strength of 1.
        const flux = openLuxels > 0 ? (openArea(lit) * sum) / openLuxels : 0;
        return writer ? [{ thing, tint: color, strength: 1, flux, ...writer.done() }] : [];
      }),
    ],
    places,
    luxels,
    repaired: lit.reduce((n, c) => n + c.repairs.length, 0),
    lost: lostOf(lit, sources),
    left,
    lights,
    work: workOf(lit, groups),
  };
}

/** So much of what falls on all surfaces is reflected at most, for a guess that stays within reason. */
const MOST_GUESSED = 0.8;

/** What bounces if it is spread evenly over all surfaces, as in a white ball: of each group its light, times ρ / (1 − ρ), by all their area. */
function guessed(
  { materials }: LightingInput,
  charts: readonly Chart[],
  lit: readonly LitChart[],
  groups: readonly Group[],
): Float32Array[][] {
  let [reflected, all] = [0, 0];
  charts.forEach(({ surface }, i) => {
    const [r, g, b] = reflectanceOf(materials(surface.material));
    const area = lit[i]!.patches.area.reduce((sum, a) => sum + a, 0);
    reflected += ((r + g + b) / 3) * area;
    all += area;
  });
  const mean = all > 0 ? Math.min(MOST_GUESSED, reflected / all) : 0;
  const area = openArea(lit);
  const lux = groups.map(({ flux }) => (area > 0 ? (flux * mean) / (1 - mean) / area : 0));
  return lit.map(({ open }) => lux.map((e) => new Float32Array(open.length * 3).fill(e)));
}

function workOf(lit: readonly LitChart[], groups: readonly Group[]): Map<string, number> {
  const bySource = new Map<string, number>();
  let all = 0;
  for (const { shines } of lit)
    for (const { source, work } of shines) {
      bySource.set(source, (bySource.get(source) ?? 0) + work);
      all += work;
    }
  return new Map(
    groups.map(({ name, parts }) => {
      const own = [...parts.keys()].reduce((sum, source) => sum + (bySource.get(source) ?? 0), 0);
      return [name, all > 0 ? own / all : 0];
    }),
  );
}

function lostOf(lit: readonly LitChart[], sources: readonly Source[]): Source[] {
  const reached = new Set(lit.flatMap(({ shines }) => shines.map((s) => s.source)));
  return sources.filter(({ id, strength }) => !reached.has(id) && strength.some((c) => c > 0));
}

/** What a group's lights give a chart directly and by bounces, as if they were white; null for nothing. */
function groupLight(
  { parts }: Group,
  { shines, open }: LitChart,
  bounced: Float32Array | null,
  times: number,
): Float32Array | null {
  // What came of bounces may be kept for later builds: it is not changed.
  let light = times > 0 ? (bounced?.map((l) => l * times) ?? null) : null;
  for (const { source, share, colors } of shines) {
    const strength = parts.get(source);
    if (!strength) continue;
    light ??= new Float32Array(open.length * 3);
    for (let k = 0; k < share.length; k++) {
      if (share[k] === 0) continue;
      for (let c = 0; c < 3; c++) light[k * 3 + c]! += strength[c]! * (colors ? colors.share[k * 3 + c]! : share[k]!);
    }
  }
  return light;
}
