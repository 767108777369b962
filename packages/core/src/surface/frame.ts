import type { Brush, Face, Solid, TextureFrame } from '../brush/index.ts';
import { brushPlanes, inherit, isTranslation, transformShape } from '../brush/index.ts';
import {
  addScaled,
  type Affine,
  arcTangent2,
  cosSin,
  cross,
  dominantAxis,
  dot,
  hypot,
  invertAffine,
  length,
  normalize,
  type Plane,
  planeFromLoop,
  sameVec,
  scale,
  sub,
  tangent,
  translation,
  type Vec3,
} from '../math/index.ts';

/** The materials' natural density: 512 texels cover 256 cm. */
export const NATURAL_TEXELS_PER_CM = 2;

type Row = TextureFrame['u'];
const row = (a: Vec3, offset: number): Row => [a[0], a[1], a[2], offset];
const rowVec = (r: Row): Vec3 => [r[0], r[1], r[2]];

/** Texel coordinates of a world point (cm). */
export const texelAt = ({ u, v }: TextureFrame, p: Vec3): [number, number] => [
  u[0] * p[0] + u[1] * p[1] + u[2] * p[2] + u[3],
  v[0] * p[0] + v[1] * p[1] + v[2] * p[2] + v[3],
];

/** The directions in which a picture's columns and rows run on a plane: rows run down walls, and south on floors. */
function axesOf(normal: Vec3): { right: Vec3; down: Vec3 } {
  const axis = dominantAxis(normal);
  if (axis === 2) return { right: [1, 0, 0], down: [0, -1, 0] };
  if (axis === 0) return { right: [0, Math.sign(normal[0]), 0], down: [0, 0, -1] };
  return { right: [-Math.sign(normal[1]), 0, 0], down: [0, 0, -1] };
}

/** The picture projected straight along the normal's dominant axis: it runs on across flush faces of any brushes. */
export function worldFrame(normal: Vec3, texelsPerCm = NATURAL_TEXELS_PER_CM): TextureFrame {
  const { right, down } = axesOf(normal);
  return { u: row(scale(right, texelsPerCm), 0), v: row(scale(down, texelsPerCm), 0) };
}

/** The picture laid in the face's own plane, unstretched whatever the slope. */
export function faceFrame(plane: Plane, texelsPerCm = NATURAL_TEXELS_PER_CM): TextureFrame {
  const { right } = axesOf(plane.normal);
  const u = normalize(cross(cross(plane.normal, right), plane.normal));
  const v = cross(u, plane.normal);
  return { u: row(scale(u, texelsPerCm), 0), v: row(scale(v, texelsPerCm), 0) };
}

/**
 * What a frame looks like in numbers: texels moved, cm a texel along each direction, turn in degrees counter-clockwise, and
 * skew: by how many degrees courses rise to the right while columns stay upright.
 */
export interface FrameNumbers {
  readonly offset: readonly [number, number];
  readonly scale: readonly [number, number];
  readonly turn: number;
  readonly skew: number;
}

/** The natural unturned directions in a plane, against which the turn of a frame is read. */
function planeAxes(plane: Plane): { s: Vec3; t: Vec3 } {
  const f = faceFrame(plane, 1);
  return { s: rowVec(f.u), t: rowVec(f.v) };
}

export function readFrame(frame: TextureFrame, plane: Plane): FrameNumbers {
  const { s, t } = planeAxes(plane);
  const us = dot(rowVec(frame.u), s);
  const ut = dot(rowVec(frame.u), t);
  const vs = dot(rowVec(frame.v), s);
  const vt = dot(rowVec(frame.v), t);
  const sign = us * vt - ut * vs < 0 ? -1 : 1;
  const across = hypot(us, ut);
  const [cu, cv] = [(us * sign) / across, (ut * sign) / across];
  // The rows' direction split along the columns' (which is skew) and square to it.
  const along = vs * cu + vt * cv;
  const square = vt * cu - vs * cv;
  return {
    offset: [frame.u[3], frame.v[3]],
    scale: [sign / across, 1 / square],
    turn: degrees(arcTangent2(-cv, cu)),
    skew: degrees(arcTangent2(along, square)),
  };
}

