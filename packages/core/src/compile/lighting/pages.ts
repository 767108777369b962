import potpack from 'potpack';
import type { Vec3 } from '../../math/index.ts';
import { GUTTER, type Chart } from './charts.ts';
import { packRgb9e5 } from './rgb9e5.ts';

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

/** What a lamp that is kept apart gives a chart with its gutter: three floats (lux) a luxel, row by row. */
export interface ChartLayer {
  readonly thing: string;
  readonly light: Float32Array;
}

/** Pages are filled up to about this many texels. */
const PAGE_TEXELS = 1536 * 1536;

/** Packs charts onto pages. */
export function packPages(
  charts: readonly (Chart | null)[],
  values: readonly (Float32Array | null)[],
): { readonly pages: readonly LightPage[]; readonly places: readonly (ChartPlace | null)[] } {
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
export function packLayers(
  places: readonly (ChartPlace | null)[],
  layers: readonly (readonly ChartLayer[])[],
): LightLayer[] {
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
