import { light } from './light.ts';
import { serveMirror, type AnyService } from './mirror.ts';
import { pageThread } from './page-thread.ts';

const openShards = () => pageThread(new Worker(new URL('./shards.worker.ts', import.meta.url), { type: 'module' }));

/** Threads that light a map. Fewer than two would keep this one from hearing that its work is no longer wanted. */
const THREADS = Math.max(2, Math.min(4, navigator.hardwareConcurrency - 1));

// The page's lamplighter: lights the map while it is worked on.
serveMirror([light(openShards, THREADS) as unknown as AnyService], {
  send: (message, memory = []) => postMessage(message, { transfer: memory as Transferable[] }),
  hear: (listener) => addEventListener('message', (event) => listener(event.data)),
});
