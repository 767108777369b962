import { readFile, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { isZip, LIMITS, unpack, type Refused, type UploadFile } from '../unpack.ts';
import { MODEL_LIMITS, ModelRefusal } from './refusal.ts';
import { tooLarge, type ModelFiles } from './source.ts';

/** Models that lie together. Their bytes are read one model after the other, when each is opened. */
export interface ModelShelf {
  readonly models: readonly { readonly name: string; readonly open: () => Promise<ModelFiles> }[];
  /** What an archive's `pack.json` says; null where there is none. */
  readonly list: string | null;
  /** Models of an archive that cannot be taken out of it. */
  readonly refused: readonly Refused[];
  readonly close: () => void;
}

/** The list of a pack, at the top of its archive. */
export const PACK_LIST = 'pack.json';

const isModel = (name: string): boolean => /\.(glb|gltf)$/i.test(name);

/**
 * The model in a file, with what lies in the same folder, or all models in an archive. Throws {@link ModelRefusal}; what is no file throws
 * as it does.
 */
export async function openModels(path: string, name = basename(path)): Promise<ModelShelf> {
  if (await isZip(path)) return inArchive(name, path);
  const open = async (): Promise<ModelFiles> => {
    if ((await stat(path)).size > MODEL_LIMITS.bytes) throw tooLarge();
    const beside = (asked: string) => readFile(join(dirname(path), asked)).catch(() => null);
    return { name, bytes: await readFile(path), beside };
  };
  return { models: [{ name, open }], list: null, refused: [], close: () => undefined };
}

async function inArchive(name: string, path: string): Promise<ModelShelf> {
  const { files, refused, close } = await unpack(name, path, { entries: LIMITS.entries, bytes: LIMITS.unpacked });
  const models = files.filter((f) => isModel(f.name));
  if (models.length === 0) {
    close();
    const [first] = refused;
    throw first
      ? new ModelRefusal(first.code, `${first.file}: ${first.message}`)
      : new ModelRefusal('model.none', 'There is no .glb or .gltf in the archive. Pack the model itself.');
  }
  const byName = new Map(files.map((f) => [f.name, f]));
  const list = byName.get(PACK_LIST);
  return {
    models: models.map((model) => ({
      name: model.name,
      open: async () => ({
        name: model.name,
        bytes: await unpacked(model),
        beside: async (asked) => {
          const folder = dirname(model.name);
          const found = byName.get(folder === '.' ? asked : `${folder}/${asked}`);
          return found ? unpacked(found) : null;
        },
      }),
    })),
    // A list that cannot be unpacked is one that says nothing.
    list: list ? await list.read().then(decode, () => '') : null,
    refused: refused.filter((r) => isModel(r.file)),
    close,
  };
}

const decode = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);

async function unpacked(file: UploadFile): Promise<Uint8Array> {
  if (file.size > MODEL_LIMITS.bytes) throw tooLarge();
  return file.read().catch(() => {
    throw new ModelRefusal('zip.broken', `${file.name} cannot be read to its end. Pack the archive again.`);
  });
}
