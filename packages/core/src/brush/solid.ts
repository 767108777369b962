import {
  applyAffine,
  boxOf,
  boxSize,
  cross,
  determinant,
  distance,
  dot,
  isFiniteVec,
  MIN_EDGE,
  MIN_EXTENT,
  ON_PLANE,
  planeFromLoop,
  signedDistance,
  sub,
  WORLD_LIMIT,
  type Affine,
  type Box,
  type Plane,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import { BrushError } from './errors.ts';
import type { Brush, Solid } from './types.ts';

const planeCache = new WeakMap<Brush, readonly Plane[]>();
const boundsCache = new WeakMap<Brush, Box>();

/** The corners of a face, counter-clockwise seen from outside. */
export const faceWinding = (brush: Brush, face: number): Winding =>
  brush.faces[face]!.loop.map((i) => brush.vertices[i]!);

/** The outward planes of a valid brush, one a face, in face order. */
export function brushPlanes(brush: Brush): readonly Plane[] {
  let planes = planeCache.get(brush);
  if (!planes) {
    planes = brush.faces.map(
      (_, i) => planeFromLoop(faceWinding(brush, i)) ?? { normal: [0, 0, 1] as Vec3, distance: 0 },
    );
    planeCache.set(brush, planes);
  }
  return planes;
}

export function brushBounds(brush: Brush): Box {
  let box = boundsCache.get(brush);
  if (!box) boundsCache.set(brush, (box = boxOf(brush.vertices)));
  return box;
}

export const solidOf = (brush: Brush): Solid => ({ vertices: brush.vertices, loops: brush.faces.map((f) => f.loop) });

/** Volume in cm³, by the divergence theorem over the faces. */
export function solidVolume({ vertices, loops }: Solid): number {
  let six = 0;
  const o = vertices[0]!;
  for (const loop of loops) {
    const a = sub(vertices[loop[0]!]!, o);
    for (let i = 2; i < loop.length; i++) {
      six += dot(a, cross(sub(vertices[loop[i - 1]!]!, o), sub(vertices[loop[i]!]!, o)));
    }
  }
  return six / 6;
}

export const brushVolume = (brush: Brush): number => solidVolume(solidOf(brush));

/** Whether a point lies inside a brush by more than `depth` cm. */
export function brushContains(brush: Brush, p: Vec3, depth = 0): boolean {
  const b = brushBounds(brush);
  for (let i = 0; i < 3; i++) if (p[i]! < b.min[i]! + depth || p[i]! > b.max[i]! - depth) return false;
  return brushPlanes(brush).every((plane) => signedDistance(plane, p) <= -depth);
}

/** Something that makes a solid no valid brush. */
export interface Flaw {
  readonly code:
    | 'brush.notFinite'
    | 'brush.outOfWorld'
    | 'brush.tooFewFaces'
    | 'brush.badLoop'
    | 'brush.notClosed'
    | 'brush.notPlanar'
    | 'brush.notConvex'
    | 'brush.tooSmall';
  readonly message: string;
}

/** The first flaw of a solid, or null when it is a valid brush: finite, closed, convex, planar, not too small. */
export function findFlaw({ vertices, loops }: Solid): Flaw | null {
  if (!vertices.every(isFiniteVec))
    return {
      code: 'brush.notFinite',
      message: 'A corner is not a finite number. Type plain numbers for every coordinate.',
    };
  if (vertices.some((v) => Math.max(Math.abs(v[0]), Math.abs(v[1]), Math.abs(v[2])) > WORLD_LIMIT))
    return {
      code: 'brush.outOfWorld',
      message: `A corner lies more than ${WORLD_LIMIT / 100} m from the origin. Move or shrink the brush.`,
    };
  if (loops.length < 4 || vertices.length < 4)
    return { code: 'brush.tooFewFaces', message: 'A brush needs at least four faces.' };
  const edges = new Map<number, number>();
  const used = new Set<number>();
  const n = vertices.length;
  for (const loop of loops) {
    if (
      loop.length < 3 ||
      loop.some((i) => !Number.isInteger(i) || i < 0 || i >= n) ||
      new Set(loop).size !== loop.length
    )
      return { code: 'brush.badLoop', message: 'A face needs three or more different corners of its own brush.' };
    for (let i = 0; i < loop.length; i++) {
      const a = loop[i]!;
      const b = loop[(i + 1) % loop.length]!;
      used.add(a);
      edges.set(a * n + b, (edges.get(a * n + b) ?? 0) + 1);
      if (distance(vertices[a]!, vertices[b]!) < MIN_EDGE)
        return { code: 'brush.tooSmall', message: `An edge is shorter than ${MIN_EDGE} cm. Make the brush larger.` };
    }
  }
  for (const [key, count] of edges) {
    if (count !== 1 || edges.get((key % n) * n + Math.floor(key / n)) !== 1)
      return {
        code: 'brush.notClosed',
        message: 'The faces do not close: every edge must be shared by exactly two faces.',
      };
  }
  if (used.size !== n) return { code: 'brush.badLoop', message: 'A corner belongs to no face. Remove it.' };
  const size = boxSize(boxOf(vertices));
  if (Math.min(...size) < MIN_EXTENT)
    return { code: 'brush.tooSmall', message: `The brush is thinner than ${MIN_EXTENT} cm. Make it thicker.` };
  for (const loop of loops) {
    const plane = planeFromLoop(loop.map((i) => vertices[i]!));
    if (!plane) return { code: 'brush.badLoop', message: 'A face has no area.' };
    const on = new Set(loop);
    for (let i = 0; i < n; i++) {
      const d = signedDistance(plane, vertices[i]!);
      if (on.has(i) ? Math.abs(d) > ON_PLANE : d > ON_PLANE)
        return on.has(i)
          ? { code: 'brush.notPlanar', message: 'The corners of a face do not lie in one plane.' }
          : {
              code: 'brush.notConvex',
              message: 'The brush is not convex: a corner lies in front of one of its faces.',
            };
    }
  }
  return null;
}

/** Throws a {@link BrushError} unless the solid is a valid brush. */
export function assertValid(solid: Solid): void {
  const flaw = findFlaw(solid);
  if (flaw) throw new BrushError(flaw.code, flaw.message);
}

const sound = new WeakSet<Brush>();

/** The first flaw of a brush, or null when it is valid. A brush that was found valid is not looked at again. */
export function brushFlaw(brush: Brush): Flaw | null {
  if (sound.has(brush)) return null;
  const flaw = findFlaw(solidOf(brush));
  if (!flaw) sound.add(brush);
  return flaw;
}

export const isTranslation = (m: Affine): boolean =>
  m[0] === 1 && m[5] === 1 && m[10] === 1 && !m[1] && !m[2] && !m[4] && !m[6] && !m[8] && !m[9];

const isAxial = ({ normal: [x, y, z] }: Plane): boolean => Math.abs(x) === 1 || Math.abs(y) === 1 || Math.abs(z) === 1;

const inWorld = ([x, y, z]: Vec3): boolean =>
  Math.abs(x) <= WORLD_LIMIT && Math.abs(y) <= WORLD_LIMIT && Math.abs(z) <= WORLD_LIMIT;

/**
 * A moved copy of a valid brush is valid as long as it stays in the world, and its axis planes move with it exactly: thousands
 * of brushes are moved in a blink.
 */
export function inherit(moved: Brush, from: Brush, m: Affine): void {
  if (!isTranslation(m)) return;
  const planes = planeCache.get(from);
  if (planes?.every(isAxial))
    planeCache.set(
      moved,
      planes.map(({ normal, distance }) => ({
        normal,
        distance: distance + normal[0] * m[3] + normal[1] * m[7] + normal[2] * m[11],
      })),
    );
  // Rounding keeps the order of numbers: the bounds of what moved are what the bounds moved to.
  const { min, max } = brushBounds(from);
  const low = applyAffine(m, min);
  const high = applyAffine(m, max);
  boundsCache.set(moved, { min: low, max: high });
  if (sound.has(from) && inWorld(low) && inWorld(high)) sound.add(moved);
}

/** A brush moved by an affine map; a mirroring one turns the loops round. Frames are left to `surface/`. */
export function transformShape(brush: Brush, m: Affine): Brush {
  const flip = determinant(m) < 0;
  return {
    ...brush,
    vertices: brush.vertices.map((v) => applyAffine(m, v)),
    faces: flip ? brush.faces.map((f) => ({ ...f, loop: [...f.loop].reverse() })) : brush.faces,
  };
}
