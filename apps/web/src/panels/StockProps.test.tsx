/** @jest-environment jsdom */
import { act, screen, within } from '@testing-library/react';
import { addRoom, emptyMap, modelOf, type Vec3 } from '@yesca/core';
import { PROPS } from '@yesca/stock';
import { useCurrent } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import { useLibrary } from '../state/library.ts';
import { placeProp, turnsPlaced } from '../tools/place.ts';
import { PLACED_PROP, usePlaceOptions } from '../tools/place-options.ts';
import type { PanePointer } from '../tools/tool.ts';
import { StockProps } from './StockProps.tsx';
import { show } from './testing.tsx';

beforeEach(() => {
  useLibrary.getState().setProps(PROPS);
  const room = {
    footprint: [
      [0, 0],
      [400, 0],
      [400, 400],
      [0, 400],
    ] as const,
    floor: 0,
    ceiling: 272,
    wall: 16,
  };
  const dress = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };
  useEditor.getState().load('m', 1, addRoom(emptyMap('t'), room, dress));
  usePlaceOptions.setState({ turn: 0, scale: 1, aligned: false, joins: true });
});

const tiles = () => screen.getAllByRole('button').filter((b) => b.classList.contains('stock-prop'));
const things = () => [...useEditor.getState().doc.entities.values()];
const inEye = (raw: Vec3, normal: Vec3): PanePointer => ({
  pane: 'eye',
  raw,
  snapped: raw,
  hits: [],
  normal,
  x: 0,
  y: 0,
  shift: false,
  ctrl: false,
  alt: false,
});

test('are found by words and tags; what is pressed is placed next', async () => {
  const { user } = show(<StockProps />);
  expect(tiles()).toHaveLength(PROPS.length);
  await user.type(screen.getByLabelText('Search props'), 'lamp');
  expect(tiles().map((t) => t.textContent)).toEqual(
    PROPS.filter((p) => `${p.label} ${p.tags.join(' ')}`.toLowerCase().includes('lamp')).map((p) => p.label),
  );
  await user.click(within(screen.getByRole('group', { name: 'Tags' })).getByText('module'));
  expect(screen.getByText(/No prop is called that/)).toBeTruthy();
  await user.clear(screen.getByLabelText('Search props'));
  await user.click(screen.getByText('Column'));
  expect([useCurrent.getState().tool, usePlaceOptions.getState().what, usePlaceOptions.getState().prop]).toEqual([
    'place',
    PLACED_PROP,
    'column',
  ]);
});

test('stands on the floor, hangs off a wall with its back to it, from a ceiling downwards; a lamp comes with its light; one step undoes it', () => {
  placeProp('crate', inEye([100, 100, 0], [0, 0, 1]));
  expect([things()[0]!.at, things()[0]!.name]).toEqual([[100, 100, 0], 'Crate']);
  // Against a wall a crate stands clear of it.
  placeProp('crate', inEye([0, 200, 40], [1, 0, 0]));
  expect(things()[1]!.at).toEqual([32, 200, 40]);
  placeProp('wall-lamp', inEye([400, 200, 160], [-1, 0, 0]));
  const lamp = things()[2]!;
  expect([lamp.turn, lamp.at[0]]).toEqual([180, 398]);
  expect(things()[3]!.at[0]).toBeLessThan(370);
  placeProp('hanging-lamp', inEye([200, 200, 272], [0, 0, -1]));
  expect(things()[4]!.at).toEqual([200, 200, 272]);
  expect(things()[5]!.at[2]).toBeCloseTo(202, 3);
  useEditor.getState().undoOne();
  expect(things()).toHaveLength(4);
  // Leaning with a slope its upright stands square to it.
  usePlaceOptions.setState({ aligned: true });
  placeProp('barrel', inEye([100, 300, 20], [0, 0.6, 0.8]));
  expect(modelOf(things().at(-1)!)!.up).toEqual([0, 0.6, 0.8]);
});

test('the wheel with Shift turns what is placed next, and nothing else', () => {
  usePlaceOptions.setState({ what: PLACED_PROP, prop: 'bench' });
  useCurrent.setState({ tool: 'place' });
  expect(turnsPlaced({ shiftKey: true, deltaX: 0, deltaY: -100 })).toBe(true);
  expect(turnsPlaced({ shiftKey: true, deltaX: 100, deltaY: 0 })).toBe(true);
  expect(usePlaceOptions.getState().turn).toBe(0);
  turnsPlaced({ shiftKey: true, deltaX: 0, deltaY: 100 });
  expect(usePlaceOptions.getState().turn).toBe(345);
  expect(turnsPlaced({ shiftKey: false, deltaX: 0, deltaY: 100 })).toBe(false);
  useCurrent.setState({ tool: 'pick' });
  expect(turnsPlaced({ shiftKey: true, deltaX: 0, deltaY: 100 })).toBe(false);
});

test('the menu of a tile selects all that stand, and puts it in place of others that are selected', async () => {
  for (const [k, name] of ['crate', 'crate', 'barrel'].entries())
    placeProp(name, inEye([80 + 80 * k, 100, 0], [0, 0, 1]));
  const { user } = show(<StockProps />);
  const menu = async (label: string) => {
    await user.pointer({ keys: '[MouseRight]', target: screen.getByText(label) });
    return screen.findAllByRole('menuitem');
  };
  const [all] = await menu('Crate');
  expect(all!.textContent).toBe('Select all 2 in the map');
  await user.click(all!);
  const [one, two, three] = things().map((t) => t.id);
  expect([...useEditor.getState().selection.entities]).toEqual([one, two]);
  await user.click((await menu('Stool'))[1]!);
  expect(things().map((t) => [t.id, modelOf(t)!.name])).toEqual([
    [one, 'stool'],
    [two, 'stool'],
    [three, 'barrel'],
  ]);
  // What ships is not deleted.
  expect((await menu('Stool')).map((i) => i.textContent)).not.toContain('Delete …');
});

test('packs that are left out of the library are not shown; imported props are found as such', async () => {
  const own = { ...PROPS[0]!, name: 'mine', label: 'My winch', tags: ['harbour'], pack: 'p' };
  useLibrary.getState().setProps([...PROPS, own]);
  const { user } = show(<StockProps />);
  await user.click(within(screen.getByRole('group', { name: 'Tags' })).getByText('imported'));
  expect(tiles().map((t) => t.textContent)).toEqual(['My winch']);
  act(() => useLibrary.getState().togglePack('p'));
  expect(tiles()).toHaveLength(0);
  act(() => useLibrary.getState().togglePack('p'));
});

test('a module joins the one beside it, unless that is switched off', () => {
  placeProp('wall-module', inEye([100, 200, 0], [0, 0, 1]));
  placeProp('wall-module', inEye([217, 206, 0], [0, 0, 1]));
  expect(things()[1]!.at).toEqual([228, 200, 0]);
  usePlaceOptions.setState({ joins: false });
  placeProp('wall-module', inEye([350, 206, 0], [0, 0, 1]));
  expect(things()[2]!.at).toEqual([350, 206, 0]);
});
