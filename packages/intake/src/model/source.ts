import { WebIO, type JSONDocument } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import draco from 'draco3dgltf';
import { MeshoptDecoder } from 'meshoptimizer';
import validator from 'gltf-validator';
import { MODEL_LIMITS, ModelRefusal } from './refusal.ts';

/** The files of a model: the one that is read first, and what lies beside it by its name. */
export interface ModelFiles {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** Null for what is not there. */
  readonly beside: (name: string) => Promise<Uint8Array | null>;
}

type Json = JSONDocument['json'];

const GLB_MAGIC = 0x46546c67;
const CHUNK_JSON = 0x4e4f534a;

/** The JSON of a binary file, before anything else of it is looked at. */
function jsonOf(bytes: Uint8Array): { json: Json; binary: boolean } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const binary = bytes.length >= 20 && view.getUint32(0, true) === GLB_MAGIC;
  if (binary) {
    if (view.getUint32(4, true) !== 2) throw old();
    const length = view.getUint32(12, true);
    if (view.getUint32(8, true) > bytes.length || 20 + length > bytes.length || view.getUint32(16, true) !== CHUNK_JSON)
      throw new ModelRefusal('model.broken', 'The file is cut off. Export the model anew.');
    return { json: parsed(bytes.subarray(20, 20 + length)), binary };
  }
  return { json: parsed(bytes), binary };
}

const old = (): ModelRefusal =>
  new ModelRefusal('model.version', 'The file is of glTF 1.0. Export the model as glTF 2.0.');

function parsed(bytes: Uint8Array): Json {
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    json = null;
  }
  const version = (json as { asset?: { version?: unknown } } | null)?.asset?.version;
  if (typeof version !== 'string')
    throw new ModelRefusal('model.format', 'This is no glTF file. Export the model as .glb (glTF 2.0, binary).');
  if (!version.startsWith('2.')) throw old();
  return json as Json;
}

/** A name of a file that leads out of the model's folder. */
const leadsOut = (name: string): boolean =>
  /^([a-z]+:|\/|\\)/i.test(name) || name.includes('\\') || name.split('/').includes('..') || name.includes('\0');

/** What is told by the counts of a file, before it is unpacked: how much of what it would be. */
function assertModest(json: Json): void {
  const accessors = json.accessors ?? [];
  let triangles = 0;
  for (const mesh of json.meshes ?? [])
    for (const { indices, attributes } of mesh.primitives ?? []) {
      const count = accessors[indices ?? attributes?.POSITION ?? -1]?.count ?? 0;
      triangles += count / 3;
    }
  if (triangles > MODEL_LIMITS.triangles)
    throw new ModelRefusal(
      'model.triangles',
      `The model has ${Math.floor(triangles).toLocaleString('en')} triangles; a prop has ${MODEL_LIMITS.triangles.toLocaleString('en')} at most. Simplify it, or export it in parts.`,
    );
  if ((json.nodes ?? []).length > MODEL_LIMITS.nodes)
    throw new ModelRefusal(
      'model.nodes',
      `The model has ${(json.nodes ?? []).length} nodes; ${MODEL_LIMITS.nodes} can be taken. Join what belongs together.`,
    );
  if ((json.images ?? []).length > MODEL_LIMITS.textures)
    throw new ModelRefusal(
      'model.textures',
      `The model has ${(json.images ?? []).length} pictures; ${MODEL_LIMITS.textures} can be taken. Put several on one sheet.`,
    );
  if ((json.skins ?? []).length > 0)
    throw new ModelRefusal(
      'model.skinned',
      'The model has bones, and props do not bend. Export it without its skeleton.',
    );
  if ((json.animations ?? []).length > 0)
    throw new ModelRefusal(
      'model.animated',
      'The model is animated, and props stand still. Export it without animation; a mover can move it.',
    );
  if ((json.meshes ?? []).some((m) => (m.primitives ?? []).some((p) => (p.targets ?? []).length > 0)))
    throw new ModelRefusal(
      'model.morphs',
      'The model has shape keys, and props keep their shape. Export it without them.',
    );
}

