/** @jest-environment jsdom */
import {
  addBrushes,
  addLayer,
  addRoom,
  boxSolid,
  brushBounds,
  brushVolume,
  call,
  dressSolid,
  emptyMap,
  placeEntity,
  type Brush,
  type RoomDress,
  type Vec3,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { selectOnly, thingsOf } from '../state/selection.ts';
import { pickable, splitShown, useHidden } from '../state/shown.ts';
import { commandById } from './commands.ts';
import {
  alignSelection,
  distributeSelection,
  layerSelection,
  openingAt,
  raiseSelection,
  repeatSelection,
  repeatSelectionAround,
  selectSimilar,
  selectWalls,
  shellSelection,
} from '../commands/shaping.ts';
import { goToStorey, moveStorey, recallView, rememberView, turnSection } from '../commands/viewing.ts';
import { edited } from '../state/testing.ts';
import { useCamera } from '../state/camera.ts';
import { useDisplay } from '../state/display.ts';
import { useWork } from '../state/work.ts';
import { useRoomOptions } from '../tools/room.ts';

const DRESS: RoomDress = { floor: 'slate', wall: 'limewash', ceiling: 'oak-plank' };
const editor = () => useEditor.getState();
const doc = () => editor().doc;
const run = (id: string) => commandById(id).run();
const block = (id: string, min: Vec3, max: Vec3, material = 'brick'): Brush =>
  dressSolid(boxSolid({ min, max }), id, material, { role: 'detail' });
const pick = (...ids: string[]) =>
  editor().select(
    selectOnly(
      ids.map(
        (id) => ({ type: doc().rooms.has(id) ? 'room' : doc().entities.has(id) ? 'entity' : 'brush', id }) as const,
      ),
    ),
  );
const volume = () => [...doc().brushes.values()].reduce((v, b) => v + brushVolume(b), 0);
const low = (id: string) => brushBounds(doc().brushes.get(id)!).min;

beforeEach(() => {
  const wall = block('wall', [0, 0, 0], [256, 16, 256]);
  const window = block('window', [96, -16, 96], [160, 32, 160], 'slate');
  editor().load('m', 1, addBrushes(emptyMap('t'), [wall, window]));
  useHidden.getState().showAll();
  useCamera.setState({ level: 0, cutHeight: 110, section: { at: [0, 0], looks: 90 } });
  useRoomOptions.setState({ wall: 16 });
  useWork.setState(useWork.getInitialState());
  useDisplay.setState({ hiddenRoles: [], hideThings: false });
});

describe('solids', () => {
  test('subtract takes the selection away from what it reaches into, as one step of undo', () => {
    const before = doc();
    pick('window');
    run('shape.subtract');
    expect(doc().brushes.has('window')).toBe(false);
    expect(volume()).toBe(256 * 16 * 256 - 64 * 16 * 64);
    // The pieces are selected, and keep the wall's material on the outside.
    expect(thingsOf(editor().selection).length).toBe(doc().brushes.size);
    expect([...doc().brushes.values()].every((b) => b.faces.some((f) => f.material === 'brick'))).toBe(true);
    editor().undoOne();
    expect([...doc().brushes.keys()]).toEqual([...before.brushes.keys()]);
    expect(volume()).toBe(256 * 16 * 256 + 64 * 48 * 64);
  });

  test('what cannot be done leaves everything as it was', () => {
    const before = doc();
    editor().select(selectOnly([]));
    for (const id of [
      'shape.subtract',
      'shape.intersect',
      'shape.merge',
      'shape.hull',
      'shape.shell',
      'shape.snap',
      'edit.group',
      'edit.ungroup',
      'shape.giveBack',
      'shape.raiseFloor',
    ])
      run(id);
    pick('wall');
    run('shape.merge');
    shellSelection(500, 'inside');
    shellSelection(Number.NaN, 'outside');
    repeatSelection(3, [0, 0, 0]);
    expect([doc(), thingsOf(editor().selection)]).toEqual([before, [{ type: 'brush', id: 'wall' }]]);
    expect(editor().undo).toEqual([]);
  });

  test('intersect, merge and hull, shell', () => {
    pick('wall', 'window');
    run('shape.intersect');
    expect(volume()).toBe(64 * 16 * 64);
    editor().undoOne();
    pick('wall', 'window');
    run('shape.hull');
    expect(doc().brushes.size).toBe(1);
    editor().undoOne();
    pick('window');
    shellSelection(8, 'inside');
    expect(volume() - 256 * 16 * 256).toBeCloseTo(64 * 48 * 64 - 48 * 32 * 48, 6);
  });

  test('copies along a line and around a point', () => {
    pick('wall');
    repeatSelection(2, [0, 64, 0]);
    expect([...doc().brushes.values()].map((b) => brushBounds(b).min[1]).sort((a, b) => a - b)).toEqual([
      -16, 0, 64, 128,
    ]);
    editor().undoOne();
    pick('window');
    repeatSelectionAround(3, [0, 0, 0], 90);
    const middles = [...doc().brushes.values()]
      .filter((b) => b.id !== 'wall')
      .map((b) => brushBounds(b))
      .map(({ min, max }) => [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2].map((c) => Math.round(c) + 0).join(' '));
    expect(new Set(middles)).toEqual(new Set(['128 8', '-8 128', '-128 -8', '8 -128']));
  });

  test('align and spread evenly', () => {
    editor().run(
      edited('More', (d) =>
        addBrushes(d, [
          block('far', [400, 0, 0], [432, 16, 16]),
          block('mid', [200, 40, 0], [232, 56, 16]),
          block('near', [0, 80, 0], [32, 96, 16]),
        ]),
      ),
    );
    pick('far', 'mid', 'near');
    alignSelection(1, 'low');
    expect(['far', 'mid', 'near'].map((id) => low(id)[1])).toEqual([0, 0, 0]);
    editor().run(call('pick.move', { picked: { brushes: ['mid'] }, by: [-140, 0, 0] }));
    expect(low('mid')[0]).toBe(60);
    pick('far', 'mid', 'near');
    distributeSelection(0);
    expect(['near', 'mid', 'far'].map((id) => low(id)[0])).toEqual([0, 200, 400]);
  });
});

describe('choosing', () => {
  test('groups are made, picked as one, and undone', () => {
    pick('wall', 'window');
    run('edit.group');
    const [group] = [...doc().groups.keys()];
    expect([...doc().brushes.values()].every((b) => b.group === group)).toBe(true);
    run('edit.ungroup');
    expect([doc().groups.size, [...doc().brushes.values()].some((b) => b.group)]).toEqual([0, false]);
  });

  test('the same material, size or kind; the walls of a room', () => {
    editor().run(
      edited('More', (d) =>
        addBrushes(d, [
          block('twin', [500, 0, 0], [756, 16, 256]),
          block('other', [500, 100, 0], [532, 132, 32], 'slate'),
        ]),
      ),
    );
    pick('wall');
    selectSimilar('material');
    expect(
      thingsOf(editor().selection)
        .map((t) => t.id)
        .sort(),
    ).toEqual(['twin', 'wall']);
    pick('wall');
    selectSimilar('size');
    expect(
      thingsOf(editor().selection)
        .map((t) => t.id)
        .sort(),
    ).toEqual(['twin', 'wall']);
    editor().run(
      edited('Room', (d) =>
        addRoom(
          d,
          {
            footprint: [
              [0, 500],
              [300, 500],
              [300, 800],
              [0, 800],
            ],
            floor: 0,
            ceiling: 250,
            wall: 16,
          },
          DRESS,
          'r',
        ),
      ),
    );
    pick('r');
    selectWalls();
    expect(thingsOf(editor().selection)).toHaveLength(4);
  });

  test('hidden things are neither drawn nor picked; isolate hides the rest; show brings all back', () => {
    pick('wall');
    run('select.hide');
    expect(thingsOf(editor().selection)).toEqual([]);
    expect([...pickable(doc()).brushes.keys()]).toEqual(['window']);
    run('select.show');
    pick('wall');
    run('select.isolate');
    expect([...splitShown(editor()).doc.brushes.keys()]).toEqual(['wall']);
    run('select.show');
    expect(splitShown(editor()).doc).toBe(doc());
  });

  test('a locked layer is drawn but not picked, a hidden one neither; roles and things can be left out', () => {
    editor().run(edited('Layer', (d) => placeEntity(addLayer(d, 'Stores', 'L'), 'spawn', [0, -200, 0], 0, 's')));
    pick('wall');
    layerSelection('L');
    const set = (change: object) =>
      editor().run(edited('Layer', (d) => ({ ...d, layers: new Map([['L', { ...d.layers.get('L')!, ...change }]]) })));
    set({ locked: true });
    expect([pickable(doc()).brushes.has('wall'), splitShown(editor()).doc.brushes.has('wall')]).toEqual([false, true]);
    set({ locked: false, visible: false });
    expect(splitShown(editor()).doc.brushes.has('wall')).toBe(false);
    useDisplay.setState({ hiddenRoles: ['detail'], hideThings: true });
    expect([splitShown(editor()).doc.brushes.size, splitShown(editor()).doc.entities.size]).toEqual([0, 0]);
  });

  test('a draft splits into what stays and what changes', () => {
    editor().preview(edited('Draft', (d) => addBrushes(d, [block('ghost', [0, 100, 0], [16, 116, 16])])));
    const shown = splitShown(editor());
    expect([shown.still.flat().map((b) => b.id), shown.live.map((b) => b.id)]).toEqual([['wall', 'window'], ['ghost']]);
    // The same list as long as the same brushes stand still: what is kept for them holds.
    editor().preview(edited('Draft', (d) => addBrushes(d, [block('ghost', [0, 116, 0], [16, 132, 16])])));
    expect(splitShown(editor()).still).toBe(shown.still);
    editor().preview(null);
  });
});

describe('rooms and views', () => {
  beforeEach(() => {
    editor().load(
      'm',
      1,
      addRoom(
        emptyMap('t'),
        {
          footprint: [
            [0, 0],
            [400, 0],
            [400, 300],
            [0, 300],
          ],
          floor: 0,
          ceiling: 272,
          wall: 16,
        },
        DRESS,
        'r',
      ),
    );
    pick('r');
  });

  test('an opening goes into the wall nearest to the pointer, on the grid, or exactly centred', () => {
    openingAt('r', [130, 6], 'window');
    const [first] = [...doc().openings.values()];
    expect(first).toMatchObject({ side: 0, at: 128, kind: 'window', sill: 96 });
    openingAt('r', [398, 100], 'door', true);
    expect([...doc().openings.values()][1]).toMatchObject({ side: 1, at: 150 });
  });

  test('floors and ceilings go up and down by the grid step', () => {
    raiseSelection('ceiling', 2);
    raiseSelection('floor', -1);
    expect(doc().rooms.get('r')).toMatchObject({ floor: -16, ceiling: 304 });
  });

  test('storeys, the section line and saved views', () => {
    editor().run(
      edited('Room', (d) =>
        addRoom(
          d,
          {
            footprint: [
              [0, 0],
              [400, 0],
              [400, 300],
              [0, 300],
            ],
            floor: 304,
            ceiling: 560,
            wall: 16,
          },
          DRESS,
          'u',
        ),
      ),
    );
    moveStorey(1);
    expect(useCamera.getState()).toMatchObject({ level: 304, cutHeight: 110 });
    turnSection(-90);
    turnSection(180);
    rememberView('Up there');
    goToStorey(0, 90);
    turnSection(180);
    expect(useCamera.getState()).toMatchObject({ level: 0, cutHeight: 90, section: { looks: 0 } });
    recallView([...doc().views.values()][0]!);
    expect(useCamera.getState()).toMatchObject({ level: 304, cutHeight: 110, section: { looks: 180 } });
  });
});
