import {
  boxesOverlap,
  distance,
  hashRandom,
  LOST_VOLUME,
  MIN_EDGE,
  planeFromLoop,
  samePlane,
  type Plane,
  type Vec3,
} from '../math/index.ts';
import { hullOrNull } from './hull.ts';
import { mergeConvex } from './merge.ts';
import { clipPolytope, clipPolytopeAll, polytopeOf, polytopeVolume, type Polytope } from './polytope.ts';
import { brushBounds, brushPlanes, brushVolume, findFlaw, solidVolume } from './solid.ts';
import { clipToPlanes, cutBehind, flipped, type DressCap } from './split.ts';
import type { Brush, DressLike, Face } from './types.ts';

/** How new faces are dressed: cut ones, and those of brushes made from others. */
export interface Dresser {
  readonly cap: DressCap;
  readonly like: DressLike;
}

/** The part of `a` inside `b`, dressed as `a` with caps; null when they share no volume that makes a valid brush. */
export function intersectBrushes(a: Brush, b: Brush, cap: DressCap): Brush | null {
  if (!boxesOverlap(brushBounds(a), brushBounds(b))) return null;
  const { inside, exact } = clipToPlanes(a, brushPlanes(b), cap);
  if (exact) return inside;
  const shared = clipPolytopeAll(polytopeOf(a), brushPlanes(b));
  const volume = polytopeVolume(shared);
  if (volume <= LOST_VOLUME) return inside;
  if (inside && Math.abs(brushVolume(inside) - volume) <= LOST_VOLUME) return inside;
  // A clip on the way was no valid brush, what is left in the end may well be one.
  return hullBrush(shared, volume, a, cap) ?? inside;
}

/** A region as a brush like another, its corners that nearly meet taken as one; null when that is none, or another volume. */
function hullBrush(region: Polytope, volume: number, like: Brush, cap: DressCap): Brush | null {
  const corners: Vec3[] = [];
  // In one order, so that the corners above and below a short edge go the same way and faces stay flat.
  const sorted = region.flat().sort((a, b) => a[0] - b[0] || a[1] - b[1] || a[2] - b[2]);
  for (const p of sorted) if (!corners.some((q) => distance(p, q) < MIN_EDGE * 1.001)) corners.push(p);
  const solid = hullOrNull(corners);
  if (!solid || findFlaw(solid) || Math.abs(solidVolume(solid) - volume) > Math.max(LOST_VOLUME, volume / 1000))
    return null;
  const planes = brushPlanes(like);
  let nextId = Math.max(...like.faces.map((f) => f.id)) + 1;
  const faces = solid.loops.map((loop): Face => {
    const plane = planeFromLoop(loop.map((k) => solid.vertices[k]!))!;
    const i = planes.findIndex((p) => samePlane(p, plane));
    return i >= 0 ? { ...like.faces[i]!, loop } : { id: nextId++, loop, ...cap(plane, like) };
  });
  if (new Set(faces.map((f) => f.id)).size < faces.length) return null;
  return { ...like, vertices: solid.vertices, faces };
}

export interface Remainder {
  /** What is left, none when all is gone. All carry the id of the brush that was cut. */
  readonly pieces: readonly Brush[];
  /** The cutter shares no volume with the brush. */
  readonly missed: boolean;
  /** False when more than {@link LOST_VOLUME} of what should be left was too thin for brushes and is gone. */
  readonly exact: boolean;
}

/** Upright planes first: walls are then left as full-height piers with a sill and a head between them. */
const uprightFirst = (a: Plane, b: Plane): number => Math.abs(a.normal[2]) - Math.abs(b.normal[2]);

/** Less than this (cm³) in front of a plane is rounding, and no reason for a cut. */
const NOTHING = 1e-3;

/**
 * What is left of a brush after another is taken away: one convex piece for each plane of the cutter that bounds the part
 * they share, which is as few as cuts by planes allow, and fewer where two pieces make a convex whole again. Pieces keep
 * ids of faces, materials and frames.
 *
 * Together the pieces fill the exact difference but for {@link LOST_VOLUME}. Where a cut of the rest would leave an edge too
 * short for a brush, the piece is cut from more than the rest, and laps over its neighbour.
 */
