import { faceWinding, type Brush } from '../../brush/index.ts';
import { readyDecal, type DecalPiece, type DecalThrow } from '../../decal/index.ts';
import { decalOf, type Entity } from '../../entity/index.ts';
import {
  boxesOverlap,
  boxOf,
  clipBehind,
  cross,
  distance,
  dot,
  edgePlane,
  length,
  sub,
  type Box,
  type Vec3,
  type Winding,
} from '../../math/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import type { Level } from './level.ts';

/** The decals of a level: parts of surfaces that show a picture of their own, those that lie beneath first. */
export interface LevelDecals {
  readonly decalPosition: Float32Array;
  /** In texels of the material's picture. */
  readonly decalTexel: Float32Array;
  /** In the light page of the surface beneath. */
  readonly decalLight: Float32Array;
  /** What the picture is multiplied by: red, green and blue (linear) and opacity. */
  readonly decalInk: Float32Array;
  /** Corners of triangles. */
  readonly decalIndex: Uint32Array;
  /** Of each piece its triangles, the surface that it lies on, and the thing. */
  readonly decalIndexFirst: Uint32Array;
  readonly decalSurface: Uint32Array;
  readonly decalThing: Uint32Array;
}

/** Decals on surfaces, and the things whose they are, by number: each is there, also one that fell on nothing. */
export interface ThrownDecals extends LevelDecals {
  readonly things: readonly Entity[];
}

/** What of a level decals fall on. */
export type DecalGround = Pick<
  Level,
  'position' | 'index' | 'surfaceIndexFirst' | 'surfaceNormal' | 'surfacePage' | 'surfaceMaterial' | 'light'
> & { readonly meta: Pick<Level['meta'], 'materials' | 'bodies'> };

/** What decals have to be told about a map. */
export interface DecalAround {
  /** The brushes of whose faces a surface is made. */
  readonly brushesOf: (surface: number) => readonly string[];
  readonly brush: (id: string) => Brush | undefined;
  readonly materials: MaterialLookup;
}

/** Things that throw a picture, those that lie beneath first. */
export function decalsOf(things: Iterable<Entity>): Entity[] {
  const found: Entity[] = [];
  for (const thing of things) {
    const decal = decalOf(thing);
    if (decal && decal.material !== '' && decal.opacity > 0) found.push(thing);
  }
  return found.sort((a, b) => decalOf(a)!.order - decalOf(b)!.order || (a.id < b.id ? -1 : 1));
}

/** A surface as decals see it. */
interface Ground {
  readonly surface: number;
  readonly winding: Winding;
  readonly normal: Vec3;
  readonly bounds: Box;
  /** The thing whose part it is; null for what stands still. */
  readonly rides: string | null;
  /** Place of its first corner. */
  readonly first: number;
}

const grounds = new WeakMap<Float32Array, readonly Ground[]>();

/** The surfaces of a level that do not show the sky. Kept as long as the level is. */
function groundsOf(level: DecalGround): readonly Ground[] {
  const known = grounds.get(level.position);
  if (known) return known;
  const rides = new Map<number, string>();
  for (const { thing, surfaces } of level.meta.bodies)
    for (let s = surfaces[0]; s < surfaces[1]; s++) rides.set(s, thing);
  const at = (k: number): Vec3 => [0, 1, 2].map((c) => level.position[k * 3 + c]!) as unknown as Vec3;
  const out = Array.from(level.surfaceMaterial, (_, surface): Ground | null => {
    if (level.surfacePage[surface] === SKY_PAGE) return null;
    const start = level.surfaceIndexFirst[surface]!;
    const triangles = (level.surfaceIndexFirst[surface + 1]! - start) / 3;
    // A fan begins with its middle, which is no corner.
    const fan = triangles > 2;
    const first = level.index[fan ? start + 1 : start]!;
    const winding = Array.from({ length: fan ? triangles : triangles + 2 }, (_, k) => at(first + k));
    const normal = [0, 1, 2].map((c) => level.surfaceNormal[surface * 3 + c]!) as unknown as Vec3;
    return { surface, winding, normal, bounds: boxOf(winding), rides: rides.get(surface) ?? null, first };
  }).filter((g) => g !== null);
  grounds.set(level.position, out);
  return out;
}

const SKY_PAGE = 0xffff;

/** What was found of a thing on a level before: things and levels are never changed in place. */
const thrown = new WeakMap<
  Float32Array,
  WeakMap<Entity, { readonly of: unknown; readonly pieces: readonly Piece[] }>
>();

interface Piece extends DecalPiece {
  readonly ground: Ground;
}

/**
 * Cuts decals to the surfaces on which they fall. One that rides on something falls on that alone; what shows the sky takes none;
 * liquids and pictures with holes take those alone for which they were chosen. What was cut before is not cut again.
 */