const degrees = (radians: number): number => (Math.abs(radians) < 1e-11 ? 0 : (radians * 180) / Math.PI);

/** The frame in the face's plane with the given numbers; the inverse of {@link readFrame}. */
export function writeFrame({ offset, scale: size, turn, skew }: FrameNumbers, plane: Plane): TextureFrame {
  const { s, t } = planeAxes(plane);
  const [c, n] = cosSin(turn);
  const k = skew === 0 ? 0 : tangent((skew * Math.PI) / 180);
  const mix = (a: number, b: number, by: number): Vec3 => [
    (s[0] * a + t[0] * b) * by,
    (s[1] * a + t[1] * b) * by,
    (s[2] * a + t[2] * b) * by,
  ];
  return {
    u: row(mix(c, -n, 1 / size[0]), offset[0]),
    v: row(mix(n + k * c, c - k * n, 1 / size[1]), offset[1]),
  };
}

/** Moves the picture by texels. */
export const shiftFrame = (f: TextureFrame, du: number, dv: number): TextureFrame => ({
  u: [f.u[0], f.u[1], f.u[2], f.u[3] + du],
  v: [f.v[0], f.v[1], f.v[2], f.v[3] + dv],
});

/** A frame with other numbers that shows the same texel at a point. */
export function renumberFrame(
  frame: TextureFrame,
  plane: Plane,
  change: (n: FrameNumbers) => FrameNumbers,
  about: Vec3,
): TextureFrame {
  const next = writeFrame(change(readFrame(frame, plane)), plane);
  const was = texelAt(frame, about);
  const is = texelAt(next, about);
  return shiftFrame(next, was[0] - is[0], was[1] - is[1]);
}

/** Turns the picture about a point of the plane. */
export const turnFrame = (frame: TextureFrame, plane: Plane, by: number, about: Vec3): TextureFrame =>
  renumberFrame(frame, plane, (n) => ({ ...n, turn: n.turn + by }), about);

/** A change of texel coordinates that is the same all over: `u' = u·ku + du`, `v' = v·kv + dv`. */
export interface TexelChange {
  readonly ku: number;
  readonly kv: number;
  readonly du: number;
  readonly dv: number;
}

export const changeTexels = (f: TextureFrame, { ku, kv, du, dv }: TexelChange): TextureFrame => ({
  u: [f.u[0] * ku, f.u[1] * ku, f.u[2] * ku, f.u[3] * ku + du],
  v: [f.v[0] * kv, f.v[1] * kv, f.v[2] * kv, f.v[3] * kv + dv],
});

/** The frame that shows a picture of another density at the size of the old one. */
export const densifyFrame = (f: TextureFrame, factor: number): TextureFrame =>
  factor === 1 ? f : changeTexels(f, { ku: factor, kv: factor, du: 0, dv: 0 });

/** The same frame on a plane without what runs along the plane's normal. */
export function flattenFrame(frame: TextureFrame, plane: Plane): TextureFrame {
  const flat = (r: Row): Row => {
    const k = dot(rowVec(r), plane.normal);
    return row(addScaled(rowVec(r), plane.normal, -k), r[3] + k * plane.distance);
  };
  return { u: flat(frame.u), v: flat(frame.v) };
}

let inverted: { m: Affine; inverse: Affine | null } | null = null;
/** All faces of a move are carried by one map: it is inverted once. */
const inverseOf = (m: Affine): Affine | null =>
  (inverted?.m === m ? inverted : (inverted = { m, inverse: invertAffine(m) })).inverse;

/** The frame with which a face carried by `m` shows the same texel at the same corner: `frame ∘ m⁻¹`. */
export function carryFrame(frame: TextureFrame, m: Affine): TextureFrame {
  const inverse = inverseOf(m);
  if (!inverse) return frame;
  const carry = (r: Row): Row => {
    const at = (i: number) => r[0] * inverse[i]! + r[1] * inverse[4 + i]! + r[2] * inverse[8 + i]!;
    return [at(0), at(1), at(2), at(3) + r[3]];
  };
  return { u: carry(frame.u), v: carry(frame.v) };
}

