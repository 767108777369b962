import { BUILD_JOBS, serveJobs } from '@yesca/core';

// Does shards of a build for the worker that opened this one.
serveJobs(BUILD_JOBS, {
  send: (message, memory = []) => postMessage(message, { transfer: memory as Transferable[] }),
  hear: (listener) => addEventListener('message', (event) => listener(event.data)),
});
