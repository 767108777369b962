import { windingCentroid, type Vec3 } from '../../math/index.ts';
import { isShiny, type MaterialLookup } from '../../surface/index.ts';
import type { Structure } from '../structure/index.ts';
import { reflectanceOf } from './bounces.ts';
import type { Lighting } from './lighting.ts';
import { luxelLux, LUX_SCALE } from './pages.ts';
import { blockAt, NO_REFLECTION, SQUARES, type Reflections } from './reflections.ts';
import { unpackRgb9e5 } from './rgb9e5.ts';

/** Floors that slope no more than this (cosine) are asked. */
const LEVEL = 0.7;

/**
 * What comes from above is so many times as bright as the floor itself, of which it reflects a part of twenty-five, and at least so bright
 * (lux on white).
 */
const GLARE = 100;
const LEAST = 100;

/** The places whose reflections glare on a dark shiny floor that shows them. */
export function glaring(
  { surfaces }: Structure,
  lighting: Lighting,
  { places, ofSurface, texels, width }: Reflections,
  materials: MaterialLookup,
): string[] {
  const out = new Set<string>();
  const bright = (c: Vec3) => (c[0] + c[1] + c[2]) / 3;
  /** From above, as a rough surface sees it: the middle of the last square. */
  const above = (n: number): number => {
    const { x, y, edge } = SQUARES.at(-1)!;
    const { left, top } = blockAt(n);
    return bright(unpackRgb9e5(texels[(top + y + edge / 2) * width + left + x + edge / 2]!)) * LUX_SCALE;
  };
  surfaces.forEach((surface, s) => {
    const n = ofSurface[s]!;
    const place = lighting.places[s];
    if (n === NO_REFLECTION || !place || surface.plane.normal[2] < LEVEL) return;
    const facts = materials(surface.material);
    if (!isShiny(facts) && surface.mirror === 0) return;
    const reflects = reflectanceOf(facts);
    const lux = luxelLux(place, windingCentroid(surface.winding), lighting.pages);
    const own = bright([lux[0] * reflects[0], lux[1] * reflects[1], lux[2] * reflects[2]]);
    if (above(n) > Math.max(LEAST, GLARE * own)) out.add(places[n]!.thing);
  });
  return [...out].sort();
}
