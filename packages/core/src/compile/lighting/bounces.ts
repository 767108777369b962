import { linearColor } from '../../surface/index.ts';
import { dueJob, partOf, type DueJob, type KeptResults, type StageControl } from '../../jobs/index.ts';
import type { Vec3 } from '../../math/index.ts';
import type { MaterialFacts, MaterialLookup } from '../../surface/index.ts';
import { bounce, linkShares, luminanceOf, type Bounced, type PatchWorld } from './bounce.ts';
import type { Chart } from './charts.ts';
import type { LitChart } from './direct-job.ts';
import { gatherJob, NEAR, type Lists, type NearPatch } from './gather.ts';
import type { Group } from './groups.ts';
import { hotJob, NONE_HOT, type HotPairs } from './hot.ts';
import type { LightingInput } from './input.ts';
import { litBrushes } from './lights.ts';
import { linksJob, nameOfLinks } from './links.ts';
import { PlaneTable } from './planes.ts';

/** What materials reflect that nobody knows. */
const UNKNOWN = 0.5;

/** A surface that gives back more than this would keep light for ever. */
const MOST_REFLECTED = 0.95;

/** Lux of what bounces of one light that are not kept: many times under what is seen. */
const LEAST_BOUNCED = 0.0005;

/** How much of red, green and blue light a material gives back. */
export function reflectanceOf(facts: MaterialFacts | undefined): Vec3 {
  const [r, g, b] = facts?.average ? linearColor(facts.average) : [UNKNOWN, UNKNOWN, UNKNOWN];
  return [Math.min(MOST_REFLECTED, r), Math.min(MOST_REFLECTED, g), Math.min(MOST_REFLECTED, b)];
}

/** How much of it is done after links, and after looks at hot patches. */
const LINKED = 0.5;
const HOT = 0.8;

/** What is kept of bounces from one build to the next: it is of use while solids, surfaces and colours are what they were. */
interface KeptBounces {
  readonly world: string;
  readonly groups: ReadonlyMap<string, KeptGroup>;
}

interface KeptGroup {
  /** What patches gave off at first. */
  readonly given: Float32Array;
  readonly bounced: Bounced;
  /** By chart; null where that would take too much room. */
  readonly lists: Lists | null;
}

/** What is kept of what comes to luxels takes at most so many bytes. */
const MOST_KEPT = 96 * 1024 ** 2;

