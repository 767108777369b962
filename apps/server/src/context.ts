import type { Piscina } from 'piscina';
import type { MapSummary } from '@yesca/contract';
import type { Database } from './db/database.ts';
import type { BuildQueue } from './builds/queue.ts';
import { Refusal } from './errors.ts';
import type { Saves } from './saves/saves.ts';
import type { Blobs } from './store/blobs.ts';
import type { Decoder } from './materials/decoder.ts';
import type { ModelReader } from './props/reader.ts';
import type { Inspected } from './workers/inspect.ts';

/** What the features share. */
export interface Context {
  readonly db: Database;
  readonly blobs: Blobs;
  readonly inspector: Piscina;
  readonly composer: Piscina;
  readonly checker: Piscina;
  readonly saves: Saves;
  readonly builder: Piscina;
  readonly decoder: Decoder;
  readonly models: ModelReader;
  readonly queue: BuildQueue;
}

/** Reads a map file in a worker and stores it. Refuses what cannot be used before anything is written. */
export async function storeDocument(
  { inspector, blobs }: Pick<Context, 'inspector' | 'blobs'>,
  text: string,
  name?: string,
  /** Whether its plan shows props as well. */
  props = false,
): Promise<{ document: string; drawing: string | null; name: string; summary: MapSummary }> {
  const answer = (await inspector.run({ text, name, props })) as Inspected;
  if (!answer.ok) throw new Refusal(answer.status, answer.body.code, answer.body.message, answer.body.place);
  return {
    document: await blobs.put(answer.text),
    drawing: answer.drawing === null ? null : await blobs.put(answer.drawing),
    name: answer.name,
    summary: answer.summary,
  };
}
