/** @jest-environment jsdom */
import { addRoom, boxSolid, call, emptyMap, modelOf, type PropFacts } from '@yesca/core';
import type { Prop } from '@yesca/stock';
import { useCurrent } from '../state/current.ts';
import { useLibrary } from '../state/library.ts';
import { NOTHING } from '../state/selection.ts';
import { useWork } from '../state/work.ts';
import { crate, drag, editor, pointer, resetTools } from './testing.ts';
import { STREWN, usePlaceOptions } from './place-options.ts';
import { pointerTool } from './index.ts';

const facts: PropFacts = {
  name: 'stones',
  label: 'Stones',
  bounds: { min: [-10, -10, 0], max: [10, 10, 10] },
  triangles: 12,
  collision: 'box',
  hulls: [boxSolid({ min: [-10, -10, 0], max: [10, 10, 10] })],
  substance: 'stone',
  lights: [],
};
const strewn = () => [...editor().doc.entities.values()].filter((e) => modelOf(e));
const shown = () => [...(editor().draft ?? editor().doc).entities.values()].filter((e) => modelOf(e)).length;

beforeEach(() => {
  resetTools();
  useLibrary.setState({ props: new Map([['stones', facts as Prop]]) });
  const outline = [[0, 0], [800, 0], [800, 600], [0, 600]] as const; // prettier-ignore
  const spec = { name: 'Hall', footprint: outline, floor: 0, ceiling: 300, wall: 16 };
  editor().load('map', 1, addRoom(emptyMap('t'), spec as never, { floor: 'a', wall: 'b', ceiling: 'c' }));
  useCurrent.setState({ tool: 'place' });
  usePlaceOptions.setState({ what: STREWN, prop: 'stones', radius: 120, spacing: 40, density: 1, spread: 0 });
});

test('a drag strews props on the floor along its way, seen while it goes on, as one step', () => {
  pointerTool().down(pointer('plan', 200, 300));
  const first = shown();
  expect(first).toBeGreaterThan(3);
  pointerTool().move(pointer('plan', 320, 300));
  pointerTool().move(pointer('plan', 440, 300));
  expect(shown()).toBeGreaterThan(first);
  expect(editor().overlay.lines).toHaveLength(1);
  expect(editor().overlay.note).toBe(`${shown()} strewn`);
  expect(strewn()).toHaveLength(0);
  const seen = shown();
  pointerTool().up(pointer('plan', 440, 300));
  expect(strewn()).toHaveLength(seen);
  for (const { at } of strewn()) {
    expect(at[2]).toBe(0);
    expect(Math.abs(at[1] - 300)).toBeLessThanOrEqual(120);
  }
  editor().undoOne();
  expect(strewn()).toHaveLength(0);
});

test('with Shift those of its kind within the brush are taken away, Esc drops the stroke', () => {
  drag([200, 300], [500, 300]);
  const before = strewn();
  pointerTool().down(pointer('plan', 200, 300, { shift: true }));
  expect(shown()).toBeLessThan(before.length);
  expect(editor().overlay.lines![0]!.ink).toBe('ember');
  expect(pointerTool().cancel()).toBe(true);
  expect(shown()).toBe(before.length);
  pointerTool().down(pointer('plan', 200, 300, { shift: true }));
  pointerTool().up(pointer('plan', 200, 300, { shift: true }));
  const left = strewn();
  expect(left.length).toBeLessThan(before.length);
  for (const { at } of left) expect(Math.hypot(at[0] - 200, at[1] - 300)).toBeGreaterThan(120);
  // Going over it fills the gap again.
  drag([200, 300], [210, 300]);
  expect(strewn().length).toBeGreaterThan(left.length);
});

test('what is selected stays, and a brush that hovers is shown and changes nothing', () => {
  editor().load('map', 1, {
    ...editor().doc,
    brushes: new Map([...editor().doc.brushes, ['k', crate('k', [600, 400, 0])]]),
  });
  editor().select({ ...editor().selection, brushes: new Set(['k']) });
  pointerTool().move(pointer('plan', 200, 200));
  expect(editor().overlay.lines).toHaveLength(1);
  expect(strewn()).toHaveLength(0);
  drag([200, 300], [260, 300]);
  expect([...editor().selection.brushes]).toEqual(['k']);
  // On top of what stands there it lies on that.
  drag([632, 432], [632, 433]);
  expect(strewn().some((e) => e.at[2] === 64)).toBe(true);
});

test('a prop that is dragged near another one lies flush with it, by their boxes', () => {
  useWork.setState({ snap: false });
  const place = (at: readonly [number, number, number]) => call('prop.place', { props: [{ model: 'stones', at }] });
  const [still, one] = [place([300, 300, 0]), place([420, 300, 0])].map(
    (c) => editor().run(c)!.made!.entities![0]!,
  ) as [string, string];
  useCurrent.setState({ tool: 'pick' });
  editor().select({ ...NOTHING, entities: new Set([one]) });
  drag([420, 300], [323, 304]);
  // Beside it by the width of both, in line with its middle.
  expect(editor().doc.entities.get(one)!.at).toEqual([320, 300, 0]);
  expect(editor().doc.entities.get(still)!.at).toEqual([300, 300, 0]);
});
