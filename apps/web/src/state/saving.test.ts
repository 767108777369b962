/** @jest-environment jsdom */
import { jest } from '@jest/globals';
import { emptyMap, renameMap } from '@yesca/core';
import { useEditor } from './editor.ts';
import { keepSaved, saveNow } from './saving.ts';
import { edited } from './testing.ts';

interface Sent {
  readonly url: string;
  readonly baseVersion: number;
  readonly name: string;
}

const editor = () => useEditor.getState();
let sent: Sent[];
let answer: (body: { baseVersion: number; name?: string }) => { status: number; body: unknown } | Promise<never>;
let stop: () => void;

beforeEach(() => {
  jest.useFakeTimers();
  sent = [];
  answer = ({ baseVersion }) => ({ status: 200, body: { version: baseVersion + 1 } });
  globalThis.fetch = (async (url: string, init: { body: string }) => {
    const body = JSON.parse(init.body) as { baseVersion: number; name?: string };
    sent.push({ url, baseVersion: body.baseVersion, name: body.name ?? '' });
    const { status, body: reply } = await answer(body);
    return { ok: status < 400, status, json: async () => reply };
  }) as unknown as typeof fetch;
  editor().load('m1', 7, emptyMap('start'));
  stop = keepSaved();
});

afterEach(() => {
  editor().set({ save: 'saved' });
  stop();
  jest.useRealTimers();
});

const rename = (name: string) => editor().run(edited('Rename', (d) => renameMap(d, name)));
const later = (ms: number) => jest.advanceTimersByTimeAsync(ms);

test('edits are saved after a quiet moment, several as one, with the version they began from', async () => {
  rename('one');
  rename('two');
  expect(sent).toEqual([]);
  await later(700);
  expect(sent).toEqual([{ url: '/api/maps/m1/changes', baseVersion: 7, name: 'two' }]);
  expect([editor().save, editor().version]).toEqual(['saved', 8]);
});

test('an edit made while a save is on its way is saved after it', async () => {
  let finish: () => void = () => undefined;
  answer = ({ baseVersion }) => {
    const reply = { status: 200, body: { version: baseVersion + 1 } };
    if (sent.length > 1) return reply;
    return new Promise((done) => (finish = () => done(reply as never)));
  };
  rename('one');
  await later(600);
  rename('two');
  await later(600);
  expect(sent.map((s) => s.name)).toEqual(['one']);
  expect(editor().save).not.toBe('saved');
  finish();
  await later(700);
  expect(sent.map((s) => [s.name, s.baseVersion])).toEqual([
    ['one', 7],
    ['two', 8],
  ]);
  expect(editor().save).toBe('saved');
});

test('while the server is away the screen says so, and it tries again until it is back', async () => {
  answer = () => Promise.reject(new TypeError('no connection'));
  rename('kept');
  await later(600);
  expect(editor().save).toBe('offline');
  await later(3100);
  expect(sent).toHaveLength(2);
  answer = ({ baseVersion }) => ({ status: 200, body: { version: baseVersion + 1 } });
  await later(3100);
  expect([editor().save, sent.at(-1)!.name]).toEqual(['saved', 'kept']);
});

test('a save from elsewhere stops the saving, and the document on screen stays', async () => {
  answer = () => ({ status: 409, body: { code: 'map.stale', message: 'Saved from elsewhere.' } });
  rename('mine');
  await later(600);
  expect([editor().save, editor().doc.name]).toEqual(['stale', 'mine']);
  await later(10_000);
  expect(sent).toHaveLength(1);
  // Going on working is no way round the choice.
  rename('mine still');
  await later(10_000);
  expect([editor().save, sent.length]).toEqual(['stale', 1]);
});

test('a map deleted elsewhere is a choice too, and what is undone again is not sent', async () => {
  rename('and back');
  editor().undoOne();
  await later(600);
  expect([editor().save, sent.length]).toEqual(['saved', 0]);
  answer = () => ({ status: 404, body: { code: 'map.notFound', message: 'Not here.' } });
  rename('mine');
  await later(600);
  expect(editor().save).toBe('gone');
});

test('leaving the page warns while something is not saved, and not otherwise', async () => {
  const leave = () => {
    const event = new Event('beforeunload', { cancelable: true });
    window.dispatchEvent(event);
    return event.defaultPrevented;
  };
  expect(leave()).toBe(false);
  rename('unsaved');
  expect(leave()).toBe(true);
  await saveNow();
  expect(leave()).toBe(false);
});
