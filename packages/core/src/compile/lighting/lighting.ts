import potpack from 'potpack';
import { brushPlanes, type Brush } from '../../brush/index.ts';
import type { Entity } from '../../entity/index.ts';
import { addScaled, hypot, OFF_SURFACE, signedDistance, sub, type Vec3 } from '../../math/index.ts';
import type { Job } from '../../jobs/index.ts';
import { locate, type Structure, type Surface } from '../structure/index.ts';
import { canSee, type Visibility } from '../visibility/index.ts';
import { chartPoint, GUTTER, inOutline, makeChart, nearestInOutline, putChartPoint, type Chart } from './charts.ts';
import {
  addDirect,
  collectLights,
  litBrushes,
  makeLitScene,
  type Lights,
  type LitScene,
  type PointLight,
} from './lights.ts';
import { chartNames } from './names.ts';
import { packRgb9e5 } from './rgb9e5.ts';
import { anyHit, firstHit, solidAt, type Tracer } from '../tracing/index.ts';

export interface LightingOptions {
  /** Edge of a luxel, cm. */
  readonly luxel: number;
  /** Samples along each edge of a luxel: 1, 2 or 4. */
  readonly samples: number;
  readonly ambientColor: string;
  readonly ambientLux: number;
}

/** Lux are divided by this before they are packed, so that full sunlight stays within the packed range. */
export const LUX_SCALE = 16;

/** One square texture of packed light. */
export interface LightPage {
  readonly width: number;
  readonly height: number;
  /** Shared-exponent colours of `lux / LUX_SCALE`, row by row. */
  readonly texels: Uint32Array;
}

/** Where a surface's light lies: page, and an affine map from world to page texels. */
export interface ChartPlace {
  readonly page: number;
  readonly chart: Chart;
  readonly x: number;
  readonly y: number;
}

/** Edge of a layer's tiles, texels. */
export const TILE = 32;

/** What a lamp that play can switch adds to the pages at full strength: tiles of them, where it adds anything. */
export interface LightLayer {
  readonly thing: string;
  /** Page, and column and row of the tile on it. */
  readonly tiles: readonly (readonly [page: number, column: number, row: number])[];
  /** Packed as the pages are, `TILE²` texels a tile, row by row. */
  readonly texels: Uint32Array;
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

/** Pages are filled up to about this many texels. */
const PAGE_TEXELS = 1536 * 1536;

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
  /** The same of each lamp that is kept apart, where its light comes to. */
  readonly layers: readonly { readonly thing: string; readonly light: Float32Array }[];
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
    const scene = makeLitScene(brushes);
    const alone: Lights = { ...lights, suns: [], ambient: [0, 0, 0] };
    return ({ surface, luxel, near, apart }) => {
      const chart = makeChart(surface, luxel);
      const lit = lightChart(
        chart,
        scene,
        lights,
        near.map((l) => lights.points[l]!),
        samples,
      );
      const layers = apart.flatMap((l) => {
        const { light } = lightChart(chart, scene, alone, [lights.points[l]!], samples);
        return light.some((x) => x > 0) ? [{ thing: lights.switched[l]!, light }] : [];
      });
      return { ...lit, layers };
    };
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

/** Light of one chart with its gutter, three floats (lux) a luxel, row by row. */
function lightChart(
  chart: Chart,
  scene: LitScene,
  lights: Lights,
  points: readonly PointLight[],
  samples: number,
): Omit<LitChart, 'layers'> {
  const w = chart.width + 2 * GUTTER;
  const h = chart.height + 2 * GUTTER;
  const light = new Float32Array(w * h * 3);
  const valid = new Uint8Array(w * h);
  const { normal } = chart.surface.plane;
  const sum = new Float64Array(3);
  /** The middle of the clear spots. */
  const centre: [number, number] = [0, 0];
  const spots = new Spots(samples * samples);
  const at: [number, number, number] = [0, 0, 0];
  const off: [number, number, number] = [0, 0, 0];
  /** Adds up what is seen at the spots into `sum`; gives how many of them are clear, and puts their middle into `centre`. */
  const gather = (): number => {
    let clear = 0;
    sum.fill(0);
    centre[0] = centre[1] = 0;
    for (let k = 0; k < spots.count; k++) {
      const [a, b] = [spots.a[k]!, spots.b[k]!];
      putChartPoint(chart, a, b, at);
      for (let c = 0; c < 3; c++) off[c] = at[c]! + normal[c]! * OFF_SURFACE;
      if (solidAt(scene.all, off) || (!spots.within[k] && !reaches(chart, scene.all, a, b, off))) continue;
      clear++;
      centre[0] += a;
      centre[1] += b;
      addDirect(scene, lights, points, at, normal, sum);
    }
    for (let c = 0; c < 3; c++) sum[c]! /= clear || 1;
    centre[0] /= clear || 1;
    centre[1] /= clear || 1;
    return clear;
  };
  const mean = new Float64Array(3);
  for (let j = 0; j < h; j++)
    for (let i = 0; i < w; i++) {
      spots.spread(chart, i - GUTTER, j - GUTTER, samples);
      // Where nothing of the square is open the nearest place of the surface stands in for it.
      if (gather() === 0) {
        if (spots.anyWithin()) continue;
        spots.only(
          ...nearestInOutline(
            chart.outline,
            (chart.s0 + i - GUTTER + 0.5) * chart.size,
            (chart.t0 + j - GUTTER + 0.5) * chart.size,
          ),
        );
        if (gather() === 0) continue;
      }
      mean.set(sum);
      const [a, b] = centre;
      const [x, y] = [(chart.s0 + i - GUTTER + 0.5) * chart.size, (chart.t0 + j - GUTTER + 0.5) * chart.size];
      // What was sampled lies beside the luxel's middle, where filtering takes it to be: go on from it as the light changes.
      if (hypot(x - a, y - b) > chart.size / 16 && inOutline(chart.outline, 2 * a - x, 2 * b - y)) {
        spots.only(2 * a - x, 2 * b - y);
        if (gather() === 1)
          for (let c = 0; c < 3; c++) {
            const [near, far] = [mean[c]!, sum[c]!];
            // Twice as bright or dark so near by is the edge of a shadow, which does not go on.
            if (near < 2 * far && far < 2 * near) mean[c] = 2 * near - far;
          }
      }
      const k = j * w + i;
      valid[k] = 1;
      for (let c = 0; c < 3; c++) light[k * 3 + c] = mean[c]! + lights.ambient[c]!;
    }
  return { light, repaired: repair(chart, scene.all, light, valid, w, h) };
}

/** Where a luxel is sampled, in lattice coordinates, and which of the places lie on the surface itself. Used again for every luxel. */
class Spots {
  count = 0;
  readonly a: Float64Array;
  readonly b: Float64Array;
  readonly within: Uint8Array;
  constructor(most: number) {
    this.a = new Float64Array(most);
    this.b = new Float64Array(most);
    this.within = new Uint8Array(most);
  }

