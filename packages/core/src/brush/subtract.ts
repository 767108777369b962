import { boxesOverlap, samePlane, type Plane } from '../math/index.ts';
import { mergeConvex } from './merge.ts';
import { brushBounds, brushPlanes, brushVolume } from './solid.ts';
import { clipToPlanes, splitBrush, type DressCap } from './split.ts';
import type { Brush, DressLike } from './types.ts';

/** How new faces are dressed: cut ones, and those of brushes made from others. */
export interface Dresser {
  readonly cap: DressCap;
  readonly like: DressLike;
}

/** The part of `a` inside `b`, dressed as `a` with caps; null when they share no volume that makes a valid brush. */
export const intersectBrushes = (a: Brush, b: Brush, cap: DressCap): Brush | null =>
  boxesOverlap(brushBounds(a), brushBounds(b)) ? clipToPlanes(a, brushPlanes(b), cap).inside : null;

export interface Remainder {
  /** What is left, none when all is gone. All carry the id of the brush that was cut. */
  readonly pieces: readonly Brush[];
  /** The cutter shares no volume with the brush. */
  readonly missed: boolean;
  /** False when a piece too thin for a brush was dropped. */
  readonly exact: boolean;
}

/** Upright planes first: walls are then left as full-height piers with a sill and a head between them. */
const uprightFirst = (a: Plane, b: Plane): number => Math.abs(a.normal[2]) - Math.abs(b.normal[2]);

/**
 * What is left of a brush after another is taken away: one convex piece for each plane of the cutter that bounds the part
 * they share, which is as few as cuts by planes allow, and fewer where two pieces make a convex whole again. Pieces keep
 * ids of faces, materials and frames; slivers are dropped and reported.
 */
export function subtractBrush(brush: Brush, cutter: Brush, dress: Dresser): Remainder {
  if (!boxesOverlap(brushBounds(brush), brushBounds(cutter))) return { pieces: [brush], missed: true, exact: true };
  const { inside: shared, exact } = clipToPlanes(brush, brushPlanes(cutter), dress.cap);
  if (!shared) return { pieces: [brush], missed: true, exact };
  const walls = brushPlanes(shared);
  const planes = brushPlanes(cutter).filter((p) => walls.some((w) => samePlane(p, w))).sort(uprightFirst); // prettier-ignore
  const pieces: Brush[] = [];
  let rest: Brush = brush;
  for (const plane of planes) {
    const { front, back } = splitBrush(rest, plane, dress.cap);
    if (front && back) {
      pieces.push(front);
      rest = back;
    }
  }
  const whole = brushVolume(brush);
  const left = pieces.reduce((v, p) => v + brushVolume(p), brushVolume(shared));
  return {
    pieces: mergeConvex(pieces, dress.like),
    missed: false,
    exact: exact && Math.abs(left - whole) <= 1e-9 * whole,
  };
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
