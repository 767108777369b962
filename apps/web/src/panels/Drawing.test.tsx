/** @jest-environment jsdom */
import { act, cleanup, screen, waitFor } from '@testing-library/react';
import { modals } from '@mantine/modals';
import { addRoom, emptyMap, initialValues, DRAWING_OPTIONS, type MapDocument } from '@yesca/core';
import { useDrawingOptions } from '../state/drawing-options.ts';
import { useEditor } from '../state/editor.ts';
import { lastPane } from '../state/last-pane.ts';
import { useHidden } from '../state/shown.ts';
import { openDrawing } from './Drawing.tsx';
import { show } from './testing.tsx';

/** Files that the page made addresses for, by address. */
const made = new Map<string, Blob>();
const saved: { name: string; text: Promise<string> }[] = [];

const textOf = (blob: Blob): Promise<string> =>
  new Promise((done) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.readAsText(blob);
  });

beforeAll(() => {
  URL.createObjectURL = (blob) => {
    const address = `blob:${made.size}`;
    made.set(address, blob as Blob);
    return address;
  };
  URL.revokeObjectURL = () => undefined;
  HTMLAnchorElement.prototype.click = function () {
    saved.push({ name: this.download, text: textOf(made.get(this.href)!) });
  };
});

const footprint = [
  [0, 0],
  [400, 0],
  [400, 300],
  [0, 300],
] as const;
const dress = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };
const oneRoom = (name: string): MapDocument =>
  addRoom(emptyMap(name), { footprint, floor: 0, ceiling: 272, wall: 16, name: 'Hall & <stair>' }, dress, 'r');

function open(doc: MapDocument) {
  useEditor.getState().load('m', 1, doc);
  useDrawingOptions.setState({ options: initialValues(DRAWING_OPTIONS) });
  lastPane.kind = 'plan';
  const { user } = show(<div />);
  act(() => openDrawing());
  return user;
}
const picture = async () => {
  const image = await screen.findByRole('img');
  return decodeURIComponent(image.getAttribute('src')!.replace('data:image/svg+xml,', ''));
};

test('what the Plan or the Section shows is seen beforehand, and saved as a file that is well-formed', async () => {
  const user = open(oneRoom('Sluice “Nord” / 2'));
  expect(await screen.findByText(/Takes \d+ × \d+ mm of paper/)).toBeTruthy();
  expect(await picture()).toContain('Plan, cut at 1.1 m, 1 : 100');
  await user.click(screen.getByLabelText('Section'));
  await waitFor(async () => expect(await picture()).toContain('Section, looking north'));
  await user.click(screen.getByRole('button', { name: 'Save as SVG' }));
  const [{ name, text }] = saved as [(typeof saved)[0]];
  expect(name).toBe('sluice-nord-2-section.svg');
  const xml = new DOMParser().parseFromString(await text, 'image/svg+xml');
  expect(xml.querySelector('parsererror')).toBeNull();
  expect(xml.querySelector('title')?.textContent).toBe('Sluice “Nord” / 2: Section, looking north');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('options change what is seen at once and are kept for the next time, and the map stays as it is', async () => {
  const user = open(oneRoom('Sluice'));
  const xml = async () => new DOMParser().parseFromString(await picture(), 'image/svg+xml');
  expect((await xml()).querySelector('#rooms')?.textContent).toBe('Hall & <stair>');
  await user.click(screen.getByLabelText('Room names'));
  await waitFor(async () => expect((await xml()).querySelector('#rooms')?.textContent).toBe(''));
  await user.clear(screen.getByLabelText('Scale'));
  await user.type(screen.getByLabelText('Scale'), '20{Enter}');
  await waitFor(() => expect(useDrawingOptions.getState().options).toMatchObject({ scale: 20, names: false }));
  expect(useEditor.getState().undo).toEqual([]);
});

test('what is hidden is not drawn; where nothing is left, it says what to do and there is nothing to save', async () => {
  const doc = oneRoom('Sluice');
  const [first] = doc.brushes.keys();
  act(() => useHidden.getState().hide([...doc.brushes.keys()].filter((id) => id !== first)));
  open(doc);
  const xml = new DOMParser().parseFromString(await picture(), 'image/svg+xml');
  expect(xml.querySelectorAll('#beyond path, #cut path').length).toBeLessThan(4);
  cleanup();
  modals.closeAll();
  open(emptyMap('Nothing'));
  expect(await screen.findByText(/^Nothing of the map would be on this drawing\. Draw a room first/)).toBeTruthy();
  expect(screen.getByRole('button', { name: 'Save as SVG' })).toHaveProperty('disabled', true);
  expect(screen.queryByRole('img')).toBeNull();
});
