import { begin, Cancelled, finishHere, type AnyJob, type DueJob, type Job, type StageControl } from './job.ts';

/** What is sent to a thread. */
type Order =
  | { readonly do: 'prepare'; readonly job: string; readonly shared: unknown }
  | { readonly do: 'run'; readonly id: number; readonly items: readonly unknown[] }
  /** What the shards shared is of no more use. */
  | { readonly do: 'forget' };

/** What a thread answers. */
type Answer =
  | { readonly id: number; readonly results: readonly unknown[] }
  | { readonly id: number; readonly error: { readonly code?: string; readonly message: string } };

/** One end of the line between two threads, whatever they are made of. */
export interface Line {
  readonly send: (message: unknown, memory?: readonly ArrayBufferLike[]) => void;
  // What is heard is what the other end sent: only the two ends know its type.
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  readonly hear: (listener: (message: any) => void) => void;
}

/** A thread as it is seen by who gives it work. */
export interface Thread extends Line {
  /** Called once when the thread is gone though nobody ended it. */
  readonly lost: (listener: (error: Error) => void) => void;
  readonly end: () => void;
  /** Says that it waits, and need not keep the program running, or no longer does. */
  readonly rest?: (rests: boolean) => void;
}

/** Serves the jobs of a thread to who is at the other end of the line. */
export function serveJobs(jobs: readonly AnyJob[], line: Line): void {
  let job: AnyJob | undefined;
  let run: ((item: never) => unknown) | undefined;
  line.hear((order: Order) => {
    if (order.do === 'prepare') {
      job = jobs.find((j) => j.name === order.job);
      run = job?.prepare(order.shared as never);
      return;
    }
    if (order.do === 'forget') {
      run = undefined;
      return;
    }
    try {
      if (!job || !run) throw new Error('There is no such job.');
      const { memory } = job;
      const results = order.items.map((item) => run!(item as never));
      line.send({ id: order.id, results }, memory && results.flatMap((result) => memory(result as never)));
    } catch (error) {
      const { code, message } = error as { code?: string; message: string };
      line.send({ id: order.id, error: { code, message } });
    }
  });
}

/** A shard is tried again on another thread when its own died, so often. */
const TRIES = 2;

/** Fewer shards are done here: opening threads would take longer. */
const FEW = 4;

/**
 * Does a job on several threads, which are opened for it and ended with it: each takes the next shard when it is done with one. A
 * thread that dies is replaced and its shard done again. Throws {@link Cancelled} as soon as the signal is raised, and the error
 * of a shard with its code.
 */
export async function doJobOn<I, S, P, R, O>(
  open: () => Thread,
  count: number,
  job: Job<I, S, P, R, O>,
  input: I,
  control: StageControl = {},
): Promise<O> {
  const begun = begin(job, input, control);
  const { shared, items, shards, results, take } = begun;
  if (shards.length < FEW || count < 2) return finishHere(job, input, begun, control);
  const tries = new Uint8Array(shards.length);
  const waiting = shards.map((_, i) => i).reverse();
  const threads = new Set<Thread>();
  let done = 0;
  try {
    await new Promise<void>((finish, fail) => {
      const next = (thread: Thread): number | undefined => {
        const id = waiting.pop();
        if (id !== undefined)
          thread.send({ do: 'run', id, items: shards[id]!.map((place) => items[place]) } satisfies Order);
        return id;
      };
      const start = (): void => {
        const thread = open();
        threads.add(thread);
        let doing: number | undefined;
        thread.lost((error) => {
          // It may be told of twice, by its error and by its end.
          if (!threads.delete(thread)) return;
          if (doing !== undefined && ++tries[doing]! < TRIES) {
            waiting.push(doing);
            start();
          } else if (doing !== undefined) fail(error);
        });
        thread.hear((answer: Answer) => {
          if ('error' in answer)
            return fail(Object.assign(new Error(answer.error.message), { code: answer.error.code }));
          take(shards[answer.id]!, answer.results as R[]);
          done++;
          control.progress?.(done / shards.length);
          if (done === shards.length) return finish();
          doing = next(thread);
        });
        thread.send({ do: 'prepare', job: job.name, shared } satisfies Order);
        doing = next(thread);
      };
      for (let i = 0; i < Math.min(count, shards.length); i++) start();
      control.signal?.addEventListener?.('abort', () => fail(new Cancelled()));
      if (control.signal?.aborted) fail(new Cancelled());
    });
  } finally {
    for (const thread of threads) {
      thread.send({ do: 'forget' } satisfies Order);
      thread.end();
    }
  }
  return job.merge(input, results as R[]);
}

/** As `doDue`, with the jobs done on threads. */
export async function doDueOn<T>(open: () => Thread, count: number, steps: Generator<DueJob, T, unknown>): Promise<T> {
  let step = steps.next();
  while (!step.done) {
    const { job, input, control } = step.value;
    step = steps.next(await doJobOn(open, count, job, input as never, control));
  }
  return step.value;
}
