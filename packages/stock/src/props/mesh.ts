import {
  boxOf,
  cross,
  hullOf,
  naturalFrame,
  planeFromLoop,
  sub,
  texelAt,
  windingArea,
  type Box,
  type PropFacts,
  type Solid,
  type Vec3,
} from '@yesca/core';
import { MATERIALS } from '../materials/index.ts';
import type { Piece, PropRecipe } from './making.ts';

/** Triangles of one material: three corners each. */
export interface Part {
  readonly material: string;
  /** cm, three a corner. */
  readonly position: number[];
  readonly normal: number[];
  /** In pictures, two a corner. */
  readonly uv: number[];
}

/** Faces that bend less than this (cosine) are shaded as one where that is wanted. */
const SMOOTH = 0.7;

const keyOf = (p: Vec3): string => p.map((c) => Math.round(c * 256)).join(' ');

interface Polygon {
  readonly corners: readonly Vec3[];
  readonly normal: Vec3;
  readonly material: string;
  readonly smooth: boolean;
}

/** The faces of all pieces, but for those that lie exactly on one another. */
function outerFaces(pieces: readonly Piece[]): Polygon[] {
  const all = pieces.flatMap(({ solid, material, smooth }) =>
    solid.loops.flatMap((loop): Polygon[] => {
      const corners = loop.map((i) => solid.vertices[i]!);
      const plane = planeFromLoop(corners);
      return plane && windingArea(corners) > 1e-4
        ? [{ corners, normal: plane.normal, material, smooth: smooth ?? false }]
        : [];
    }),
  );
  const count = new Map<string, number>();
  const key = ({ corners }: Polygon) => corners.map(keyOf).sort().join('|');
  for (const p of all) count.set(key(p), (count.get(key(p)) ?? 0) + 1);
  return all.filter((p) => count.get(key(p)) === 1);
}

/** The normal at a corner: that of the face, or the mean of what bends little about it. */
function makeNormals(faces: readonly Polygon[]): (face: Polygon, at: Vec3) => Vec3 {
  const about = new Map<string, Polygon[]>();
  for (const face of faces)
    if (face.smooth)
      for (const p of face.corners) {
        const key = keyOf(p);
        const list = about.get(key);
        if (list) list.push(face);
        else about.set(key, [face]);
      }
  return (face, at) => {
    if (!face.smooth) return face.normal;
    const sum: [number, number, number] = [0, 0, 0];
    for (const { normal, corners } of about.get(keyOf(at)) ?? []) {
      if (normal[0] * face.normal[0] + normal[1] * face.normal[1] + normal[2] * face.normal[2] < SMOOTH) continue;
      const weight = windingArea(corners);
      for (let c = 0; c < 3; c++) sum[c]! += normal[c]! * weight;
    }
    const long = Math.hypot(...sum);
    return long > 1e-9 ? [sum[0] / long, sum[1] / long, sum[2] / long] : face.normal;
  };
}

/** A prop as triangles, by material. Pictures lie on it as they do on brushes. */
export function meshOf(pieces: readonly Piece[]): Part[] {
  const faces = outerFaces(pieces);
  const normalAt = makeNormals(faces);
  const parts = new Map<string, Part>();
  for (const face of faces) {
    const { corners, normal, material } = face;
    let part = parts.get(material);
    if (!part) parts.set(material, (part = { material, position: [], normal: [], uv: [] }));
    const facts = MATERIALS.find((m) => m.name === material);
    if (!facts) throw new Error(`No material is called ${material}.`);
    const frame = naturalFrame({ normal, distance: 0 });
    const put = (p: Vec3): void => {
      const [u, v] = texelAt(frame, p);
      part.position.push(...p);
      part.normal.push(...normalAt(face, p));
      part.uv.push(u / facts.width, v / facts.height);
    };
    for (let k = 2; k < corners.length; k++) {
      const triangle = [corners[0]!, corners[k - 1]!, corners[k]!] as const;
      const [a, b, c] = triangle;
      if (Math.hypot(...cross(sub(b, a), sub(c, a))) > 1e-6) triangle.forEach(put);
    }
  }
  return [...parts.values()];
}

/** What is known of a prop besides its triangles. */
export function factsOf(recipe: PropRecipe): PropFacts {
  const { name, label, pieces, collision, substance, lights = [], sockets } = recipe;
  const corners = pieces.flatMap((p) => p.solid.vertices);
  const bounds = rounded(boxOf(corners));
  const triangles = meshOf(pieces).reduce((n, p) => n + p.position.length / 9, 0);
  const hulls = collision === 'hulls' ? pieces.map((p) => p.solid) : [hullOf(corners)];
  return {
    name,
    label,
    bounds,
    triangles,
    collision,
    hulls: hulls.map(tidySolid),
    substance,
    lights,
    ...(sockets ? { sockets } : {}),
  };
}

const round = (x: number): number => Math.round(x * 1000) / 1000 + 0;
const roundPoint = ([x, y, z]: Vec3): Vec3 => [round(x), round(y), round(z)];
const rounded = ({ min, max }: Box): Box => ({ min: roundPoint(min), max: roundPoint(max) });
const tidySolid = ({ vertices, loops }: Solid): Solid => ({ vertices: vertices.map(roundPoint), loops });
