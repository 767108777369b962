import { fork, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import pLimit from 'p-limit';
import type { Refused } from '@yesca/intake';
import { Refusal } from '../errors.ts';
import { program } from '../workers/program.ts';
import { OUTCOMES, type FoundModel, type ModelOutcome, type ModelTask } from './read-models.ts';

const { file: reading, execArgv } = program('models');

/** An upload may take this long to read, ms. */
const TIME = 5 * 60 * 1000;

/** What became of an upload, and what the first archive in it is called. */
export interface ReadUpload {
  readonly found: readonly FoundModel[];
  readonly refused: readonly Refused[];
  readonly pack: string | null;
}

export interface ModelReader {
  /** Reads the models of an upload. What a signal cancels throws `upload.cancelled`. */
  readonly run: (task: ModelTask, signal: AbortSignal) => Promise<ReadUpload>;
  readonly destroy: () => void;
}

/** Reads models in a process with limits of memory and time: one that dies takes the model it worked on and those behind it with it, and no more. */
export function openModelReader(): ModelReader {
  const limit = pLimit(1);
  const living = new Set<ChildProcess>();
  return {
    run: (task, signal) =>
      limit(async () => {
        if (!signal.aborted) await attempt(task, signal, living);
        if (signal.aborted) throw new Refusal(499, 'upload.cancelled', 'The upload was cancelled.');
        return outcomes(task.folder);
      }),
    destroy: () => living.forEach((child) => child.kill('SIGKILL')),
  };
}

const attempt = (task: ModelTask, signal: AbortSignal, living: Set<ChildProcess>): Promise<void> =>
  new Promise((done) => {
    const child = fork(reading, { execArgv: [...execArgv, '--max-old-space-size=640'], stdio: 'ignore' });
    living.add(child);
    const kill = () => child.kill('SIGKILL');
    const timer = setTimeout(kill, TIME);
    signal.addEventListener('abort', kill, { once: true });
    child.once('error', kill);
    child.once('exit', () => {
      clearTimeout(timer);
      signal.removeEventListener('abort', kill);
      living.delete(child);
      done();
    });
    child.send(task);
  });

/** What a process told; what it began and did not end took it with it. */
async function outcomes(folder: string): Promise<ReadUpload> {
  const text = await readFile(join(folder, OUTCOMES), 'utf8').catch(() => '');
  const found: FoundModel[] = [];
  const refused: Refused[] = [];
  let open: string | null = null;
  let pack: string | null = null;
  for (const line of text.split('\n').filter(Boolean)) {
    let o: ModelOutcome;
    try {
      o = JSON.parse(line) as ModelOutcome;
    } catch {
      // The last line of a process that was ended may be half.
      continue;
    }
    if ('begun' in o) open = o.begun;
    else if ('pack' in o) pack ??= o.pack;
    else {
      open = null;
      if ('found' in o) found.push(o.found);
      else refused.push(o.refused);
    }
  }
  if (open !== null)
    refused.push({
      file: open,
      code: 'model.stopped',
      message:
        'Reading stopped here: the model took more memory or time than there is. Simplify it, and import what follows by itself.',
    });
  return { found, refused, pack };
}