export function subtractBrush(brush: Brush, cutter: Brush, dress: Dresser): Remainder {
  const none: Remainder = { pieces: [brush], missed: true, exact: true };
  if (!boxesOverlap(brushBounds(brush), brushBounds(cutter))) return none;
  const shared = polytopeVolume(clipPolytopeAll(polytopeOf(brush), brushPlanes(cutter)));
  if (shared <= NOTHING) return none;
  const planes = [...brushPlanes(cutter)].sort(uprightFirst);
  let best = cutAway(brush, planes, dress.cap);
  // Near corners and edges of the brush another order of cuts may leave pieces that need not lap over each other.
  for (let k = 1; k < ORDERS && best.lost + best.lapped > NOTHING; k++) {
    const other = cutAway(brush, shuffled(planes, k), dress.cap);
    if (other.lost + other.lapped < best.lost + best.lapped) best = other;
  }
  // Without a single cut the cutter holds the whole brush.
  return { pieces: mergeConvex(best.pieces, dress.like), missed: false, exact: best.lost <= LOST_VOLUME };
}

/** How many orders of cuts are tried where the first does not come out even. */
const ORDERS = 24;

function shuffled<T>(list: readonly T[], seed: number): T[] {
  return list
    .map((item, i) => ({ item, at: hashRandom(seed, i) }))
    .sort((a, b) => a.at - b.at)
    .map(({ item }) => item);
}

interface CutAway {
  readonly pieces: readonly Brush[];
  /** Volume of what is in no piece, cm³. */
  readonly lost: number;
  /** Volume that pieces take in over what they should, and that others have as well, cm³. */
  readonly lapped: number;
}

/** Cuts a brush by one plane after the other; what lies beyond each is a piece. */
function cutAway(brush: Brush, planes: readonly Plane[], cap: DressCap): CutAway {
  const pieces: Brush[] = [];
  /** The brush behind more and more planes, as far as that is a valid brush; the last one is the smallest. */
  const rests: Brush[] = [brush];
  let region = polytopeOf(brush);
  let lost = 0;
  let lapped = 0;
  for (const plane of planes) {
    const beyond = clipPolytope(region, flipped(plane));
    const volume = polytopeVolume(beyond);
    if (volume <= NOTHING) continue;
    region = clipPolytope(region, plane);
    const piece = pieceBeyond(rests, plane, beyond, volume, cap);
    if (piece) {
      const more = brushVolume(piece) - volume;
      pieces.push(piece);
      lapped += Math.max(0, more);
      lost += Math.max(0, -more);
    } else lost += volume;
    const back = cutBehind(rests.at(-1)!, plane, cap);
    if (back) rests.push(back);
  }
  return { pieces, lost, lapped };
}

/** The part of a brush in front of a plane as a valid brush: cut from the smallest rest that allows it. */
function pieceBeyond(
  rests: readonly Brush[],
  plane: Plane,
  beyond: Polytope,
  volume: number,
  cap: DressCap,
): Brush | null {
  const front = flipped(plane);
  const even = cutBehind(rests.at(-1)!, front, cap) ?? hullBrush(beyond, volume, rests.at(-1)!, cap);
  for (let i = rests.length - 2, piece = even; ; i--) {
    if (piece || i < 0) return piece;
    piece = cutBehind(rests[i]!, front, cap);
  }
}

/** Takes several cutters away from a brush, one after the other. */
export function subtractAll(brush: Brush, cutters: readonly Brush[], dress: Dresser): Remainder {
  let pieces: readonly Brush[] = [brush];
  let missed = true;
  let exact = true;
  for (const cutter of cutters)
    pieces = pieces.flatMap((piece) => {
      const r = subtractBrush(piece, cutter, dress);
      missed &&= r.missed;
      exact &&= r.exact;
      return r.pieces;
    });
  return { pieces: missed ? pieces : mergeConvex(pieces, dress.like), missed, exact };
}
