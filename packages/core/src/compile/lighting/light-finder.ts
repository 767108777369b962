import type { Brush } from '../../brush/index.ts';
import {
  addScaled,
  cosSinOf,
  dot,
  EVEN_HARMONIC,
  HARMONICS,
  harmonics,
  length,
  normalize,
  scale,
  sub,
  type Vec3,
} from '../../math/index.ts';
import { coneShare, endShare } from '../../entity/index.ts';
import { locate, type Surface } from '../structure/index.ts';
import { reflectanceOf } from './bounces.ts';
import { glowOn } from './glow-on.ts';
import { evenRegions, evenShare } from './evens.ts';
import type { LightingInput } from './input.ts';
import type { Lighting } from './lighting.ts';
import { luxelLux } from './pages.ts';
import { FAR, glowing, litBrushes, reachOfSky, SKY, type OfThing, type PointLight, type SunLight } from './lights.ts';
import { makeQuickScene, type QuickScene } from './quick.ts';
import { Veils } from './veils.ts';
import type { LightProbes } from './light-probes.ts';

/** Light is looked for in so many directions from a place. */
const RAYS = 96;

/** Directions that are spread evenly (a Fibonacci lattice on the sphere). */
const WAYS = Array.from({ length: RAYS }, (_, k): Vec3 => {
  const z = 1 - (2 * k + 1) / RAYS;
  const r = Math.sqrt(1 - z * z);
  const [c, d] = cosSinOf(2.399963229728653 * k);
  return [r * c, r * d, z];
});

/** The harmonics of each of them. */
const WAY_HARMONICS = (() => {
  const all = new Float64Array(RAYS * HARMONICS);
  WAYS.forEach(([x, y, z], k) => harmonics(x, y, z, all.subarray(k * HARMONICS, (k + 1) * HARMONICS)));
  return all;
})();

/** What a lamp or a sun gives to what faces it, lux, and the way to it. */
export interface Straight {
  readonly way: Vec3;
  readonly light: Vec3;
}

/** What comes of a lamp of one candela or a sun of one lux, the way to it, and what is left of red, green and blue on that way. */
interface Comes {
  readonly way: Vec3;
  readonly share: number;
  readonly part: Vec3;
}

/** How far along a way (cm) what is itself at a place no longer hides what lies ahead. */
export type Leaving = (p: Vec3, way: Vec3) => number;

const lightOf = (strength: Vec3, { share, part }: Comes): Vec3 => [
  strength[0] * share * part[0],
  strength[1] * share * part[1],
  strength[2] * share * part[2],
];

/** What a lamp gives to what faces it as if it were white: its tint on the way is left out. Lux. */
const whiteLux = (light: PointLight | SunLight, { share, part }: Comes): number =>
  share * Math.max(...(light.type === 'point' ? light.intensity : light.illuminance)) * Math.max(...part);

const NO_GLOW: Vec3 = [0, 0, 0];
const total = ([r, g, b]: Vec3): number => r + g + b;

/**
 * What no more than so many rays from a face meet is small, such as the wall right behind a lamp: by chance they met it, and by what each of them
 * stands for it would be large. It counts as no more than so many times the brightest of all else.
 */
const FEW = 2;
const SPREAD = 2;

/** A ray to a face that glows ends so far before it, cm. */
const SHORT = 0.5;

/** Lamps that give less than this (lux) to what faces them are left out. */
const WEAK = 0.005;
/** Of what gives less than this (lux) to a vertex one ray tells whether it is seen: a hundred lux are white. */
const FAINT = 0.25;

/** Finds the light at places of a map that was lit. */
export class LightFinder {
  private readonly scene: QuickScene;
  private readonly veils: Veils;
  private readonly brushes: readonly Brush[];
  private readonly surfacesOf = new Map<string, number[]>();
  private readonly regions;
  /** Of each surface what it gives off, and of light that falls on it gives back, seen from anywhere. */
  private readonly looks: readonly { readonly glow: Vec3; readonly reflects: Vec3 }[];
  private readonly fixed: readonly (OfThing<PointLight> | OfThing<SunLight>)[];
  private readonly switched: readonly (OfThing<PointLight> | OfThing<SunLight>)[];
  /** Rays from a place all about: where they begin is filled in. */
  private readonly list = Float64Array.from(WAYS.flatMap((way) => [0, 0, 0, ...way, FAR]));
  /** Rays from a face. */
  private readonly faceList = new Float64Array(RAYS * 7);
  private readonly hits = new Int32Array(RAYS);
  private readonly ways = new Float64Array(RAYS);
  private readonly basis = new Float64Array(HARMONICS);

