/** @jest-environment jsdom */
import { call, partsOf, type Vec3 } from '@yesca/core';
import { selectOnly } from '../state/selection.ts';
import { useDisplay } from '../state/display.ts';
import { splitShown } from '../state/shown.ts';
import { useTrial } from '../state/trial.ts';
import { doorOfSelection, freeSelection, giveSelection, thingOfSelection, triable, tryIt } from '../commands/doors.ts';
import { beginWalk, endTrial, playTrial } from '../scene/trial.ts';
import { drop } from '../panes/drop.ts';
import { KIND_DRAG } from '../state/drag.ts';
import { drag, editor, pointer, resetTools, view } from './testing.ts';
import { pointerTool } from './index.ts';
import { thingHandles } from './thing-handles.ts';
import { useWiring } from './wiring.ts';

const shape = (min: Vec3, max: Vec3) => ({ kind: 'box', box: { min, max }, params: {} }) as const;
const draw = (min: Vec3, max: Vec3): string => {
  const made = editor().run(call('brush.draw', { shape: shape(min, max), material: 'oak-plank', role: 'detail' }))!;
  return [...made.made!.brushes!][0]!;
};
const place = (kind: string, at: Vec3): string =>
  [...editor().run(call('thing.place', { kind, at, material: 'slate' }))!.made!.entities!][0]!;
const thing = (id: string) => editor().doc.entities.get(id)!;
const pick = (...ids: { type: 'entity' | 'brush'; id: string }[]) => editor().select(selectOnly(ids));

beforeEach(() => {
  resetTools();
  endTrial();
  useDisplay.setState({ walking: false });
});

describe('brushes that become a thing', () => {
  test('are its leaves, get company, and are let go, each in one step', () => {
    const [a, b, c] = [0, 1, 2].map((k) => draw([k * 100, 400, 0], [k * 100 + 80, 408, 200]));
    pick({ type: 'brush', id: a! }, { type: 'brush', id: b! });
    doorOfSelection(true);
    const [door] = [...editor().selection.entities];
    expect(partsOf(editor().doc, door!).map((p) => p.map((x) => x.id))).toEqual([[a], [b]]);
    pick({ type: 'entity', id: door! }, { type: 'brush', id: c! });
    giveSelection();
    expect(
      partsOf(editor().doc, door!)[1]!
        .map((x) => x.id)
        .sort(),
    ).toEqual([b, c].sort());
    pick({ type: 'brush', id: c! });
    freeSelection();
    expect(editor().doc.brushes.get(c!)!.owner).toBeUndefined();
    editor().undoOne();
    expect(editor().doc.brushes.get(c!)!.owner).toEqual({ id: door, part: 1 });
    pick({ type: 'brush', id: c! });
    thingOfSelection('zone');
    expect(editor().doc.brushes.get(c!)!.role).toBe('zone');
  });

  test('of a lift are dragged to its stop by the handle in the Section', () => {
    const lift = place('lift', [0, 32, 0]);
    pick({ type: 'entity', id: lift });
    const tip = thingHandles(editor().doc, editor().selection).find((h) => h.handle.id === 'stop 0')!;
    drag([tip.at[0], tip.at[2]], [tip.at[0], tip.at[2] + 64], {}, 'section');
    const [stop] = thing(lift).params.stops as unknown as { at: Vec3 }[];
    expect(stop!.at).toEqual([0, 0, 320]);
  });
});

describe('a wire', () => {
  test('is run by pointing from a thing to another, or to what belongs to it, and dropped by Esc', () => {
    const zone = place('zone', [400, 400, 0]);
    const lift = place('lift', [-400, 400, 0]);
    useWiring.getState().begin(zone, 'cause');
    pointerTool().down(pointer('plan', 900, -900));
    expect(editor().doc.wires.size).toBe(0);
    // The lift's floor, beside its symbol.
    pointerTool().down(pointer('plan', -400 + 50, 400 + 50));
    const [wire] = [...editor().doc.wires.values()];
    expect([wire!.from, wire!.to]).toEqual([
      { thing: zone, signal: 'entered' },
      { thing: lift, action: 'next' },
    ]);
    expect(useWiring.getState().thing).toBeNull();
    // What can do nothing over a wire is not wired.
    const spawn = place('spawn', [0, 700, 0]);
    useWiring.getState().begin(zone, 'cause');
    pointerTool().down(pointer('plan', 0, 700));
    expect(editor().doc.wires.size).toBe(1);
    expect(useWiring.getState().thing).toBe(zone);
    useWiring.getState().end();
    expect(thing(spawn)).toBeTruthy();
  });
});

