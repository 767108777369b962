import { packRgb9e5, TILE, unpackRgb9e5 } from '../lighting/index.ts';
import type { Level } from './level.ts';

/** The light of a level as its lamps shine now. */
export interface LightMix {
  /** The pages' texels, one page after another; changed in place. */
  readonly texels: Uint32Array;
  /** Lets lamps shine with a share of their strength (0 to 1); those that are not named stay as they are. Gives the pages that changed, in order. */
  readonly shine: (shares: ReadonlyMap<string, number>) => number[];
}

/** What lies on one tile of the pages: which lamps add to it, and where in the layers. */
interface Tile {
  readonly page: number;
  /** Its first texel among all, the length of a row of its page, and how much of it lies on the page. */
  readonly first: number;
  readonly row: number;
  readonly width: number;
  readonly height: number;
  readonly lamps: { readonly lamp: number; readonly from: number }[];
}

/** Mixes what a level's lamps that can be switched give into its pages. All of them are dark at first: so the pages are. */
export function mixLight({
  meta,
  lightTexels,
  layerTexels,
}: Pick<Level, 'meta' | 'lightTexels' | 'layerTexels'>): LightMix {
  const { layers, pages } = meta;
  if (layers.length === 0) return { texels: lightTexels, shine: () => [] };
  const starts = [0];
  for (const [w, h] of pages) starts.push(starts.at(-1)! + w * h);
  const tiles = new Map<string, Tile>();
  const ofLamp: Tile[][] = [];
  let from = 0;
  layers.forEach((layer, lamp) => {
    const own: Tile[] = [];
    for (const [page, column, row] of layer.tiles) {
      const key = `${page} ${column} ${row}`;
      let tile = tiles.get(key);
      if (!tile) {
        const [w, h] = pages[page]!;
        const [x, y] = [column * TILE, row * TILE];
        const first = starts[page]! + y * w + x;
        tile = { page, first, row: w, width: Math.min(TILE, w - x), height: Math.min(TILE, h - y), lamps: [] };
        tiles.set(key, tile);
      }
      tile.lamps.push({ lamp, from });
      own.push(tile);
      from += TILE * TILE;
    }
    ofLamp.push(own);
  });
  const number = new Map(layers.map(({ thing }, i) => [thing, i]));
  const texels = lightTexels.slice();
  const shareOf = new Float64Array(layers.length);
  const mix = ({ first, row, width, height, lamps }: Tile): void => {
    const lit = lamps.filter(({ lamp }) => shareOf[lamp]! > 0);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = first + y * row + x;
        const base = lightTexels[at]!;
        let added = false;
        let [r, g, b] = [0, 0, 0];
        for (const { lamp, from } of lit) {
          const word = layerTexels[from + y * TILE + x]!;
          if (word === 0) continue;
          const [lr, lg, lb] = unpackRgb9e5(word);
          const share = shareOf[lamp]!;
          r += lr * share;
          g += lg * share;
          b += lb * share;
          added = true;
        }
        if (!added) texels[at] = base;
        else {
          const [br, bg, bb] = unpackRgb9e5(base);
          texels[at] = packRgb9e5(br + r, bg + g, bb + b);
        }
      }
  };
  return {
    texels,
    shine: (shares) => {
      const changed = new Set<Tile>();
      for (const [thing, share] of shares) {
        const lamp = number.get(thing);
        if (lamp === undefined || shareOf[lamp] === share) continue;
        shareOf[lamp] = share;
        for (const tile of ofLamp[lamp]!) changed.add(tile);
      }
      for (const tile of changed) mix(tile);
      return [...new Set([...changed].map((t) => t.page))].sort((a, b) => a - b);
    },
  };
}
