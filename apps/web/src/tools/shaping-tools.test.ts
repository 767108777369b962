/** @jest-environment jsdom */
import {
  addBrushes,
  addRoom,
  boxSolid,
  brushBounds,
  brushPlanes,
  brushVolume,
  dressSolid,
  emptyMap,
  findFlaw,
  rotation,
  transformPicked,
  solidOf,
  worldOfMap,
  type Brush,
  type MapDocument,
} from '@yesca/core';
import { commandById } from '../palette/commands.ts';
import { handleAt } from '../geometry/handle-places.ts';
import { toWorld } from '../geometry/projection.ts';
import { transformBox } from '../geometry/own-axes.ts';
import { feetBelow, playedFrom, playOn, walkInput } from '../scene/walker.ts';
import { selectOnly } from '../state/selection.ts';
import type { Saving } from '../state/hint-saving.ts';
import { hintTool } from './hint.ts';
import { activeTool, chooseTool } from './index.ts';
import { angleAt, describe as measured } from './measure.ts';
import { useReshape, useReshapeOptions } from './reshape.ts';
import { click, drag, editor, ids, loose, pointer, resetTools, view } from './testing.ts';
import { edited } from '../state/testing.ts';
import { useCurrent } from '../state/current.ts';
import { usePickOptions } from './pick/options.ts';

const pick = (...brushes: string[]) => editor().select(selectOnly(brushes.map((id) => ({ type: 'brush', id }))));
const volumes = (list: readonly Brush[] = loose()) => list.map(brushVolume).sort((a, b) => a - b);
/** A corridor along the Plan, 128 wide and 256 high. */
const hallway = (): MapDocument =>
  addRoom(
    emptyMap('t'),
    {
      footprint: [
        [0, 0],
        [1024, 0],
        [1024, 128],
        [0, 128],
      ],
      floor: 0,
      ceiling: 256,
      wall: 16,
    },
    { floor: 'slate', wall: 'slate', ceiling: 'slate' },
    'hallway',
  );
const valid = () => loose().forEach((b) => expect(findFlaw(solidOf(b))).toBeNull());

beforeEach(() => {
  resetTools();
  useReshape.getState().choose([]);
});

describe('Cut', () => {
  beforeEach(() => {
    pick('a');
    chooseTool('cut');
  });

  test('choosing the tool keeps the selection; a line across it cuts in two, and the halves add up', () => {
    expect(ids()).toEqual(['a']);
    drag([-16, 16], [80, 16]);
    expect(loose()).toHaveLength(2);
    activeTool().commit();
    expect(volumes()).toEqual([64 * 64 * 16, 64 * 64 * 48, 64 ** 3]);
    valid();
  });

  test('a click on a half drops it, a second click brings it back', () => {
    drag([-16, 16], [80, 16]);
    click(32, 4);
    activeTool().commit();
    expect(volumes()).toEqual([64 * 64 * 48, 64 ** 3]);
    editor().undoOne();
    pick('a');
    drag([-16, 16], [80, 16]);
    click(32, 4);
    click(32, 4);
    activeTool().commit();
    expect(loose()).toHaveLength(3);
  });

  test('an end is dragged before Enter; a typed angle turns the line about its first end', () => {
    drag([0, 0], [80, 32]);
    drag([80, 32], [64, 64]);
    activeTool().commit();
    expect(volumes()[0]).toBeCloseTo(64 ** 3 / 2, 6);
    editor().undoOne();
    pick('a');
    drag([0, 0], [80, 32]);
    for (const key of '45') activeTool().type!(key);
    activeTool().commit();
    expect(volumes()[0]).toBeCloseTo(64 ** 3 / 2, 6);
  });

  test('the Section cuts alike; Esc drops the line; a line that misses says so and changes nothing', () => {
    drag([-16, 32], [80, 32], {}, 'section');
    activeTool().commit();
    expect(volumes()).toEqual([64 ** 3 / 2, 64 ** 3 / 2, 64 ** 3]);
    const before = editor().doc;
    drag([-16, 16], [80, 16]);
    activeTool().cancel();
    expect([editor().doc, editor().draft, editor().overlay]).toEqual([before, null, {}]);
    drag([-16, 500], [80, 500]);
    expect(editor().overlay.note).toMatch(/none of the selected/);
    activeTool().commit();
    expect(editor().doc).toBe(before);
  });
});

