/** @jest-environment jsdom */
import { act, screen, within } from '@testing-library/react';
import { emptyMap, entityKind } from '@yesca/core';
import { useCurrent } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import { useKinds } from '../state/kinds.ts';
import { placeThing } from '../tools/place.ts';
import { usePlaceOptions } from '../tools/place-options.ts';
import { StockThings } from './StockThings.tsx';
import { show } from './testing.tsx';

const group = (name: string) => screen.queryByRole('group', { name });
const names = (name: string) =>
  within(group(name)!)
    .getAllByRole('button')
    .map((b) => b.textContent);

beforeEach(() => {
  useKinds.setState({ recent: [], favourites: [] });
  useEditor.getState().load('m', 1, emptyMap('t'));
});

test('kinds stand under their heads; what is typed leaves those that it finds', async () => {
  const { user } = show(<StockThings />);
  expect(names('What moves')).toEqual(expect.arrayContaining(['Door', 'Lift', 'Mover']));
  expect([group('Kept'), group('Used last')]).toEqual([null, null]);
  await user.type(screen.getByLabelText('Search things'), 'zone');
  expect(group('Light')).toBeNull();
  expect(names('Regions')).toContain('Zone');
  await user.type(screen.getByLabelText('Search things'), 'xyz');
  expect(screen.getByText('Nothing is called that.')).toBeTruthy();
});

test('one that is pressed is placed next; what was placed last and what is kept come first', async () => {
  const { user } = show(<StockThings />);
  await user.click(within(group('What moves')!).getByText('Lift'));
  expect([useCurrent.getState().tool, usePlaceOptions.getState().what]).toEqual(['place', 'lift']);
  act(() => {
    for (const kind of ['spawn', 'sun', 'lift', 'sun', 'door', 'zone']) placeThing(entityKind(kind)!, [0, 0, 100]);
  });
  expect((await screen.findByRole('group', { name: 'Used last' })).textContent).toBe('Used lastZoneDoorSunLift');
  await user.pointer({ keys: '[MouseRight]', target: within(group('Light')!).getByText('Sun') });
  await user.click(await screen.findByRole('menuitem', { name: 'Keep as favourite' }));
  expect(names('Kept')).toEqual(['Sun']);
  expect(names('Used last')).toEqual(['Zone', 'Door', 'Lift']);
  await user.pointer({ keys: '[MouseRight]', target: within(group('Kept')!).getByText('Sun') });
  await user.click(await screen.findByRole('menuitem', { name: 'No longer keep as favourite' }));
  expect(group('Kept')).toBeNull();
});
