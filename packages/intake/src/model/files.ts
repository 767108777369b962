import { readFile, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { isZip, LIMITS, unpack } from '../unpack.ts';
import { MODEL_LIMITS, ModelRefusal } from './refusal.ts';
import { tooLarge, type ModelFiles } from './source.ts';

const isModel = (name: string): boolean => /\.(glb|gltf)$/i.test(name);

/** A model from a file, with what lies in the same folder; a ZIP is looked into. Throws {@link ModelRefusal}; what is no file throws as it does. */
export async function modelInFolder(path: string): Promise<ModelFiles> {
  const { size } = await stat(path);
  if (await isZip(path)) return modelInArchive(basename(path), path);
  if (size > MODEL_LIMITS.bytes) throw tooLarge();
  const folder = dirname(path);
  return {
    name: basename(path),
    bytes: await readFile(path),
    beside: (name) => readFile(join(folder, name)).catch(() => null),
  };
}

/** The one model of an archive, with the files that lie beside it there. */
export async function modelInArchive(name: string, path: string): Promise<ModelFiles> {
  const { files, refused, close } = await unpack(name, path, { entries: LIMITS.entries, bytes: LIMITS.unpacked });
  try {
    const models = files.filter((f) => isModel(f.name));
    const [first] = models;
    if (!first)
      throw refused[0]
        ? new ModelRefusal(refused[0].code, `${refused[0].file}: ${refused[0].message}`)
        : new ModelRefusal('model.none', 'There is no .glb or .gltf in the archive. Pack the model itself.');
    if (models.length > 1)
      throw new ModelRefusal(
        'model.several',
        `The archive holds ${models.length} models (${models
          .slice(0, 3)
          .map((m) => m.name)
          .join(', ')}). Pack each by itself.`,
      );
    const folder = dirname(first.name);
    const read = new Map<string, Uint8Array>();
    let sum = 0;
    for (const file of files) {
      sum += file.size;
      if (sum > MODEL_LIMITS.bytes) throw tooLarge();
      read.set(file.name, await file.read());
    }
    return {
      name: first.name,
      bytes: read.get(first.name)!,
      beside: (asked) => Promise.resolve(read.get(folder === '.' ? asked : `${folder}/${asked}`) ?? null),
    };
  } finally {
    close();
  }
}