/** Texels a cm of which no frame has more. */
const MOST_DENSE = 1e6;

/** A frame is usable when its numbers are finite, none too large, and it does not squash the picture to a line on its plane. */
export function isUsableFrame(frame: TextureFrame, normal: Vec3): boolean {
  const { u, v } = frame;
  // A sum is finite only where every number of it is; anything but a number makes it none.
  if (!Number.isFinite(u[0] + u[1] + u[2] + u[3] + v[0] + v[1] + v[2] + v[3])) return false;
  const area =
    (u[1] * v[2] - u[2] * v[1]) * normal[0] +
    (u[2] * v[0] - u[0] * v[2]) * normal[1] +
    (u[0] * v[1] - u[1] * v[0]) * normal[2];
  const dense = (r: Row): number => r[0] * r[0] + r[1] * r[1] + r[2] * r[2];
  return Math.abs(area) > 1e-9 && dense(u) < MOST_DENSE ** 2 && dense(v) < MOST_DENSE ** 2;
}

/**
 * Moves a brush, its texture frames with it (`carry`) or left in the world. A face whose picture could not be seen any more
 * where it then lies (turned away from it, or squashed to a line) is laid naturally.
 */
export function transformBrush(brush: Brush, m: Affine, carry: boolean): Brush {
  if (isTranslation(m)) return moveBrush(brush, m, carry);
  const shape = transformShape(brush, m);
  const planes = brushPlanes(shape);
  const before = brushPlanes(brush);
  return {
    ...shape,
    faces: shape.faces.map((f, i) => {
      const frame = carry ? carryFrame(f.frame, m) : tiltFrame(f.frame, before[i]!, planes[i]!, false);
      if (isUsableFrame(frame, planes[i]!.normal)) return frame === f.frame ? f : { ...f, frame };
      return { ...f, frame: naturalFrame(planes[i]!) };
    }),
  };
}

/** A brush moved without turning: pictures stay as dense and as upright as they were. */
function moveBrush(brush: Brush, m: Affine, carry: boolean): Brush {
  const shape = transformShape(brush, m);
  const moved: Brush = carry
    ? { ...shape, faces: shape.faces.map((f) => ({ ...f, frame: carryFrame(f.frame, m) })) }
    : shape;
  inherit(moved, brush, m);
  return moved;
}

/** Makes a brush of a solid, each face dressed with a material in world projection. */
export function dressSolid(solid: Solid, id: string, material: string, extra: Partial<Brush> = {}): Brush {
  const faces: Face[] = solid.loops.map((loop, i) => {
    const plane = planeFromLoop(loop.map((k) => solid.vertices[k]!))!;
    return { id: i + 1, loop, material, frame: naturalFrame(plane) };
  });
  return { id, role: 'structure', vertices: solid.vertices, faces, ...extra };
}

/** World projection on axis planes, face projection on slopes, so that nothing is stretched at first. */
export const naturalFrame = (plane: Plane): TextureFrame =>
  plane.normal.some((c) => Math.abs(c) === 1) ? worldFrame(plane.normal) : faceFrame(plane);

export interface Redressing {
  /** Textures go with their faces; otherwise they stay in the world. */
  readonly carry?: boolean;
  /** Where the old brush's corners went, when they are known to go together. */
  readonly moved?: readonly Vec3[];
  /** Cosine of the largest tilt that a picture follows; what turned further is a new face, laid naturally. */
  readonly follow?: number;
}

/** About 25°: a wall swung by hand still is that wall, a mitred end that became a jamb is not. */
const SAME_FACE = 0.9;

/**
 * Dresses a fresh solid like an old brush: each face takes material, frame, flags and id of the old face that it matches
 * best. A face that moved as a whole takes its picture along; where its plane tilted, the picture is swung along about the
 * line where the old and the new plane meet (`carry`), or left as it is in the world.
 */
