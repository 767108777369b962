/** @jest-environment jsdom */
import {
  addBrushes,
  addRoom,
  boxSolid,
  brushBounds,
  call,
  dressSolid,
  emptyMap,
  openDoorway,
  placeEntity,
  writeScript,
  type RoomDress,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { selectOnly, thingsOf } from '../state/selection.ts';
import { copyHere, pasteHere } from '../commands/clipboard.ts';
import { gridSteps } from '../commands/grid.ts';
import { COMMANDS, commandById } from './commands.ts';
import { bindingOf, boundKeys, keyLabel, takenBy, useBindings } from './keys.ts';
import { lastPane } from '../state/last-pane.ts';
import { runCommands } from '../commands/scripts.ts';
import { goTo } from '../commands/viewing.ts';
import { edited } from '../state/testing.ts';
import { useCamera } from '../state/camera.ts';
import { useEyeRequest } from '../state/eye.ts';
import { useWork } from '../state/work.ts';

const DRESS: RoomDress = { floor: 'f', wall: 'w', ceiling: 'c' };
const editor = () => useEditor.getState();
const run = (id: string) => commandById(id).run();
const crate = () => brushBounds(editor().doc.brushes.get('a')!);

beforeEach(() => {
  editor().load(
    'm',
    1,
    addBrushes(emptyMap('t'), [dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 32, 16] }), 'a', 'm')]),
  );
  editor().select(selectOnly([{ type: 'brush', id: 'a' }]));
  lastPane.kind = 'plan';
});

test('every command has its own id and its own keys, and none of a browser’s own', () => {
  expect(new Set(COMMANDS.map((c) => c.id)).size).toBe(COMMANDS.length);
  const keys = COMMANDS.flatMap((c) => c.keys?.split(',').map((k) => k.trim()) ?? []);
  expect(new Set(keys).size).toBe(keys.length);
  for (const taken of ['mod+t', 'mod+w', 'mod+n', 'mod+r', 'f5']) expect(keys).not.toContain(taken);
  for (const key of keys) expect(key).not.toMatch(/bracket|comma|period|(^|\+)\d$|(^|\+)f\d+$|[[\].,]/);
});

test('keys are shown as people read them', () => {
  expect(['mod+shift+z', 'delete, backspace', 'alt+up', 'v'].map(keyLabel)).toEqual([
    'Ctrl Shift Z',
    'Del',
    'Alt ↑',
    'V',
  ]);
});

test('keys can be bound anew, taken away and brought back, and no key does two things', () => {
  const press = (key: string, code: string, mods: object = {}) =>
    bindingOf({ key, code, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...mods });
  expect([
    press('g', 'KeyG'),
    press('G', 'KeyG', { shiftKey: true, ctrlKey: true }),
    press('ArrowLeft', 'ArrowLeft', { altKey: true }),
    press('Shift', 'ShiftLeft'),
  ]).toEqual(['g', 'mod+shift+g', 'alt+left', null]);
  const cut = commandById('tool.cut');
  const usual = boundKeys(cut);
  expect(takenBy(COMMANDS, usual, 'tool.pick')).toBe('tool.cut');
  expect(takenBy(COMMANDS, usual, 'tool.cut')).toBeNull();
  const { bind, reset } = useBindings.getState();
  bind('tool.cut', 'shift+x');
  expect([boundKeys(cut), takenBy(COMMANDS, usual, 'tool.pick')]).toEqual(['shift+x', null]);
  bind('tool.cut', '');
  expect(boundKeys(cut)).toBe('');
  bind('tool.cut', null);
  expect(boundKeys(cut)).toBe(usual);
  bind('tool.pick', 'y');
  reset();
  expect(boundKeys(commandById('tool.pick'))).toBe('v');
});

test('nudges go one grid step in the directions of the drawing used last', () => {
  run('nudge.right');
  run('nudge.up');
  expect(crate().min).toEqual([16, 16, 0]);
  lastPane.kind = 'section';
  run('nudge.up');
  expect(crate().min).toEqual([16, 16, 16]);
  run('nudge.sink');
  expect(crate().min[2]).toBe(0);
});

