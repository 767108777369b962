import {
  Cancelled,
  doJob,
  doJobOn,
  keepThreads,
  keptOr,
  serveJobs,
  type AnyJob,
  type Job,
  type Thread,
} from './index.ts';

/** Squares of numbers, three a shard. */
const squares: Job<readonly number[], { readonly add: number }, number, Float64Array, readonly number[]> = {
  name: 'squares',
  cut: (items) => ({ shared: { add: 1 }, items }),
  shard: 3,
  names:
    ({ add }) =>
    (n) =>
      `${n} ${add}`,
  prepare:
    ({ add }) =>
    (n) => {
      if (n === 13) throw Object.assign(new Error('Thirteen is no number.'), { code: 'squares.thirteen' });
      return Float64Array.of(n * n + add);
    },
  merge: (_, results) => results.flatMap((r) => [...r]),
  memory: (r) => [r.buffer],
};
const JOBS = [squares as unknown as AnyJob];

/** Threads of this one, told apart by who opened them: everything goes through copies, later, as between real ones. */
class Bench {
  opened = 0;
  ended = 0;
  readonly busy: number[] = [];
  constructor(
    private readonly dies: (thread: number, order: number) => boolean = () => false,
    private readonly slow = 0,
  ) {}
  open = (): Thread => {
    const me = this.opened++;
    this.busy[me] = 0;
    let over = false;
    let lost: (error: Error) => void = () => undefined;
    let mine: (message: never) => void = () => undefined;
    let theirs: (message: never) => void = () => undefined;
    const post = (to: () => (message: never) => void, message: unknown, memory: readonly ArrayBufferLike[] = []) => {
      const copy = structuredClone(message, { transfer: memory as ArrayBuffer[] });
      setTimeout(() => over || to()(copy as never), this.slow * me);
    };
    let orders = 0;
    serveJobs(JOBS, { send: (m, memory) => post(() => mine, m, memory), hear: (l) => void (theirs = l) });
    return {
      send: (m, memory) => {
        if ((m as { do: string }).do === 'run' && this.dies(me, orders++)) {
          over = true;
          setTimeout(() => lost(new Error('It died.')));
          return;
        }
        this.busy[me]!++;
        post(() => theirs, m, memory);
      },
      hear: (l) => void (mine = l),
      lost: (l) => void (lost = l),
      end: () => {
        over = true;
        this.ended++;
      },
    };
  };
}

const numbers = Array.from({ length: 100 }, (_, i) => (i === 13 ? 0 : i));
const wanted = numbers.map((n) => n * n + 1);

test('here and on threads of different speed the same comes out, in the same order', async () => {
  expect(doJob(squares, numbers)).toEqual(wanted);
  for (const count of [2, 7, 90]) {
    const bench = new Bench(undefined, 2);
    const told: number[] = [];
    expect(await doJobOn(bench.open, count, squares, numbers, { progress: (p) => told.push(p) })).toEqual(wanted);
    expect([bench.opened, bench.ended]).toEqual([Math.min(count, 34), Math.min(count, 34)]);
    expect(told).toHaveLength(34);
    expect([told.at(-1), told.every((p, i) => i === 0 || p > told[i - 1]!)]).toEqual([1, true]);
    expect(bench.busy.every((n) => n >= 1)).toBe(true);
  }
  // A few are not worth a thread.
  for (const few of [[], [1, 2, 3], numbers.slice(0, 9)]) {
    const bench = new Bench();
    expect(await doJobOn(bench.open, 4, squares, few)).toEqual(few.map((n) => n * n + 1));
    expect(bench.opened).toBe(0);
  }
});

test('a thread that dies is replaced and its shard done again; one that always dies is told', async () => {
  const bench = new Bench((thread, order) => thread < 2 && order === 3);
  expect(await doJobOn(bench.open, 3, squares, numbers)).toEqual(wanted);
  expect(bench.opened).toBe(5);
  const hopeless = new Bench(() => true);
  await expect(doJobOn(hopeless.open, 2, squares, numbers)).rejects.toThrow('It died.');
});

