/** @jest-environment jsdom */
import { screen, waitFor } from '@testing-library/react';
import { paintFaces, type FaceRef } from '@yesca/core';
import { MATERIALS, TEMPLATES } from '@yesca/stock';
import { useCurrent } from '../../state/current.ts';
import { useEditor } from '../../state/editor.ts';
import { useLibrary } from '../../state/library.ts';
import { show } from '../testing.tsx';
import { MaterialLibrary } from './MaterialLibrary.tsx';

const tiles = () => [...document.querySelectorAll<HTMLElement>('[data-material]')].map((e) => e.dataset.material!);
const search = () => screen.getByRole('textbox', { name: 'Search materials' });
const library = () => show(<MaterialLibrary />);

beforeEach(() => {
  globalThis.fetch = (async (url: string) => ({
    ok: true,
    status: 200,
    headers: new Headers({ 'content-type': 'application/json' }),
    json: async () => (url.includes('materials') ? MATERIALS : []),
    text: async () => JSON.stringify(url.includes('materials') ? MATERIALS : []),
  })) as unknown as typeof fetch;
  const room = TEMPLATES.find((t) => t.key === 'one-room')!.make('One');
  const [brush] = [...room.brushes.values()];
  const faces: FaceRef[] = [{ brush: brush!.id, face: brush!.faces[0]!.id }];
  useEditor.getState().load('m', 1, paintFaces(room, faces, 'red-brick'));
  useLibrary.getState().setMaterials(MATERIALS);
  useLibrary.setState({ recent: [], favourites: [], packsOff: [] });
  useCurrent.setState({ material: 'limewash' });
});

test('every material is there; words and tags narrow it down; a click makes one active', async () => {
  const { user } = library();
  await waitFor(() => expect(tiles().length).toBeGreaterThan(20));
  await user.type(search(), 'brick');
  expect(tiles()[0]).toBe('red-brick');
  expect(tiles().length).toBeLessThan(8);
  await user.click(screen.getByRole('button', { name: 'Material Red brick' }));
  expect(useCurrent.getState().material).toBe('red-brick');
  expect(screen.getByRole('button', { name: 'Material Red brick' }).getAttribute('aria-pressed')).toBe('true');
  await user.click(screen.getByRole('button', { name: 'Clear the search' }));
  expect(tiles().length).toBeGreaterThan(20);
});

test('what is used tells on how many faces; what was kept and used last is found again; empty lists say so', async () => {
  const { user } = library();
  await waitFor(() => expect(tiles().length).toBeGreaterThan(20));
  await user.click(screen.getByRole('tab', { name: 'Used' }));
  expect(tiles()).toContain('red-brick');
  expect(tiles()).not.toContain('brass');
  expect(document.querySelector('[data-material=red-brick] .swatch-count')!.textContent).toBe('1');
  await user.click(screen.getByRole('tab', { name: 'Kept' }));
  expect(tiles()).toEqual([]);
  expect(document.querySelector('.library')!.textContent).toMatch(/favourite|Kept|kept/);
  await user.click(screen.getByRole('tab', { name: 'All' }));
  await waitFor(() => expect(tiles()).toContain('limewash'));
  await user.pointer({ keys: '[MouseRight]', target: document.querySelector('[data-material=limewash]')! });
  await user.click(await screen.findByRole('menuitem', { name: /favourite/i }));
  await user.click(screen.getByRole('tab', { name: 'Kept' }));
  expect(tiles()).toEqual(['limewash']);
});

test('arrows go from picture to picture', async () => {
  const { user } = library();
  await waitFor(() => expect(tiles().length).toBeGreaterThan(20));
  const [first, second] = tiles();
  document.querySelector<HTMLElement>(`[data-material=${first}]`)!.focus();
  await user.keyboard('{ArrowRight}');
  await waitFor(() => expect((document.activeElement as HTMLElement).dataset.material).toBe(second));
});
