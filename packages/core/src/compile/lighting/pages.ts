import potpack from 'potpack';
import { dot, scale, type Vec3 } from '../../math/index.ts';
import { GUTTER, type Chart } from './charts.ts';
import { packDirection } from './directions.ts';
import { packRgb9e5, unpackRgb9e5 } from './rgb9e5.ts';

/** Lux are divided by this before they are packed, so that full sunlight stays within the packed range. */
export const LUX_SCALE = 16;

/** One square texture of packed light. */
export interface LightPage {
  readonly width: number;
  readonly height: number;
  /** Shared-exponent colours of `lux / LUX_SCALE`, row by row. */
  readonly texels: Uint32Array;
  /** Of each texel the direction of what comes straight from lights, as long as its share of the light: see `packDirection`. */
  readonly ways: Uint32Array;
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

/** Tiles along an edge of a page are fewer than this. */
const ACROSS = 4096;

/** What one light adds to the pages: tiles of them, where it adds anything. */
export interface LightLayer {
  /** The thing, or what glows: what its light is counted to. */
  readonly thing: string;
  /** Colour that the texels are still to be multiplied by: they are as if the light were white. */
  readonly tint: Vec3;
  /** Of what strength the texels are: candela, lux or nits. */
  readonly strength: number;
  /** What of white light of that strength comes straight to all surfaces together, lm. */
  readonly flux: number;
  /** Page, and column and row of the tile on it. */
  readonly tiles: readonly (readonly [page: number, column: number, row: number])[];
  /** Packed as the pages are, `TILE²` texels a tile, row by row. */
  readonly texels: Uint32Array;
}

/** Pages are filled up to about this many texels. */
const PAGE_TEXELS = 1536 * 1536;

/** Finds places for charts, and the sizes of the pages they come to. */
export function layOutPages(charts: readonly (Chart | null)[]): {
  readonly sizes: readonly (readonly [width: number, height: number])[];
  readonly places: readonly (ChartPlace | null)[];
} {
  const sizes: [number, number][] = [];
  const places: (ChartPlace | null)[] = charts.map(() => null);
  let group: { w: number; h: number; x: number; y: number; i: number }[] = [];
  let area = 0;
  const close = () => {
    if (group.length === 0) return;
    const { w, h } = potpack(group);
    for (const box of group)
      places[box.i] = { page: sizes.length, chart: charts[box.i]!, x: box.x + GUTTER, y: box.y + GUTTER };
    sizes.push([w, h]);
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
  return { sizes, places };
}

const packLux = (light: Float32Array, k: number): number =>
  packRgb9e5(light[k * 3]! / LUX_SCALE, light[k * 3 + 1]! / LUX_SCALE, light[k * 3 + 2]! / LUX_SCALE);

/** Pages that are written chart by chart: three floats (lux) a luxel with the gutter, row by row. */
export class PageWriter {
  readonly pages: readonly LightPage[];

  constructor(sizes: readonly (readonly [number, number])[]) {
    this.pages = sizes.map(([width, height]) => {
      const [texels, ways] = [new Uint32Array(width * height), new Uint32Array(width * height)];
      return { width, height, texels, ways: ways.fill(packDirection([0, 0, 0])) };
    });
  }

  write({ page, chart, x, y }: ChartPlace, light: Float32Array, directions: Uint32Array): void {
    const { width, texels, ways } = this.pages[page]!;
    const w = chart.width + 2 * GUTTER;
    const first = (y - GUTTER) * width + x - GUTTER;
    for (let k = 0; k * 3 < light.length; k++) {
      const at = first + Math.floor(k / w) * width + (k % w);
      texels[at] = packLux(light, k);
      ways[at] = directions[k]!;
    }
  }
}

/** A layer that is written chart by chart. */
export class LayerWriter {
  /** By page, row and column. */
  private readonly tiles = new Map<number, Uint32Array>();

  write({ page, chart, x, y }: ChartPlace, light: Float32Array): void {
    const w = chart.width + 2 * GUTTER;
    const h = chart.height + 2 * GUTTER;
    for (let j = 0, k = 0; j < h; j++) {
      const v = y - GUTTER + j;
      const row = (page * ACROSS + Math.floor(v / TILE)) * ACROSS;
      let [column, tile]: [number, Uint32Array | undefined] = [-1, undefined];
      for (let i = 0; i < w; i++, k++) {
        const word = packLux(light, k);
        if (word === 0) continue;
        const u = x - GUTTER + i;
        if (Math.floor(u / TILE) !== column) {
          column = Math.floor(u / TILE);
          tile = this.tiles.get(row + column);
          if (!tile) this.tiles.set(row + column, (tile = new Uint32Array(TILE * TILE)));
        }
        tile![(v % TILE) * TILE + (u % TILE)] = word;
      }
    }
  }

  done(): Pick<LightLayer, 'tiles' | 'texels'> {
    const all = [...this.tiles].sort(([a], [b]) => a - b);
    const texels = new Uint32Array(all.length * TILE * TILE);
    all.forEach(([, t], k) => texels.set(t, k * TILE * TILE));
    const tiles = all.map(([key]) => {
      const row = Math.floor(key / ACROSS);
      return [Math.floor(row / ACROSS), key % ACROSS, row % ACROSS] as const;
    });
    return { tiles, texels };
  }
}

/** The page coordinates (0 to 1) at which a surface's light for a world point lies. */
export function lightAt({ page, chart, x, y }: ChartPlace, p: Vec3, pages: readonly LightPage[]): [number, number] {
  const { width, height } = pages[page]!;
  const a = (chart.s[0] * p[0] + chart.s[1] * p[1] + chart.s[2] * p[2]) / chart.size - chart.s0;
  const b = (chart.t[0] * p[0] + chart.t[1] * p[1] + chart.t[2] * p[2]) / chart.size - chart.t0;
  return [(x + a) / width, (y + b) / height];
}

/** The light of the luxel that a world point of a surface lies in, lux. */
export function luxelLux({ page, chart, x, y }: ChartPlace, p: Vec3, pages: readonly LightPage[]): Vec3 {
  const { width, texels } = pages[page]!;
  const { s, t, size } = chart;
  const i = x + Math.max(0, Math.min(chart.width - 1, Math.floor(dot(s, p) / size) - chart.s0));
  const j = y + Math.max(0, Math.min(chart.height - 1, Math.floor(dot(t, p) / size) - chart.t0));
  return scale(unpackRgb9e5(texels[j * width + i]!), LUX_SCALE);
}