test('the error of a shard ends the job with its code, and all threads', async () => {
  const bench = new Bench();
  await expect(doJobOn(bench.open, 2, squares, [...numbers, 13])).rejects.toMatchObject({
    code: 'squares.thirteen',
    message: 'Thirteen is no number.',
  });
  expect(bench.ended).toBe(2);
  expect(() => doJob(squares, [13])).toThrow('Thirteen');
  const unknown = { ...squares, name: 'cubes' };
  await expect(doJobOn(new Bench().open, 2, unknown, numbers)).rejects.toThrow('no such job');
});

test('a raised signal ends it at once, with shards still waiting', async () => {
  const cancel = new AbortController();
  const bench = new Bench(undefined, 5);
  let done = 0;
  const running = doJobOn(bench.open, 2, squares, numbers, {
    signal: cancel.signal,
    progress: () => ++done === 4 && cancel.abort(),
  });
  await expect(running).rejects.toBeInstanceOf(Cancelled);
  expect([done, bench.ended]).toEqual([4, 2]);
  await expect(doJobOn(new Bench().open, 2, squares, numbers, { signal: cancel.signal })).rejects.toBeInstanceOf(
    Cancelled,
  );
  expect(() => doJob(squares, numbers, { signal: { aborted: true } })).toThrow(Cancelled);
});

test('threads are kept for the next job, but not one that is cancelled, nor one that dies', async () => {
  const bench = new Bench();
  const kept = keepThreads(bench.open);
  for (let i = 0; i < 3; i++) expect(await doJobOn(kept.open, 2, squares, numbers)).toEqual(wanted);
  expect([bench.opened, bench.ended]).toEqual([2, 0]);
  const cancel = new AbortController();
  const running = doJobOn(kept.open, 2, squares, numbers, { signal: cancel.signal, progress: () => cancel.abort() });
  await expect(running).rejects.toBeInstanceOf(Cancelled);
  expect(bench.ended).toBeGreaterThan(0);
  // An answer to what was cancelled does not reach the next job.
  expect(await doJobOn(kept.open, 2, squares, numbers)).toEqual(wanted);
  await expect(doJobOn(kept.open, 2, squares, [...numbers, 13])).rejects.toThrow('Thirteen');
  const { opened } = bench;
  kept.close();
  expect(bench.ended).toBe(opened);

  const frail = new Bench((thread, order) => thread < 2 && order === 20);
  const some = keepThreads(frail.open);
  for (let i = 0; i < 4; i++) expect(await doJobOn(some.open, 2, squares, numbers)).toEqual(wanted);
  expect(frail.opened).toBe(4);
});

test('what is kept is not done again, whoever did it; the rest is, and is kept', async () => {
  const store = new Map<string, unknown>();
  let asked = 0;
  const kept = {
    hash: (text: string) => `#${text}`,
    get: (name: string) => (asked++, store.get(name)),
    put: (name: string, result: unknown) => void store.set(name, structuredClone(result)),
  };
  const few = numbers.slice(0, 60);
  expect(doJob(squares, few, { kept })).toEqual(wanted.slice(0, 60));
  expect(store.size).toBe(new Set(few).size);
  const bench = new Bench();
  const told: number[] = [];
  const again = await doJobOn(bench.open, 2, squares, numbers, { kept, progress: (p) => told.push(p) });
  expect(again).toEqual(wanted);
  // Forty were left, in fourteen shards.
  expect([told.length, told.at(-1)]).toEqual([14, 1]);
  expect(bench.busy.reduce((n, b) => n + b, 0)).toBe(2 + 14 + 2);
  store.set('#squares 5 1', Float64Array.of(-1));
  expect(doJob(squares, [4, 5], { kept })).toEqual([17, -1]);
  expect(asked).toBeGreaterThan(160);
  let made = 0;
  const make = () => (made++, { n: made });
  for (const name of ['a', 'b', 'a']) keptOr(kept, () => name, make);
  expect([made, keptOr(undefined, () => 'a', make)]).toEqual([2, { n: 3 }]);
});
