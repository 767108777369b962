import type { Thread } from './threads.ts';

/** Threads that are not given up when their work is done, but go on to the next: what they have warmed up stays warm. */
export interface KeptThreads {
  /** Gives a thread that waits, or opens one. Who ends it while it owes no answer leaves it to the next. */
  readonly open: () => Thread;
  /** Ends those that wait. */
  readonly close: () => void;
}

/** What is kept of a thread: who has it now is told of it, and nobody while it waits. */
interface Kept {
  readonly thread: Thread;
  owed: number;
  hear?: (message: never) => void;
  lost?: (error: Error) => void;
}

/**
 * Keeps threads between jobs. A thread that is ended in the midst of work is really ended, since only that stops it; and one that
 * dies while it waits is forgotten.
 */
export function keepThreads(open: () => Thread): KeptThreads {
  const waiting = new Set<Kept>();
  const begin = (): Kept => {
    const kept: Kept = { thread: open(), owed: 0 };
    kept.thread.hear((message) => {
      kept.owed--;
      kept.hear?.(message as never);
    });
    kept.thread.lost((error) => {
      waiting.delete(kept);
      kept.lost?.(error);
    });
    return kept;
  };
  const take = (): Kept | undefined => {
    const [kept] = waiting;
    if (kept) waiting.delete(kept);
    return kept;
  };
  return {
    open: () => {
      const kept = take() ?? begin();
      kept.thread.rest?.(false);
      return {
        send: (message, memory) => {
          if ((message as { do: string }).do === 'run') kept.owed++;
          kept.thread.send(message, memory);
        },
        hear: (listener) => void (kept.hear = listener),
        lost: (listener) => void (kept.lost = listener),
        end: () => {
          kept.hear = kept.lost = undefined;
          if (kept.owed > 0) return kept.thread.end();
          kept.thread.rest?.(true);
          waiting.add(kept);
        },
      };
    },
    close: () => {
      for (const { thread } of waiting) thread.end();
      waiting.clear();
    },
  };
}