  constructor(
    private readonly input: LightingInput,
    private readonly lighting: Lighting,
  ) {
    const { solids, veils } = litBrushes(input.brushes, input.materials);
    this.brushes = solids;
    this.scene = makeQuickScene(solids);
    this.veils = new Veils(veils);
    const known = new Map<string, { glow: Vec3; reflects: Vec3 }>();
    this.looks = input.structure.surfaces.map(({ material }) => {
      let look = known.get(material);
      if (!look) {
        const facts = input.materials(material);
        look = { glow: glowing(facts), reflects: scale(reflectanceOf(facts), 1 / Math.PI) };
        known.set(material, look);
      }
      return look;
    });
    input.structure.surfaces.forEach((s, i) => {
      for (const brush of s.brushes) {
        const own = this.surfacesOf.get(brush);
        if (own) own.push(i);
        else this.surfacesOf.set(brush, [i]);
      }
    });
    this.regions = evenRegions(lighting.lights.evens, input.region);
    const apart = new Set(input.switched);
    const all = [...lighting.lights.points, ...lighting.lights.suns];
    this.fixed = all.filter((l) => !apart.has(l.thing));
    this.switched = all.filter((l) => apart.has(l.thing));
  }

  isOpen(p: Vec3): boolean {
    const cell = locate(this.input.structure.blocks, p);
    return typeof cell === 'number' && this.input.structure.cells[cell]!.inside;
  }

  /** The coefficients of what comes to a place: 27. */
  at(p: Vec3): Float64Array {
    const { straight, rest } = this.parts(p);
    for (const { way, light } of straight) this.add(rest, way, light);
    return rest;
  }

  /** What comes to a place: of each lamp and sun that is seen from it, and the coefficients of all else. */
  parts(p: Vec3): { readonly straight: readonly Straight[]; readonly rest: Float64Array } {
    const rest = new Float64Array(HARMONICS * 3);
    const straight = this.fixed.flatMap((light) => this.straightOf(p, light) ?? []);
    // As bright from all sides: what falls on any surface is π times that.
    this.evenAt(p).forEach((lux, c) => (rest[c]! += 4 * lux * EVEN_HARMONIC));
    const { list, hits, ways } = this;
    for (let n = 0; n < RAYS * 7; n += 7) {
      list[n] = p[0];
      list[n + 1] = p[1];
      list[n + 2] = p[2];
    }
    this.scene.all.firstHits(list, RAYS, hits, ways);
    const each = (4 * Math.PI) / RAYS;
    for (let k = 0; k < RAYS; k++) {
      const nits = this.met(p, WAYS[k]!, hits[k]!, ways[k]!);
      if (!nits) continue;
      const [r, g, b] = nits;
      for (let m = 0, n = 0, h = k * HARMONICS; m < HARMONICS; m++, n += 3, h++) {
        const part = WAY_HARMONICS[h]! * each;
        rest[n]! += part * r;
        rest[n + 1]! += part * g;
        rest[n + 2]! += part * b;
      }
    }
    return { straight, rest };
  }

  /**
   * The light that falls on what lies at a place and faces along a unit vector, lux; its own solids are left as `leave` says. Null where
   * another solid holds the place.
   */
  onFace(p: Vec3, normal: Vec3, leave: Leaving): Vec3 | null {
    if (!this.isOpen(p)) return null;
    const sum: [number, number, number] = [...this.evenAt(p)];
    for (const light of this.fixed) {
      const straight = this.straightOf(p, light, leave);
      const cosine = straight ? dot(straight.way, normal) : 0;
      if (cosine > 0) for (const c of [0, 1, 2] as const) sum[c] += straight!.light[c] * cosine;
    }
    const { faceList: list, hits, ways } = this;
    const ahead: { readonly way: Vec3; readonly cosine: number }[] = [];
    let cosines = 0;
    for (const way of WAYS) {
      const cosine = dot(way, normal);
      if (cosine <= 0) continue;
      cosines += cosine;
      list.set(addScaled(p, way, leave(p, way)), ahead.length * 7);
      list.set([...way, FAR], ahead.length * 7 + 3);
      ahead.push({ way, cosine });
    }
    this.scene.all.firstHits(list, ahead.length, hits, ways);
    // What begins in a solid meets it at once.
    let held = 0;
    const seen = ahead.map(({ way }, n) => {
      if (hits[n]! >= 0 && ways[n]! <= 0) held++;
      const from: Vec3 = [list[n * 7]!, list[n * 7 + 1]!, list[n * 7 + 2]!];
      return this.met(from, way, hits[n]!, ways[n]!, false) ?? NO_GLOW;
    });
    if (held === ahead.length) return null;
    const cap = SPREAD * ([...seen.map(total)].sort((a, b) => b - a)[FEW] ?? 0);
    ahead.forEach(({ cosine }, n) => {
      const nits = seen[n]!;
      // As bright all around gives π times that, however few the ways are.
      const part = (Math.PI * cosine) / cosines;
      const kept = part * Math.min(1, cap / Math.max(total(nits), 1e-12));
      for (const c of [0, 1, 2] as const) sum[c] += nits[c] * kept;
    });
    this.addGlow(p, normal, leave, sum);
    return sum;
  }

