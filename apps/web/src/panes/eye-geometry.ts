import { BufferAttribute, BufferGeometry } from 'three';
import type { BatchedLook } from '../scene/looks.ts';
import {
  brushPlanes,
  DRAWN_ROLES,
  PLAYER,
  texelAt,
  type Brush,
  type MapDocument,
  type Solid,
  type Vec3,
} from '@yesca/core';

/** Faces that are drawn alike as one mesh. */
export interface Batch {
  /** A page of pictures and how it is drawn, or one of those below. */
  readonly key: string;
  readonly geometry: BufferGeometry;
}

/** What is drawn apart from materials: faces that show the sky, and roles that are never seen in play. */
export const SKY_BATCH = '~sky';
export const GHOST_BATCH = '~unseen';

const apart = (key: string): BatchedLook => ({ key, size: [1, 1], layer: 0 });
const SKY_LOOK = apart(SKY_BATCH);
const GHOST_LOOK = apart(GHOST_BATCH);

/** How a face is drawn whose material does not show; null where it does. */
const apartOf = (brush: Brush, face: number): BatchedLook | null => {
  const { show } = brush.faces[face]!;
  if (!DRAWN_ROLES.has(brush.role) || show === 'unseen') return GHOST_LOOK;
  return show === 'sky' ? SKY_LOOK : null;
};

/** Light of the workroom: a bright sky, paper-coloured ground, and a lamp from the south-west. */
const SKY = [1, 1, 1] as const;
const GROUND = [0.694, 0.63, 0.539] as const;
const SKY_STRENGTH = 2.2 / Math.PI;
const LAMP_STRENGTH = 1.5 / Math.PI;
const LAMP: Vec3 = (() => {
  const [x, y, z] = [-0.6, -0.9, 1.4];
  const k = 1 / Math.hypot(x, y, z);
  return [x * k, y * k, z * k];
})();

/**
 * How bright a face is in the workroom, linear red, green and blue. Faces are flat, so this needs no lights in the scene: what
 * would be worked out for every pixel, and told the graphics card for every material, is part of the corners.
 */
export function shadeOf(normal: Vec3): [number, number, number] {
  const up = normal[2] * 0.5 + 0.5;
  const lamp = Math.max(0, normal[0] * LAMP[0] + normal[1] * LAMP[1] + normal[2] * LAMP[2]) * LAMP_STRENGTH;
  const along = (i: 0 | 1 | 2) => (GROUND[i] + (SKY[i] - GROUND[i]) * up) * SKY_STRENGTH + lamp;
  return [along(0), along(1), along(2)];
}

/** Faces that go into one batch, with how many corners and triangles they have. */
interface Gathered {
  readonly faces: { readonly brush: Brush; readonly face: number; readonly look: BatchedLook }[];
  corners: number;
  triangles: number;
}

/**
 * The faces of brushes gathered by how they are drawn, with positions, shade, place on the picture (0 to 1) and its layer.
 * `lookOf` is asked for materials that show only: to ask for a look loads its picture.
 */
export function batchBrushes(brushes: Iterable<Brush>, lookOf: (material: string) => BatchedLook): Batch[] {
  const gathered = new Map<string, Gathered>();
  for (const brush of brushes)
    for (let face = 0; face < brush.faces.length; face++) {
      const { loop, material } = brush.faces[face]!;
      const look = apartOf(brush, face) ?? lookOf(material);
      let all = gathered.get(look.key);
      if (!all) gathered.set(look.key, (all = { faces: [], corners: 0, triangles: 0 }));
      all.faces.push({ brush, face, look });
      all.corners += loop.length;
      all.triangles += loop.length - 2;
    }
  return [...gathered].map(([key, all]) => ({ key, geometry: geometryOf(all) }));
}

