/** @jest-environment jsdom */
import { fireEvent, screen } from '@testing-library/react';
import { addRoom, decalOf, emptyMap, placeDecals, type Decal } from '@yesca/core';
import { MATERIALS } from '@yesca/stock';
import { useEditor } from '../../state/editor.ts';
import { materialFacts, useLibrary } from '../../state/library.ts';
import { NOTHING } from '../../state/selection.ts';
import { Particulars } from '../Particulars.tsx';
import { show } from '../testing.tsx';

let id = '';
beforeEach(() => {
  useLibrary.getState().setMaterials(MATERIALS);
  const footprint = [[0, 0], [400, 0], [400, 400], [0, 400]] as const; // prettier-ignore
  const room = { footprint, floor: 0, ceiling: 272, wall: 16 };
  const empty = addRoom(emptyMap('t'), room, { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' });
  const wish = { material: 'stains', region: 'oil spill', at: [200, 200, 0], normal: [0, 0, 1] } as const;
  const { doc, made } = placeDecals(empty, [wish], materialFacts);
  id = made.entities[0]!;
  useEditor.getState().load('m', 1, doc);
  useEditor.getState().select({ ...NOTHING, entities: new Set([id]) });
});

const decal = (): Decal => decalOf(useEditor.getState().doc.entities.get(id)!)!;
const sheet = () => {
  const element = screen.getByRole('application');
  element.getBoundingClientRect = () => ({ left: 100, top: 50, width: 200, height: 100 }) as DOMRect;
  element.setPointerCapture = () => undefined;
  return element;
};
const press = (x: number, y: number, to?: readonly [number, number]) => {
  const element = sheet();
  // The page of these tests knows no places of pointers but those of mice.
  const send = (type: string, [px, py]: readonly [number, number]) =>
    fireEvent(element, new MouseEvent(type, { bubbles: true, clientX: 100 + px, clientY: 50 + py }));
  send('pointerdown', [x, y]);
  if (to) send('pointermove', to);
  send('pointerup', to ?? [x, y]);
};

test('a rectangle that is dragged on its picture is what is left of it; the whole picture comes back', async () => {
  const { user } = show(<Particulars />);
  press(20, 10, [120, 60]);
  expect(decal().outline).toEqual([
    [0.1, 0.4],
    [0.6, 0.4],
    [0.6, 0.9],
    [0.1, 0.9],
  ]);
  // A mere click cuts nothing away.
  press(50, 50, [52, 51]);
  expect(decal().outline[0]).toEqual([0.1, 0.4]);
  await user.click(screen.getByText('Whole picture'));
  expect(decal().outline).toEqual([]);
  expect(screen.queryByText('Whole picture')).toBeNull();
});

test('an outline is clicked corner by corner and closed by Enter; one that runs across itself is refused', async () => {
  const { user } = show(<Particulars />);
  await user.click(screen.getByText('Cut an outline'));
  for (const [x, y] of [[20, 20], [180, 20], [100, 90]] as const) press(x, y); // prettier-ignore
  fireEvent.keyDown(sheet(), { key: 'Enter' });
  expect(decal().outline).toEqual([
    [0.1, 0.8],
    [0.9, 0.8],
    [0.5, 0.1],
  ]);
  for (const [x, y] of [[20, 20], [180, 80], [180, 20], [20, 80]] as const) press(x, y); // prettier-ignore
  fireEvent.keyDown(sheet(), { key: 'Enter' });
  expect(decal().outline).toHaveLength(3);
});

test('corners are moved, added and removed by keys, each keeps its tint, and one is faded', async () => {
  const { user } = show(<Particulars />);
  const corner = (n: number) => screen.getByLabelText(new RegExp(`^Corner ${n}:`));
  fireEvent.keyDown(corner(2), { key: 'ArrowLeft' });
  expect(decal().outline[1]).toEqual([0.99, 0]);
  fireEvent.focus(corner(3));
  const own = screen.getByLabelText('Its opacity');
  await user.clear(own);
  await user.type(own, '25{Enter}');
  expect(decal().inks.map((i) => i.opacity)).toEqual([1, 1, 0.25, 1]);
  fireEvent.keyDown(corner(2), { key: 'Insert' });
  expect(decal().outline[2]).toEqual([0.995, 0.5]);
  expect(decal().inks.map((i) => i.opacity)).toEqual([1, 1, 0.625, 0.25, 1]);
  fireEvent.keyDown(corner(3), { key: 'Delete' });
  expect(decal().inks.map((i) => i.opacity)).toEqual([1, 1, 0.25, 1]);
  expect(decal().outline).toHaveLength(4);
});