export function redress(solid: Solid, old: Brush, { carry = true, moved, follow = SAME_FACE }: Redressing = {}): Brush {
  const oldPlanes = brushPlanes(moved ? { ...old, vertices: moved } : old);
  const taken = new Set<number>();
  let nextId = Math.max(...old.faces.map((f) => f.id)) + 1;
  const faces = solid.loops.map((loop): Face => {
    const plane = planeFromLoop(loop.map((k) => solid.vertices[k]!))!;
    let best = 0;
    let bestScore = -Infinity;
    oldPlanes.forEach((p, i) => {
      const score =
        dot(p.normal, plane.normal) * 10 -
        Math.min(1, Math.abs(p.distance - plane.distance) / 1000) -
        (taken.has(i) ? 5 : 0);
      if (score > bestScore) [best, bestScore] = [i, score];
    });
    const match = old.faces[best]!;
    const again = taken.has(best);
    taken.add(best);
    const { loop: _, ...dress } = match;
    // A second face that finds no better match is a new one: it has no picture of its own to keep.
    const fresh = again || dot(oldPlanes[best]!.normal, plane.normal) < follow;
    const frame = fresh ? null : followFrame(old, best, moved, plane, carry);
    return {
      ...dress,
      id: again ? nextId++ : match.id,
      loop,
      frame: frame && isUsableFrame(frame, plane.normal) ? frame : naturalFrame(plane),
    };
  });
  return { ...old, vertices: solid.vertices, faces };
}

/** The frame of a face on its new plane. */
function followFrame(
  old: Brush,
  i: number,
  moved: readonly Vec3[] | undefined,
  plane: Plane,
  carry: boolean,
): TextureFrame {
  const { loop, frame } = old.faces[i]!;
  const steps = moved && loop.map((k) => sub(moved[k]!, old.vertices[k]!));
  if (steps?.every((s) => sameVec(s, steps[0]!, 1e-9)))
    return carry && length(steps[0]!) > 0 ? carryFrame(frame, translation(steps[0]!)) : frame;
  return tiltFrame(frame, brushPlanes(old)[i]!, plane, carry);
}

/** Planes whose directions differ by less than this lie alike: their meeting line is too far away to be found well. */
const ALIKE = 1e-5;

/**
 * The frame of a face whose plane tilted: swung about the line where both planes meet, or left in the world where that squashes it less
 * than by half.
 */
export function tiltFrame(frame: TextureFrame, from: Plane, to: Plane, carry = true): TextureFrame {
  const facing = dot(from.normal, to.normal);
  if (facing > 1 - ALIKE * ALIKE) return frame;
  if (!carry)
    return Math.abs(dot(cross(rowVec(frame.u), rowVec(frame.v)), to.normal)) >
      0.5 * length(cross(rowVec(frame.u), rowVec(frame.v)))
      ? frame
      : naturalFrame(to);
  // Turned over altogether there is nothing left of how it lay.
  if (facing < 0) return naturalFrame(to);
  return flowFrame(frame, from, to, meetingLine(from, to)!);
}

/** The line in which two planes meet, as two points a centimetre apart; null for parallel ones. */
export function meetingLine(a: Plane, b: Plane): [Vec3, Vec3] | null {
  const across = cross(a.normal, b.normal);
  if (length(across) < ALIKE / 10) return null;
  const c = dot(a.normal, b.normal);
  const k = dot(across, across);
  const p = addScaled(scale(a.normal, (a.distance - c * b.distance) / k), b.normal, (b.distance - c * a.distance) / k);
  return [p, addScaled(p, normalize(across), 1)];
}

/**
 * The frame with which a face goes on showing what its neighbour shows, across the line on which they meet: as if the second
 * face were swung about that line into the plane of the first. Equal along the line, and as dense beyond it.
 */
export function flowFrame(frame: TextureFrame, from: Plane, to: Plane, [p, q]: readonly [Vec3, Vec3]): TextureFrame {
  const e = normalize([q[0] - p[0], q[1] - p[1], q[2] - p[2]]);
  const inFrom = cross(from.normal, e);
  const inTo = cross(to.normal, e);
  const swing = (r: Row): Row => {
    const along = dot(rowVec(r), e);
    const across = dot(rowVec(r), inFrom);
    const a = addScaled(scale(e, along), inTo, across);
    return row(a, dot(rowVec(r), p) + r[3] - dot(a, p));
  };
  return { u: swing(frame.u), v: swing(frame.v) };
}
