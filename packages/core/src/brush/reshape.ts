import earcut from 'earcut';
import {
  centroid,
  cross,
  distance,
  dominantAxis,
  dot,
  ON_PLANE,
  planeFromLoop,
  SAME_POINT,
  signedDistance,
  sub,
  type Vec3,
} from '../math/index.ts';
import { BrushError } from './errors.ts';
import { hullOf } from './hull.ts';
import { mergeConvex } from './merge.ts';
import { assertValid, findFlaw, solidOf, solidVolume } from './solid.ts';
import type { Brush, DressLike, Solid } from './types.ts';

/** New places of corners, by index. */
export type MovedCorners = ReadonlyMap<number, Vec3>;

const moved = (brush: Brush, to: MovedCorners): Vec3[] => brush.vertices.map((v, i) => to.get(i) ?? v);

/**
 * A brush with some corners moved, always convex: the hull of all corners. `concave` says that a corner was swallowed by
 * the hull, which means the shape wished for would not have been convex. Throws when nothing valid is left.
 */
export function moveCorners(brush: Brush, to: MovedCorners): { solid: Solid; concave: boolean } {
  const points = moved(brush, to);
  const solid = hullOf(points);
  assertValid(solid);
  const planes = solid.loops.map((loop) => planeFromLoop(loop.map((i) => solid.vertices[i]!))!);
  // A corner in the middle of the hull or of one of its faces (not on an edge) was swallowed, unless the face is flat there anyway.
  const swallowed = points.some((p) => planes.filter((plane) => signedDistance(plane, p) > -ON_PLANE).length < 2);
  const concave = swallowed && wishedVolume(brush, points, to) < solidVolume(solid) - LEAST_HOLLOW;
  return { solid, concave };
}

/** A hollow of less than this (cm³) is rounding. */
const LEAST_HOLLOW = 0.1;

const wishedTriangles = (brush: Brush, points: readonly Vec3[], to: MovedCorners): Triangle[] =>
  brush.faces.flatMap((face) => faceTriangles(face.loop, points, to));

const wishedVolume = (brush: Brush, points: readonly Vec3[], to: MovedCorners): number =>
  solidVolume({ vertices: points, loops: wishedTriangles(brush, points, to) });

/**
 * The shape that a concave move wishes for, as convex brushes: the moved surface is cut into triangles, these are joined to
 * one point that sees them all, and the tetrahedra merged while they stay convex. Throws `reshape.tooDeep` when no corner
 * sees the whole surface.
 */
export function splitConcave(brush: Brush, to: MovedCorners, like: DressLike): Brush[] {
  const points = moved(brush, to);
  const triangles = wishedTriangles(brush, points, to);
  const whole = solidVolume({ vertices: points, loops: triangles });
  if (!(whole > 1)) throw new BrushError('reshape.insideOut', 'The shape would be turned inside out. Drag less far.');
  const six = (o: Vec3, [a, b, c]: Triangle) => dot(sub(points[a]!, o), cross(sub(points[b]!, o), sub(points[c]!, o)));
  const candidates: Vec3[] = [...to.keys()].map((i) => points[i]!);
  const from = [centroid(candidates), ...candidates, ...points, centroid(points)].find((o) =>
    triangles.every((t) => six(o, t) >= -1e-6 * whole),
  );
  if (!from)
    throw new BrushError(
      'reshape.tooDeep',
      'This shape is too deep to be split by itself. Drag less far, or cut the brush first.',
    );
  const made: Brush[] = [];
  for (const t of triangles) {
    if (six(from, t) < 6e-3) continue;
    const solid = hullOf([from, ...t.map((i) => points[i]!)]);
    if (!findFlaw(solid)) made.push(like(solid, [brush]));
  }
  return mergeConvex(made, like);
}

type Triangle = [number, number, number];

/** A moved face in triangles: flat faces as they are; otherwise runs of moved corners are cut off from the part that stayed flat. */
function faceTriangles(loop: readonly number[], points: readonly Vec3[], to: MovedCorners): Triangle[] {
  const plane = planeFromLoop(loop.map((i) => points[i]!));
  const flat = plane && loop.every((i) => Math.abs(signedDistance(plane, points[i]!)) <= ON_PLANE / 10);
  if (flat) return flatTriangles(loop, points);
  const still = loop.filter((i) => !to.has(i));
  const out: Triangle[] = still.length >= 3 ? flatTriangles(still, points) : [];
  const n = loop.length;
  for (let k = 0; k < n; k++) {
    if (to.has(loop[k]!) || !to.has(loop[(k + 1) % n]!)) continue;
    // A run of moved corners between two that stayed.
    const run = [loop[k]!];
    let j = k + 1;
    for (; to.has(loop[j % n]!); j++) run.push(loop[j % n]!);
    run.push(loop[j % n]!);
    for (let i = 2; i < run.length; i++) if (run[0] !== run[i]) out.push([run[0]!, run[i - 1]!, run[i]!]);
  }
  if (still.length === 0) for (let i = 2; i < n; i++) out.push([loop[0]!, loop[i - 1]!, loop[i]!]);
  return out;
}

/** Triangles of a flat loop that need not be convex. */
function flatTriangles(loop: readonly number[], points: readonly Vec3[]): Triangle[] {
  const plane = planeFromLoop(loop.map((i) => points[i]!));
  if (!plane) return [];
  const axis = dominantAxis(plane.normal);
  const [a, b] = [(axis + 1) % 3, (axis + 2) % 3];
  const indices = earcut(loop.flatMap((i) => [points[i]![a]!, points[i]![b]!]));
  const out: Triangle[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const t = [loop[indices[i]!]!, loop[indices[i + 1]!]!, loop[indices[i + 2]!]!] as Triangle;
    const n = cross(sub(points[t[1]]!, points[t[0]]!), sub(points[t[2]]!, points[t[0]]!));
    out.push(dot(n, plane.normal) < 0 ? [t[0], t[2], t[1]] : t);
  }
  return out;
}

/** Whether two corners of the brush make an edge. */
export const edgesOf = (brush: Brush): [number, number][] =>
  brush.faces.flatMap((face) =>
    face.loop.flatMap((a, k): [number, number][] => {
      const b = face.loop[(k + 1) % face.loop.length]!;
      return a < b ? [[a, b]] : [];
    }),
  );

/**
 * Makes a valid brush of one that came in broken: corners that almost meet are welded and the hull taken. Null when it is
 * flat or too small to be a brush; the same brush when nothing was wrong.
 */
export function repairBrush(brush: Brush, like: DressLike): Brush | null {
  const close = brush.vertices.some((v, i) => brush.vertices.slice(0, i).some((w) => distance(v, w) <= SAME_POINT));
  if (!close && !findFlaw(solidOf(brush))) return brush;
  const finite = brush.vertices.filter((v) => v.every(Number.isFinite));
  try {
    const solid = hullOf(finite);
    return findFlaw(solid) ? null : like(solid, [brush]);
  } catch (error) {
    if (error instanceof BrushError) return null;
    throw error;
  }
}
