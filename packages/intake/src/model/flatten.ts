import type { Document, Material, mat4, Node, Primitive } from '@gltf-transform/core';
import type { Light, Transform } from '@gltf-transform/extensions';
import { cross, length, normalize, sub, type PropLight, type PropSocket, type Vec3 } from '@yesca/core';
import { ModelRefusal } from './refusal.ts';
import { moved, turned } from './spaces.ts';
import { cornersOf } from './triangles.ts';

/** Triangles of a model that look alike: places in m, y up, as the scene has them. */
export interface ModelPart {
  readonly material: Material | null;
  readonly position: number[];
  readonly normal: number[];
  readonly uv: number[];
}

export interface FlatModel {
  readonly parts: readonly ModelPart[];
  /** Places in m, y up. */
  readonly lights: readonly PropLight[];
  /** Of nodes that are called a socket: their place, and which way their Z axis points. */
  readonly sockets: readonly PropSocket[];
  readonly notes: readonly string[];
}

/** Warmth of a lamp that does not tell its own. */
const KELVIN = 3000;

const determinant = (m: mat4): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

/** What nodes are called that mark where another prop joins: “socket”, and of which kind. */
const SOCKET = /^socket(?:[ _:.-]+(.*))?$/i;

/** Puts all that a model's scene shows together, by what it looks like: no nodes, no instances, each triangle's front outward. */
export function flattenModel(doc: Document): FlatModel {
  const scene = doc.getRoot().getDefaultScene() ?? doc.getRoot().listScenes()[0];
  const parts = new Map<Material | null, ModelPart>();
  const lights: PropLight[] = [];
  const sockets: PropSocket[] = [];
  const notes = new Set<string>();
  const add = (primitive: Primitive, m: mat4): void => {
    const place = primitive.getAttribute('POSITION');
    const corners = cornersOf(primitive);
    if (!corners) notes.add('Points and lines are left out: props are made of triangles.');
    if (!place || !corners) return;
    if (primitive.getAttribute('COLOR_0')) notes.add('Colours of corners are left out: give it a picture.');
    const material = primitive.getMaterial();
    let part = parts.get(material);
    if (!part) parts.set(material, (part = { material, position: [], normal: [], uv: [] }));
    const mirrored = determinant(m) < 0;
    if (mirrored) notes.add('A mirrored part was turned right side out.');
    const [way, uv] = [primitive.getAttribute('NORMAL'), uvOf(primitive)];
    for (let t = 0; t + 2 < corners.length; t += 3) {
      const [a, b, c] = [corners[t]!, corners[t + (mirrored ? 2 : 1)]!, corners[t + (mirrored ? 1 : 2)]!];
      const places = [a, b, c].map((v) => moved(m, place.getElement(v, [0, 0, 0]) as unknown as Vec3));
      const square = cross(sub(places[1]!, places[0]!), sub(places[2]!, places[0]!));
      // What has no area shows nothing.
      if (!(length(square) > 0)) continue;
      [a, b, c].forEach((v, k) => {
        part.position.push(...places[k]!);
        part.normal.push(
          ...(way ? turned(m, way.getElement(v, [0, 0, 0]) as unknown as Vec3, mirrored ? -1 : 1) : normalize(square)),
        );
        part.uv.push(...uv(v));
      });
    }
  };
  const walk = (node: Node): void => {
    const m = node.getWorldMatrix();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) add(primitive, m);
    const light = node.getExtension<Light>('KHR_lights_punctual');
    if (light && light.getType() !== 'directional')
      lights.push({ at: moved(m, [0, 0, 0]), candela: Math.round(light.getIntensity() * 10) / 10, kelvin: KELVIN });
    else if (light) notes.add('A light without a place is left out: the sun belongs to the map.');
    const socket = SOCKET.exec(node.getName());
    if (socket)
      sockets.push({
        name: (socket[1] ?? '').trim().toLowerCase().slice(0, 40),
        at: moved(m, [0, 0, 0]),
        way: turned(m, [0, 0, 1], 1),
      });
    node.listChildren().forEach(walk);
  };
  scene?.listChildren().forEach(walk);
  const shown = [...parts.values()].filter((p) => p.position.length > 0);
  if (shown.length === 0)
    throw new ModelRefusal('model.empty', 'The model has no triangles in its scene. Export the meshes themselves.');
  if (shown.some((p) => p.position.some((c) => !Number.isFinite(c))))
    throw new ModelRefusal(
      'model.notNumbers',
      'Some corners of the model are at no place (not a number). Clean the mesh up and export it anew.',
    );
  return { parts: shown, lights, sockets, notes: [...notes] };
}

/** Where corners lie on the picture of what they look like, its own shift, turn and scale done. */
function uvOf(primitive: Primitive): (v: number) => readonly [number, number] {
  const info = primitive.getMaterial()?.getBaseColorTextureInfo();
  const by = info?.getExtension<Transform>('KHR_texture_transform');
  const set = by?.getTexCoord() ?? info?.getTexCoord() ?? 0;
  const uv = primitive.getAttribute(`TEXCOORD_${set}`) ?? primitive.getAttribute('TEXCOORD_0');
  if (!uv) return () => [0, 0];
  const [offset, scale, turn] = [by?.getOffset() ?? [0, 0], by?.getScale() ?? [1, 1], by?.getRotation() ?? 0];
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return (v) => {
    const [x, y] = uv.getElement(v, [0, 0]) as [number, number];
    const [u, w] = [x * scale[0]!, y * scale[1]!];
    return [c * u + s * w + offset[0]!, -s * u + c * w + offset[1]!];
  };
}