type Place = readonly [number, number];

describe('Hint', () => {
  const asked: Brush[] = [];
  let tell: (saving: Saving) => void = () => undefined;
  const tool = hintTool((told) => {
    tell = told;
    return { ask: (hint) => asked.push(hint), stop: () => undefined };
  });
  const line = (from: Place, to: Place, ...more: Place[]) => {
    tool.down(pointer('plan', ...from));
    for (const p of [to, ...more]) tool.move(pointer('plan', ...p));
    tool.up(pointer('plan', ...(more.at(-1) ?? to)));
  };
  const hints = () => loose().filter((b) => b.role === 'hint');
  beforeEach(() => {
    asked.length = 0;
    editor().load('map', 1, hallway());
  });

  test('a line across a corridor becomes a hint from wall to wall and floor to ceiling; what it saves is told meanwhile', () => {
    line([200, 10], [200, 60], [200, 110]);
    // Asked at every movement, shown and not yet placed.
    expect(asked.length).toBeGreaterThanOrEqual(2);
    expect(hints()).toEqual([]);
    expect(editor().draft?.brushes.size).toBe(editor().doc.brushes.size + 1);
    expect(editor().overlay.note).toMatch(/Trying it/);
    tell({ before: 1813, after: 1360 });
    expect(editor().overlay.note).toMatch(/Saves 25 %: 1,813 → 1,360/);
    tell({ before: 1813, after: 1813 });
    expect(editor().overlay.note).toMatch(/Saves nothing/);
    tell('open');
    expect(editor().overlay.note).toMatch(/The map is open/);
    tool.commit();
    expect(brushBounds(hints()[0]!)).toEqual({ min: [206, -1, -1], max: [210, 129, 257] });
    editor().undoOne();
    expect(hints()).toEqual([]);
  });

  test('an end is dragged, another line is drawn in its place, an angle is typed; Esc leaves nothing', () => {
    line([200, 10], [200, 110]);
    line([200, 110], [240, 110]);
    line([400, 10], [400, 110]);
    for (const key of '90') tool.type!(key);
    tool.commit();
    expect(brushBounds(hints()[0]!).min[0]).toBe(398);
    const { doc } = editor();
    line([300, 10], [300, 110]);
    expect(tool.cancel()).toBe(true);
    expect([editor().doc, editor().draft, editor().overlay]).toEqual([doc, null, {}]);
  });

  test('where nothing closes the place it says so and places nothing', () => {
    line([2000, 10], [2000, 110]);
    expect(editor().overlay.note).toMatch(/Draw the line inside a room/);
    expect(tool.commit()).toBe(false);
    expect(hints()).toEqual([]);
  });
});

