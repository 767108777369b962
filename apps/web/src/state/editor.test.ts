/** @jest-environment jsdom */
import { jest } from '@jest/globals';
import { notifications } from '@mantine/notifications';
import {
  addBrushes,
  boxSolid,
  call,
  COMMANDS,
  dressSolid,
  emptyMap,
  placeEntity,
  renameMap,
  runScript,
  writeMap,
} from '@yesca/core';
import { shownDocument, useEditor } from './editor.ts';
import { faultReport } from './fault.tsx';
import {
  isEmptySelection,
  isSelected,
  asPicked,
  NOTHING,
  pickedIds,
  selectedBrushes,
  selectOnly,
  stillThere,
  thingsOf,
  toggleThing,
} from './selection.ts';
import { edited } from './testing.ts';

const crate = (id: string, x = 0) => dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 64, 64, 64] }), id, 'm');
const editor = () => useEditor.getState();
const names = () => [...editor().doc.brushes.keys()];

beforeEach(() => editor().load('map', 3, addBrushes(emptyMap('t'), [crate('a')])));

describe('the editor', () => {
  test('a command is one step that can be taken back and made again', () => {
    editor().run(edited('Add', (d) => addBrushes(d, [crate('b', 100)])));
    editor().run(edited('Add', (d) => addBrushes(d, [crate('c', 200)])));
    expect([names(), editor().save]).toEqual([['a', 'b', 'c'], 'unsaved']);
    editor().undoOne();
    expect(names()).toEqual(['a', 'b']);
    editor().undoOne();
    editor().undoOne();
    expect(names()).toEqual(['a']);
    editor().redoOne();
    expect(names()).toEqual(['a', 'b']);
  });

  test('a new step after undo ends what could be made again', () => {
    editor().run(edited('Add', (d) => addBrushes(d, [crate('b')])));
    editor().undoOne();
    editor().run(edited('Rename', (d) => renameMap(d, 'Other')));
    expect(editor().redo).toEqual([]);
    editor().undoOne();
    expect(editor().doc.name).toBe('t');
  });

  test('a refused command changes nothing: not the document, not the selection, not the steps', () => {
    editor().select(selectOnly([{ type: 'brush', id: 'a' }]));
    const before = editor();
    expect(before.run(call('pick.move', { picked: { brushes: ['a'] }, by: [NaN, 0, 0] }))).toBeNull();
    expect(
      before.run(call('brush.cut', { brushes: ['a'], plane: { normal: [1, 0, 0], distance: 999 }, keep: 'both' })),
    ).toBeNull();
    const after = editor();
    expect([after.doc, after.selection, after.undo, after.save]).toEqual([
      before.doc,
      before.selection,
      before.undo,
      before.save,
    ]);
  });

  test('a command that changes nothing is no step', () => {
    editor().run(edited('Nothing', (d) => d));
    expect([editor().undo.length, editor().save]).toEqual([0, 'saved']);
  });

  test('a draft is shown and then gone; an impossible one leaves the last possible one on screen', () => {
    const move = (x: number) => call('pick.move', { picked: { brushes: ['a'] }, by: [x, 0, 0] });
    expect(editor().preview(move(16))).not.toBeNull();
    const shown = shownDocument(editor());
    expect(shown).not.toBe(editor().doc);
    expect(editor().preview(move(NaN))).toBeNull();
    expect(shownDocument(editor())).toBe(shown);
    editor().preview(null);
    expect(shownDocument(editor())).toBe(editor().doc);
  });

  test('what was removed leaves the selection, and nothing else does', () => {
    editor().run(edited('Add', (d) => placeEntity(addBrushes(d, [crate('b', 100)]), 'spawn', [0, 0, 0], 0, 's')));
    editor().select(
      selectOnly([
        { type: 'brush', id: 'a' },
        { type: 'brush', id: 'b' },
        { type: 'entity', id: 's' },
      ]),
    );
    editor().run(call('pick.remove', { picked: { brushes: ['b'] } }));
    expect(thingsOf(editor().selection).map((t) => t.id)).toEqual(['a', 's']);
  });
});

describe('what a command makes', () => {
  const copy = call('pick.duplicate', { picked: { brushes: ['a'] }, by: [0, 100, 0] });

  test('is selected, and has in the end the ids that it had while it was shown', () => {
    const shown = editor().preview(copy, 'seed')!;
    const made = editor().run(copy, 'seed')!;
    expect(made.made).toEqual(shown.made);
    expect([...editor().selection.brushes]).toEqual(made.made!.brushes);
    expect(editor().run(copy, 'seed')!.made).not.toEqual(made.made);
  });

  test('can be told again from the step: the call with its arguments and its seed', () => {
    editor().run(copy);
    const [told] = editor().undo[0]!.calls!;
    const again = runScript(editor().base, [told!], { materials: () => undefined });
    expect(writeMap(again.doc)).toBe(writeMap(editor().doc));
  });
});

