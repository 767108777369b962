import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import type { Thread } from '@yesca/core';

/** While developing this is source, and a build has plain JavaScript beside it. */
const script = import.meta.url.endsWith('.ts') ? './shards.dev.mjs' : './shards.js';

/** Room for what is made and let go at once, MB: with little of it a thread spends its time tidying up. */
const YOUNG = 64;

/** A thread of the processor that does shards of builds. */
function open(): Thread {
  const worker = new Worker(new URL(script, import.meta.url), { resourceLimits: { maxYoungGenerationSizeMb: YOUNG } });
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
  };
}

/** As many threads as the machine has processors for. */
export const THREADS = { open, count: availableParallelism() } as const;
