import { availableParallelism } from 'node:os';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { keepThreads, type Thread } from '@yesca/core';
import { program } from './program.ts';

const script = pathToFileURL(program('shards').file);

/** Room for what is made and let go at once, MB: with little of it a thread spends its time tidying up. */
const YOUNG = 64;

/** A thread of the processor that does shards of builds, by the script that serves them. */
export function openThread(script: URL): Thread {
  // What this one was started with is not for it: the script itself says what it needs.
  const worker = new Worker(script, { execArgv: [], resourceLimits: { maxYoungGenerationSizeMb: YOUNG } });
  let ended = false;
  return {
    send: (message, memory = []) => worker.postMessage(message, memory as ArrayBuffer[]),
    hear: (listener) => void worker.on('message', listener),
    lost: (listener) => {
      const tell = (error: Error) => void (ended || listener(error));
      worker.once('error', tell);
      worker.once('exit', () => tell(new Error('A thread of the build ended.')));
    },
    end: () => {
      ended = true;
      void worker.terminate();
    },
    rest: (rests) => (rests ? worker.unref() : worker.ref()),
  };
}

/** As many threads as the machine has processors for, kept from one build to the next. */
export const THREADS = { ...keepThreads(() => openThread(script)), count: availableParallelism() } as const;