describe('Reshape', () => {
  beforeEach(() => {
    pick('a');
    chooseTool('reshape');
  });

  test('a corner on the Plan is a column of two; dragging it keeps the brush a solid of the right volume', () => {
    drag([64, 64], [96, 96]);
    const a = editor().doc.brushes.get('a')!;
    expect(a.vertices.filter((v) => v[0] === 96 && v[1] === 96)).toHaveLength(2);
    // The base is a square with one corner drawn out: by the shoelace formula 64·64 + 64·32.
    expect(brushVolume(a)).toBeCloseTo((64 * 64 + 64 * 32) * 64, 6);
    expect(useReshape.getState().chosen.size).toBe(2);
  });

  test('a marquee takes what is inside; a typed distance holds; undo is one step', () => {
    drag([-16, 48], [80, 80]);
    expect(useReshape.getState().chosen.size).toBe(4);
    activeTool().down(pointer('plan', 64, 64));
    activeTool().move(pointer('plan', 64, 80));
    for (const key of '32') activeTool().type!(key);
    activeTool().commit();
    expect(brushBounds(editor().doc.brushes.get('a')!).max).toEqual([64, 96, 64]);
    editor().undoOne();
    expect(brushBounds(editor().doc.brushes.get('a')!).max).toEqual([64, 64, 64]);
  });

  test('a face slides along its normal, and with Alt a new brush is pulled out of it in the same material', () => {
    useReshapeOptions.setState({ handles: 'faces' });
    drag([64, 32], [96, 60]);
    expect(brushBounds(editor().doc.brushes.get('a')!)).toEqual({ min: [0, 0, 0], max: [96, 64, 64] });
    drag([96, 32], [128, 32], { alt: true });
    const made = loose().find((b) => !['a', 'b'].includes(b.id))!;
    expect(brushBounds(made)).toEqual({ min: [96, 0, 0], max: [128, 64, 64] });
    expect(new Set(made.faces.map((f) => f.material))).toEqual(new Set(['limewash']));
    expect(ids()).toEqual([made.id]);
  });

  test('a corner dragged inward says what will happen; with Split the concave shape comes in convex parts', () => {
    useReshapeOptions.setState({ split: true });
    drag([64, 64], [16, 16]);
    valid();
    const parts = loose().filter((b) => b.id !== 'b');
    // The base is the polygon 0 0, 64 0, 16 16, 0 64: by the shoelace formula 64 · 16.
    expect(parts.length).toBeGreaterThan(1);
    expect(volumes(parts).reduce((a, b) => a + b)).toBeCloseTo(64 * 16 * 64, 4);
    editor().undoOne();
    pick('a');
    useReshapeOptions.setState({ split: false });
    activeTool().down(pointer('plan', 64, 64));
    activeTool().move(pointer('plan', 48, 48));
    activeTool().move(pointer('plan', 16, 16));
    expect(editor().overlay.note).toMatch(/Concave/);
    activeTool().cancel();
    expect(brushVolume(editor().doc.brushes.get('a')!)).toBe(64 ** 3);
  });
});

describe('Reshape of a room', () => {
  const room = () => [...editor().doc.rooms.values()][0]!;
  const corners = () => room().footprint.map((p) => p.join(' '));

  beforeEach(() => {
    editor().run(
      edited('Room', (d) =>
        addRoom(
          d,
          {
            footprint: [
              [400, 0],
              [800, 0],
              [800, 320],
              [400, 320],
            ],
            floor: 0,
            ceiling: 272,
            wall: 16,
          },
          { floor: 'f', wall: 'w', ceiling: 'c' },
          'r',
        ),
      ),
    );
    editor().select(selectOnly([{ type: 'room', id: 'r' }]));
    chooseTool('reshape');
  });

  test('a corner is dragged, a side slides along its normal, and the room stays a room', () => {
    drag([800, 320], [864, 384]);
    expect(corners()).toContain('864 384');
    drag([400, 160], [368, 190]);
    expect(corners().slice().sort()).toEqual(['368 0', '368 320', '800 0', '864 384']);
    expect(room().released).toBeUndefined();
    // Floor and ceiling are those of the outline: by the shoelace formula.
    const floor = [...editor().doc.brushes.values()].filter((b) => b.room?.part.kind === 'floor');
    expect(floor.length).toBeGreaterThan(0);
    valid();
  });

  test('Alt-drag puts a new corner into a side: a niche; dragged back onto the line it goes', () => {
    drag([600, 0], [600, -96], { alt: true });
    expect(corners()).toContain('600 -96');
    expect(room().footprint).toHaveLength(5);
    drag([600, -96], [600, 0]);
    expect(room().footprint).toHaveLength(4);
    editor().undoOne();
    editor().undoOne();
    expect(room().footprint).toHaveLength(4);
  });

  test('an outline that would cross itself is refused with a note, and nothing changes', () => {
    const before = editor().doc;
    activeTool().down(pointer('plan', 800, 320));
    activeTool().move(pointer('plan', 500, 200));
    activeTool().move(pointer('plan', 304, -96));
    expect(editor().overlay.note).toMatch(/cross itself/);
    activeTool().up(pointer('plan', 304, -96));
    expect(editor().doc).toBe(before);
  });
});

