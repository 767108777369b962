import { Worker } from 'node:worker_threads';
import type { Thread } from '@yesca/core';

/** A thread of the built server that does shards of builds. */
export function openThread(): Thread {
  const worker = new Worker(new URL('../apps/server/dist/shards.js', import.meta.url), { execArgv: [], resourceLimits: { maxYoungGenerationSizeMb: 64 } }); // prettier-ignore
  return {
    send: (message, memory = []) => worker.postMessage(message, memory as ArrayBuffer[]),
    hear: (listener) => void worker.on('message', listener),
    lost: (listener) => void worker.on('error', listener),
    end: () => void worker.terminate(),
  };
}
