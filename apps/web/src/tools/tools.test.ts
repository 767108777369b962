/** @jest-environment jsdom */
import { jest } from '@jest/globals';
import { addBrushes, addRoom, brushBounds, brushPlanes, emptyMap, placeEntity } from '@yesca/core';
import { handleAt } from '../geometry/handle-places.ts';
import { toWorld } from '../geometry/projection.ts';
import { shownDocument } from '../state/editor.ts';
import { selectOnly } from '../state/selection.ts';
import { activeTool, chooseTool, pickup } from './index.ts';
import { click, crate, drag, editor, ids, loose, pointer, resetTools, start, view } from './testing.ts';
import { keepWalls } from './keep-walls.ts';

import { typedSizes } from './tool.ts';
import { readLength } from '../fields/arithmetic.ts';
import { useCurrent } from '../state/current.ts';
import { usePlaceOptions } from './place-options.ts';

beforeEach(resetTools);

describe('Pick', () => {
  test('a click selects, Ctrl toggles, Shift adds, a click on nothing clears', () => {
    click(30, 30);
    expect(ids()).toEqual(['a']);
    click(230, 30, { ctrl: true });
    expect(ids()).toEqual(['a', 'b']);
    click(30, 30, { ctrl: true });
    expect(ids()).toEqual(['b']);
    click(30, 30, { shift: true });
    expect(ids()).toEqual(['b', 'a']);
    click(600, 600);
    expect(ids()).toEqual([]);
  });

  test('a click at the same spot goes on to what is behind', () => {
    editor().load('map', 1, addBrushes(start(), [crate('under', [0, 0, -64])]));
    click(30, 31);
    expect(ids()).toEqual(['a']);
    click(30, 31);
    expect(ids()).toEqual(['under']);
    click(30, 31);
    expect(ids()).toEqual(['a']);
  });

  test('a click elsewhere, or after a while, begins with what is in front again', () => {
    const now = jest.spyOn(Date, 'now').mockReturnValue(1e6);
    editor().load('map', 1, addBrushes(start(), [crate('under', [0, 0, -64])]));
    click(30, 31);
    click(40, 40);
    expect(ids()).toEqual(['a']);
    now.mockReturnValue(1e6 + 60_000);
    click(40, 40);
    expect(ids()).toEqual(['a']);
    now.mockReturnValue(1e6 + 60_200);
    click(40, 40);
    expect(ids()).toEqual(['under']);
    now.mockRestore();
  });

  test('dragging the body moves on the grid as one step, shown while dragging', () => {
    click(30, 30);
    activeTool().down(pointer('plan', 30, 30));
    activeTool().move(pointer('plan', 60, 80));
    expect(brushBounds(shownDocument(editor()).brushes.get('a')!).min).toEqual([32, 48, 0]);
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([0, 0, 0]);
    activeTool().up(pointer('plan', 60, 80));
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([32, 48, 0]);
    expect(editor().undo).toHaveLength(1);
  });

  test('Shift keeps a move to one direction; Esc drops it', () => {
    click(30, 30);
    drag([30, 30], [130, 60], { shift: false });
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([96, 32, 0]);
    activeTool().down(pointer('plan', 120, 60));
    activeTool().move(pointer('plan', 300, 300));
    expect(activeTool().cancel()).toBe(true);
    activeTool().up(pointer('plan', 300, 300));
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([96, 32, 0]);
    expect(editor().draft).toBeNull();
  });

  test('Alt-drag leaves the first where it is and selects the copy', () => {
    click(30, 30);
    drag([30, 30], [30, 130], { alt: true });
    expect(loose()).toHaveLength(3);
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([0, 0, 0]);
    expect(ids()).not.toContain('a');
    expect(brushBounds(editor().doc.brushes.get(ids()[0]!)!).min[1]).toBe(96);
  });

  test('Alt-drag with Ctrl lays a row, each copy flush with the last, and picks all of it; one step undoes it', () => {
    click(30, 30);
    const { min, max } = brushBounds(editor().doc.brushes.get('a')!);
    const deep = max[1] - min[1];
    drag([30, 30], [30, 30 + 3.2 * deep], { alt: true, ctrl: true });
    expect(
      ids()
        .map((id) => brushBounds(editor().doc.brushes.get(id)!).min[1])
        .sort((p, q) => p - q),
    ).toEqual([0, 1, 2, 3].map((k) => min[1] + k * deep));
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual(min);
    editor().undoOne();
    expect(loose()).toHaveLength(2);
  });

  test.each([
    [
      [1, 1],
      [96, 112],
      [
        [0, 0, 0],
        [96, 112, 64],
      ],
    ],
    [
      [-1, 0],
      [-32, 5],
      [
        [-32, 0, 0],
        [64, 64, 64],
      ],
    ],
    [
      [0, 1],
      [3, 16],
      [
        [0, 0, 0],
        [64, 16, 64],
      ],
    ],
  ] as const)('the handle %j dragged to %j resizes that side alone', (handle, to, [min, max]) => {
    click(30, 30);
    const [x, y] = handleAt(view('plan'), brushBounds(editor().doc.brushes.get('a')!), handle);
    const at = toWorld(view('plan'), x, y, [0, 0, 0]);
    drag([at[0], at[1]], to);
    expect(brushBounds(editor().doc.brushes.get('a')!)).toEqual({ min, max });
  });

  test('in the Section it moves up, and a side cannot be dragged through the other', () => {
    click(30, 30, {}, 'section');
    expect(ids()).toEqual(['a']);
    drag([30, 30], [30, 62], {}, 'section');
    expect(brushBounds(editor().doc.brushes.get('a')!).min).toEqual([0, 0, 32]);
    drag([32, 96], [32, -200], {}, 'section');
    const { min, max } = brushBounds(editor().doc.brushes.get('a')!);
    expect(max[2] - min[2]).toBe(16);
  });

  test('a marquee takes what it touches, with Alt only what is inside', () => {
    drag([-40, -40], [40, 100]);
    expect(ids()).toEqual(['a']);
    drag([-40, -40], [300, 100]);
    expect(ids()).toEqual(['a', 'b']);
    drag([-40, -40], [230, 100], { alt: true });
    expect(ids()).toEqual(['a']);
  });

  test('Alt-click takes the face under the pointer', () => {
    click(30, 30, { alt: true });
    const [face] = editor().selection.faces;
    const brush = editor().doc.brushes.get('a')!;
    expect(brushPlanes(brush)[brush.faces.findIndex((f) => f.id === face!.face)]!.normal).toEqual([0, 0, 1]);
  });
});

