import { coneShare, endShare, lightOf, type Entity, type LightSource } from '../../entity/index.ts';
import { asLight, lightTint } from '../../surface/index.ts';
import type { Brush } from '../../brush/index.ts';
import type { MaterialFacts, MaterialLookup } from '../../surface/index.ts';
import { skyMean, type MapSettings } from '../../map/index.ts';
import { anyHit, enterBrush, makeTracer, type Tracer } from '../tracing/index.ts';
import { dot, OFF_SURFACE, scale, type Vec3, type Winding } from '../../math/index.ts';

import { veilOf, Veils, type Veil } from './veils.ts';

export type PointLight = Extract<LightSource, { type: 'point' }>;
/** Faces of one convex solid that glow alike, or show the sky: as bright from all sides. */
export interface AreaLight {
  readonly type: 'area';
  /** The solid: it is never in its own light's way. */
  readonly brush: string;
  /** What its light is counted to: {@link glowOf} its material, or {@link SKY}. */
  readonly group: string;
  /** Convex, counter-clockwise from the front. */
  readonly faces: readonly { readonly winding: Winding; readonly normal: Vec3 }[];
  /** The cells that they can be seen from. */
  readonly cells: readonly number[];
  /** Nits. */
  readonly luminance: Vec3;
}
export type Light = PointLight | SunLight | AreaLight;
export type SunLight = Extract<LightSource, { type: 'parallel' }>;
export type EvenLight = Extract<LightSource, { type: 'even' }>;

/** A light, and the thing that it is of. */
export type OfThing<L> = L & { readonly thing: string };

export interface Lights {
  readonly points: readonly OfThing<PointLight>[];
  readonly suns: readonly OfThing<SunLight>[];
  readonly areas: readonly AreaLight[];
  /** Even light of regions: where several lie over each other, the later ones count. */
  readonly evens: readonly OfThing<EvenLight>[];
  /** Even light elsewhere, lux. */
  readonly ambient: Vec3;
}

const tint = (color: unknown, strength: number): Vec3 => {
  const [r, g, b] = lightTint(color);
  return [r * strength, g * strength, b * strength];
};

