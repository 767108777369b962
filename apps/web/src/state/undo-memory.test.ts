/** @jest-environment jsdom */
import { deserialize, serialize } from 'node:v8';
import { jest } from '@jest/globals';
import { addBrushes, boxSolid, dressSolid, emptyMap, movePicked, type MapDocument } from '@yesca/core';

/** What the browser keeps, with the keys of every writing: a copy, as a browser makes one. */
const kept = new Map<string, unknown>();
const writings: string[][] = [];
const later = <T>(value: T): Promise<T> => Promise.resolve(value);
const put = (entries: readonly (readonly [string, unknown])[]) => {
  writings.push(entries.map(([key]) => key));
  for (const [key, value] of entries) kept.set(key, deserialize(serialize(value)));
  return later(undefined);
};
jest.unstable_mockModule('idb-keyval', () => ({
  get: (key: string) => later(kept.get(key)),
  getMany: (keys: string[]) => later(keys.map((k) => kept.get(k))),
  setMany: put,
  del: (key: string) => later(void kept.delete(key)),
  delMany: (keys: string[]) => later(keys.forEach((k) => kept.delete(k))),
}));

const { edited } = await import('./testing.ts');
const { useEditor } = await import('./editor.ts');
const { selectOnly } = await import('./selection.ts');
const { keepUndo, recallUndo } = await import('./undo-memory.ts');

const editor = () => useEditor.getState();
const settled = () => new Promise((done) => setTimeout(done, 5));
const block = dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'a', 'm', {});
const start = (): MapDocument => addBrushes(emptyMap('t'), [block]);
const nudge = () => {
  editor().select(selectOnly([{ type: 'brush', id: 'a' }]));
  editor().run(edited('Move', (d) => movePicked(d, { brushes: new Set(['a']) }, [16, 0, 0])));
};
const left = () => editor().doc.brushes.get('a')!.vertices[0]![0];
/** As the server answers a save. */
const saved = async (version: number) => {
  useEditor.setState({ save: 'saved', version });
  await settled();
};
/** The page is left and the map opened again. */
const reopen = async (version: number) => {
  editor().load('map', version, editor().doc);
  await recallUndo('map');
};

let stop = () => {};
beforeEach(async () => {
  kept.clear();
  writings.length = 0;
  editor().load('map', 1, start());
  stop = keepUndo();
  await saved(1);
});
afterEach(() => stop());

describe('steps kept over a reload', () => {
  test('can be undone and made again as before', async () => {
    nudge();
    nudge();
    await saved(2);
    editor().undoOne();
    await saved(3);
    await reopen(3);
    expect([editor().undo.length, editor().redo.length, left()]).toEqual([1, 1, 16]);
    expect(editor().undo[0]!.selection.brushes).toEqual(new Set(['a']));
    editor().redoOne();
    expect(left()).toBe(32);
    editor().undoOne();
    editor().undoOne();
    expect(left()).toBe(0);
  });

  test('are written once each: a save writes what came since', async () => {
    for (let version = 2; version < 8; version++) {
      nudge();
      await saved(version);
    }
    expect(writings.map((keys) => keys.filter((k) => k.startsWith('yesca-step')).length)).toEqual([1, 1, 1, 1, 1, 1]);
    await reopen(7);
    expect(editor().undo).toHaveLength(6);
    // Those taken up again are known, too.
    nudge();
    await saved(8);
    expect(writings.at(-1)).toHaveLength(2);
    await reopen(8);
    expect(editor().undo).toHaveLength(7);
  });

  test('that cannot be reached any more are let go, and of many the last hundred are kept', async () => {
    for (let i = 0; i < 103; i++) nudge();
    await saved(2);
    for (let i = 0; i < 5; i++) editor().undoOne();
    nudge();
    await saved(3);
    expect(kept.size).toBe(1 + 99);
    await reopen(3);
    expect([editor().undo.length, editor().redo.length]).toEqual([99, 0]);
  });

  test('fit the version they were kept for and no other, and a missing one makes all of them useless', async () => {
    nudge();
    nudge();
    await saved(2);
    await reopen(5);
    expect([editor().undo.length, kept.size]).toEqual([0, 0]);
    nudge();
    nudge();
    await saved(6);
    kept.delete([...kept.keys()].find((k) => k.startsWith('yesca-step'))!);
    await reopen(6);
    expect(editor().undo).toHaveLength(0);
  });

  test('of an older version of the map file are brought up to this one', async () => {
    const room = { id: 'r', part: { kind: 'wall', side: 2, piece: 0 } } as const;
    const of = (r: typeof room | undefined) => (d: MapDocument) => ({
      ...d,
      brushes: new Map([['a', { ...block, ...(r ? { room: r } : {}) }]]),
      rooms: new Map([['r', {} as never]]),
    });
    editor().load('map', 1, of(room)(start()));
    await saved(1);
    nudge();
    await saved(2);
    for (const [key, value] of kept)
      kept.set(
        key,
        typeof value === 'string'
          ? value.replaceAll(/"part":\{[^}]*\}/g, '"part":"wall:2:0"')
          : { ...(value as object), format: undefined },
      );
    await reopen(2);
    editor().undoOne();
    expect([left(), editor().doc.brushes.get('a')!.room]).toEqual([0, room]);
  });
});
