import { addBrushes, boxSolid, Cancelled, dressSolid, emptyMap, type MapDocument, type Thread } from '@yesca/core';
import { Mirror, serveMirror, type AnyService, type Service } from './mirror.ts';

const later = () => new Promise((done) => setTimeout(done, 5));
const box = (id: string, x: number) => dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 64, 64, 64] }), id, 'slate');

/** Counts brushes, slowly if asked to; says what it was sent. */
class Bench {
  readonly sent: string[] = [];
  readonly threads: { die: () => void; ended: boolean }[] = [];
  steps = 0;
  /** Messages sent to the first threads get lost with them. */
  deaf = 0;
  private readonly count: Service<{ steps?: number; fail?: boolean }, string[]> = {
    name: 'count',
    answer: async (doc, { steps = 0, fail }, { signal, progress }) => {
      if (fail) throw Object.assign(new Error('It cannot be counted.'), { code: 'count.failed' });
      for (let i = 0; i < steps && !signal.aborted; i++) {
        this.steps++;
        progress((i + 1) / steps);
        await later();
      }
      return [...doc.brushes.keys()];
    },
  };
  open = (): Thread => {
    const me = this.threads.length;
    let mine: (m: never) => void = () => undefined;
    let theirs: (m: never) => void = () => undefined;
    let lost: (e: Error) => void = () => undefined;
    const thread = { ended: false, die: () => lost(new Error('It died.')) };
    this.threads.push(thread);
    const post = (to: () => (m: never) => void, message: unknown) => {
      const copy = structuredClone(message);
      setTimeout(() => thread.ended || to()(copy as never));
    };
    serveMirror([this.count as unknown as AnyService], {
      send: (m) => post(() => mine, m),
      hear: (l) => void (theirs = l),
    });
    return {
      send: (m) => {
        this.sent.push((m as { do: string }).do);
        if (me >= this.deaf) post(() => theirs, m);
      },
      hear: (l) => void (mine = l),
      lost: (l) => void (lost = l),
      end: () => void (thread.ended = true),
    };
  };
}

const COUNT = { name: 'count' };
const ask = (mirror: Mirror, doc: MapDocument, input = {}, control = {}, mapId = 'm') =>
  mirror.ask<object, string[]>(COUNT, { mapId, doc }, input, control);

test('the worker follows the document by what changed, and is told the whole of another one', async () => {
  const bench = new Bench();
  const mirror = new Mirror(bench.open);
  const first = addBrushes(emptyMap('t'), [box('a', 0)]);
  const second = addBrushes(first, [box('b', 100)]);
  expect(await ask(mirror, first)).toEqual(['a']);
  expect(await ask(mirror, second)).toEqual(['a', 'b']);
  expect(await ask(mirror, second)).toEqual(['a', 'b']);
  expect(await ask(mirror, first)).toEqual(['a']);
  expect(await ask(mirror, second, {}, {}, 'other')).toEqual(['a', 'b']);
  expect(bench.sent).toEqual(['reset', 'ask', 'follow', 'ask', 'ask', 'follow', 'ask', 'reset', 'ask']);
  // Questions need not wait for one another: each is about its own version.
  expect(await Promise.all([ask(mirror, first), ask(mirror, second)])).toEqual([['a'], ['a', 'b']]);
});

test('progress is told; what is cancelled stops, and its answer is not given', async () => {
  const bench = new Bench();
  const mirror = new Mirror(bench.open);
  const doc = addBrushes(emptyMap('t'), [box('a', 0)]);
  const told: number[] = [];
  await ask(mirror, doc, { steps: 4 }, { progress: (p: number) => told.push(p) });
  expect(told).toEqual([0.25, 0.5, 0.75, 1]);
  const cancel = new AbortController();
  bench.steps = 0;
  const running = ask(mirror, doc, { steps: 1000 }, { signal: cancel.signal, progress: () => cancel.abort() });
  await expect(running).rejects.toBeInstanceOf(Cancelled);
  expect(await ask(mirror, doc)).toEqual(['a']);
  const { steps } = bench;
  for (let i = 0; i < 5; i++) await later();
  expect([steps < 20, bench.steps]).toEqual([true, steps]);
  await expect(ask(mirror, doc, {}, { signal: cancel.signal })).rejects.toBeInstanceOf(Cancelled);
});

test('errors come with their code; nobody answers what is not served', async () => {
  const mirror = new Mirror(new Bench().open);
  const doc = emptyMap('t');
  await expect(ask(mirror, doc, { fail: true })).rejects.toMatchObject({
    code: 'count.failed',
    message: 'It cannot be counted.',
  });
  await expect(mirror.ask({ name: 'weigh' }, { mapId: 'm', doc }, {})).rejects.toThrow('Nobody answers weigh.');
});

test('a worker that dies is replaced and asked again; one that always dies is let be, and who asks is told', async () => {
  const bench = new Bench();
  bench.deaf = 1;
  const deaths: boolean[] = [];
  const mirror = new Mirror(bench.open, (replaced) => deaths.push(replaced));
  const doc = addBrushes(emptyMap('t'), [box('a', 0)]);
  const waiting = ask(mirror, doc);
  bench.threads[0]!.die();
  expect(await waiting).toEqual(['a']);
  expect(bench.sent).toEqual(['reset', 'ask', 'reset', 'ask']);
  bench.deaf = 99;
  const hopeless = ask(mirror, doc);
  hopeless.catch(() => undefined);
  for (let i = 0; i < 12; i++) bench.threads.at(-1)!.die();
  await expect(hopeless).rejects.toThrow('Reload the page');
  expect([bench.threads.length, deaths]).toEqual([5, [true, true, true, true, false]]);
  await expect(ask(mirror, doc)).rejects.toThrow('Reload the page');
  expect(bench.threads.every((t) => t.ended)).toBe(true);
});
