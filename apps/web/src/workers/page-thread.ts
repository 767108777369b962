import type { Thread } from '@yesca/core';

/** A worker of the page as a thread. */
export function pageThread(worker: Worker): Thread {
  return {
    send: (message, memory = []) => worker.postMessage(message, memory as Transferable[]),
    hear: (listener) => worker.addEventListener('message', (event) => listener(event.data)),
    lost: (listener) =>
      worker.addEventListener('error', (event) => {
        event.preventDefault();
        listener(new Error(event.message));
      }),
    end: () => worker.terminate(),
  };
}