test('turning and mirroring keep the brush on the grid', () => {
  run('edit.turnLeft');
  const { min, max } = crate();
  expect([max[0] - min[0], max[1] - min[1]]).toEqual([32, 64]);
  run('edit.turnRight');
  expect(crate()).toEqual({ min: [0, 0, 0], max: [64, 32, 16] });
  run('edit.mirrorX');
  expect(crate()).toEqual({ min: [0, 0, 0], max: [64, 32, 16] });
});

test('duplicate, delete, select everything', () => {
  run('edit.duplicate');
  expect(editor().doc.brushes.size).toBe(2);
  expect(thingsOf(editor().selection)).toHaveLength(1);
  run('edit.delete');
  expect([...editor().doc.brushes.keys()]).toEqual(['a']);
  run('edit.all');
  expect(thingsOf(editor().selection)).toEqual([{ type: 'brush', id: 'a' }]);
});

test('copy, cut and paste go by text; text that is not brushes leaves everything as it was', () => {
  let held = '';
  const clipboard = { setData: (_: string, text: string) => (held = text) } as unknown as DataTransfer;
  expect(copyHere(clipboard, true)).toBe(true);
  expect(editor().doc.brushes.size).toBe(0);
  expect(copyHere(clipboard, false)).toBe(false);
  pasteHere(held);
  const [pasted] = [...editor().doc.brushes.values()];
  expect(brushBounds(pasted!).min).toEqual([16, -16, 0]);
  expect(thingsOf(editor().selection)).toEqual([{ type: 'brush', id: pasted!.id }]);
  const before = editor();
  pasteHere('a shopping list');
  expect([editor().doc, editor().selection, editor().undo]).toEqual([before.doc, before.selection, before.undo]);
});

test('the grid gets finer and coarser in powers of two, within its limits', () => {
  run('view.finer');
  expect(editor().doc.settings.grid).toBe(8);
  for (let i = 0; i < 9; i++) run('view.coarser');
  expect(editor().doc.settings.grid).toBe(512);
});

test('the decimal set goes by its own steps', () => {
  useWork.setState({ gridSet: 'decimal' });
  expect(gridSteps()).toEqual([1, 5, 10, 25, 50, 100]);
  run('view.finer');
  expect(editor().doc.settings.grid).toBe(10);
  run('view.coarser');
  run('view.coarser');
  expect(editor().doc.settings.grid).toBe(50);
  useWork.setState({ gridSet: 'binary' });
});

test('storeys are the floors that rooms have', () => {
  const spec = (floor: number) => ({
    footprint: [
      [0, 0],
      [300, 0],
      [300, 300],
      [0, 300],
    ] as const,
    floor,
    ceiling: floor + 250,
    wall: 16,
  });
  editor().load('m', 1, addRoom(addRoom(emptyMap('t'), spec(0), DRESS), spec(400), DRESS));
  useCamera.setState({ level: 0 });
  run('view.levelUp');
  expect(useCamera.getState().level).toBe(400);
  run('view.levelUp');
  expect(useCamera.getState().level).toBe(400);
  run('view.levelDown');
  expect(useCamera.getState().level).toBe(0);
});

test('a doorway is opened between two selected rooms and refused for fewer', () => {
  const spec = (x: number) => ({
    footprint: [
      [x, 0],
      [x + 300, 0],
      [x + 300, 300],
      [x, 300],
    ] as const,
    floor: 0,
    ceiling: 250,
    wall: 16,
  });
  editor().load('m', 1, addRoom(addRoom(emptyMap('t'), spec(0), DRESS, 'r'), spec(316), DRESS, 's'));
  editor().select(selectOnly([{ type: 'room', id: 'r' }]));
  run('edit.doorway');
  expect(editor().doc.openings.size).toBe(0);
  editor().select(
    selectOnly([
      { type: 'room', id: 'r' },
      { type: 'room', id: 's' },
    ]),
  );
  run('edit.doorway');
  expect([...editor().doc.openings.values()][0]).toMatchObject({ width: 112, height: 208, at: 150 });
});

test('going to a place selects what is there and turns the views to it', () => {
  editor().run(edited('Place', (d) => placeEntity(d, 'spawn', [500, 600, 0], 90, 's')));
  goTo([500, 600, 0], [], ['s']);
  expect(thingsOf(editor().selection)).toEqual([{ type: 'entity', id: 's' }]);
  expect(useCamera.getState()).toMatchObject({ centre: [500, 600, 0], section: { at: [500, 600] } });
  run('view.home');
  expect(useEyeRequest.getState().request).toMatchObject({ at: [500, 600, 164], stand: true, turn: 90 });
  goTo(undefined, ['gone'], []);
  expect(useCamera.getState().centre).toEqual([500, 600, 0]);
});