  /** Evenly over a luxel's square, also beyond the surface's edge, so that flush surfaces have the same light along their seam. */
  spread({ size, s0, t0, outline }: Chart, i: number, j: number, samples: number): void {
    this.count = 0;
    for (let v = 0; v < samples; v++)
      for (let u = 0; u < samples; u++) {
        const a = (s0 + i + (u + 0.5) / samples) * size;
        const b = (t0 + j + (v + 0.5) / samples) * size;
        this.a[this.count] = a;
        this.b[this.count] = b;
        this.within[this.count++] = inOutline(outline, a, b) ? 1 : 0;
      }
  }

  /** One place on the surface. */
  only(a: number, b: number): void {
    this.count = 1;
    this.a[0] = a;
    this.b[0] = b;
    this.within[0] = 1;
  }

  anyWithin(): boolean {
    for (let k = 0; k < this.count; k++) if (this.within[k]) return true;
    return false;
  }
}

/** Whether a place beside a surface, in its plane, is open to it: nothing stands between it and the surface's nearest place. */
function reaches(chart: Chart, tracer: Tracer, a: number, b: number, p: Vec3): boolean {
  const from = addScaled(
    chartPoint(chart, ...nearestInOutline(chart.outline, a, b)),
    chart.surface.plane.normal,
    OFF_SURFACE,
  );
  return (
    !solidAt(tracer, from) &&
    !anyHit(tracer, from[0], from[1], from[2], p[0] - from[0], p[1] - from[1], p[2] - from[2], 1)
  );
}

/**
 * Luxels wholly inside solids take the mean of lit neighbours from which a clear segment leads to them (up to the very solid
 * they lie in), so that light never creeps through a wall. Those that nothing clear leads to take the nearest value: they
 * are never seen, and only filtering reads them.
 */
function repair(chart: Chart, tracer: Tracer, light: Float32Array, valid: Uint8Array, w: number, h: number): number {
  const spot = (k: number): Vec3 => {
    const [a, b] = nearestInOutline(
      chart.outline,
      (chart.s0 + (k % w) - GUTTER + 0.5) * chart.size,
      (chart.t0 + Math.floor(k / w) - GUTTER + 0.5) * chart.size,
    );
    return addScaled(chartPoint(chart, a, b), chart.surface.plane.normal, OFF_SURFACE);
  };
  const clear = (from: number, to: number): boolean => {
    const o = spot(from);
    const p = spot(to);
    const hit = firstHit(tracer, o, sub(p, o), 1);
    return !hit || brushPlanes(hit.brush).every((plane) => signedDistance(plane, p) < 0);
  };
  let repaired = 0;
  let left = valid.reduce((n, v) => n + (v ? 0 : 1), 0);
  for (let round = 0, strict = true; left > 0 && round < w + h + 2; round++) {
    const fixes: [number, number, number, number][] = [];
    for (let k = 0; k < valid.length; k++) {
      if (valid[k]) continue;
      const sum = [0, 0, 0];
      let n = 0;
      for (const [dx, dy] of [
        [-1, 0],
        [1, 0],
        [0, -1],
        [0, 1],
        [-1, -1],
        [1, -1],
        [-1, 1],
        [1, 1],
      ] as const) {
        const x = (k % w) + dx;
        const y = Math.floor(k / w) + dy;
        const m = y * w + x;
        if (x < 0 || y < 0 || x >= w || y >= h || !valid[m] || (strict && !clear(m, k))) continue;
        for (let c = 0; c < 3; c++) sum[c]! += light[m * 3 + c]!;
        n++;
      }
      if (n) fixes.push([k, sum[0]! / n, sum[1]! / n, sum[2]! / n]);
    }
    if (fixes.length === 0) {
      if (!strict) break;
      strict = false;
      continue;
    }
    for (const [k, r, g, b] of fixes) {
      valid[k] = 1;
      light.set([r, g, b], k * 3);
    }
    repaired += fixes.length;
    left -= fixes.length;
  }
  return repaired;
}

function packPages(
  charts: readonly (Chart | null)[],
  values: readonly (Float32Array | null)[],
): Pick<Lighting, 'pages' | 'places'> {
  const pages: LightPage[] = [];
  const places: (ChartPlace | null)[] = charts.map(() => null);
  let group: { w: number; h: number; x: number; y: number; i: number }[] = [];
  let area = 0;
  const close = () => {
    if (group.length === 0) return;
    const { w, h } = potpack(group);
    const texels = new Uint32Array(w * h);
    for (const box of group) {
      const value = values[box.i]!;
      for (let y = 0; y < box.h; y++)
        for (let x = 0; x < box.w; x++) {
          const k = (y * box.w + x) * 3;
          texels[(box.y + y) * w + box.x + x] = packRgb9e5(
            value[k]! / LUX_SCALE,
            value[k + 1]! / LUX_SCALE,
            value[k + 2]! / LUX_SCALE,
          );
        }
      places[box.i] = { page: pages.length, chart: charts[box.i]!, x: box.x + GUTTER, y: box.y + GUTTER };
    }
    pages.push({ width: w, height: h, texels });
    group = [];
    area = 0;
  };
  charts.forEach((chart, i) => {
    if (!chart) return;
    const box = { w: chart.width + 2 * GUTTER, h: chart.height + 2 * GUTTER, x: 0, y: 0, i };
    if (area + box.w * box.h > PAGE_TEXELS) close();
    group.push(box);
    area += box.w * box.h;
  });
  close();
  return { pages, places };
}

/** Puts what single lamps give onto tiles of the pages. */
function packLayers(places: readonly (ChartPlace | null)[], layers: readonly LitChart['layers'][]): LightLayer[] {
  const byThing = new Map<string, Map<string, { at: readonly [number, number, number]; texels: Uint32Array }>>();
  places.forEach((place, i) => {
    if (!place) return;
    const w = place.chart.width + 2 * GUTTER;
    const [left, top] = [place.x - GUTTER, place.y - GUTTER];
    for (const { thing, light } of layers[i]!) {
      let tiles = byThing.get(thing);
      if (!tiles) byThing.set(thing, (tiles = new Map()));
      for (let k = 0; k * 3 < light.length; k++) {
        const [r, g, b] = [light[k * 3]!, light[k * 3 + 1]!, light[k * 3 + 2]!];
        if (r + g + b <= 0) continue;
        const [x, y] = [left + (k % w), top + Math.floor(k / w)];
        const at = [place.page, Math.floor(x / TILE), Math.floor(y / TILE)] as const;
        const key = at.join();
        let tile = tiles.get(key);
        if (!tile) tiles.set(key, (tile = { at, texels: new Uint32Array(TILE * TILE) }));
        tile.texels[(y % TILE) * TILE + (x % TILE)] = packRgb9e5(r / LUX_SCALE, g / LUX_SCALE, b / LUX_SCALE);
      }
    }
  });
  const inOrder = <T>(map: ReadonlyMap<string, T>) => [...map].sort(([a], [b]) => (a < b ? -1 : 1));
  return inOrder(byThing).map(([thing, tiles]) => {
    const all = inOrder(tiles).map(([, tile]) => tile);
    const texels = new Uint32Array(all.length * TILE * TILE);
    all.forEach((t, k) => texels.set(t.texels, k * TILE * TILE));
    return { thing, tiles: all.map((t) => t.at), texels };
  });
}

/** The page coordinates (0 to 1) at which a surface's light for a world point lies. */
export function lightAt({ page, chart, x, y }: ChartPlace, p: Vec3, pages: readonly LightPage[]): [number, number] {
  const { width, height } = pages[page]!;
  const a = (chart.s[0] * p[0] + chart.s[1] * p[1] + chart.s[2] * p[2]) / chart.size - chart.s0;
  const b = (chart.t[0] * p[0] + chart.t[1] * p[1] + chart.t[2] * p[2]) / chart.size - chart.t0;
  return [(x + a) / width, (y + b) / height];
}
