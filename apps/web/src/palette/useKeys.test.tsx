/** @jest-environment jsdom */
import { Select, TextInput } from '@mantine/core';
import { fireEvent, screen } from '@testing-library/react';
import { show } from '../panels/testing.tsx';
import { fieldTakes } from './useKeys.ts';

/** Whether a field takes a key that is pressed in it. */
function takes(field: HTMLElement, init: KeyboardEventInit): boolean {
  let taken: boolean | null = null;
  const hear = (event: KeyboardEvent) => void (taken = fieldTakes(event));
  window.addEventListener('keydown', hear, { once: true });
  fireEvent.keyDown(field, init);
  return taken!;
}
const UNDO = { key: 'z', ctrlKey: true };

test('what was chosen in a list is undone by the key, also in one that is searched; while one types it is for the field', async () => {
  const { user } = show(
    <>
      <Select label="Plain" data={['oak', 'slate']} />
      <Select label="Searched" searchable data={['oak', 'slate']} />
      <TextInput label="Words" />
    </>,
  );
  for (const name of ['Plain', 'Searched']) {
    const list = screen.getByRole('combobox', { name });
    await user.click(list);
    expect(takes(list, UNDO)).toBe(true);
    await user.click(screen.getAllByRole('option', { name: 'slate' }).at(name === 'Plain' ? 0 : -1)!);
    expect((list as HTMLInputElement).value).toBe('slate');
    expect(takes(list, UNDO)).toBe(false);
    expect(takes(list, { key: 'Z', ctrlKey: true, shiftKey: true })).toBe(false);
    // Letters search one, and are commands in the other.
    expect(takes(list, { key: 'g' })).toBe(name === 'Searched');
    expect(takes(list, { key: 'ArrowDown' })).toBe(true);
  }
  const words = screen.getByRole('textbox', { name: 'Words' });
  for (const key of [UNDO, { key: 'g' }, { key: 'Escape' }]) expect(takes(words, key)).toBe(true);
  expect(takes(document.body, UNDO)).toBe(false);
});
