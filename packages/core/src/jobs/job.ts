/** What work that takes time is told and may tell. */
export interface StageControl {
  readonly signal?: {
    readonly aborted: boolean;
    /** Absent of a flag that is only looked at. */
    readonly addEventListener?: (type: 'abort', listener: () => void) => void;
  };
  /** How much is done, 0 to 1. */
  readonly progress?: (done: number) => void;
}

/** Thrown by work that was cancelled. */
export class Cancelled extends Error {
  override name = 'Cancelled';
  readonly code = 'build.cancelled';
}

/**
 * Work that can be cut into shards. What all of them need, the shards and their results are plain data, so that any thread can
 * do any of them; the results come in the order of the shards, whoever did them, so that the outcome is always the same.
 */
export interface Job<Input, Shared, Shard, Result, Output> {
  readonly name: string;
  readonly cut: (input: Input) => { readonly shared: Shared; readonly shards: readonly Shard[] };
  /** Readies a thread for shards; what it makes of what they share is kept between them. */
  readonly prepare: (shared: Shared) => (shard: Shard) => Result;
  readonly merge: (input: Input, results: readonly Result[]) => Output;
  /** Memory of a result that may be handed over rather than copied. */
  readonly memory?: (result: Result) => ArrayBufferLike[];
}

/** A job whose types nobody knows any more. */
export type AnyJob = Job<never, never, never, never, unknown>;

/** Does a job here, one shard after the other. */
export function doJob<I, S, P, R, O>(job: Job<I, S, P, R, O>, input: I, control: StageControl = {}): O {
  const { shared, shards } = job.cut(input);
  return finishHere(job, input, shared, shards, control);
}

/** Does a job here that is cut into shards already. */
export function finishHere<I, S, P, R, O>(
  job: Job<I, S, P, R, O>,
  input: I,
  shared: S,
  shards: readonly P[],
  control: StageControl,
): O {
  if (control.signal?.aborted) throw new Cancelled();
  const run = job.prepare(shared);
  const results = shards.map((shard, i) => {
    if (control.signal?.aborted) throw new Cancelled();
    const result = run(shard);
    control.progress?.((i + 1) / shards.length);
    return result;
  });
  return job.merge(input, results);
}
