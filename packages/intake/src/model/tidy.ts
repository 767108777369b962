import { KHRLightsPunctual, Light } from '@gltf-transform/extensions';
import { normalize, type PropFacts, type Vec3 } from '@yesca/core';
import { Document, type Material, type Texture } from '@gltf-transform/core';
import sharp from 'sharp';
import type { ModelPart } from './flatten.ts';
import { modelFile } from './io.ts';
import { MODEL_LIMITS, ModelRefusal } from './refusal.ts';
import { inMetres } from './spaces.ts';

/** A model as a prop is kept: one mesh, a primitive for each look, in m, y up, pictures no larger than is seen. */
export async function writeModel(
  name: string,
  parts: readonly ModelPart[],
  { lights, sockets = [] }: Pick<PropFacts, 'lights' | 'sockets'>,
): Promise<Uint8Array> {
  const doc = new Document();
  const buffer = doc.createBuffer();
  const mesh = doc.createMesh(name);
  const pictures = new Map<Texture, Promise<Texture>>();
  const picture = (of: Texture | null): Promise<Texture | null> => {
    if (!of) return Promise.resolve(null);
    let made = pictures.get(of);
    if (!made) pictures.set(of, (made = copyPicture(doc, of)));
    return made;
  };
  for (const { material, position, normal, uv } of parts) {
    const { order, kept } = indexed(position, normal, uv);
    const attribute = (type: 'VEC2' | 'VEC3', list: number[]) =>
      doc.createAccessor().setType(type).setArray(Float32Array.from(list)).setBuffer(buffer);
    mesh.addPrimitive(
      doc
        .createPrimitive()
        .setAttribute('POSITION', attribute('VEC3', kept.position))
        .setAttribute('NORMAL', attribute('VEC3', kept.normal))
        .setAttribute('TEXCOORD_0', attribute('VEC2', kept.uv))
        .setIndices(doc.createAccessor().setType('SCALAR').setArray(Uint32Array.from(order)).setBuffer(buffer))
        .setMaterial(await copyLook(doc, material, picture)),
    );
  }
  const scene = doc.createScene(name).addChild(doc.createNode(name).setMesh(mesh));
  doc.getRoot().setDefaultScene(scene);
  const marks = lights.length > 0 ? doc.createExtension(KHRLightsPunctual) : null;
  for (const { at, candela } of lights) {
    const light = marks!.createLight('lamp').setType(Light.Type.POINT!).setIntensity(candela);
    scene.addChild(doc.createNode('lamp').setTranslation(inMetres(at)).setExtension('KHR_lights_punctual', light));
  }
  for (const { name: kind, at, way } of sockets)
    scene.addChild(
      doc
        .createNode(`socket ${kind}`)
        .setTranslation(inMetres(at))
        .setRotation(facing(inMetres(way))),
    );
  return modelFile().writeBinary(doc);
}

/** The turn (a quaternion) that lets the Z axis point some way. */
function facing(towards: Vec3): [number, number, number, number] {
  const [x, y, z] = normalize(towards);
  // Right about: any axis across will do.
  if (z < -1 + 1e-9) return [0, 1, 0, 0];
  const w = Math.sqrt((1 + z) / 2);
  return [-y / (2 * w), x / (2 * w), 0, w];
}

/** Corners that are alike in all are told once. */
function indexed(position: readonly number[], normal: readonly number[], uv: readonly number[]) {
  const found = new Map<string, number>();
  const order: number[] = [];
  const kept = { position: [] as number[], normal: [] as number[], uv: [] as number[] };
  for (let k = 0; k < position.length / 3; k++) {
    const [p, n, t] = [position.slice(k * 3, k * 3 + 3), normal.slice(k * 3, k * 3 + 3), uv.slice(k * 2, k * 2 + 2)];
    const key = [...p, ...n, ...t].map((c) => Math.fround(c)).join(' ');
    let place = found.get(key);
    if (place === undefined) {
      found.set(key, (place = found.size));
      kept.position.push(...p);
      kept.normal.push(...n);
      kept.uv.push(...t);
    }
    order.push(place);
  }
  return { order, kept };
}

async function copyLook(
  doc: Document,
  from: Material | null,
  picture: (of: Texture | null) => Promise<Texture | null>,
): Promise<Material> {
  const to = doc.createMaterial(from?.getName() ?? '');
  if (!from) return to.setRoughnessFactor(0.8).setMetallicFactor(0);
  return to
    .setBaseColorFactor(from.getBaseColorFactor())
    .setBaseColorTexture(await picture(from.getBaseColorTexture()))
    .setNormalTexture(await picture(from.getNormalTexture()))
    .setMetallicRoughnessTexture(await picture(from.getMetallicRoughnessTexture()))
    .setEmissiveFactor(from.getEmissiveFactor())
    .setEmissiveTexture(await picture(from.getEmissiveTexture()))
    .setRoughnessFactor(from.getRoughnessFactor())
    .setMetallicFactor(from.getMetallicFactor())
    .setAlphaMode(from.getAlphaMode())
    .setAlphaCutoff(from.getAlphaCutoff())
    .setDoubleSided(from.getDoubleSided());
}

/** A picture as it is kept. Throws {@link ModelRefusal} for one that is none, or larger than can be taken. */
async function copyPicture(doc: Document, from: Texture): Promise<Texture> {
  const what = from.getName() || from.getURI() || 'A picture';
  const image = from.getImage();
  const facts = image
    ? await sharp(image)
        .metadata()
        .catch(() => null)
    : null;
  if (!image || !facts?.width || !facts.height)
    throw new ModelRefusal(
      'model.picture',
      `${what} of the model cannot be read. Save it as PNG or JPEG and export anew.`,
    );
  if (Math.max(facts.width, facts.height) > MODEL_LIMITS.edge)
    throw new ModelRefusal(
      'model.picture',
      `${what} of the model is ${facts.width} × ${facts.height}; ${MODEL_LIMITS.edge} along an edge can be taken. Make it smaller.`,
    );
  const small = sharp(image).resize(MODEL_LIMITS.kept, MODEL_LIMITS.kept, { fit: 'inside', withoutEnlargement: true });
  const bytes = await (facts.hasAlpha ? small.png() : small.jpeg({ quality: 88 })).toBuffer().catch(() => {
    throw new ModelRefusal('model.picture', `${what} of the model is damaged. Save it anew and export anew.`);
  });
  return doc
    .createTexture(from.getName())
    .setImage(new Uint8Array(bytes))
    .setMimeType(facts.hasAlpha ? 'image/png' : 'image/jpeg');
}