describe('the section through the selection', () => {
  const section = () => useCamera.getState().section;
  const through = (looks: number) => {
    useCamera.setState({ section: { at: [999, 999], looks } });
    run('view.sectionSelection');
    return section();
  };

  test('goes through its middle, along its longer side, and looks the nearer way', () => {
    // The crate is 64 wide and 32 deep: it is cut along x, and one looks north or south.
    expect(through(90)).toEqual({ at: [32, 16], looks: 90 });
    expect(through(10)).toEqual({ at: [32, 16], looks: 90 });
    expect(through(260)).toEqual({ at: [32, 16], looks: 270 });
  });

  test('looks as it did where nothing is longer, and stays where nothing is selected', () => {
    editor().run(
      edited('Resize', (d) => addBrushes(d, [dressSolid(boxSolid({ min: [0, 0, 0], max: [64, 60, 16] }), 'b', 'm')])),
    );
    editor().select(selectOnly([{ type: 'brush', id: 'b' }]));
    expect(through(37)).toEqual({ at: [32, 30], looks: 37 });
    editor().select(selectOnly([]));
    expect(through(45)).toEqual({ at: [999, 999], looks: 45 });
  });

  test('cuts an opening across, so that its sill and head are seen', () => {
    const spec = (x: number) => ({
      footprint: [
        [x, 0],
        [x + 400, 0],
        [x + 400, 400],
        [x, 400],
      ] as const,
      floor: 0,
      ceiling: 272,
      wall: 16,
    });
    editor().run(
      edited('Rooms', (d) =>
        openDoorway(
          addRoom(addRoom(d, spec(0), DRESS, 'r'), spec(416), DRESS, 's'),
          'r',
          's',
          { width: 96, height: 208, sill: 0 },
          'o',
        ),
      ),
    );
    editor().select(selectOnly([{ type: 'opening', id: 'o' }]));
    // The wall runs north and south at x = 400: one looks along it, and the line crosses it.
    expect([through(90), through(280).looks]).toEqual([{ at: [400, 200], looks: 90 }, 270]);
  });
});

describe('commands as a file', () => {
  const lastAsText = (n: number) =>
    writeScript(
      editor()
        .undo.slice(-n)
        .flatMap((s) => s.calls!),
    );

  test('the last steps do again what was done, here as one step, with other ids', () => {
    editor().load('m', 1, emptyMap('t'));
    editor().run(
      call('brush.draw', {
        shape: { kind: 'box', box: { min: [0, 0, 0], max: [64, 64, 64] }, params: {} },
        material: 'm',
      }),
    );
    run('edit.duplicate');
    run('nudge.rise');
    const done = [...editor().doc.brushes.values()].map((b) => brushBounds(b));
    const text = lastAsText(3);
    runCommands(text);
    expect([...editor().doc.brushes.values()].map((b) => brushBounds(b))).toEqual([...done, ...done]);
    expect([editor().undo.length, editor().selection.brushes.size]).toEqual([4, 1]);
    expect(
      editor()
        .undo.at(-1)!
        .calls!.map((c) => c.name),
    ).toEqual(['map.change']);
    editor().undoOne();
    expect(editor().doc.brushes.size).toBe(2);
    editor().load('other', 1, emptyMap('other'));
    runCommands(text);
    // Where nothing had to be called otherwise it is told again by the very commands, else by what it changed.
    expect(editor().undo[0]!.calls!.map((c) => c.name)).toEqual(['brush.draw', 'pick.duplicate', 'pick.move']);
    expect([...editor().doc.brushes.values()].map((b) => brushBounds(b))).toEqual(done);
  });

  test('text that holds none, or one that is refused, changes nothing', () => {
    const before = editor().doc;
    for (const text of [
      'hello',
      '{}',
      writeScript([
        call('map.rename', { name: 'x' }),
        call('layer.remove', { layer: 'gone' }),
        call('pick.repeat', { picked: {}, count: 0, step: [0, 0, 0] }),
      ]),
    ])
      runCommands(text);
    expect([editor().doc, editor().undo.length]).toEqual([before, 0]);
  });
});
