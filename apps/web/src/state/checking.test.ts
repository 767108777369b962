/** @jest-environment jsdom */
import { jest } from '@jest/globals';
import { addBrushes, boxSolid, dressSolid, emptyMap, findingsOf, type Change, type MapDocument } from '@yesca/core';

/** Workers that were opened: each answers until it is told to die. */
class FakeWorker {
  static all: FakeWorker[] = [];
  onerror: ((event: { preventDefault: () => void }) => void) | null = null;
  doc: MapDocument | null = null;
  dead = false;
  asked = 0;
  constructor() {
    FakeWorker.all.push(this);
  }
  terminate = () => void (this.dead = true);
  die = () => {
    this.dead = true;
    this.onerror?.({ preventDefault: () => undefined });
  };
}
Object.assign(globalThis, { Worker: FakeWorker });
const wrap = (w: FakeWorker) => ({
  know: () => Promise.resolve(),
  reset: (doc: MapDocument) => Promise.resolve(void (w.doc = doc)),
  follow: (_: Change) => Promise.resolve(),
  run: () => {
    w.asked++;
    // What is dead answers no more.
    if (w.dead) return new Promise(() => undefined);
    const { sealing, findings } = findingsOf(w.doc!, () => undefined);
    return Promise.resolve({ state: sealing, leak: null, findings });
  },
});
jest.unstable_mockModule('comlink', () => ({ wrap }));

const { keepChecked } = await import('./checking.ts');
const { useEditor } = await import('./editor.ts');

const editor = () => useEditor.getState();
const settled = () => new Promise((done) => setTimeout(done, 250));

test('a worker that dies is replaced, and what is open is checked again; one that always dies is let be', async () => {
  editor().load('m', 1, emptyMap('t'));
  const stop = keepChecked();
  await settled();
  expect(editor().findings.map((f) => f.code)).toEqual(['check.noSpawn']);
  const [first] = FakeWorker.all;
  first!.die();
  expect(FakeWorker.all).toHaveLength(2);
  editor().load(
    'm',
    1,
    addBrushes(emptyMap('t'), [dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'a', 'm')]),
  );
  await settled();
  expect(editor().findings.map((f) => f.code)).toContain('check.noLight');
  expect(FakeWorker.all[1]!.asked).toBeGreaterThan(0);
  for (let i = 1; i < 12; i++) FakeWorker.all.at(-1)!.die();
  expect(FakeWorker.all).toHaveLength(5);
  stop();
});
