import type { Brush } from '../../brush/index.ts';
import { LUMINANCE } from '../../surface/index.ts';
import type { Job } from '../../jobs/index.ts';
import { dot, OFF_SURFACE } from '../../math/index.ts';
import { makeRays, type Rays } from '../tracing/index.ts';
import { planeDirections } from './charts.ts';
import type { LinkedChart } from './links.ts';
import { Veils, type Veil } from './veils.ts';

/** Patches that give off more than so many times the mean are hot. */
const HOT = 6;

/** What a hot patch may bring to another one, against the mean, to be worth a look of its own; and a second sample for each so much. */
const WORTH = 0.01;
const SAMPLE = 0.05;

/** A mean of less than this is not worth the care, lumen a square metre. */
const LEAST = 1;

/** Rays between a hot patch and another one, at most. */
const MOST_RAYS = 8;

/** Hot patches, at most: the strongest. */
const MOST_HOT = 4096;

/** What certain patches receive of hot ones straight. */
export interface HotPairs {
  /** Receiver and hot patch, by their places among all. 2 a pair, by receiver */
  readonly pairs: Int32Array;
  /** Of what the hot patch gives off so much falls on the receiver, lux for lumen a square metre. */
  readonly share: Float32Array;
}

export const NONE_HOT: HotPairs = { pairs: new Int32Array(0), share: new Float32Array(0) };

export interface HotInput {
  readonly brushes: readonly Brush[];
  readonly veils: readonly Veil[];
  readonly charts: readonly LinkedChart[];
  /** What patches give off at first, for each light: luminance. */
  readonly given: readonly Float32Array[];
}

interface Shared {
  readonly brushes: readonly Brush[];
  readonly veils: readonly Veil[];
  readonly charts: readonly LinkedChart[];
  /** For each light. */
  readonly hot: readonly Hot[];
}

/** A chart, and the place of its first patch among all. */
interface Item {
  readonly chart: number;
  readonly first: number;
}

/** Hot patches as flat numbers. */
interface Hot {
  /** Places in the list of all patches. */
  readonly patches: Int32Array;
  readonly given: Float32Array;
  /** cm² */
  readonly area: Float32Array;
  /** Middle and normal. 6 */
  readonly frames: Float64Array;
  /** Places rays go to, in the world, a little off the surface. 3 a place */
  readonly places: Float64Array;
  readonly placeFirst: Int32Array;
  /** The mean of what patches give off that give off anything. */
  readonly mean: number;
}

/**
 * Looks from every patch at the hot ones that matter to it. Links meet a small bright patch by chance: too seldom or too often. Rays
 * straight to it have no such noise; where the two lie so near that links meet it anyway they are left to those. One list of pairs a
 * light.
 */
export const hotJob: Job<HotInput, Shared, Item, HotPairs[], readonly HotPairs[]> = {
  name: 'hot',
  cut: ({ brushes, veils, charts, given }) => {
    let first = 0;
    const items = charts.map(({ patches }, chart): Item => {
      const item = { chart, first };
      first += patches.area.length;
      return item;
    });
    return { shared: { brushes, veils, charts, hot: given.map((light) => hottest(charts, light)) }, items };
  },
  shard: 32,
  prepare: ({ brushes, veils: some, charts, hot }) => {
    const [rays, veils] = [makeRays(brushes), new Veils(some)];
    return ({ chart, first }) => hot.map((light) => look(light, rays, veils, charts[chart]!, first));
  },
  merge: ({ given }, results) => given.map((_, l) => joined(results.map((lights) => lights[l]!))),
  memory: (lights) => lights.flatMap(({ pairs, share }) => [pairs.buffer, share.buffer]),
};

function joined(parts: readonly HotPairs[]): HotPairs {
  const count = parts.reduce((n, part) => n + part.share.length, 0);
  const out = { pairs: new Int32Array(count * 2), share: new Float32Array(count) };
  let at = 0;
  for (const { pairs, share } of parts) {
    out.pairs.set(pairs, at * 2);
    out.share.set(share, at);
    at += share.length;
  }
  return out;
}

function hottest(charts: readonly LinkedChart[], given: Float32Array): Hot {
  let [sum, all, first] = [0, 0, 0];
  for (const { patches } of charts) {
    patches.area.forEach((area, p) => {
      sum += area * given[first + p]!;
      if (given[first + p]! > 0) all += area;
    });
    first += patches.area.length;
  }
  const mean = Math.max(LEAST, all > 0 ? sum / all : 0);
  const found: { patch: number; chart: number; own: number }[] = [];
  first = 0;
  charts.forEach(({ patches }, chart) => {
    for (let own = 0; own < patches.area.length; own++)
      if (given[first + own]! > HOT * mean) found.push({ patch: first + own, chart, own });
    first += patches.area.length;
  });
  const power = ({ patch, chart, own }: (typeof found)[number]) => given[patch]! * charts[chart]!.patches.area[own]!;
  found.sort((a, b) => power(b) - power(a) || a.patch - b.patch);
  const hot = found.slice(0, MOST_HOT).sort((a, b) => a.patch - b.patch);
  const frames: number[] = [];
  const places: number[] = [];
  const placeFirst = [0];
  for (const { chart, own } of hot) {
    const { plane, patches } = charts[chart]!;
    const { normal, distance } = plane;
    const { s, t } = planeDirections(normal);
    const at = (a: number, b: number) =>
      [0, 1, 2].map((c) => s[c]! * a + t[c]! * b + normal[c]! * (distance + OFF_SURFACE));
    frames.push(...at(patches.centre[own * 2]!, patches.centre[own * 2 + 1]!), ...normal);
    for (let o = patches.originFirst[own]!; o < patches.originFirst[own + 1]!; o++)
      places.push(...at(patches.origins[o * 2]!, patches.origins[o * 2 + 1]!));
    placeFirst.push(places.length / 3);
  }
  return {
    patches: Int32Array.from(hot, (h) => h.patch),
    given: Float32Array.from(hot, (h) => given[h.patch]!),
    area: Float32Array.from(hot, (h) => charts[h.chart]!.patches.area[h.own]!),
    frames: Float64Array.from(frames),
    places: Float64Array.from(places),
    placeFirst: Int32Array.from(placeFirst),
    mean,
  };
}