describe('Draw', () => {
  beforeEach(() => chooseTool('draw'));

  test('drag, type, Enter: exactly the sizes typed, standing on the level', () => {
    drag([400, 100], [440, 130]);
    for (const key of '96 64.5 2*20') activeTool().type!(key);
    expect(editor().overlay.typed).toBe('96 64.5 2*20');
    expect(loose()).toHaveLength(2);
    activeTool().commit();
    const made = loose().find((b) => ids().includes(b.id))!;
    expect(brushBounds(made)).toEqual({ min: [400, 96, 0], max: [496, 160.5, 40] });
    expect(made.faces.every((f) => f.material === 'slate')).toBe(true);
  });

  test('stands on what lies under the pointer', () => {
    drag([16, 16], [48, 48]);
    activeTool().commit();
    expect(brushBounds(loose().find((b) => ids().includes(b.id))!).min[2]).toBe(64);
  });

  test('Backspace takes a digit back, Esc drops the ghost and the selection of it', () => {
    drag([400, 96], [480, 160]);
    activeTool().type!('9');
    activeTool().type!('9');
    activeTool().type!('Backspace');
    expect(editor().overlay.typed).toBe('9');
    activeTool().cancel();
    expect([loose().length, editor().draft, ids()]).toEqual([2, null, []]);
    expect(activeTool().commit()).toBe(false);
  });

  test('a new drag keeps the one before; another tool drops it', () => {
    drag([400, 96], [480, 160]);
    drag([600, 96], [680, 160]);
    expect(loose()).toHaveLength(3);
    chooseTool('pick');
    expect([loose().length, editor().draft]).toEqual([3, null]);
  });

  test('in the Section the drag gives width and height', () => {
    drag([400, 16], [480, 96], {}, 'section');
    activeTool().commit();
    const { min, max } = brushBounds(loose().find((b) => ids().includes(b.id))!);
    expect([min[0], max[0], min[2], max[2]]).toEqual([400, 480, 16, 96]);
    expect(min[1]).toBeLessThan(32);
    expect(max[1]).toBeGreaterThan(32);
  });

  test('a drag without area makes nothing', () => {
    drag([400, 96], [480, 98]);
    expect(activeTool().commit()).toBe(false);
    expect(loose()).toHaveLength(2);
  });
});

describe('Room', () => {
  beforeEach(() => chooseTool('room'));
  const rooms = () => [...editor().doc.rooms.values()];

  test('a dragged rectangle with typed sizes', () => {
    drag([400, 400], [480, 480]);
    for (const key of '512 384 300') activeTool().type!(key);
    activeTool().commit();
    expect(rooms()[0]).toMatchObject({
      footprint: [
        [400, 400],
        [912, 400],
        [912, 784],
        [400, 784],
      ],
      floor: 0,
      ceiling: 300,
      wall: 16,
    });
    expect(ids()).toEqual([rooms()[0]!.id]);
  });

  test('corners clicked one by one; Esc takes the last back; closing on the first commits', () => {
    for (const [x, y] of [
      [400, 400],
      [800, 400],
      [900, 900],
      [800, 800],
      [400, 800],
    ] as const) {
      click(x, y);
      if (x === 900) activeTool().cancel();
    }
    click(400, 400);
    expect(rooms()[0]!.footprint).toHaveLength(4);
    expect(editor().overlay).toEqual({});
  });

  test('a crossed footprint is refused and leaves the map as it was', () => {
    const before = editor().doc;
    for (const [x, y] of [
      [400, 400],
      [800, 800],
      [800, 400],
      [400, 800],
    ] as const)
      click(x, y);
    activeTool().commit();
    expect(editor().doc).toBe(before);
  });
});

