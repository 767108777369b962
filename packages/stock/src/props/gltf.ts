import { Document, NodeIO, type Material as Look, type Texture } from '@gltf-transform/core';
import { linearColor } from '@yesca/core';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { MATERIALS } from '../materials/index.ts';
import { meshOf } from './mesh.ts';
import type { PropRecipe } from './making.ts';

/** Edge of the pictures that come with a prop, texels: half as fine as on brushes. */
const EDGE = 256;

/** A prop as a binary glTF 2.0: metres, y up. Materials have the names of those that they look like. */
export async function glbOf(recipe: PropRecipe, pictures: URL): Promise<Uint8Array> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const mesh = doc.createMesh(recipe.name);
  for (const { material, position, normal, uv } of meshOf(recipe.pieces)) {
    const attribute = (type: 'VEC2' | 'VEC3', list: Float32Array<ArrayBuffer>) =>
      doc.createAccessor().setType(type).setArray(list).setBuffer(buffer);
    const metres = position.map((c) => c / 100);
    const { points, order } = indexed(upright(metres), upright(normal), uv);
    const primitive = doc
      .createPrimitive()
      .setAttribute('POSITION', attribute('VEC3', points.position))
      .setAttribute('NORMAL', attribute('VEC3', points.normal))
      .setAttribute('TEXCOORD_0', attribute('VEC2', points.uv))
      .setIndices(doc.createAccessor().setType('SCALAR').setArray(order).setBuffer(buffer))
      .setMaterial(await lookOf(doc, material, pictures));
    mesh.addPrimitive(primitive);
  }
  const node = doc.createNode(recipe.name).setMesh(mesh);
  const scene = doc.createScene(recipe.name).addChild(node);
  doc.getRoot().setDefaultScene(scene);
  return new NodeIO().writeBinary(doc);
}

/** From z up to y up. */
const upright = (list: readonly number[]): number[] =>
  list.map((_, i) => (i % 3 === 0 ? list[i]! : i % 3 === 1 ? list[i + 1]! : -list[i - 1]!));

/** Corners told once, by what they are, and their order in triangles. */
function indexed(position: readonly number[], normal: readonly number[], uv: readonly number[]) {
  const found = new Map<string, number>();
  const order: number[] = [];
  const out = { position: [] as number[], normal: [] as number[], uv: [] as number[] };
  for (let k = 0; k < position.length / 3; k++) {
    const p = position.slice(k * 3, k * 3 + 3);
    const n = normal.slice(k * 3, k * 3 + 3);
    const t = uv.slice(k * 2, k * 2 + 2);
    const key = [...p, ...n, ...t].map((c) => Math.round(c * 1e5)).join(' ');
    let place = found.get(key);
    if (place === undefined) {
      found.set(key, (place = found.size));
      out.position.push(...p);
      out.normal.push(...n);
      out.uv.push(...t);
    }
    order.push(place);
  }
  return {
    points: {
      position: Float32Array.from(out.position),
      normal: Float32Array.from(out.normal),
      uv: Float32Array.from(out.uv),
    },
    order: Uint16Array.from(order),
  };
}

/** A material of ours as glTF has it, with a small picture of its own. */
async function lookOf(doc: Document, name: string, pictures: URL): Promise<Look> {
  const facts = MATERIALS.find((m) => m.name === name)!;
  const look = doc
    .createMaterial(name)
    .setRoughnessFactor(facts.roughness)
    .setMetallicFactor(facts.substance === 'metal' ? 0.2 : 0)
    .setBaseColorTexture(await pictureOf(doc, name, facts.solidity === 'solid', pictures));
  if (facts.glow) look.setEmissiveFactor([...linearColor(facts.average)]);
  if (facts.solidity === 'cutOut') look.setAlphaMode('MASK').setAlphaCutoff(0.5).setDoubleSided(true);
  if (facts.solidity === 'seeThrough') look.setAlphaMode('BLEND');
  return look;
}

async function pictureOf(doc: Document, name: string, solid: boolean, pictures: URL): Promise<Texture> {
  const small = sharp(readFileSync(new URL(`${name}.albedo.webp`, pictures))).resize(EDGE, EDGE, { fit: 'fill' });
  const bytes = solid ? await small.jpeg({ quality: 72 }).toBuffer() : await small.png({ palette: true }).toBuffer();
  return doc
    .createTexture(name)
    .setImage(new Uint8Array(bytes))
    .setMimeType(solid ? 'image/jpeg' : 'image/png');
}