function look(hot: Hot, rays: Rays, veils: Veils, chart: LinkedChart, first: number): HotPairs {
  const { plane, patches } = chart;
  const { normal, distance } = plane;
  const { s, t } = planeDirections(normal);
  const [nx, ny, nz] = normal;
  const raised = distance + OFF_SURFACE;
  const pairs: number[] = [];
  const share: number[] = [];
  const candidates = mayMatter(hot, chart);
  for (let p = 0; p < patches.area.length; p++) {
    const [ca, cb] = [patches.centre[p * 2]!, patches.centre[p * 2 + 1]!];
    const cx = s[0] * ca + t[0] * cb + nx * raised;
    const cy = s[1] * ca + t[1] * cb + ny * raised;
    const cz = s[2] * ca + t[2] * cb + nz * raised;
    const origin = patches.originFirst[p]!;
    const origins = patches.originFirst[p + 1]! - origin;
    for (let c = 0; c < candidates.length; c++) {
      const h = candidates[c]!;
      const f = h * 6;
      const dx = hot.frames[f]! - cx;
      const dy = hot.frames[f + 1]! - cy;
      const dz = hot.frames[f + 2]! - cz;
      const here = dx * nx + dy * ny + dz * nz;
      if (here <= 0) continue;
      const there = -(dx * hot.frames[f + 3]! + dy * hot.frames[f + 4]! + dz * hot.frames[f + 5]!);
      if (there <= 0) continue;
      const d2 = dx * dx + dy * dy + dz * dz;
      const area = hot.area[h]!;
      if (d2 < area) continue;
      const worth = (hot.given[h]! * area * here * there) / (Math.PI * d2 * d2);
      if (worth < WORTH * hot.mean) continue;
      const samples = Math.min(MOST_RAYS, Math.ceil(worth / (SAMPLE * hot.mean)));
      const place = hot.placeFirst[h]!;
      const places = hot.placeFirst[h + 1]! - place;
      let sum = 0;
      for (let k = 0; k < samples; k++) {
        // Steps that share no factor with the numbers of places: all of them come in turn.
        const o = (origin + ((k * 7 + h) % origins)) * 2;
        const q = (place + ((k * 5 + p) % places)) * 3;
        const [a, b] = [patches.origins[o]!, patches.origins[o + 1]!];
        const ox = s[0] * a + t[0] * b + nx * raised;
        const oy = s[1] * a + t[1] * b + ny * raised;
        const oz = s[2] * a + t[2] * b + nz * raised;
        const wx = hot.places[q]! - ox;
        const wy = hot.places[q + 1]! - oy;
        const wz = hot.places[q + 2]! - oz;
        const u = wx * nx + wy * ny + wz * nz;
        const v = -(wx * hot.frames[f + 3]! + wy * hot.frames[f + 4]! + wz * hot.frames[f + 5]!);
        if (u <= 0 || v <= 0 || rays.anyHit(ox, oy, oz, wx, wy, wz, 1)) continue;
        const w2 = wx * wx + wy * wy + wz * wz;
        const veiled = veils.mayMeet(ox, oy, oz, wx, wy, wz, 1);
        const part = veiled ? dot(LUMINANCE, veils.through([ox, oy, oz], [wx, wy, wz], 1)) : 1;
        sum += (part * u * v * area) / (Math.PI * w2 * w2);
      }
      // One that is hidden counts too: links are not to bring it instead.
      pairs.push(first + p, hot.patches[h]!);
      share.push(sum / samples);
    }
  }
  return { pairs: Int32Array.from(pairs), share: Float32Array.from(share) };
}

/** The hot patches that may matter to any of a chart's, by how near they come to what holds it. */
function mayMatter(hot: Hot, { plane, patches }: LinkedChart): Int32Array {
  const { s, t } = planeDirections(plane.normal);
  const [low, high] = [
    [Infinity, Infinity],
    [-Infinity, -Infinity],
  ] as [[number, number], [number, number]];
  for (let i = 0; i < patches.centre.length; i++) {
    const c = patches.centre[i]!;
    if (c < low[i % 2]!) low[i % 2] = c;
    if (c > high[i % 2]!) high[i % 2] = c;
  }
  const out: number[] = [];
  for (let h = 0; h < hot.patches.length; h++) {
    const at = [hot.frames[h * 6]!, hot.frames[h * 6 + 1]!, hot.frames[h * 6 + 2]!] as const;
    const above = dot(at, plane.normal) - plane.distance;
    if (above <= 0) continue;
    const [a, b] = [dot(at, s), dot(at, t)];
    const da = Math.max(low[0] - a, a - high[0], 0);
    const db = Math.max(low[1] - b, b - high[1], 0);
    const d2 = above * above + da * da + db * db;
    // The cosine here is `above / d`, the one there at most 1.
    const most = (hot.given[h]! * hot.area[h]! * above) / (Math.PI * d2 * Math.sqrt(d2));
    if (most >= WORTH * hot.mean) out.push(h);
  }
  return Int32Array.from(out);
}