test('a fault of the program is told as one, with a report, and the document stays', () => {
  const { apply } = COMMANDS['pick.ungroup'];
  const spec = COMMANDS['pick.ungroup'] as { apply: unknown };
  const before = editor();
  const show = jest.spyOn(notifications, 'show');
  spec.apply = () => {
    throw new TypeError('no such thing');
  };
  try {
    expect(editor().run(call('pick.ungroup', { groups: ['g'] }))).toBeNull();
    expect(editor().preview(call('pick.ungroup', { groups: ['g'] }))).toBeNull();
  } finally {
    spec.apply = apply;
  }
  expect(show).toHaveBeenCalledTimes(2);
  expect(show.mock.calls[0]![0]).toMatchObject({ title: 'This is a fault of Yesca', autoClose: false });
  const report = JSON.parse(
    faultReport(new TypeError('no such thing'), call('pick.ungroup', { groups: ['g'] })),
  ) as object;
  expect(report).toMatchObject({ message: 'no such thing', command: 'pick.ungroup', args: { groups: ['g'] } });
  expect([editor().doc, editor().undo]).toEqual([before.doc, before.undo]);
});

describe('undo', () => {
  const select = (...ids: string[]) => editor().select(selectOnly(ids.map((id) => ({ type: 'brush', id }) as const)));
  const selected = () => [...editor().selection.brushes];

  test('brings back what was selected, and so does making it again', () => {
    editor().run(edited('Add', (d) => addBrushes(d, [crate('b', 100)])));
    select('a', 'b');
    editor().run(call('pick.remove', { picked: pickedIds(editor().selection) }));
    expect(selected()).toEqual([]);
    editor().undoOne();
    expect(selected()).toEqual(['a', 'b']);
    select('a');
    editor().redoOne();
    expect(selected()).toEqual([]);
    editor().undoOne();
    expect(selected()).toEqual(['a']);
  });

  test('of a step after which something else was made and selected goes through both', () => {
    select('a');
    editor().run(edited('Add', (d) => addBrushes(d, [crate('b', 100)])));
    select('b');
    editor().run(call('pick.move', { picked: pickedIds(editor().selection), by: [16, 0, 0] }));
    select();
    editor().undoOne();
    expect(selected()).toEqual(['b']);
    editor().undoOne();
    expect(selected()).toEqual(['a']);
    editor().redoOne();
    editor().redoOne();
    expect(selected()).toEqual([]);
  });
});

test('a command that gave something unreadable is refused, and the document stays', () => {
  const before = editor().doc;
  const bent = (d: typeof before): typeof before => {
    const a = d.brushes.get('a')!;
    const faces = a.faces.map((f) => ({ ...f, frame: { u: f.frame.u, v: f.frame.u } }));
    return { ...d, brushes: new Map(d.brushes).set('a', { ...a, faces }) };
  };
  expect(editor().run(edited('Bend', bent))).toBeNull();
  const dangling = (d: typeof before): typeof before => ({
    ...d,
    openings: new Map([['o', { id: 'o', rooms: ['gone'], side: 0, at: 0, width: 64, height: 64, sill: 0 }]]),
  });
  expect(editor().run(edited('Open', dangling))).toBeNull();
  expect([editor().doc, editor().undo.length, editor().save]).toEqual([before, 0, 'saved']);
});

describe('the selection', () => {
  const two = selectOnly([
    { type: 'brush', id: 'a' },
    { type: 'room', id: 'r' },
  ]);
  test('is toggled thing by thing', () => {
    expect(isSelected(two, { type: 'room', id: 'r' })).toBe(true);
    expect(thingsOf(toggleThing(two, { type: 'room', id: 'r' }))).toEqual([{ type: 'brush', id: 'a' }]);
    expect(thingsOf(toggleThing(two, { type: 'entity', id: 'e' }))).toHaveLength(3);
    expect(isEmptySelection(NOTHING)).toBe(true);
    expect(isEmptySelection({ ...NOTHING, faces: [{ brush: 'a', face: 1 }] })).toBe(false);
  });
  test('keeps its very objects while nothing of it is gone', () => {
    const doc = addBrushes(emptyMap('t'), [crate('a')]);
    const s = selectOnly([{ type: 'brush', id: 'a' }]);
    expect(stillThere(s, doc).brushes).toBe(s.brushes);
    expect([...asPicked(s).brushes!]).toEqual(['a']);
  });
  test('of a room stands for its brushes', () => {
    const doc = addBrushes(emptyMap('t'), [
      { ...crate('w'), room: { id: 'r', part: { kind: 'wall', side: 0, piece: 0 } } },
      crate('x', 100),
    ]);
    expect([...selectedBrushes(selectOnly([{ type: 'room', id: 'r' }]), doc)]).toEqual(['w']);
  });
});