function geometryOf({ faces, corners, triangles }: Gathered): BufferGeometry {
  const position = new Float32Array(corners * 3);
  const color = new Float32Array(corners * 3);
  const uv = new Float32Array(corners * 2);
  const layer = new Float32Array(corners);
  const index = new Uint32Array(triangles * 3);
  let at = 0;
  let next = 0;
  for (const { brush, face, look } of faces) {
    const { loop, frame } = brush.faces[face]!;
    const shade = shadeOf(brushPlanes(brush)[face]!.normal);
    const [w, h] = look.size;
    for (let k = 2; k < loop.length; k++) {
      index[next++] = at;
      index[next++] = at + k - 1;
      index[next++] = at + k;
    }
    for (const corner of loop) {
      const p = brush.vertices[corner]!;
      const [u, v] = texelAt(frame, p);
      for (let c = 0; c < 3; c++) {
        position[at * 3 + c] = p[c]!;
        color[at * 3 + c] = shade[c]!;
      }
      uv[at * 2] = u / w;
      uv[at * 2 + 1] = v / h;
      layer[at++] = look.layer;
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('color', new BufferAttribute(color, 3));
  geometry.setAttribute('uv', new BufferAttribute(uv, 2));
  geometry.setAttribute('layer', new BufferAttribute(layer, 1));
  geometry.setIndex(new BufferAttribute(index, 1));
  return geometry;
}

const geometryAt = (position: readonly number[]): BufferGeometry =>
  new BufferGeometry().setAttribute('position', new BufferAttribute(new Float32Array(position), 3));

/** The edges of some solids as line segments. */
export function solidEdges(solids: Iterable<Solid>): BufferGeometry {
  const position: number[] = [];
  for (const { vertices, loops } of solids)
    for (const loop of loops)
      loop.forEach((a, k) => {
        const b = loop[(k + 1) % loop.length]!;
        if (a < b) position.push(...vertices[a]!, ...vertices[b]!);
      });
  return geometryAt(position);
}

/** All faces of some solids as triangles. */
export function solidFaces(solids: Iterable<Solid>): BufferGeometry {
  const position: number[] = [];
  for (const { vertices, loops } of solids)
    for (const loop of loops)
      for (let k = 2; k < loop.length; k++)
        for (const i of [loop[0]!, loop[k - 1]!, loop[k]!]) position.push(...vertices[i]!);
  return geometryAt(position);
}

/** Brushes as the solids that they are. */
export function* solidsOf(brushes: Iterable<Brush>): Generator<Solid> {
  for (const { vertices, faces } of brushes) yield { vertices, loops: faces.map((f) => f.loop) };
}

/** The edges of some brushes as line segments. */
export const edgeGeometry = (brushes: Iterable<Brush>): BufferGeometry => solidEdges(solidsOf(brushes));

/** The outline of chosen faces as line segments. */
export function faceEdges(doc: MapDocument, faces: readonly { brush: string; face: number }[]): BufferGeometry {
  const position: number[] = [];
  for (const ref of faces) {
    const brush = doc.brushes.get(ref.brush);
    const face = brush?.faces.find((f) => f.id === ref.face);
    if (!brush || !face) continue;
    face.loop.forEach((a, k) =>
      position.push(...brush.vertices[a]!, ...brush.vertices[face.loop[(k + 1) % face.loop.length]!]!),
    );
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(position), 3));
  return geometry;
}

const ofPoints = (points: readonly Vec3[]): BufferGeometry => {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(new Float32Array(points.flat()), 3));
  return geometry;
};

export const pointGeometry = ofPoints;

/** The player's box on its feet as line segments, with a cross at the height of a step and of a jump. */
export function figureLines([x, y, z]: Vec3, crouching: boolean): BufferGeometry {
  const w = PLAYER.halfWidth;
  const ring = (height: number, reach: number): Vec3[] => {
    const c: Vec3[] = [
      [x - reach, y - reach, z + height],
      [x + reach, y - reach, z + height],
      [x + reach, y + reach, z + height],
      [x - reach, y + reach, z + height],
    ];
    return c.flatMap((p, i) => [p, c[(i + 1) % 4]!]);
  };
  const high = crouching ? PLAYER.crouching : PLAYER.standing;
  const posts = [
    [-w, -w],
    [w, -w],
    [w, w],
    [-w, w],
  ].flatMap(([dx, dy]): Vec3[] => [
    [x + dx!, y + dy!, z],
    [x + dx!, y + dy!, z + high],
  ]);
  return ofPoints([
    ...ring(0, w),
    ...ring(high, w),
    ...posts,
    ...ring(PLAYER.step, w + 12),
    ...ring(PLAYER.jump, w + 12),
  ]);
}
