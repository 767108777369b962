import { fork, type ChildProcess } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import pLimit from 'p-limit';
import { Refusal } from '../errors.ts';
import { OUTCOMES, type DecodedUpload, type DecodeTask, type FoundMaterial, type Outcome } from './outcomes.ts';
import { program } from '../workers/program.ts';
import type { Refused } from '@yesca/intake';

const { file: decoding, execArgv } = program('pictures');

/** Uploads decoded at a time, each in a process of its own. */
const AT_ONCE = 2;
/** Pictures on which a process may fail before the rest of an upload is given up. */
const TRIES = 4;
/** An upload may take this long to decode, ms. */
const TIME = 10 * 60 * 1000;

export interface Decoder {
  /** Decodes the files of an upload that lie in a folder. What a signal cancels throws `upload.cancelled`. */
  readonly run: (folder: string, files: DecodeTask['files'], signal: AbortSignal) => Promise<DecodedUpload>;
  readonly destroy: () => void;
}

/** Decodes uploads in processes with limits of memory and time: one that dies takes the picture it worked on with it, and no more. */
export function openDecoder(limits: { readonly time?: number } = {}): Decoder {
  const limit = pLimit(AT_ONCE);
  const living = new Set<ChildProcess>();
  const attempt = (task: DecodeTask, signal: AbortSignal): Promise<boolean> =>
    new Promise((done) => {
      const child = fork(decoding, {
        execArgv: [...execArgv, '--max-old-space-size=192'],
        stdio: 'ignore',
      });
      living.add(child);
      const kill = () => child.kill('SIGKILL');
      const timer = setTimeout(kill, limits.time ?? TIME);
      signal.addEventListener('abort', kill, { once: true });
      child.once('error', kill);
      child.once('exit', (code) => {
        clearTimeout(timer);
        signal.removeEventListener('abort', kill);
        living.delete(child);
        done(code === 0);
      });
      child.send(task);
    });
  return {
    run: (folder, files, signal) =>
      limit(async () => {
        const skip: string[] = [];
        const began = Date.now();
        for (let k = 0; ; k++) {
          if (signal.aborted) throw cancelled();
          const seen = await outcomes(folder);
          const whole = await attempt({ folder, files, done: seen.done, skip }, signal);
          if (signal.aborted) throw cancelled();
          const now = await outcomes(folder);
          if (whole) return { found: now.found, refused: now.refused };
          skip.push(...now.open.keys());
          if (k + 1 >= TRIES || now.open.size === 0 || Date.now() - began > (limits.time ?? TIME)) {
            const left: Refused = {
              file: [...now.open.values()][0] ?? files[0]?.name ?? '',
              code: 'upload.stopped',
              message:
                'Decoding stopped here: the pictures took more memory or time than there is. Import what is left in smaller lots.',
            };
            return { found: now.found, refused: [...now.refused, left] };
          }
        }
      }),
    destroy: () => living.forEach((child) => child.kill('SIGKILL')),
  };
}

const cancelled = (): Refusal => new Refusal(499, 'upload.cancelled', 'The upload was cancelled.');

/** What a process has told so far: what it finished, and what it was in the middle of. */
async function outcomes(folder: string) {
  const text = await readFile(join(folder, OUTCOMES), 'utf8').catch(() => '');
  const found: FoundMaterial[] = [];
  const refused: Refused[] = [];
  const done: string[] = [];
  const open = new Map<string, string>();
  for (const line of text.split('\n')) {
    let o: Outcome;
    try {
      o = JSON.parse(line) as Outcome;
    } catch {
      // The last line of a process that was ended may be half.
      continue;
    }
    if ('end' in o) refused.push(...o.end);
    else if ('begun' in o) open.set(o.begun, o.file);
    else {
      if (o.material) found.push(o.material);
      refused.push(...o.refused);
      done.push(o.key);
      open.delete(o.key);
    }
  }
  return { found, refused, done, open };
}
