/** @jest-environment jsdom */
import { addBrushes, boxSolid, dressSolid, emptyMap, type Thread } from '@yesca/core';
import { checks } from '../workers/checks.ts';
import { serveMirror, type AnyService } from '../workers/mirror.ts';
import { keepChecked } from './checking.ts';
import { useEditor } from './editor.ts';

const editor = () => useEditor.getState();

/** Workers in this thread; each answers until it is told to die. */
function bench() {
  const all: { die: () => void; asked: number }[] = [];
  const open = (): Thread => {
    let mine: (m: never) => void = () => undefined;
    let theirs: (m: never) => void = () => undefined;
    let lost: (e: Error) => void = () => undefined;
    const me = { asked: 0, die: () => lost(new Error('It died.')) };
    all.push(me);
    serveMirror([checks() as unknown as AnyService], { send: (m) => mine(m as never), hear: (l) => void (theirs = l) });
    return {
      send: (m) => {
        if ((m as { do: string }).do === 'ask') me.asked++;
        theirs(m as never);
      },
      hear: (l) => void (mine = l),
      lost: (l) => void (lost = l),
      end: () => undefined,
    };
  };
  return { all, open };
}

/** Until the findings of the document that is open are there. */
async function found(): Promise<string[]> {
  const before = editor().findings;
  for (let i = 0; i < 200 && editor().findings === before; i++) await new Promise((done) => setTimeout(done, 10));
  return editor().findings.map((f) => f.code);
}

test('what is open is checked after each edit, by another worker where one died', async () => {
  const { all, open } = bench();
  editor().load('m', 1, emptyMap('t'));
  const stop = keepChecked(open);
  expect(await found()).toEqual(['check.noSpawn']);
  all[0]!.die();
  expect(all).toHaveLength(2);
  const brush = dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 64, 64] }), 'a', 'm');
  editor().load('m', 1, addBrushes(emptyMap('t'), [brush]));
  expect(await found()).toContain('check.noLight');
  expect(all[1]!.asked).toBe(1);
  stop();
});
