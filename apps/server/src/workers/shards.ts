import { parentPort } from 'node:worker_threads';
import { BUILD_JOBS, serveJobs } from '@yesca/core';

/** Does shards of a build for the thread that opened this one. */
const port = parentPort!;
serveJobs(BUILD_JOBS, {
  send: (message, memory = []) => port.postMessage(message, memory as ArrayBuffer[]),
  hear: (listener) => void port.on('message', listener),
});