describe('keeping walls between rooms', () => {
  const room = addRoom(
    emptyMap('t'),
    {
      footprint: [
        [0, 0],
        [256, 0],
        [256, 256],
        [0, 256],
      ],
      floor: 0,
      ceiling: 272,
      wall: 16,
    },
    { floor: 'f', wall: 'w', ceiling: 'c' },
    'r',
  ).rooms;
  const keep = (min: [number, number], max: [number, number], wall = 16) =>
    keepWalls({ min, max }, room.values(), { wall, floor: 0, ceiling: 200 });
  test('a side drawn onto a neighbour’s moves off by the thicker wall', () => {
    expect(keep([256, 0], [512, 256]).min[0]).toBe(272);
    expect(keep([250, 0], [512, 256], 32).min[0]).toBe(288);
    expect(keep([-300, 0], [0, 256]).max[0]).toBe(-16);
    expect(keep([0, 256], [256, 500]).min[1]).toBe(272);
    expect(keep([0, -300], [256, 2]).max[1]).toBe(-16);
  });
  test('sides with room enough, beside it, or on another storey stay', () => {
    expect(keep([300, 0], [512, 256]).min[0]).toBe(300);
    expect(keep([256, 400], [512, 600])).toEqual({ min: [256, 400], max: [512, 600] });
    expect(
      keepWalls({ min: [256, 0], max: [512, 256] }, room.values(), { wall: 16, floor: 400, ceiling: 600 }).min[0],
    ).toBe(256);
  });
});

describe('Paint', () => {
  beforeEach(() => chooseTool('paint'));
  const materials = (id: string) =>
    editor()
      .doc.brushes.get(id)!
      .faces.map((f) => f.material);

  test('a click paints the face seen, Shift the whole brush', () => {
    click(30, 30);
    expect(materials('a').filter((m) => m === 'slate')).toHaveLength(1);
    click(30, 30, { shift: true });
    expect(new Set(materials('a'))).toEqual(new Set(['slate']));
    expect(materials('b')).not.toContain('slate');
  });

  test('a click on one of several selected faces paints them all', () => {
    const refs = ['a', 'b'].map((id) => ({ brush: id, face: 2 }));
    editor().select({ ...selectOnly([]), faces: refs });
    click(30, 30);
    for (const id of ['a', 'b']) expect(materials(id)[1]).toBe('slate');
  });

  test('with I held a click picks up instead', () => {
    pickup.held = true;
    click(30, 30);
    pickup.held = false;
    expect(useCurrent.getState().material).toBe('limewash');
    expect(editor().undo).toEqual([]);
  });
});

describe('Place', () => {
  beforeEach(() => chooseTool('place'));
  const things = () => [...editor().doc.entities.values()];

  test('stands on the surface under the pointer, at its kind’s height', () => {
    click(30, 30);
    expect(things()[0]).toMatchObject({ kind: 'spawn', at: [32, 32, 64] });
    usePlaceOptions.setState({ what: 'pointLight' });
    click(400, 400);
    expect(things().find((e) => e.kind === 'pointLight')!.at).toEqual([400, 400, 200]);
  });

  test('in the Eye it keeps off walls and stands on floors', () => {
    usePlaceOptions.setState({ what: 'pointLight' });
    const base = pointer('plan', 0, 0);
    activeTool().down({ ...base, pane: 'eye', view: undefined, raw: [100, 50, 120], normal: [-1, 0, 0] });
    expect(things()[0]!.at).toEqual([76, 50, 120]);
    activeTool().down({ ...base, pane: 'eye', view: undefined, normal: undefined });
    expect(things()).toHaveLength(1);
  });

  test('an entity can then be picked and moved by its symbol', () => {
    editor().load('map', 1, placeEntity(emptyMap('t'), 'spawn', [64, 64, 0], 0, 's'));
    chooseTool('pick');
    click(66, 62);
    expect(ids()).toEqual(['s']);
    drag([64, 64], [128, 96]);
    expect(editor().doc.entities.get('s')!.at).toEqual([128, 96, 0]);
  });
});

test('typed sizes are read part by part', () => {
  expect(typedSizes(' 600  4m (2+2)*8 ', readLength)).toEqual([600, 400, 32]);
  expect(typedSizes('600 x', readLength)).toEqual([600, null]);
});
