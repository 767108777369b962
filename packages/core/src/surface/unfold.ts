import type { TextureFrame } from '../brush/index.ts';
import {
  addScaled,
  boxesOverlap,
  boxOf,
  cross,
  dot,
  lerp,
  normalize,
  ON_PLANE,
  samePlane,
  signedDistance,
  sub,
  windingCentroid,
  type Plane,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import { flattenFrame, flowFrame, meetingLine, texelAt } from './frame.ts';

/** A face as far as its texture is concerned. */
export interface Facet {
  readonly plane: Plane;
  readonly winding: Winding;
  readonly frame: TextureFrame;
}

/** Edges that share less than this (cm) only touch at a corner. */
const LEAST_SHARED = 0.5;

/** How far along `d` a polygon reaches on a plane that it touches or crosses; null when it does not. */
function reachOn(w: Winding, plane: Plane, d: Vec3): [number, number] | null {
  let low = Infinity;
  let high = -Infinity;
  const take = (p: Vec3) => {
    low = Math.min(low, dot(p, d));
    high = Math.max(high, dot(p, d));
  };
  w.forEach((a, i) => {
    const b = w[(i + 1) % w.length]!;
    const [da, db] = [signedDistance(plane, a), signedDistance(plane, b)];
    if (Math.abs(da) <= ON_PLANE * 2) take(a);
    else if (Math.abs(db) > ON_PLANE * 2 && da * db < 0) take(lerp(a, b, da / (da - db)));
  });
  return low <= high ? [low, high] : null;
}

/**
 * The line along which two faces meet, as two points: a common edge, part of one, or where the plane of one cuts into the
 * other as walls do that run on behind a corner. Null when they do not meet, or meet in a corner only. Faces of one plane
 * are not asked about here.
 */
export function sharedEdge(a: Facet, b: Facet): [Vec3, Vec3] | null {
  const line = meetingLine(a.plane, b.plane);
  if (!line) return null;
  const [base] = line;
  const d = sub(line[1], base);
  const [ra, rb] = [reachOn(a.winding, b.plane, d), reachOn(b.winding, a.plane, d)];
  if (!ra || !rb) return null;
  const [low, high] = [Math.max(ra[0], rb[0]), Math.min(ra[1], rb[1])];
  if (high - low < LEAST_SHARED) return null;
  const at = dot(base, d);
  return [addScaled(base, d, low - at), addScaled(base, d, high - at)];
}

/** Faces of one plane whose outlines touch along an edge or overlap. */
function flushNeighbours(a: Facet, b: Facet): boolean {
  if (!samePlane(a.plane, b.plane)) return false;
  // Convex outlines are apart when some edge of one has the whole other one on its outer side.
  const apart = (from: Winding, other: Winding) =>
    from.some((p, i) => {
      const out = normalize(cross(sub(from[(i + 1) % from.length]!, p), a.plane.normal));
      return other.every((q) => dot(sub(q, p), out) > ON_PLANE * 2);
    });
  return !apart(a.winding, b.winding) && !apart(b.winding, a.winding);
}
/** One face of a piece and how its texture comes to it: from a neighbour over a line, or straight from one in its own or a parallel plane. */
interface Step {
  readonly face: number;
  readonly from: number;
  readonly over: readonly [Vec3, Vec3] | null;
}

/** Faces that hang together, to be dressed as one sheet. Numbers are places in the list they were made from. */
export interface Piece {
  readonly root: number;
  readonly steps: readonly Step[];
  /** Neighbours that do not get their texture from one another: where a sheet round a column has its seam. */
  readonly seams: readonly { readonly a: number; readonly b: number; readonly over: readonly [Vec3, Vec3] }[];
}

export interface UnfoldOptions {
  /** The face to start from; of faces that do not hang together with it, the first of each piece. */
  readonly root?: number;
  /** Where a closed ring is cut: opposite its start, or at the start's left or right edge as its picture lies. */
  readonly seam?: 'far' | 'left' | 'right';
  /** Faces that look the same way belong to one piece even when they do not touch. */
  readonly parallel?: boolean;
}

/** Sorts faces into pieces and finds the way in which texture spreads over each: to near faces first. */
export function unfold(
  facets: readonly Facet[],
  { root = 0, seam = 'far', parallel = false }: UnfoldOptions = {},
): Piece[] {
  const neighbours = facets.map((): { face: number; over: readonly [Vec3, Vec3] | null }[] => []);
  const boxes = facets.map((f) => boxOf(f.winding));
  facets.forEach((a, i) => {
    for (let j = i + 1; j < facets.length; j++) {
      if (!boxesOverlap(boxes[i]!, boxes[j]!, -ON_PLANE * 2)) continue;
      const b = facets[j]!;
      const flush = flushNeighbours(a, b);
      const over = flush ? null : sharedEdge(a, b);
      if (!flush && !over) continue;
      neighbours[i]!.push({ face: j, over });
      neighbours[j]!.push({ face: i, over });
    }
  });
  const barred = (i: number, j: number, over: readonly [Vec3, Vec3] | null): boolean => {
    if (seam === 'far' || !over || (i !== root && j !== root)) return false;
    const { frame, winding } = facets[root]!;
    const middle = texelAt(frame, lerp(over[0], over[1], 0.5))[0] - texelAt(frame, windingCentroid(winding))[0];
    const width =
      Math.max(...winding.map((p) => texelAt(frame, p)[0])) - Math.min(...winding.map((p) => texelAt(frame, p)[0]));
    return seam === 'left' ? middle < -width * 0.25 : middle > width * 0.25;
  };
  const seen = new Set<number>();
  const pieces: Piece[] = [];
  for (const start of [root, ...facets.keys()]) {
    if (seen.has(start) || start >= facets.length) continue;
    seen.add(start);
    const steps: Step[] = [];
    const seams: Piece['seams'][number][] = [];
    const queue = [start];
    const spread = () => {
      for (let at = queue.shift(); at !== undefined; at = queue.shift())
        for (const { face, over } of neighbours[at]!) {
          if (barred(at, face, over) || seen.has(face)) continue;
          seen.add(face);
          steps.push({ face, from: at, over });
          queue.push(face);
        }
    };
    spread();
    if (parallel)
      facets.forEach((f, i) => {
        if (seen.has(i) || dot(f.plane.normal, facets[start]!.plane.normal) < 0.999) return;
        seen.add(i);
        steps.push({ face: i, from: start, over: null });
        queue.push(i);
        spread();
      });
    const inPiece = new Set([start, ...steps.map((s) => s.face)]);
    const parents = new Map(steps.map((s) => [s.face, s.from]));
    for (const a of inPiece)
      for (const { face: b, over } of neighbours[a]!)
        if (a < b && over && inPiece.has(b) && parents.get(a) !== b && parents.get(b) !== a) seams.push({ a, b, over });
    pieces.push({ root: start, steps, seams });
  }
  return pieces;
}

/** The frames of a piece's faces when its first face has a given one. */
export function layPiece(facets: readonly Facet[], piece: Piece, frame: TextureFrame): Map<number, TextureFrame> {
  const frames = new Map([[piece.root, flattenFrame(frame, facets[piece.root]!.plane)]]);
  for (const { face, from, over } of piece.steps) {
    const known = frames.get(from)!;
    const { plane } = facets[face]!;
    frames.set(face, over ? flowFrame(known, facets[from]!.plane, plane, over) : flattenFrame(known, plane));
  }
  return frames;
}

/** A ring that would need more stretching than this to close is left with its seam. */
const MOST_STRETCH = 1.5;

/**
 * How much smaller the picture must be laid for its columns to meet where a ring closes, in whole repeats of `width` texels;
 * 1 where nothing closes, or only by too much.
 */
export function closingStretch(facets: readonly Facet[], piece: Piece, frame: TextureFrame, width: number): number {
  const frames = layPiece(facets, piece, frame);
  for (const { a, b, over } of piece.seams) {
    const at = lerp(over[0], over[1], 0.5);
    const gap = Math.abs(texelAt(frames.get(a)!, at)[0] - texelAt(frames.get(b)!, at)[0]);
    if (gap < width * 0.01) continue;
    const k = (Math.max(1, Math.round(gap / width)) * width) / gap;
    return k > MOST_STRETCH || k < 1 / MOST_STRETCH ? 1 : k;
  }
  return 1;
}
