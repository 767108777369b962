import type { Brush, Face, Solid, TextureFrame } from '../brush/index.ts';
import { brushPlanes, transformShape } from '../brush/index.ts';
import {
  cosSin,
  cross,
  dominantAxis,
  dot,
  invertAffine,
  length,
  normalize,
  planeFromLoop,
  scale,
  type Affine,
  type Plane,
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

/** What a frame looks like in numbers: texels moved, cm a texel along each direction, turn in degrees counter-clockwise. */
export interface FrameNumbers {
  readonly offset: readonly [number, number];
  readonly scale: readonly [number, number];
  readonly turn: number;
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
  const turn = (Math.atan2(-ut * sign, us * sign) * 180) / Math.PI;
  return {
    offset: [frame.u[3], frame.v[3]],
    scale: [sign / Math.hypot(us, ut), 1 / Math.hypot(vs, vt)],
    turn: Math.abs(turn) < 1e-9 ? 0 : turn,
  };
}

/** The frame in the face's plane with the given numbers; the inverse of {@link readFrame} for unskewed frames. */
export function writeFrame({ offset, scale: size, turn }: FrameNumbers, plane: Plane): TextureFrame {
  const { s, t } = planeAxes(plane);
  const [c, n] = cosSin(turn);
  const mix = (a: number, b: number, k: number): Vec3 => [
    (s[0] * a + t[0] * b) * k,
    (s[1] * a + t[1] * b) * k,
    (s[2] * a + t[2] * b) * k,
  ];
  return { u: row(mix(c, -n, 1 / size[0]), offset[0]), v: row(mix(n, c, 1 / size[1]), offset[1]) };
}

/** Moves the picture by texels. */
export const shiftFrame = (f: TextureFrame, du: number, dv: number): TextureFrame => ({
  u: [f.u[0], f.u[1], f.u[2], f.u[3] + du],
  v: [f.v[0], f.v[1], f.v[2], f.v[3] + dv],
});

/** Turns the picture about a point of the plane. */
export function turnFrame(frame: TextureFrame, plane: Plane, degrees: number, about: Vec3): TextureFrame {
  const numbers = readFrame(frame, plane);
  const turned = writeFrame({ ...numbers, turn: numbers.turn + degrees }, plane);
  const was = texelAt(frame, about);
  const is = texelAt(turned, about);
  return shiftFrame(turned, was[0] - is[0], was[1] - is[1]);
}

/** The frame with which a face carried by `m` shows the same texel at the same corner: `frame ∘ m⁻¹`. */
export function carryFrame(frame: TextureFrame, m: Affine): TextureFrame {
  const inverse = invertAffine(m);
  if (!inverse) return frame;
  const carry = (r: Row): Row => {
    const at = (i: number) => r[0] * inverse[i]! + r[1] * inverse[4 + i]! + r[2] * inverse[8 + i]!;
    return [at(0), at(1), at(2), at(3) + r[3]];
  };
  return { u: carry(frame.u), v: carry(frame.v) };
}

/** A frame is usable when its numbers are finite and it does not squash the picture to a line on its plane. */
export function isUsableFrame(frame: TextureFrame, normal: Vec3): boolean {
  if (![...frame.u, ...frame.v].every(Number.isFinite)) return false;
  return Math.abs(dot(cross(rowVec(frame.u), rowVec(frame.v)), normal)) > 1e-9 && length(rowVec(frame.u)) < 1e6;
}

/** Moves a brush, its texture frames with it (`carry`) or left in the world. */
export function transformBrush(brush: Brush, m: Affine, carry: boolean): Brush {
  const moved = transformShape(brush, m);
  return carry ? { ...moved, faces: moved.faces.map((f) => ({ ...f, frame: carryFrame(f.frame, m) })) } : moved;
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

/** Dresses a fresh solid like an old brush: each face takes material, frame, flags and id of the old face that it matches best. */
export function redress(solid: Solid, old: Brush): Brush {
  const oldPlanes = brushPlanes(old);
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
    const direction = dot(oldPlanes[best]!.normal, plane.normal);
    const again = taken.has(best);
    taken.add(best);
    const { loop: _, ...dress } = match;
    return {
      ...dress,
      id: again ? nextId++ : match.id,
      loop,
      frame: direction > 0.999 ? match.frame : naturalFrame(plane),
    };
  });
  return { ...old, vertices: solid.vertices, faces };
}