/** All bounces of all groups of lights, spread over the luxels of each chart; and how much can still come after each. */
export function* bounces(
  input: LightingInput,
  control: StageControl,
  charts: readonly Chart[],
  lit: readonly LitChart[],
  groups: readonly Group[],
): Generator<DueJob, { readonly lists: readonly Lists[]; readonly left: readonly number[] }, unknown> {
  const { options } = input;
  const { kept } = control;
  const { solids: brushes, veils } = litBrushes(input.brushes, input.materials);
  const linked = charts.map(({ surface, size, outline }, i) => ({
    plane: surface.plane,
    luxel: size,
    outline,
    patches: lit[i]!.patches,
  }));
  const wanted = { brushes, veils, charts: linked, count: options.links };
  const links = (yield dueJob(linksJob, wanted, partOf(control, 0, LINKED))) as readonly Int32Array[];
  const world = worldOf(charts, lit, links, options.links, input.materials);
  const given = givenBy(groups, world, lit);
  const keptName = `bounces ${options.luxel} ${options.links} ${options.quick}`;
  const worldName = kept ? kept.hash(`${nameOfLinks(wanted, kept.hash)} ${world.reflects.join()}`) : '';
  const before = known(kept, keptName, worldName);
  const same = groups.map(({ name }, g): KeptGroup | null => {
    const old = before?.get(name);
    return old && sameFloats(old.given, given[g]!) ? old : null;
  });
  const anew = groups.flatMap((_, g) => (same[g] ? [] : [g]));
  // For a first look links will do.
  const hot: readonly HotPairs[] = options.quick
    ? anew.map(() => NONE_HOT)
    : ((yield dueJob(
        hotJob,
        {
          brushes,
          veils,
          charts: linked,
          given: anew.map((g) => Float32Array.from(world.area, (_, p) => luminanceOf(given[g]!, p * 3))),
        },
        partOf(control, LINKED, HOT),
      )) as readonly HotPairs[]);
  const fresh = bounce(
    world,
    anew.map((g, i) => ({ given: given[g]!, hot: hot[i]! })),
  );
  const bounced = groups.map((_, g) => same[g]?.bounced ?? fresh[anew.indexOf(g)]!);
  const spread = groups.flatMap((_, g) => (same[g]?.lists ? [] : [g]));
  const items = nearPatches(charts, lit).map(({ near, places }, i) => ({
    surface: charts[i]!.surface,
    luxel: charts[i]!.size,
    spots: lit[i]!.spots,
    near,
    values: spread.map((g) => {
      const { light, noise } = bounced[g]!;
      const own = new Float32Array(places.length * 3);
      let most = 0;
      places.forEach((p, k) => {
        for (let c = 0; c < 3; c++) most = Math.max(most, (own[k * 3 + c] = light[p * 3 + c]!));
      });
      return most > LEAST_BOUNCED ? { light: own, noise: Float32Array.from(places, (p) => noise[p]!) } : null;
    }),
  }));
  const gathered = (yield dueJob(gatherJob, { brushes, items }, partOf(control, HOT, 1))) as readonly Lists[];
  const lists = charts.map((_, i) =>
    groups.map((_, g) => same[g]?.lists?.[i] ?? gathered[i]![spread.indexOf(g)] ?? null),
  );
  if (kept && anew.length > 0) {
    let bytes = 0;
    for (const list of lists) for (const own of list) bytes += own?.byteLength ?? 0;
    const keepLists = bytes < MOST_KEPT;
    const keep = groups.map(({ name }, g): [string, KeptGroup] => [
      name,
      { given: given[g]!, bounced: bounced[g]!, lists: keepLists ? lists.map((l) => l[g]!) : null },
    ]);
    kept.put(keptName, { world: worldName, groups: new Map(keep) } satisfies KeptBounces);
  }
  return { lists, left: leftOf(bounced) };
}

function known(kept: KeptResults | undefined, name: string, world: string): KeptBounces['groups'] | undefined {
  const before = kept?.get(name) as KeptBounces | undefined;
  return before?.world === world ? before.groups : undefined;
}

function sameFloats(a: Float32Array, b: Float32Array): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

/** After each bounce what can still come of all lights together. */
function leftOf(all: readonly Bounced[]): number[] {
  const whole = all.reduce((n, b) => n + b.whole, 0);
  const bounces = Math.max(0, ...all.map((b) => b.left.length));
  return Array.from({ length: whole > 0 ? bounces : 0 }, (_, n) =>
    all.reduce((sum, b) => sum + ((b.left[n] ?? b.left.at(-1) ?? 0) * b.whole) / whole, 0),
  );
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
    const given = reflectanceOf(materials(charts[i]!.surface.material));
    for (let p = first; p < first + patches.area.length; p++) reflects.set(given, p * 3);
    first += patches.area.length;
  });
  return { area, reflects, links: all, count, share: linkShares(all, count) };
}

/** What patches give off at first of the light of each group, three floats a patch. */
function givenBy(groups: readonly Group[], world: PatchWorld, lit: readonly LitChart[]): Float32Array[] {
  const groupOf = new Map(
    groups.flatMap((g, i) => [...g.parts].map(([id, strength]) => [id, { i, strength }] as const)),
  );
  const given = groups.map(() => new Float32Array(world.area.length * 3));
  let first = 0;
  for (const { patches, shines } of lit) {
    for (const { source, means, colors } of shines) {
      const group = groupOf.get(source);
      if (!group) continue;
      const own = given[group.i]!;
      means.forEach((mean, p) => {
        for (let c = 0; c < 3; c++) {
          const at = (first + p) * 3 + c;
          own[at]! += (colors ? colors.means[p * 3 + c]! : mean) * group.strength[c]! * world.reflects[at]!;
        }
      });
    }
    first += patches.area.length;
  }
  return given;
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