/** The files that a model asks for, each once, with what is in them. */
async function resourcesOf(json: Json, { bytes, beside }: ModelFiles): Promise<Map<string, Uint8Array>> {
  const out = new Map<string, Uint8Array>();
  let sum = bytes.length;
  for (const { uri } of [...(json.buffers ?? []), ...(json.images ?? [])]) {
    if (!uri || uri.startsWith('data:') || out.has(uri)) continue;
    let name = uri;
    try {
      name = decodeURIComponent(uri);
    } catch {
      // It is asked for as it is written.
    }
    if (leadsOut(name))
      throw new ModelRefusal(
        'model.path',
        `The model asks for ${name.slice(0, 80)}, which leads out of its folder. Export it with its files beside it, or as .glb.`,
      );
    const found = await beside(name);
    if (!found)
      throw new ModelRefusal(
        'model.missingFile',
        `The model needs ${name.slice(0, 80)}, which is not there. Put it beside the model, pack both in a ZIP, or export as .glb.`,
      );
    sum += found.length;
    if (sum > MODEL_LIMITS.bytes) throw tooLarge();
    // Of its own: the validator reads from where the memory begins.
    out.set(uri, new Uint8Array(found));
  }
  return out;
}

export const tooLarge = (): ModelRefusal =>
  new ModelRefusal(
    'model.bytes',
    `The model is larger than ${MODEL_LIMITS.bytes / 1024 / 1024} MB. Make its pictures smaller, or simplify it.`,
  );

/** What the Khronos validator finds wrong, as a sentence; what it only warns of is let pass. */
async function assertValid({ name, bytes }: ModelFiles, resources: ReadonlyMap<string, Uint8Array>): Promise<void> {
  const uri = name.split('/').at(-1)!;
  const { issues } = await validator
    .validateBytes(new Uint8Array(bytes), {
      uri,
      maxIssues: 200,
      externalResourceFunction: (asked) => {
        const found = resources.get(asked);
        return found ? Promise.resolve(found) : Promise.reject(new Error('not there'));
      },
    })
    .catch(() => {
      throw new ModelRefusal('model.broken', 'The file is damaged and cannot be read. Export the model anew.');
    });
  if (issues.numErrors === 0) return;
  const errors = issues.messages.filter((m) => m.severity === 0);
  if (errors.some((m) => m.code === 'ACCESSOR_INVALID_FLOAT'))
    throw new ModelRefusal(
      'model.notNumbers',
      'Some corners of the model are at no place (not a number). Clean the mesh up and export it anew.',
    );
  const [first] = errors;
  throw new ModelRefusal(
    'model.invalid',
    `The file breaks the rules of glTF in ${issues.numErrors} ${issues.numErrors === 1 ? 'place' : 'places'}${first ? `: ${first.message.replace(/\.$/, '')}${first.pointer ? ` (${first.pointer})` : ''}` : ''}. Export the model anew.`,
  );
}

let reader: Promise<WebIO> | undefined;

const openReader = async (): Promise<WebIO> => {
  await MeshoptDecoder.ready;
  return new WebIO()
    .registerExtensions(ALL_EXTENSIONS)
    .registerDependencies({ 'draco3d.decoder': await draco.createDecoderModule(), 'meshopt.decoder': MeshoptDecoder });
};

/** Reads a model's files: limits first, then the rules of the format, then what is in them. Throws {@link ModelRefusal}. */
export async function openModel(files: ModelFiles) {
  if (files.bytes.length > MODEL_LIMITS.bytes) throw tooLarge();
  const { json, binary } = jsonOf(files.bytes);
  assertModest(json);
  const resources = await resourcesOf(json, files);
  await assertValid(files, resources);
  const io = await (reader ??= openReader());
  const known = new Set(ALL_EXTENSIONS.map((e) => e.EXTENSION_NAME));
  const strange = (json.extensionsRequired ?? []).filter((name) => !known.has(name as never));
  if (strange.length > 0)
    throw new ModelRefusal(
      'model.extension',
      `The model needs ${strange.join(', ')}, which is not known here. Export it without that.`,
    );
  try {
    return binary
      ? await io.readBinary(files.bytes)
      : await io.readJSON({ json, resources: Object.fromEntries(resources) as JSONDocument['resources'] });
  } catch (error) {
    throw new ModelRefusal(
      'model.broken',
      `The file cannot be read: ${(error as Error).message.slice(0, 160).replace(/\.$/, '')}. Export the model anew.`,
    );
  }
}
