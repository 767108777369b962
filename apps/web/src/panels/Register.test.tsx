/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import {
  addBrushes,
  addLayer,
  boxSolid,
  groupPicked,
  dressSolid,
  emptyMap,
  placeEntity,
  type MapDocument,
} from '@yesca/core';
import { TEMPLATES } from '@yesca/stock';
import { useCamera } from '../state/camera.ts';
import { useEditor } from '../state/editor.ts';
import { thingsOf } from '../state/selection.ts';
import { Register } from './Register.tsx';
import { show } from './testing.tsx';

const editor = () => useEditor.getState();
const selected = () => thingsOf(editor().selection).map((t) => t.id);
const row = (name: string | RegExp) =>
  screen.queryByText(name, { selector: '.row-label' })?.closest<HTMLElement>('button') ?? screen.getByLabelText(name);

function furnished(): MapDocument {
  const room = TEMPLATES.find((t) => t.key === 'two-rooms')!.make('Two');
  const crate = (id: string, x: number) =>
    dressSolid(boxSolid({ min: [x, 0, 0], max: [x + 32, 32, 32] }), id, 'oak-plank', { role: 'detail' });
  const doc = placeEntity(addBrushes(room, [crate('c1', -300), crate('c2', -200)]), 'spawn', [-300, 50, 0], 0, 'sp');
  return { ...doc, entities: new Map(doc.entities).set('sp', { ...doc.entities.get('sp')!, name: 'Landing' }) };
}

beforeEach(() => {
  editor().load('m', 1, furnished());
  editor().select({ ...editor().selection, brushes: new Set(), rooms: new Set(), entities: new Set() });
});

test('an empty map says how to begin', () => {
  editor().load('m', 1, emptyMap('t'));
  show(<Register />);
  expect(screen.getByText(/Press R and drag on the Plan/)).toBeTruthy();
});

test('lists what there is by kind, selects by a click, adds with Ctrl, and finds by name', async () => {
  const { user } = show(<Register />);
  const rooms = [...editor().doc.rooms.values()];
  expect(screen.getByText(`Rooms · ${rooms.length}`)).toBeTruthy();
  expect(screen.getByText('Brushes · 2')).toBeTruthy();
  await user.click(row('Landing'));
  expect(selected()).toEqual(['sp']);
  expect(row('Landing').dataset.active).toBe('true');
  await user.keyboard('{Control>}');
  await user.click(row(rooms[0]!.name));
  await user.keyboard('{/Control}');
  expect(new Set(selected())).toEqual(new Set(['sp', rooms[0]!.id]));
  await user.type(screen.getByRole('textbox', { name: 'Search the map' }), 'land');
  expect(screen.queryByText('Brushes · 2')).toBeNull();
  expect(row('Landing')).toBeTruthy();
  await user.type(screen.getByRole('textbox', { name: 'Search the map' }), 'ghetti');
  expect(screen.getByText('Nothing is called that.')).toBeTruthy();
  // What is typed there is no shortcut, and changes nothing.
  expect(new Set(selected())).toEqual(new Set(['sp', rooms[0]!.id]));
});

test('a double click on a room or a thing goes there', async () => {
  const { user } = show(<Register />);
  const room = [...editor().doc.rooms.values()][1]!;
  useCamera.setState({ centre: [9000, 9000, 0] });
  await user.dblClick(row(room.name));
  const [x, y] = useCamera.getState().centre;
  const xs = room.footprint.map((p) => p[0]);
  const ys = room.footprint.map((p) => p[1]);
  expect(x).toBeCloseTo((Math.min(...xs) + Math.max(...xs)) / 2, 0);
  expect(y).toBeCloseTo((Math.min(...ys) + Math.max(...ys)) / 2, 0);
  await user.dblClick(row('Landing'));
  expect(useCamera.getState().centre.slice(0, 2)).toEqual([-300, 50]);
});

test('layers are hidden, locked, renamed and removed where they stand, each as one step of undo', async () => {
  editor().load('m', 1, addLayer(furnished(), 'Crates', 'L'));
  const { user } = show(<Register />);
  const layer = () => editor().doc.layers.get('L');
  await user.click(row('Hide Crates'));
  expect(layer()!.visible).toBe(false);
  await user.click(row('Lock Crates'));
  expect(layer()!.locked).toBe(true);
  await user.click(row('Rename Crates'));
  const name = await screen.findByRole('textbox', { name: /Name/ });
  await user.clear(name);
  await user.type(name, 'Cargo{Enter}');
  expect(layer()!.name).toBe('Cargo');
  await user.click(row('Remove Cargo'));
  expect(layer()).toBeUndefined();
  expect(editor().undo).toHaveLength(4);
  editor().undoOne();
  expect(layer()!.name).toBe('Cargo');
});

test('a group tells how many it holds and stands for its members', async () => {
  editor().load('m', 1, groupPicked(furnished(), { brushes: new Set(['c1', 'c2']) }, 'Pile', 'G'));
  const { user } = show(<Register />);
  expect(row(/Pile/).textContent).toMatch(/2$/);
  expect(screen.queryByText('Brushes · 2')).toBeNull();
  await user.click(row(/Pile/));
  expect(editor().selection.brushes).toEqual(new Set(['c1', 'c2']));
});
