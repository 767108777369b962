import {
  addScaled,
  arcTangent2,
  boxOf,
  clipBehind,
  convexParts,
  cross,
  dot,
  hypot,
  length,
  normalize,
  outlineArea,
  scale,
  signedDistance,
  sub,
  type Box,
  type Plane,
  type Point2,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import type { TextureFrame } from '../brush/index.ts';
import { linearColor, wholePicture, type MaterialFacts, type Region } from '../surface/index.ts';
import type { Decal, DecalPiece } from './types.ts';

/** The whole picture as an outline. */
export const WHOLE_OUTLINE: readonly Point2[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

/** The corners of what is there of a decal's picture, counter-clockwise. */
export const outlineOf = ({ outline }: Pick<Decal, 'outline'>): readonly Point2[] =>
  outline.length < 3 ? WHOLE_OUTLINE : outlineArea(outline) < 0 ? outline.toReversed() : outline;

/** Of an affine function of places the slope and its value at the origin. */
type Row = readonly [Vec3, number];
const valueOf = ([slope, start]: Row, p: Vec3): number => dot(slope, p) + start;

/** A box no thinner than this (cm³) has a picture. */
const LEAST_VOLUME = 1e-6;

/**
 * Where a place lies in a decal: in parts of the box from its left, from its foot, and from its back; each from 0 to 1 within it.
 * Null for a box without volume.
 */
function partsIn({ at, across, upward, through }: Decal): readonly [Row, Row, Row] | null {
  const volume = dot(across, cross(upward, through));
  if (!(Math.abs(volume) > LEAST_VOLUME)) return null;
  const row = (b: Vec3, c: Vec3): Row => {
    const slope = scale(cross(b, c), 1 / volume);
    return [slope, 0.5 - dot(slope, at)];
  };
  return [row(upward, through), row(through, across), row(across, upward)];
}

/** The eight corners of a decal's box: first its back, then its front, each counter-clockwise seen from the front. */
export const decalCorners = ({
  at,
  across,
  upward,
  through,
}: Pick<Decal, 'at' | 'across' | 'upward' | 'through'>): Vec3[] =>
  [-0.5, 0.5].flatMap((c) =>
    WHOLE_OUTLINE.map(([a, b]) => addScaled(addScaled(addScaled(at, across, a - 0.5), upward, b - 0.5), through, c)),
  );

/** A convex part of a decal: the planes it lies behind, and the inks of its corners as affine functions of places. */
interface Part {
  readonly planes: readonly Plane[];
  readonly inks: readonly [Row, Row, Row, Row];
}

/** A decal made ready to be thrown on many faces. */
export interface DecalThrow {
  readonly decal: Decal;
  readonly bounds: Box;
  /** The parts of a convex polygon, whose front looks along `normal`, that show the decal: none outside its box. */
  readonly on: (polygon: Winding, normal: Vec3) => DecalPiece[];
  /** Whether a place of a face that looks along `normal` shows it. */
  readonly shows: (p: Vec3, normal: Vec3) => boolean;
}

/** The plane on which a row has a value; behind it the values are less, or more. */
function planeAt([slope, start]: Row, value: number, less: boolean): Plane {
  const l = length(slope);
  const sign = less ? 1 : -1;
  return { normal: scale(slope, sign / l), distance: (sign * (value - start)) / l };
}

const WHITE = [1, 1, 1, 1] as const;

/** How much of a decal a face shows that looks aside by some degrees, 0 to 1. */
export function shareAt({ angle, fade, backs }: Pick<Decal, 'angle' | 'fade' | 'backs'>, aside: number): number {
  const limit = backs ? angle : Math.min(angle, 90);
  // A face at right angles shows nothing of a picture but its smear.
  if (aside > limit + 1e-6 || Math.abs(aside - 90) < 1e-3) return 0;
  return fade > 0 && limit < 180 ? Math.min(1, (limit - aside) / fade) : 1;
}

/** What of its picture a decal shows before it is cut, in texels. */
export function pictureRegion({ region }: Pick<Decal, 'region'>, facts: PictureFacts | undefined): Region {
  const size = facts ?? { width: 512, height: 512 };
  return facts?.regions?.find((r) => r.name === region) ?? wholePicture(size);
}

type PictureFacts = Pick<MaterialFacts, 'width' | 'height' | 'regions'>;

/** How a decal lays its picture through space, as a face's frame does; null where its box has no size. */
export function decalFrame(decal: Decal, facts: PictureFacts | undefined): TextureFrame | null {
  const rows = partsIn(decal);
  if (!rows) return null;
  const { x, y, width, height } = pictureRegion(decal, facts);
  const [[u, u0], [v, v0]] = rows;
  return {
    u: [...scale(u, width), x + u0 * width],
    v: [...scale(v, -height), y + (1 - v0) * height],
  };
}

/** Makes a decal ready; null where its box or its picture has no size. */
export function readyDecal(decal: Decal, facts: PictureFacts | undefined): DecalThrow | null {
  const rows = partsIn(decal);
  if (!rows) return null;
  const [left, foot, back] = rows;
  const { x, y, width, height } = pictureRegion(decal, facts);
  const parts = partsOf(decal, left, foot, back);
  const out = normalize(decal.through);
  const [red, green, blue] = linearColor(decal.tint);
  return {
    decal,
    bounds: boxOf(decalCorners(decal)),
    shows: (p, normal) =>
      shareAt(decal, aside(normal, out)) > 0 &&
      parts.some(({ planes }) => planes.every((plane) => signedDistance(plane, p) <= CLIP)),
    on: (polygon, normal) => {
      const share = shareAt(decal, aside(normal, out)) * decal.opacity;
      if (share <= 0) return [];
      const pieces: DecalPiece[] = [];
      for (const { planes, inks } of parts) {
        let winding: Winding | null = polygon;
        for (const plane of planes) {
          winding = clipBehind(winding, plane, false, CLIP);
          if (!winding) break;
        }
        if (!winding) continue;
        pieces.push({
          winding,
          normal,
          texels: winding.map((p) => [
            x + clamped(valueOf(left, p)) * width,
            y + (1 - clamped(valueOf(foot, p))) * height,
          ]),
          inks: winding.map((p) => {
            const [r, g, b, a] = inks.map((row) => clamped(valueOf(row, p))) as [number, number, number, number];
            return [r * red, g * green, b * blue, a * share];
          }),
        });
      }
      return pieces;
    },
  };
}

/** Degrees between two ways. */
const aside = (a: Vec3, b: Vec3): number => (arcTangent2(length(cross(a, b)), dot(a, b)) * 180) / Math.PI;

/** A corner so near a side of the box (cm) belongs to it. */
const CLIP = 1e-4;

const clamped = (x: number): number => Math.min(1, Math.max(0, x));

function partsOf(decal: Decal, left: Row, foot: Row, back: Row): Part[] {
  const outline = outlineOf(decal);
  const slab = [planeAt(back, 0, false), planeAt(back, 1, true)];
  const flip = decal.outline.length >= 3 && outline !== decal.outline;
  const inks = outline.map((_, k): readonly number[] => {
    const ink = decal.inks[flip ? outline.length - 1 - k : k];
    return ink ? [...linearColor(ink.color), ink.opacity] : WHITE;
  });
  const plain = inks.every((ink) => ink.every((c, k) => c === inks[0]![k]));
  const prism = (part: readonly Point2[]): Plane[] => [
    ...part.flatMap((a, k): Plane[] => {
      const b = part[(k + 1) % part.length]!;
      const [du, dv] = [b[0] - a[0], b[1] - a[1]];
      if (hypot(du, dv) < 1e-9) return [];
      // Left of a counter-clockwise edge is inside: −dv·u + du·v is greater there.
      const slope = sub(scale(foot[0], du), scale(left[0], dv));
      const row: Row = [slope, du * foot[1] - dv * left[1]];
      return [planeAt(row, du * a[1] - dv * a[0], false)];
    }),
    ...slab,
  ];
  const even = (c: number): Row => [[0, 0, 0], c];
  if (plain) {
    const [r, g, b, a] = inks[0] as unknown as readonly [number, number, number, number];
    return convexParts(outline).map((part) => ({ planes: prism(part), inks: [even(r), even(g), even(b), even(a)] }));
  }
  // Between three corners an ink runs evenly; more than three need not agree on one slope.
  const place = new Map(outline.map((p, k) => [p, k]));
  return triangles(outline).map(([a, b, c]) => {
    const [du1, dv1, du2, dv2] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
    const det = du1 * dv2 - dv1 * du2;
    const row = (k: number): Row => {
      const at = (p: Point2) => inks[place.get(p)!]![k]!;
      const [d1, d2] = [at(b) - at(a), at(c) - at(a)];
      const su = (d1 * dv2 - d2 * dv1) / det;
      const sv = (d2 * du1 - d1 * du2) / det;
      const slope = addScaled(scale(left[0], su), foot[0], sv);
      return [slope, at(a) + su * (left[1] - a[0]) + sv * (foot[1] - a[1])];
    };
    return { planes: prism([a, b, c]), inks: [row(0), row(1), row(2), row(3)] };
  });
}

/** An outline in triangles: of each convex part those from its first corner. */
function triangles(outline: readonly Point2[]): [Point2, Point2, Point2][] {
  return convexParts(outline).flatMap((part) =>
    part.slice(2).map((c, k): [Point2, Point2, Point2] => [part[0]!, part[k + 1]!, c]),
  );
}
