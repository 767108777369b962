import { packRgb9e5, TILE, unpackInto, type LightLayer } from '../lighting/index.ts';
import { scale, type Vec3 } from '../../math/index.ts';
import type { Level } from './level.ts';

/** How much of its strength a lamp shines with: a share; or its colour, in parts of the strength that its layer is of. */
export type Share = number | Vec3;

/** The light of a level as its lamps shine now. */
export interface LightMix {
  /** The pages' texels, one page after another; changed in place. */
  readonly texels: Uint32Array;
  /** Lets lamps shine with a share of their strength; those that are not named stay as they are. Gives the pages that changed, in order. */
  readonly shine: (shares: ReadonlyMap<string, Share>) => number[];
}

/** What lies on one tile of the pages: which lamps add to it, and where in their texels. */
interface Tile {
  readonly page: number;
  /** Its first texel among all, the length of a row of its page, and how much of it lies on the page. */
  readonly first: number;
  readonly row: number;
  readonly width: number;
  readonly height: number;
  readonly lamps: { readonly lamp: number; readonly from: number }[];
}

/** Layers whose texels lie in a row, each with its own. */
export function splitLayers<L extends Omit<LightLayer, 'texels'>>(
  layers: readonly L[],
  layerTexels: Uint32Array,
): (L & LightLayer)[] {
  let from = 0;
  return layers.map((layer) => {
    const texels = layerTexels.subarray(from, (from += layer.tiles.length * TILE * TILE));
    return { ...layer, texels };
  });
}

/** Mixes what a level's lamps that can be switched give into its pages. All of them are dark at first: so the pages are. */
export const mixLight = (level: Pick<Level, 'meta' | 'lightTexels' | 'layerTexels'>): LightMix =>
  mixLayers(level.meta.pages, level.lightTexels, splitLayers(level.meta.layers, level.layerTexels));

/** Mixes layers into pages of some sizes (texels). All lamps are dark at first. */
export function mixLayers(
  pages: readonly (readonly [width: number, height: number])[],
  base: Uint32Array,
  layers: readonly LightLayer[],
): LightMix {
  if (layers.length === 0) return { texels: base, shine: () => [] };
  const starts = [0];
  for (const [w, h] of pages) starts.push(starts.at(-1)! + w * h);
  const tiles = new Map<string, Tile>();
  const ofLamp = layers.map((layer, lamp) =>
    layer.tiles.map(([page, column, row], n) => {
      const key = `${page} ${column} ${row}`;
      let tile = tiles.get(key);
      if (!tile) {
        const [w, h] = pages[page]!;
        const [x, y] = [column * TILE, row * TILE];
        const first = starts[page]! + y * w + x;
        tile = { page, first, row: w, width: Math.min(TILE, w - x), height: Math.min(TILE, h - y), lamps: [] };
        tiles.set(key, tile);
      }
      tile.lamps.push({ lamp, from: n * TILE * TILE });
      return tile;
    }),
  );
  const number = new Map(layers.map(({ thing }, i) => [thing, i]));
  const texels = base.slice();
  const shares = layers.map((): Vec3 => [0, 0, 0]);
  const isDark = ([r, g, b]: Vec3): boolean => r === 0 && g === 0 && b === 0;
  const sum = new Float32Array(TILE * TILE * 3);
  const mix = ({ first, row, width, height, lamps }: Tile): void => {
    const lit = lamps.filter(({ lamp }) => !isDark(shares[lamp]!));
    sum.fill(0);
    for (const { lamp, from } of lit) {
      const own = layers[lamp]!.texels;
      const [r, g, b] = shares[lamp]!;
      for (let k = 0; k < TILE * TILE; k++) if (own[from + k] !== 0) unpackInto(sum, k * 3, own[from + k]!, r, g, b);
    }
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = first + y * row + x;
        const k = (y * TILE + x) * 3;
        if (sum[k] === 0 && sum[k + 1] === 0 && sum[k + 2] === 0) {
          texels[at] = base[at]!;
          continue;
        }
        if (base[at] !== 0) unpackInto(sum, k, base[at]!, 1, 1, 1);
        texels[at] = packRgb9e5(sum[k]!, sum[k + 1]!, sum[k + 2]!);
      }
  };
  return {
    texels,
    shine: (wanted) => {
      const changed = new Set<Tile>();
      for (const [thing, share] of wanted) {
        const lamp = number.get(thing);
        if (lamp === undefined) continue;
        const now = typeof share === 'number' ? scale(layers[lamp]!.tint, share) : share;
        if (shares[lamp]!.every((c, k) => c === now[k])) continue;
        shares[lamp] = now;
        for (const tile of ofLamp[lamp]!) changed.add(tile);
      }
      for (const tile of changed) mix(tile);
      return [...new Set([...changed].map((t) => t.page))].sort((a, b) => a - b);
    },
  };
}