describe('Pick', () => {
  test('the knob turns by the angle step, the tabs skew, keep slopes moves only the faces on that side', () => {
    pick('a');
    chooseTool('pick');
    // The knob lies 26 px above the middle of the top side; zoom is 1.
    drag([32, 64 + 26], [32 + 58, 32]);
    const turned = editor().doc.brushes.get('a')!;
    expect(brushVolume(turned)).toBeCloseTo(64 ** 3, 6);
    expect(brushPlanes(turned).map((p) => p.normal.map((c) => Math.round(c * 1e6) / 1e6 + 0))).toContainEqual([
      1, 0, 0,
    ]);
    editor().undoOne();
    pick('a');
    drag([32, -18], [32 + 32, -18]);
    const skewed = editor().doc.brushes.get('a')!;
    expect(brushBounds(skewed)).toEqual({ min: [0, 0, 0], max: [96, 64, 64] });
    expect(brushVolume(skewed)).toBeCloseTo(64 ** 3, 6);
    // Its east face leans; with slopes kept only the faces at the far end move on.
    usePickOptions.setState({ resize: 'slopes' });
    pick('a');
    const before = brushPlanes(skewed);
    drag([96, 32], [128, 32]);
    const wider = editor().doc.brushes.get('a')!;
    expect(brushBounds(wider).max[0]).toBeCloseTo(128, 6);
    for (const { normal } of before)
      expect(brushPlanes(wider).some((p) => p.normal.every((c, i) => Math.abs(c - normal[i]!) < 1e-9))).toBe(true);
  });
});

describe('turning and pulling', () => {
  test('turns go round the point that was set, else round the middle', () => {
    pick('a');
    useCurrent.setState({ pivot: [128, 0, 0] });
    commandById('edit.turnLeft').run();
    // A quarter turn left about (128, 0) takes (0…64, 0…64) to (64…128, −128…−64).
    expect(brushBounds(editor().doc.brushes.get('a')!)).toEqual({ min: [64, -128, 0], max: [128, -64, 64] });
    commandById('view.pivot').run();
    commandById('edit.turnLeft').run();
    expect(brushBounds(editor().doc.brushes.get('a')!)).toEqual({ min: [64, -128, 0], max: [128, -64, 64] });
  });

  test('a face is pulled out tapered: a frustum of the volume that geometry gives it', () => {
    pick('a');
    chooseTool('reshape');
    useReshapeOptions.setState({ handles: 'faces', taper: 0.5 });
    drag([64, 32], [96, 32], { alt: true });
    const made = loose().find((b) => !['a', 'b'].includes(b.id))!;
    const [base, far] = [64 * 64, 32 * 32];
    expect(brushVolume(made)).toBeCloseTo((32 / 3) * (base + far + Math.sqrt(base * far)), 6);
    useReshapeOptions.setState({ taper: 1 });
  });
});

describe('own axes', () => {
  test('a turned brush is made longer along itself: it stays a box, and its width stays', () => {
    pick('a');
    editor().run(
      edited('Turn', (d) => transformPicked(d, { brushes: new Set(['a']) }, rotation(2, 30, [32, 32, 0]), true)),
    );
    chooseTool('pick');
    usePickOptions.setState({ axes: 'own' });
    const { box, turn } = transformBox(editor().doc, { brushes: new Set(['a']) }, true)!;
    expect(turn).toBeCloseTo(30, 9);
    expect(box.max[0] - box.min[0]).toBeCloseTo(64, 9);
    const v = view('plan');
    const [x, y] = handleAt(v, box, [1, 0], turn);
    const at = toWorld(v, x, y, [0, 0, 0]);
    const [c, s] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)];
    drag([at[0], at[1]], [at[0] + 32 * c, at[1] + 32 * s]);
    const longer = editor().doc.brushes.get('a')!;
    expect(brushVolume(longer)).toBeCloseTo(96 * 64 * 64, 4);
    const after = transformBox(editor().doc, { brushes: new Set(['a']) }, true)!;
    expect([0, 1, 2].map((i) => Math.round((after.box.max[i]! - after.box.min[i]!) * 1e6) / 1e6)).toEqual([96, 64, 64]);
    usePickOptions.setState({ axes: 'world' });
  });
});