export function throwDecals(level: DecalGround, things: Iterable<Entity>, around: DecalAround): ThrownDecals {
  const decals = decalsOf(things);
  const all = decals.length > 0 ? groundsOf(level) : [];
  const position: number[] = [];
  const texel: number[] = [];
  const light: number[] = [];
  const ink: number[] = [];
  const index: number[] = [];
  const first = [0];
  const surfaces: number[] = [];
  const thingOf: number[] = [];
  decals.forEach((thing, k) => {
    for (const { winding, texels, inks, ground } of piecesOf(thing, level, all, around)) {
      const start = position.length / 3;
      const lightOf = lightOn(level, ground);
      winding.forEach((p, i) => {
        position.push(...p);
        texel.push(...texels[i]!);
        ink.push(...inks[i]!);
        light.push(...lightOf(p));
      });
      for (let i = 2; i < winding.length; i++) index.push(start, start + i - 1, start + i);
      first.push(index.length);
      surfaces.push(ground.surface);
      thingOf.push(k);
    }
  });
  return {
    things: decals,
    decalPosition: Float32Array.from(position),
    decalTexel: Float32Array.from(texel),
    decalLight: Float32Array.from(light),
    decalInk: Float32Array.from(ink),
    decalIndex: Uint32Array.from(index),
    decalIndexFirst: Uint32Array.from(first),
    decalSurface: Uint32Array.from(surfaces),
    decalThing: Uint32Array.from(thingOf),
  };
}

function piecesOf(thing: Entity, level: DecalGround, all: readonly Ground[], around: DecalAround): readonly Piece[] {
  let known = thrown.get(level.position);
  if (!known) thrown.set(level.position, (known = new WeakMap()));
  const before = known.get(thing);
  if (before?.of === around.materials) return before.pieces;
  const pieces: Piece[] = [];
  const decal = decalOf(thing)!;
  const ready = decal.targets === 'props' ? null : readyDecal(decal, around.materials(decal.material));
  if (ready)
    for (const ground of all) {
      if (!boxesOverlap(ready.bounds, ground.bounds)) continue;
      if (thing.carrier && ground.rides !== thing.carrier.id) continue;
      const material = level.meta.materials[level.surfaceMaterial[ground.surface]!]!;
      for (const piece of piecesOn(ready, ground, material, around)) pieces.push({ ...piece, ground });
    }
  known.set(thing, { of: around.materials, pieces });
  return pieces;
}

function piecesOn(ready: DecalThrow, ground: Ground, material: string, around: DecalAround): DecalPiece[] {
  const { decal } = ready;
  const { winding, normal } = ground;
  const all = ready.on(winding, normal);
  if (all.length === 0) return all;
  const brushes = around.brushesOf(ground.surface);
  if (decal.targets !== 'chosen') {
    const apart = around.materials(material)?.solidity === 'cutOut';
    return apart || brushes.some((id) => around.brush(id)?.role === 'liquid') ? [] : all;
  }
  const chosen = brushes.filter((id) => decal.brushes.includes(id));
  if (chosen.length === 0 || chosen.length === brushes.length) return chosen.length === 0 ? [] : all;
  // The surface runs on over faces of brushes that were not chosen.
  const height = dot(winding[0]!, normal);
  return chosen.flatMap((id) => {
    const brush = around.brush(id);
    if (!brush) return [];
    return brush.faces.flatMap((_, face) => {
      const own = faceWinding(brush, face);
      if (own.some((p) => Math.abs(dot(p, normal) - height) > FLUSH)) return [];
      const clipped = own.reduce<Winding | null>((w, _p, k) => w && clipBehind(w, edgePlane(own, normal, k)), winding);
      return clipped ? ready.on(clipped, normal) : [];
    });
  });
}

/** Corners this near to a plane (cm) lie in it. */
const FLUSH = 0.05;

/** Where places of a surface lie in its page of light: that runs evenly over it, so three corners tell. */
function lightOn({ light }: DecalGround, { winding, first }: Ground): (p: Vec3) => [number, number] {
  const at = (k: number): [number, number] => [light[(first + k) * 2]!, light[(first + k) * 2 + 1]!];
  const a = winding[0]!;
  const far = (score: (p: Vec3) => number): number => {
    let best = 1;
    winding.forEach((p, k) => {
      if (score(p) > score(winding[best]!)) best = k;
    });
    return best;
  };
  const b = far((p) => distance(a, p));
  const ab = sub(winding[b]!, a);
  const c = far((p) => length(cross(ab, sub(p, a))));
  const ac = sub(winding[c]!, a);
  const [bb, bc, cc] = [dot(ab, ab), dot(ab, ac), dot(ac, ac)];
  const det = bb * cc - bc * bc;
  const [la, lb, lc] = [at(0), at(b), at(c)];
  return (p) => {
    const d = sub(p, a);
    const [db, dc] = [dot(d, ab), dot(d, ac)];
    const s = det > 1e-12 ? (db * cc - dc * bc) / det : 0;
    const t = det > 1e-12 ? (dc * bb - db * bc) / det : 0;
    return [0, 1].map((k) => la[k]! + s * (lb[k]! - la[k]!) + t * (lc[k]! - la[k]!)) as [number, number];
  };
}

/** Of a level without decals. */
export const NO_DECALS: LevelDecals = {
  decalPosition: new Float32Array(0),
  decalTexel: new Float32Array(0),
  decalLight: new Float32Array(0),
  decalInk: new Float32Array(0),
  decalIndex: new Uint32Array(0),
  decalIndexFirst: new Uint32Array(1),
  decalSurface: new Uint32Array(0),
  decalThing: new Uint32Array(0),
};