  /** Adds the light of faces that glow: rays all about would meet a small one by chance, and then as if it were large. */
  private addGlow(p: Vec3, normal: Vec3, leave: Leaving, sum: [number, number, number]): void {
    for (const { faces, luminance, group } of this.lighting.lights.areas) {
      if (group === SKY) continue;
      const most = Math.max(...luminance);
      for (const face of faces) {
        const found = glowOn(p, normal, face);
        if (!found || found.lux * most < WEAK) continue;
        // What is hardly seen is not looked at in parts.
        const places = found.lux * most < FAINT ? found.places.slice(0, 1) : found.places;
        const parts = places.map((at) => this.partSeen(p, at, leave));
        for (const c of [0, 1, 2] as const)
          sum[c] += (found.lux * luminance[c] * parts.reduce((n, part) => n + part[c], 0)) / parts.length;
      }
    }
  }

  /** What is left of red, green and blue on the way from a place to just before another. */
  private partSeen(p: Vec3, to: Vec3, leave: Leaving): Vec3 {
    const d = sub(to, p);
    const far = length(d) - SHORT;
    if (far <= 0) return [1, 1, 1];
    const way = normalize(d);
    const off = leave(p, way);
    if (off < far && this.scene.all.anyHit(...addScaled(p, way, off), ...way, far - off)) return [0, 0, 0];
    return this.veils.through(p, way, far);
  }

  /** What lamps that play can switch give to what lies at a place and faces along a unit vector, in their order: lux as if their light were white. */
  lampsOnFace(p: Vec3, normal: Vec3, leave: Leaving): number[] {
    return this.switched.map((light) => {
      const comes = this.comes(p, light, leave);
      return comes ? whiteLux(light, comes) * Math.max(0, dot(comes.way, normal)) : 0;
    });
  }

  /** The lamps that play can switch. */
  get lamps(): string[] {
    return this.switched.map((l) => l.thing);
  }

  /** What is seen from a place along unit vectors, three numbers each: nits in red, green and blue. */
  look(p: Vec3, ways: Float64Array): Float64Array {
    const count = ways.length / 3;
    const rays = new Float64Array(count * 7);
    for (let k = 0; k < count; k++) {
      rays.set(p, k * 7);
      for (let c = 0; c < 3; c++) rays[k * 7 + 3 + c] = ways[k * 3 + c]!;
      rays[k * 7 + 6] = FAR;
    }
    const [hits, far] = [new Int32Array(count), new Float64Array(count)];
    this.scene.all.firstHits(rays, count, hits, far);
    const out = new Float64Array(count * 3);
    for (let k = 0; k < count; k++) {
      const nits = this.met(p, [ways[k * 3]!, ways[k * 3 + 1]!, ways[k * 3 + 2]!], hits[k]!, far[k]!);
      if (nits) out.set(nits, k * 3);
    }
    return out;
  }

  /** Whether nothing stands between two places. */
  sees(from: Vec3, to: Vec3): boolean {
    return !this.scene.all.anyHit(...from, ...sub(to, from), 1);
  }

  private straightOf(p: Vec3, light: PointLight | SunLight, leave?: Leaving): Straight | null {
    const comes = this.comes(p, light, leave);
    const strength = light.type === 'point' ? light.intensity : light.illuminance;
    return comes && { way: comes.way, light: lightOf(strength, comes) };
  }

  private add(out: Float64Array, way: Vec3, light: Vec3): void {
    harmonics(way[0], way[1], way[2], this.basis);
    for (let k = 0; k < HARMONICS; k++) for (let c = 0; c < 3; c++) out[k * 3 + c]! += this.basis[k]! * light[c]!;
  }

  /** How bright it is along a ray that met a solid, or none, so far away: the veils before it, and what is seen through them. */
  private met(p: Vec3, way: Vec3, solid: number, far: number, glows = true): Vec3 | null {
    const end = solid < 0 ? null : this.nits(this.brushes[solid]!, addScaled(p, way, far), way, glows);
    const before = this.veils.mayMeet(...p, ...way, far) ? this.veils.along(p, way, far) : [];
    if (before.length === 0) return end;
    const sum: [number, number, number] = [0, 0, 0];
    const left: [number, number, number] = [1, 1, 1];
    for (const { veil, at, cover, tint } of before) {
      const own = this.nits(this.veils.veils[veil]!.brush, addScaled(p, way, at), way, glows);
      for (const c of [0, 1, 2] as const) {
        sum[c] += left[c] * cover * (own?.[c] ?? 0);
        left[c] *= (1 - cover) * tint[c];
      }
    }
    return [0, 1, 2].map((c) => sum[c]! + left[c]! * (end?.[c] ?? 0)) as unknown as Vec3;
  }