describe('Measure', () => {
  test('lengths, angles and areas are those of geometry', () => {
    expect(angleAt([10, 0, 0], [0, 0, 0], [0, 5, 0])).toBeCloseTo(90, 9);
    expect(angleAt([1, 0, 0], [0, 0, 0], [1, 1, 0])).toBeCloseTo(45, 9);
    const { doc } = editor();
    expect(
      measured(
        doc,
        [
          [0, 0, 0],
          [300, 400, 0],
        ],
        false,
      ),
    ).toMatch(/^500 cm \(east 300, north 400, up 0\)/);
    expect(
      measured(
        doc,
        [
          [0, 0, 0],
          [300, 0, 0],
          [300, 400, 0],
        ],
        true,
      ),
    ).toMatch(/^Area 6 m² · angle 90°/);
    expect(
      measured(
        { ...doc, settings: { ...doc.settings, module: 128 } },
        [
          [0, 0, 0],
          [256, 0, 0],
        ],
        false,
      ),
    ).toMatch(/^256 · 2m cm/);
  });

  test('a drag measures once, clicks go on, Enter closes the area, Esc takes all away', () => {
    chooseTool('measure');
    drag([400, 0], [400, 304]);
    expect(editor().overlay.lines).toHaveLength(1);
    expect(editor().overlay.note).toMatch(/^304 cm/);
    activeTool().cancel();
    expect(editor().overlay).toEqual({});
    for (const [x, y] of [
      [400, 0],
      [496, 0],
      [496, 96],
      [400, 96],
    ] as const)
      click(x, y);
    activeTool().commit();
    expect(editor().overlay.lines).toHaveLength(4);
    expect(editor().overlay.note).toMatch(/^Area 0\.92 m²/);
  });
});

describe('walking in the Eye', () => {
  const floor = dressSolid(boxSolid({ min: [-1000, -1000, -16], max: [1000, 1000, 0] }), 'floor', 'm');
  const wall = dressSolid(boxSolid({ min: [200, -1000, 0], max: [216, 1000, 300] }), 'wall', 'm');

  test('one falls to the floor, stands with the eyes at their height, and does not go through walls', () => {
    editor().run(edited('Floor', (d) => addBrushes(d, [floor, wall])));
    const played = playedFrom(worldOfMap(editor().doc), feetBelow([0, -200, 220]), 0);
    const go = (keys: string[], seconds: number) => {
      let out = playOn(played, walkInput(new Set(), 0, 0), 0);
      for (let t = 0; t < seconds; t += 0.05) out = playOn(played, walkInput(new Set(keys), 0, 0), 0.05);
      return { ...out, eyes: out.eyes! };
    };
    const landed = go([], 1.5);
    expect(landed.eyes[2]).toBeCloseTo(164, 0);
    expect(landed.moving).toBe(false);
    // Yaw 0 looks east: the wall's west face lies 200 east, the body is 20 wide to each side.
    expect(go(['KeyW'], 3).eyes[0]).toBeCloseTo(180, 0);
    expect(go(['KeyC'], 0.5).eyes[2]).toBeCloseTo(100, 0);
  });

  test('on nothing one stops falling some day', () => {
    const played = playedFrom(worldOfMap(editor().doc), feetBelow([5000, 5000, 0]), 0);
    let out = playOn(played, walkInput(new Set(), 0, 0), 0.1);
    for (let i = 0; i < 2000 && out.moving; i++) out = playOn(played, walkInput(new Set(), 0, 0), 0.1);
    expect(out.moving).toBe(false);
  });
});
