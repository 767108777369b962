import { LUMINANCE } from '../../surface/index.ts';
import { cross, dot, sub, type Vec3 } from '../../math/index.ts';
import { LUX_SCALE, TILE, unpackInto, type LightLayer } from '../lighting/index.ts';
import { NO_PAGE, type Level } from './level.ts';

/** A place on a page of light, in texels: whole numbers lie in the middle of texels. */
export interface LightPlace {
  readonly page: number;
  readonly x: number;
  readonly y: number;
}

/** A place this near to a surface lies on it, cm. */
const ON = 0.5;

/** Where on the pages the light of a place in the world lies, of one of some surfaces; null where none of them is. */
export function lightPlace(level: Level, surfaces: Iterable<number>, p: Vec3): LightPlace | null {
  const corner = (v: number): Vec3 => [level.position[v * 3]!, level.position[v * 3 + 1]!, level.position[v * 3 + 2]!];
  for (const s of surfaces) {
    const page = level.surfacePage[s]!;
    if (page === NO_PAGE) continue;
    const [w, h] = level.meta.pages[page]!;
    for (let k = level.surfaceIndexFirst[s]!; k < level.surfaceIndexFirst[s + 1]!; k += 3) {
      const ids = [level.index[k]!, level.index[k + 1]!, level.index[k + 2]!] as const;
      const [a, b, c] = ids.map(corner) as [Vec3, Vec3, Vec3];
      const normal = cross(sub(b, a), sub(c, a));
      const area = dot(normal, normal);
      if (area < 1e-9) continue;
      const way = sub(p, a);
      if (Math.abs(dot(way, normal)) > ON * Math.sqrt(area)) continue;
      const v = dot(cross(way, sub(c, a)), normal) / area;
      const u = dot(cross(sub(b, a), way), normal) / area;
      const slack = 1e-6;
      if (v < -slack || u < -slack || u + v > 1 + slack) continue;
      const at = (i: 0 | 1) => {
        const [l, m, n] = ids.map((id) => level.light[id * 2 + i]!) as [number, number, number];
        return l * (1 - u - v) + m * v + n * u;
      };
      return { page, x: at(0) * w - 0.5, y: at(1) * h - 0.5 };
    }
  }
  return null;
}

/** Red, green and blue lux at a place, smooth between texels as it is drawn; `wordAt` gives packed texels. */
function smooth({ x, y }: LightPlace, wordAt: (column: number, row: number) => number): Vec3 {
  const out = new Float32Array(3);
  const [i, j] = [Math.floor(x), Math.floor(y)];
  for (let v = 0; v < 2; v++)
    for (let u = 0; u < 2; u++) {
      const weight = (u ? x - i : 1 - x + i) * (v ? y - j : 1 - y + j) * LUX_SCALE;
      unpackInto(out, 0, wordAt(i + u, j + v), weight, weight, weight);
    }
  return [out[0]!, out[1]!, out[2]!];
}

/** The light of pages at a place, lux by red, green and blue; `texels` hold them one page after another. */
export function luxAt(pages: Level['meta']['pages'], texels: Uint32Array, place: LightPlace): Vec3 {
  const [w, h] = pages[place.page]!;
  const first = pages.slice(0, place.page).reduce((n, [a, b]) => n + a * b, 0);
  const within = (k: number, end: number) => Math.max(0, Math.min(end - 1, k));
  return smooth(place, (i, j) => texels[first + within(j, h) * w + within(i, w)]!);
}

/** What one layer gives at a place as if it were white, lux. */
export function layerLuxAt({ tiles, texels }: Pick<LightLayer, 'tiles' | 'texels'>, place: LightPlace): Vec3 {
  return smooth(place, (i, j) => {
    const [column, row] = [Math.floor(i / TILE), Math.floor(j / TILE)];
    const tile = tiles.findIndex(([p, c, r]) => p === place.page && c === column && r === row);
    return tile < 0 ? 0 : texels[(tile * TILE + (j - row * TILE)) * TILE + (i - column * TILE)]!;
  });
}

/** How bright light is to the eye, lux. */
export const brightness = (lux: Vec3): number => dot(lux, LUMINANCE);

/** What a wish for so many lux at a place comes to. */
export type LuxWish =
  | { readonly factor: number }
  /** The lights do not reach the place; or the others alone are brighter there: so many lux. */
  | { readonly never: 'reach' | 'others'; readonly lux: number };

/** Lights that give a place less than this (lux) are no way to make it brighter. */
const LEAST = 1e-3;

/** By how much the strength of lights that now give a place `own` of all its `lux` is to be multiplied for it to have `wanted`. */
export function factorFor(wanted: number, lux: number, own: number): LuxWish {
  if (own < LEAST) return { never: 'reach', lux };
  const others = lux - own;
  if (wanted < others) return { never: 'others', lux: others };
  return { factor: (wanted - others) / own };
}
