/** What work that takes time is told and may tell. */
export interface StageControl {
  readonly signal?: {
    readonly aborted: boolean;
    /** Absent of a flag that is only looked at. */
    readonly addEventListener?: (type: 'abort', listener: () => void) => void;
  };
  /** How much is done, 0 to 1. */
  readonly progress?: (done: number) => void;
  /** Results of earlier work. Absent: everything is done. */
  readonly kept?: KeptResults;
}

/**
 * Results by what they were made from: whoever holds a result under a name that tells all that it depends on need not make it
 * again. Where they lie, and for how long, is up to who gives them.
 */
export interface KeptResults {
  /** A short name for a text of any length; texts that differ have names that differ. */
  readonly hash: (text: string) => string;
  readonly get: (name: string) => unknown;
  readonly put: (name: string, result: unknown) => void;
}

/** A result that is kept under a name, or else made and kept. */
export function keptOr<T>(kept: KeptResults | undefined, name: () => string, make: () => T): T {
  if (!kept) return make();
  const key = name();
  const known = kept.get(key);
  if (known !== undefined) return known as T;
  const made = make();
  kept.put(key, made);
  return made;
}

/** Thrown by work that was cancelled. */
export class Cancelled extends Error {
  override name = 'Cancelled';
  readonly code = 'build.cancelled';
}

/**
 * Work that consists of many alike. What all of them need, the items and their results are plain data, so that any thread can
 * do any of them; the results come in the order of the items, whoever did them, so that the outcome is always the same. Items
 * go to threads in shards.
 */
export interface Job<Input, Shared, Item, Result, Output> {
  readonly name: string;
  readonly cut: (input: Input) => { readonly shared: Shared; readonly items: readonly Item[] };
  /** How much work an item is. Absent: all are alike. */
  readonly weight?: (item: Item) => number;
  /** How much work a shard is to be: little enough that threads end together, enough that handing over costs nothing. */
  readonly shard: number;
  /** Names results by all that they depend on. Absent: they are not kept. */
  readonly names?: (shared: Shared, hash: KeptResults['hash']) => (item: Item) => string;
  /** Readies a thread for items; what it makes of what they share is kept between them. */
  readonly prepare: (shared: Shared) => (item: Item) => Result;
  readonly merge: (input: Input, results: readonly Result[]) => Output;
  /** Memory of a result that may be handed over rather than copied. */
  readonly memory?: (result: Result) => ArrayBufferLike[];
}

/** A job whose types nobody knows any more. */
export type AnyJob = Job<never, never, never, never, unknown>;

/** A job that a longer work has come to; who drives the work does it, here or on threads, and hands in what came out. */
export interface DueJob {
  readonly job: AnyJob;
  readonly input: unknown;
  readonly control: StageControl;
}

export const dueJob = <I, S, P, R, O>(job: Job<I, S, P, R, O>, input: I, control: StageControl): DueJob => ({
  job: job as unknown as AnyJob,
  input,
  control,
});

/** The control of a part of some work: from one share of the whole to another. */
export const partOf = (control: StageControl, from: number, to: number): StageControl => ({
  ...control,
  progress: (done) => control.progress?.(from + (to - from) * done),
});

/** A job that has begun: what is known of its results, and what is left to do. */
export interface Begun<Shared, Item, Result> {
  readonly shared: Shared;
  readonly items: readonly Item[];
  /** Holes where something is left to do. */
  readonly results: (Result | undefined)[];
  /** Places of items, so many together. */
  readonly shards: readonly (readonly number[])[];
  /** Takes the results of a shard. */
  readonly take: (shard: readonly number[], results: readonly Result[]) => void;
}

/** Cuts a job, takes what is kept of it, and puts the rest into shards. */
export function begin<I, S, P, R, O>(job: Job<I, S, P, R, O>, input: I, { kept }: StageControl): Begun<S, P, R> {
  const { shared, items } = job.cut(input);
  const nameOf = kept && job.names?.(shared, kept.hash);
  const names = nameOf ? items.map((item) => kept.hash(`${job.name} ${nameOf(item)}`)) : [];
  const results = items.map((_, i) => (nameOf ? (kept.get(names[i]!) as R | undefined) : undefined));
  const shards: number[][] = [];
  let room = 0;
  results.forEach((result, i) => {
    if (result !== undefined) return;
    if (room <= 0) {
      shards.push([]);
      room = job.shard;
    }
    shards.at(-1)!.push(i);
    room -= job.weight?.(items[i]!) ?? 1;
  });
  const take = (shard: readonly number[], made: readonly R[]) =>
    shard.forEach((place, k) => {
      results[place] = made[k];
      if (nameOf) kept.put(names[place]!, made[k]);
    });
  return { shared, items, results, shards, take };
}

/** Does a job here, one item after the other. */
export function doJob<I, S, P, R, O>(job: Job<I, S, P, R, O>, input: I, control: StageControl = {}): O {
  return finishHere(job, input, begin(job, input, control), control);
}

/** Does here what is left of a job. */
export function finishHere<I, S, P, R, O>(
  job: Job<I, S, P, R, O>,
  input: I,
  begun: Begun<S, P, R>,
  control: StageControl,
): O {
  const check = () => {
    if (control.signal?.aborted) throw new Cancelled();
  };
  check();
  const { shared, items, shards, results, take } = begun;
  if (shards.length > 0) {
    const run = job.prepare(shared);
    shards.forEach((shard, i) => {
      take(
        shard,
        shard.map((place) => {
          check();
          return run(items[place]!);
        }),
      );
      control.progress?.((i + 1) / shards.length);
    });
  }
  return job.merge(input, results as R[]);
}

/** Does here, one after the other, the jobs that a longer work comes to. */
export function doDue<T>(steps: Generator<DueJob, T, unknown>): T {
  let step = steps.next();
  while (!step.done) {
    const { job, input, control } = step.value;
    step = steps.next(doJob(job, input as never, control));
  }
  return step.value;
}
