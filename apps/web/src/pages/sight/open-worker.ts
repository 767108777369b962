import { pageThread } from '../../workers/page-thread.ts';

/** A thread that works out sight, and what would make it cheaper. */
export const openSightWorker = () =>
  pageThread(new Worker(new URL('../../workers/sight.worker.ts', import.meta.url), { type: 'module' }));
