import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { PropFacts } from '@yesca/core';
import { ModelRefusal, openModels, PACK_LIST, readModel, type ModelFiles, type Refused } from '@yesca/intake';
import { readManifest, type PropManifest } from '../packs/manifest.ts';

/** The files of an upload, which lie in a folder under other names. */
export interface ModelTask {
  readonly folder: string;
  readonly files: readonly { readonly name: string; readonly path: string }[];
}

/** A model that was read: its files lie in the folder of the upload. */
export interface FoundModel {
  readonly file: string;
  readonly facts: PropFacts;
  readonly notes: readonly string[];
  /** The hash of the model as it came. */
  readonly content: string;
  readonly model: string;
  readonly thumb: string;
  /** What its pack's own list says of it. */
  readonly listed?: PropManifest;
}

/** A line of the outcomes: what a model became, or that it is begun; and what packs are called. */
export type ModelOutcome =
  | { readonly begun: string }
  | { readonly found: FoundModel }
  | { readonly refused: Refused }
  | { readonly pack: string };

export const OUTCOMES = 'models.jsonl';

/** Files that are models, or archives of one. What else there is lies beside them. */
export const isModelFile = (name: string): boolean => /\.(glb|gltf|zip)$/i.test(name);

/** Reads each model of an upload and writes down, line by line, what became of it. */
export async function readModels({ folder, files }: ModelTask): Promise<void> {
  const tell = (outcome: ModelOutcome) =>
    writeFile(join(folder, OUTCOMES), `${JSON.stringify(outcome)}\n`, { flag: 'a' });
  const refuse = (file: string, error: unknown) => {
    if (!(error instanceof ModelRefusal)) throw error;
    return tell({ refused: { file, code: error.code, message: error.message } });
  };
  const asked = new Set<string>();
  let count = 0;
  const read = async (file: string, open: () => Promise<ModelFiles>, listed?: PropManifest): Promise<void> => {
    await tell({ begun: file });
    try {
      const source = await open();
      const { facts, glb, thumb, notes } = await readModel(source, listed ? { scale: 1 } : {});
      const id = count++;
      await writeFile(join(folder, `${id}.model`), glb);
      await writeFile(join(folder, `${id}.thumb`), thumb);
      const content = createHash('sha256').update(source.bytes).digest('hex');
      const found = { file, facts, notes, content, model: `${id}.model`, thumb: `${id}.thumb` };
      await tell({ found: { ...found, ...(listed ? { listed } : {}) } });
    } catch (error) {
      await refuse(file, error);
    }
  };
  for (const file of files) {
    if (!isModelFile(file.name)) continue;
    await tell({ begun: file.name });
    try {
      const { models, list, refused, close } = await openModels(file.path, file.name);
      try {
        const packed = /\.zip$/i.test(file.name);
        const within = (name: string) => (models.length > 1 ? `${file.name}/${name}` : file.name);
        for (const r of refused) await tell({ refused: { ...r, file: within(r.file) } });
        const manifest = list === null ? null : readManifest(list);
        if (manifest && 'code' in manifest)
          await tell({
            refused: { file: `${file.name}/${PACK_LIST}`, code: manifest.code, message: manifest.message },
          });
        const pack = manifest && !('code' in manifest) ? manifest : null;
        if (packed) await tell({ pack: pack?.name ?? basename(file.name).replace(/\.zip$/i, '') });
        for (const { name, open } of models) {
          const listed = pack?.props.find((p) => p.model === name);
          await read(packed ? within(name) : file.name, packed ? open : besideOthers(file, open, files, asked), listed);
        }
      } finally {
        close();
      }
    } catch (error) {
      await refuse(file.name, error);
    }
  }
  for (const { name } of files)
    if (!isModelFile(name) && !asked.has(name))
      await tell({
        refused: {
          file: name,
          code: 'model.unasked',
          message: 'No model asks for this file, so it was left out. Models are .glb or .gltf.',
        },
      });
}

/** A model with what lies beside it in the upload, by what the files are called there; what it asks for is put down. */
const besideOthers =
  (
    file: ModelTask['files'][number],
    open: () => Promise<ModelFiles>,
    all: ModelTask['files'],
    asked: Set<string>,
  ): (() => Promise<ModelFiles>) =>
  async () => ({
    ...(await open()),
    name: file.name,
    beside: async (wanted) => {
      const found = all.find((f) => f.name === wanted) ?? all.find((f) => basename(f.name) === basename(wanted));
      if (found) asked.add(found.name);
      return found ? readFile(found.path) : null;
    },
  });
