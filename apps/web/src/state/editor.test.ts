/** @jest-environment jsdom */
import {
  addBrushes,
  boxSolid,
  dressSolid,
  emptyMap,
  movePicked,
  placeEntity,
  removePicked,
  renameMap,
} from '@yesca/core';
import { shownDocument, useEditor } from './editor.ts';
import {
  asPicked,
  isEmptySelection,
  isSelected,
  NOTHING,
  selectedBrushes,
  selectOnly,
  stillThere,
  thingsOf,
  toggleThing,
} from './selection.ts';

const crate = (id: string, x = 0) => dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 64, 64, 64] }), id, 'm');
const editor = () => useEditor.getState();
const names = () => [...editor().doc.brushes.keys()];

beforeEach(() => editor().load('map', 3, addBrushes(emptyMap('t'), [crate('a')])));

describe('the editor', () => {
  test('a command is one step that can be taken back and made again', () => {
    editor().run('Add', (d) => addBrushes(d, [crate('b', 100)]));
    editor().run('Add', (d) => addBrushes(d, [crate('c', 200)]));
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
    editor().run('Add', (d) => addBrushes(d, [crate('b')]));
    editor().undoOne();
    editor().run('Rename', (d) => renameMap(d, 'Other'));
    expect(editor().redo).toEqual([]);
    editor().undoOne();
    expect(editor().doc.name).toBe('t');
  });

  test('a refused command changes nothing: not the document, not the selection, not the steps', () => {
    editor().select(selectOnly([{ type: 'brush', id: 'a' }]));
    const before = editor();
    expect(before.run('Move', (d) => movePicked(d, { brushes: new Set(['a']) }, [NaN, 0, 0]))).toBe(false);
    const after = editor();
    expect([after.doc, after.selection, after.undo, after.save]).toEqual([
      before.doc,
      before.selection,
      before.undo,
      before.save,
    ]);
  });

  test('a command that changes nothing is no step', () => {
    editor().run('Nothing', (d) => d);
    expect([editor().undo.length, editor().save]).toEqual([0, 'saved']);
  });

  test('a draft is shown and then gone; an impossible one leaves the last possible one on screen', () => {
    const move = (x: number) => (d: ReturnType<typeof emptyMap>) =>
      movePicked(d, { brushes: new Set(['a']) }, [x, 0, 0]);
    expect(editor().preview(move(16))).toBe(true);
    const shown = shownDocument(editor());
    expect(shown).not.toBe(editor().doc);
    expect(editor().preview(move(NaN))).toBe(false);
    expect(shownDocument(editor())).toBe(shown);
    editor().preview(null);
    expect(shownDocument(editor())).toBe(editor().doc);
  });

  test('what was removed leaves the selection, and nothing else does', () => {
    editor().run('Add', (d) => placeEntity(addBrushes(d, [crate('b', 100)]), 'spawn', [0, 0, 0], 0, 's'));
    editor().select(
      selectOnly([
        { type: 'brush', id: 'a' },
        { type: 'brush', id: 'b' },
        { type: 'entity', id: 's' },
      ]),
    );
    editor().run('Remove', (d) => removePicked(d, { brushes: new Set(['b']) }));
    expect(thingsOf(editor().selection).map((t) => t.id)).toEqual(['a', 's']);
  });
});

describe('undo', () => {
  const select = (...ids: string[]) => editor().select(selectOnly(ids.map((id) => ({ type: 'brush', id }) as const)));
  const selected = () => [...editor().selection.brushes];

  test('brings back what was selected, and so does making it again', () => {
    editor().run('Add', (d) => addBrushes(d, [crate('b', 100)]));
    select('a', 'b');
    editor().run('Remove', (d) => removePicked(d, asPicked(editor().selection)));
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
    editor().run('Add', (d) => addBrushes(d, [crate('b', 100)]));
    select('b');
    editor().run('Move', (d) => movePicked(d, asPicked(editor().selection), [16, 0, 0]));
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
  expect(editor().run('Bend', bent)).toBe(false);
  const dangling = (d: typeof before): typeof before => ({
    ...d,
    openings: new Map([['o', { id: 'o', rooms: ['gone'], side: 0, at: 0, width: 64, height: 64, sill: 0 }]]),
  });
  expect(editor().run('Open', dangling)).toBe(false);
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