describe('a wire that is dragged', () => {
  /** The knob beside a thing, on the Plan. */
  const knob = (id: string): [number, number] => {
    const [x, y] = thing(id).at;
    const zoom = view('plan').zoom;
    return [x - 17 / zoom, y - 17 / zoom];
  };
  test('from a thing onto another is that thing’s signal and the other’s action; Esc drops it', () => {
    const zone = place('zone', [400, 400, 0]);
    const lift = place('lift', [-400, 400, 0]);
    pick({ type: 'entity', id: zone });
    pointerTool().down(pointer('plan', ...knob(zone)));
    pointerTool().move(pointer('plan', 0, 900));
    expect(editor().overlay.note).toContain('Esc');
    pointerTool().move(pointer('plan', -400, 400));
    expect(editor().overlay.note).toBe('When a zone is entered, a lift: go on.');
    pointerTool().cancel();
    expect([editor().doc.wires.size, editor().overlay]).toEqual([0, {}]);
    drag(knob(zone), [-400, 400]);
    const [wire] = [...editor().doc.wires.values()];
    expect([wire!.from, wire!.to]).toEqual([
      { thing: zone, signal: 'entered' },
      { thing: lift, action: 'next' },
    ]);
    expect([thing(zone).at, editor().overlay]).toEqual([[400, 400, 0], {}]);
  });

  test('onto nothing, onto itself, or between what takes none, is none', () => {
    const zone = place('zone', [400, 400, 0]);
    const lamp = place('pointLight', [-400, 400, 0]);
    const spawn = place('spawn', [0, 900, 0]);
    pick({ type: 'entity', id: lamp });
    for (const to of [
      [0, 900],
      [900, -900],
      [-400, 400],
    ] as const) {
      drag(knob(lamp), [...to]);
      expect(editor().doc.wires.size).toBe(0);
    }
    drag(knob(lamp), [400, 400]);
    expect([...editor().doc.wires.values()].map((w) => [w.from.thing, w.to.thing])).toEqual([[lamp, zone]]);
    pick({ type: 'entity', id: spawn });
    drag(knob(spawn), [400, 400]);
    expect(editor().doc.wires.size).toBe(1);
  });
});

describe('trying', () => {
  test('moves what is drawn and nothing of the map, and ends by itself or by being told', () => {
    const mover = place('mover', [0, 0, 100]);
    editor().run(
      call('thing.change', {
        things: [mover],
        params: { track: [{ at: 1, move: [0, 0, 90], turn: [0, 0, 0] }], plays: 'once', begins: false },
      }),
    );
    const [slab] = partsOf(editor().doc, mover)[0]!;
    const before = editor().doc;
    pick({ type: 'brush', id: slab!.id });
    expect(triable().map((e) => e.id)).toEqual([mover]);
    tryIt();
    for (let k = 0; k < 12; k++) playTrial(0.1);
    const { doc } = editor();
    const shown = splitShown({ doc, draft: useTrial.getState().doc });
    const top = (b: typeof slab) => Math.max(...b!.vertices.map((v) => v[2]));
    expect(shown.live.map((b) => top(b) - top(slab))).toEqual([90]);
    expect(doc).toBe(before);
    endTrial();
    expect(useTrial.getState()).toMatchObject({ running: false, doc: null });
    // A door that has opened and closed again is done.
    const door = place('door', [600, 0, 0]);
    editor().run(call('thing.change', { things: [door], params: { seconds: 0.2, wait: 0.2 } }));
    pick({ type: 'entity', id: door });
    tryIt();
    for (let k = 0; k < 30 && useTrial.getState().running; k++) playTrial(0.1);
    expect(useTrial.getState().running).toBe(false);
  });

  test('goes on when the map is edited meanwhile, and carries who walks', () => {
    draw([-600, -600, -20], [600, 600, 0]);
    const lift = place('lift', [0, 0, 0]);
    editor().run(call('thing.change', { things: [lift], params: { delay: 0, speed: 200, skirt: false } }));
    beginWalk([0, 0, 164 + 17]);
    let eyes: Vec3 | null = null;
    for (let k = 0; k < 12; k++) eyes = playTrial(0.1)!.eyes;
    expect(eyes![2]).toBeGreaterThan(200);
    draw([400, 400, 0], [420, 420, 20]);
    for (let k = 0; k < 20; k++) eyes = playTrial(0.1)!.eyes;
    expect(eyes![2]).toBeCloseTo(256 + 16 + 164, 0);
  });
});

test('a kind dropped from Stock stands where it was dropped; one turned into another keeps what both have', () => {
  const event = {
    dataTransfer: { getData: (type: string) => (type === KIND_DRAG ? 'zone' : '') },
    preventDefault: () => undefined,
  };
  drop(event as never, pointer('plan', 320, 160));
  const [zone] = [...editor().doc.entities.values()];
  expect([zone!.kind, zone!.at[0], zone!.at[1]]).toEqual(['zone', 320, 160]);
  editor().run(call('thing.change', { things: [zone!.id], params: { price: 7 } }));
  editor().run(call('thing.become', { things: [zone!.id], kind: 'exit' }));
  expect([thing(zone!.id).kind, thing(zone!.id).params.price]).toEqual(['exit', 7]);
  const other = place('exit', [0, 0, 0]);
  editor().run(call('thing.copyParams', { from: zone!.id, things: [other] }));
  expect(thing(other).params.price).toBe(7);
});
