import {
  addRoom,
  boxOf,
  emptyMap,
  openDoorway,
  placeEntity,
  windingArea,
  type MapDocument,
  type Sight,
} from '@yesca/core';
import { sheetView, type SheetView } from '../geometry/projection.ts';
import { cellFaces, cellSection } from '../geometry/cell-shape.ts';
import { sight } from '../workers/sight.ts';
import { cellAt, scaleOf, STEPS, useSight, whyLine, whySeen } from './sight.ts';

const DRESS = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };
const CONTROL = { signal: { aborted: false }, progress: () => undefined };

/** Two rooms with a doorway between them. */
function rooms(): MapDocument {
  const room = (x: number, w: number) => ({
    footprint: [
      [x, 32],
      [x + w, 32],
      [x + w, 416],
      [x, 416],
    ] as [number, number][],
    floor: 0,
    ceiling: 272,
    wall: 16,
  });
  let doc = addRoom(emptyMap('Two'), room(32, 512), DRESS, 'a');
  doc = addRoom(doc, room(560, 384), DRESS, 'b');
  return placeEntity(openDoorway(doc, 'a', 'b', { width: 112, height: 208, sill: 0 }), 'spawn', [100, 100, 0]);
}

const NOTHING = { materials: new Map(), props: new Map() };

let shown: Sight;
beforeAll(async () => {
  shown = (await sight().answer(rooms(), NOTHING, CONTROL))!;
});

test('the helper says nothing of a map that is open', async () => {
  const doc = rooms();
  const [, ...rest] = [...doc.brushes];
  expect(await sight().answer({ ...doc, brushes: new Map(rest) }, NOTHING, CONTROL)).toBeNull();
});

describe('the drawing of cells', () => {
  test('on the Plan a room is its floor, in a Section its wall; a cut above its ceiling meets nothing', () => {
    const frame = (level: number) => ({
      centre: [0, 0, 0] as const,
      zoom: 1,
      level,
      cutHeight: 100,
      section: { at: [100, 100] as const, looks: 90 },
    });
    const room = cellAt(shown, [100, 100, 50]);
    const cut = ({ away, cut }: SheetView) => ({ normal: away, distance: cut });
    const plan = boxOf(cellSection(shown, room, cut(sheetView('plan', frame(0), 800, 600)))!);
    expect([plan.min.slice(0, 2), plan.max.slice(0, 2)]).toEqual([
      [32, 32],
      [544, 416],
    ]);
    const section = boxOf(cellSection(shown, room, cut(sheetView('section', frame(0), 800, 600)))!);
    expect([section.min[0], section.max[0], section.min[2], section.max[2]]).toEqual([32, 544, 0, 272]);
    expect(cellSection(shown, room, cut(sheetView('plan', frame(300), 800, 600)))).toBeNull();
  });

  test('a room has six faces, as large as its walls, floor and ceiling', () => {
    const faces = cellFaces(shown, cellAt(shown, [100, 100, 50]));
    const areas = faces.map((w) => Math.round(windingArea(w))).sort((a, b) => a - b);
    const [w, d, h] = [512, 384, 272];
    expect(areas).toEqual([d * h, d * h, w * h, w * h, w * d, w * d]);
  });

  test('the scale runs in even steps from the least to the most', () => {
    const { low, high, step, from } = scaleOf(shown, 'cellTriangles');
    expect([step(low), step(high)]).toEqual([0, STEPS - 1]);
    expect(from(STEPS)).toBe(high);
    // Where all are alike there is one step.
    const even = scaleOf({ ...shown, cellSeen: new Uint32Array([3, 3, 3]) }, 'cellSeen');
    expect([even.low, even.high, even.step(3)]).toEqual([3, 3, 0]);
  });
});

describe('why a point is seen from another', () => {
  const ask = (pin: [number, number, number] | null, goal: [number, number, number]) =>
    whySeen({ sight: shown, pin, goal });

  test('in one cell, through the doorway, and where there is nothing to ask', () => {
    expect(ask([100, 100, 50], [300, 300, 50])).toEqual({ answer: 'same' });
    const through = ask([100, 100, 50], [700, 300, 50]);
    expect(through).toMatchObject({ answer: 'yes' });
    expect(through?.answer === 'yes' && through.portals).toHaveLength(2);
    expect(ask(null, [300, 300, 50])).toBeNull();
    expect(ask([100, 100, 50], [5000, 0, 0])).toBeNull();
  });

  test('what is hidden has no line, and what is not proven says so', () => {
    const [a, b] = [
      [100, 100, 50],
      [700, 300, 50],
    ] as [[number, number, number], [number, number, number]];
    const blind = { ...shown, pvsWords: shown.pvsWords.map((_, c) => 1 << c) };
    expect(whySeen({ sight: blind, pin: a, goal: b })).toEqual({ answer: 'no' });
    const unproven = { ...shown, witnessPair: new Uint32Array(0), witnessLine: new Float32Array(0) };
    expect(whySeen({ sight: unproven, pin: a, goal: b })).toEqual({ answer: 'unproven' });
    expect(whyLine({ ...useSight.getState(), sight: unproven, pin: a, goal: b })).toBeNull();
  });
});