/** The lights of a map, in id order. */
export function collectLights(entities: Iterable<Entity>, ambientColor: string, ambientLux: number): Lights {
  const things = new Map([...entities].map((e) => [e.id, e]));
  const sorted = [...things.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
  const points: OfThing<PointLight>[] = [];
  const suns: OfThing<SunLight>[] = [];
  const evens: OfThing<EvenLight>[] = [];
  for (const e of sorted) {
    const source = lightOf(e, { thing: (id) => things.get(id), parts: () => [] });
    if (source?.type === 'parallel') suns.push({ ...source, thing: e.id });
    else if (source?.type === 'even') evens.push({ ...source, thing: e.id });
    else if (source) points.push({ ...source, thing: e.id });
  }
  return { points, suns, evens, areas: [], ambient: tint(ambientColor, ambientLux) };
}

/** A light of its own, among all: lamps first, then suns, then faces that glow. */
export interface Source {
  /** Its own name, which does not change with what other lights there are. */
  readonly id: string;
  readonly light: Light;
  /** Candela, lux or nits. */
  readonly strength: Vec3;
  /** What its light is counted to: its thing, {@link glowOf} its material, or {@link SKY}. */
  readonly group: string;
}

/** What the light of the sky is counted to, and the even light everywhere. */
export const SKY = 'sky light';
export const EVEN = 'even light';

/** What the light of all faces of a material that glows is counted to. No id of a thing holds a space. */
export const glowOf = (material: string): string => `glow ${material}`;

/** The material whose glow a layer is of; null for those of things. */
export const materialOfGlow = (name: string): string | null => (name.startsWith('glow ') ? name.slice(5) : null);

/** What a material gives off, nits. */
export const glowing = (facts: MaterialFacts | undefined): Vec3 =>
  facts?.glow ? scale(lightTint(facts.average ?? '#ffffff'), facts.glow) : [0, 0, 0];

/** What the sky of a map gives off, nits. */
export const skyGlow = (settings: MapSettings): Vec3 => scale(asLight(skyMean(settings)), settings.skyNits ?? 0);

export function sourcesOf({ points, suns, areas }: Lights): Source[] {
  const ofThing = (light: OfThing<PointLight | SunLight>, strength: Vec3): Source => ({
    id: light.thing,
    light,
    strength,
    group: light.thing,
  });
  return [
    ...points.map((light) => ofThing(light, light.intensity)),
    ...suns.map((light) => ofThing(light, light.illuminance)),
    ...areas.map((light) => ({
      id: `${light.group} ${light.brush}`,
      light,
      strength: light.luminance,
      group: light.group,
    })),
  ];
}

/**
 * How bright a light is: the power of two that is not below the sum of its strength. Where it is too weak to count depends on that alone,
 * so that light that was found is of use for a lamp that is dimmed a little.
 */
export function brightnessOf(strength: Vec3): number {
  const sum = strength[0] + strength[1] + strength[2];
  if (!(sum > 0)) return 0;
  let bright = 2 ** -20;
  while (bright < sum && bright < 2 ** 60) bright *= 2;
  return bright;
}

/** Point lights that give less than this (lux) at a place are left out there: a hundredth of what an eye makes out. */
export const LEAST_LUX = 0.001;

/** Farther than any sight line within the world, cm. */
export const FAR = 400_000;

/** The solids that light meets; brushes that show the sky are apart, since the sun comes in through them. */
export interface LitScene {
  readonly all: Tracer;
  readonly solids: Tracer;
  readonly skies: readonly Brush[];
  readonly veils: Veils;
}

/** What sight passes through lets light through: whole, but for what is a veil. */
const stopsLight = ({ stops, shadow }: Brush): boolean => shadow !== false && (stops?.includes('sight') ?? true);

/** The brushes of a map that light ends at, and those that it comes through in part, each in id order. */
export function litBrushes(
  brushes: Iterable<Brush>,
  materials: MaterialLookup,
): { readonly solids: Brush[]; readonly veils: Veil[] } {
  const drawn = [...brushes].filter((b) => b.role === 'structure' || b.role === 'detail');
  drawn.sort((a, b) => (a.id < b.id ? -1 : 1));
  const veils = drawn.map((b) => veilOf(b, materials));
  return {
    solids: drawn.filter((b, i) => !veils[i] && stopsLight(b)),
    veils: veils.filter((v) => v !== null),
  };
}

/** Brushes that show the sky apart from those that do not. */
export function splitSkies(brushes: readonly Brush[]): { readonly solids: Brush[]; readonly skies: Brush[] } {
  const isSky = (b: Brush) => b.faces.some((f) => f.show === 'sky');
  return { solids: brushes.filter((b) => !isSky(b)), skies: brushes.filter(isSky) };
}

/** The solids of a map, ready for light. */
export function makeLitScene(brushes: Iterable<Brush>, materials: MaterialLookup = () => undefined): LitScene {
  const { solids: drawn, veils } = litBrushes(brushes, materials);
  const { solids, skies } = splitSkies(drawn);
  return { all: makeTracer(drawn), solids: makeTracer(solids), skies, veils: new Veils(veils) };
}

/** How far a ray goes until it meets the sky; `FAR` when there is none in its way, −1 when another face of a sky brush comes first. */
export function reachOfSky(skies: readonly Brush[], p: Vec3, d: Vec3): number {
  let reach = FAR;
  let open = true;
  for (const brush of skies) {
    const hit = enterBrush(brush, p, d, reach);
    if (!hit || hit.at >= reach) continue;
    reach = hit.at;
    open = hit.face >= 0 && brush.faces[hit.face]!.show === 'sky';
  }
  return open ? reach : -1;
}

/**
 * Adds the direct light at a point of a surface to `out[0…2]`, in lux: `I·cosθ/d²` for points (d in metres; within their cone, if they
 * have one, times its share), `E·cosθ` for the
 * sun where the first thing seen towards it shows the sky (or nothing at all). Angles and distances are those of the point
 * itself; only the rays start a little off the surface, which near a lamp in the plane of a face makes all the difference.
 */
export function addDirect(
  scene: LitScene,
  lights: Lights,
  points: readonly PointLight[],
  p: Vec3,
  normal: Vec3,
  out: Float64Array,
): void {
  const ox = p[0] + normal[0] * OFF_SURFACE;
  const oy = p[1] + normal[1] * OFF_SURFACE;
  const oz = p[2] + normal[2] * OFF_SURFACE;
  for (const { at, intensity, cone, end } of points) {
    const dx = at[0] - p[0];
    const dy = at[1] - p[1];
    const dz = at[2] - p[2];
    const along = dx * normal[0] + dy * normal[1] + dz * normal[2];
    if (along <= 0) continue;
    const d2 = dx * dx + dy * dy + dz * dz;
    // d is in cm: 1/m² is 10⁴/cm².
    const d = Math.sqrt(d2);
    let factor = ((along * 10_000) / (d2 * d)) * endShare(end, d2);
    if (cone) factor *= coneShare(cone, -dx / d, -dy / d, -dz / d);
    if (factor * (intensity[0] + intensity[1] + intensity[2]) < LEAST_LUX) continue;
    if (anyHit(scene.all, ox, oy, oz, at[0] - ox, at[1] - oy, at[2] - oz, 1)) continue;
    const part = scene.veils.through([ox, oy, oz], [at[0] - ox, at[1] - oy, at[2] - oz], 1);
    for (const c of [0, 1, 2] as const) out[c]! += intensity[c] * factor * part[c];
  }
  for (const { towards, illuminance } of lights.suns) {
    const cos = dot(towards, normal);
    if (cos <= 0) continue;
    // Up to the sky, or all the way out of a map without one, nothing may stand between.
    const reach = reachOfSky(scene.skies, [ox, oy, oz], towards);
    if (reach < 0 || anyHit(scene.solids, ox, oy, oz, towards[0], towards[1], towards[2], reach)) continue;
    const part = scene.veils.through([ox, oy, oz], towards, reach);
    for (const c of [0, 1, 2] as const) out[c]! += illuminance[c] * cos * part[c];
  }
}
