import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { PropFacts } from '@yesca/core';
import { modelInFolder, ModelRefusal, readModel, type ModelFiles, type Refused } from '@yesca/intake';

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
}

/** A line of the outcomes: what a model became, or that it is begun. */
export type ModelOutcome = { readonly begun: string } | { readonly found: FoundModel } | { readonly refused: Refused };

export const OUTCOMES = 'models.jsonl';

/** Files that are models, or archives of one. What else there is lies beside them. */
export const isModelFile = (name: string): boolean => /\.(glb|gltf|zip)$/i.test(name);

/** Reads each model of an upload and writes down, line by line, what became of it. */
export async function readModels({ folder, files }: ModelTask): Promise<void> {
  const tell = (outcome: ModelOutcome) =>
    writeFile(join(folder, OUTCOMES), `${JSON.stringify(outcome)}\n`, { flag: 'a' });
  const asked = new Set<string>();
  for (const [k, file] of files.entries()) {
    if (!isModelFile(file.name)) continue;
    await tell({ begun: file.name });
    try {
      const source = await sourceOf(file, files, asked);
      const { facts, glb, thumb, notes } = await readModel(source);
      await writeFile(join(folder, `${k}.model`), glb);
      await writeFile(join(folder, `${k}.thumb`), thumb);
      const content = createHash('sha256').update(source.bytes).digest('hex');
      await tell({ found: { file: file.name, facts, notes, content, model: `${k}.model`, thumb: `${k}.thumb` } });
    } catch (error) {
      if (!(error instanceof ModelRefusal)) throw error;
      await tell({ refused: { file: file.name, code: error.code, message: error.message } });
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
async function sourceOf(
  file: ModelTask['files'][number],
  all: ModelTask['files'],
  asked: Set<string>,
): Promise<ModelFiles> {
  const { bytes, beside, name } = await modelInFolder(file.path);
  if (/\.zip$/i.test(file.name)) return { name, bytes, beside };
  return {
    name: file.name,
    bytes,
    beside: async (wanted) => {
      const found = all.find((f) => f.name === wanted) ?? all.find((f) => basename(f.name) === basename(wanted));
      if (found) asked.add(found.name);
      return found ? readFile(found.path) : null;
    },
  };
}