  /** How bright what a ray meets is, seen along its way: by what it gives off, too, or only by what falls on it. */
  private nits(brush: Brush, p: Vec3, way: Vec3, glows: boolean): Vec3 | null {
    const { structure, options } = this.input;
    for (const i of this.surfacesOf.get(brush.id) ?? []) {
      const surface = structure.surfaces[i]!;
      if (!holds(surface, p, way)) continue;
      if (surface.sky) return options.sky;
      const { reflects, ...own } = this.looks[i]!;
      const glow = glows ? own.glow : NO_GLOW;
      const place = this.lighting.places[i];
      if (!place) return glow;
      const lux = luxelLux(place, p, this.lighting.pages);
      return [lux[0] * reflects[0] + glow[0], lux[1] * reflects[1] + glow[1], lux[2] * reflects[2] + glow[2]];
    }
    return null;
  }

  private evenAt(p: Vec3): Vec3 {
    let light = this.lighting.lights.ambient;
    for (const region of this.regions) {
      const share = evenShare(region, p);
      if (share > 0) light = light.map((l, c) => l + (region.light.illuminance[c]! - l) * share) as unknown as Vec3;
    }
    return light;
  }

  /** What comes of a lamp of one candela or a sun of one lux on what faces it; null for nothing. */
  private comes(p: Vec3, light: PointLight | SunLight, leave?: Leaving): Comes | null {
    if (light.type === 'parallel') {
      const far = this.scene.skies.length > 0 ? reachOfSky(this.scene.skies, p, light.towards) : FAR;
      const off = leave?.(p, light.towards) ?? 0;
      const from = addScaled(p, light.towards, off);
      if (far < 0 || (off < far && this.scene.solids.anyHit(...from, ...light.towards, far - off))) return null;
      return { way: light.towards, share: 1, part: this.veils.through(p, light.towards, far) };
    }
    const d = sub(light.at, p);
    const d2 = Math.max(dot(d, d), 1);
    const l = Math.sqrt(d2);
    const way: Vec3 = [d[0] / l, d[1] / l, d[2] / l];
    let share = (10_000 / d2) * endShare(light.end, d2);
    if (light.cone) share *= coneShare(light.cone, -way[0], -way[1], -way[2]);
    const [r, g, b] = light.intensity;
    if (share * (r + g + b) < WEAK) return null;
    const off = leave?.(p, way) ?? 0;
    if (off < l && this.scene.all.anyHit(...addScaled(p, way, off), ...addScaled(d, way, -off), 1)) return null;
    return { way, share, part: this.veils.through(p, d, 1) };
  }

  /** What each lamp that play can switch adds to probes. */
  lampsAt(places: readonly Vec3[]): Pick<LightProbes, 'lamps' | 'lampFirst' | 'lampProbe' | 'lampLight'> {
    const lampFirst = [0];
    const lampProbe: number[] = [];
    const lampLight: number[] = [];
    for (const light of this.switched) {
      places.forEach((p, n) => {
        const comes = this.comes(p, light);
        if (!comes) return;
        const lux = whiteLux(light, comes);
        if (lux < 0.01) return;
        lampProbe.push(n);
        lampLight.push(lux, ...comes.way);
      });
      lampFirst.push(lampProbe.length);
    }
    return {
      lamps: this.lamps,
      lampFirst: Uint32Array.from(lampFirst),
      lampProbe: Uint32Array.from(lampProbe),
      lampLight: Float32Array.from(lampLight),
    };
  }
}

/** Whether a place that a ray met lies on a surface's front. */
function holds({ plane: { normal, distance }, winding }: Surface, p: Vec3, way: Vec3): boolean {
  if (dot(normal, way) >= 0 || Math.abs(dot(normal, p) - distance) > 0.5) return false;
  const nx = normal[0];
  const ny = normal[1];
  const nz = normal[2];
  let a = winding[winding.length - 1]!;
  for (let i = 0; i < winding.length; i++) {
    const b = winding[i]!;
    const ex = b[0] - a[0];
    const ey = b[1] - a[1];
    const ez = b[2] - a[2];
    const px = p[0] - a[0];
    const py = p[1] - a[1];
    const pz = p[2] - a[2];
    if ((ey * pz - ez * py) * nx + (ez * px - ex * pz) * ny + (ex * py - ey * px) * nz < -0.5) return false;
    a = b;
  }
  return true;
}
