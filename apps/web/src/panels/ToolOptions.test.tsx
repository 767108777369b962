/** @jest-environment jsdom */
import { screen } from '@testing-library/react';
import { emptyMap, paramFlaw, shownParams, type ParamValue, type ParamValues } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { NOTHING } from '../state/selection.ts';
import { useWork } from '../state/work.ts';
import { TOOLS, toolNamed } from '../tools/index.ts';
import { useDrawOptions } from '../tools/draw.ts';
import { usePlaceOptions } from '../tools/place-options.ts';
import { useReshapeOptions } from '../tools/reshape.ts';
import { useRoomOptions } from '../tools/room.ts';
import { ToolOptions } from './ToolOptions.tsx';
import { show } from './testing.tsx';

/** By its label: asking by role looks at the whole page each time. */
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name, { selector: 'input, textarea' });

beforeEach(() => {
  useEditor.getState().load('m', 1, emptyMap('t'));
  useWork.setState(useWork.getInitialState());
  useDrawOptions.setState(useDrawOptions.getInitialState());
  useReshapeOptions.setState(useReshapeOptions.getInitialState());
  useRoomOptions.setState(useRoomOptions.getInitialState());
  usePlaceOptions.setState(usePlaceOptions.getInitialState());
});

test.each(TOOLS.map((tool) => [tool.name, tool] as const))('%s tells each of its options, in range', (_, tool) => {
  show(<ToolOptions tool={tool} />);
  const groups = tool.options.filter((g) => g.when?.(NOTHING) ?? true).map((g) => g.now());
  const shown = groups.flatMap(({ specs, values }) => shownParams(specs, values as ParamValues));
  expect(document.querySelectorAll('.param')).toHaveLength(shown.length);
  for (const { specs, values } of groups)
    for (const [key, spec] of Object.entries(specs)) expect(paramFlaw(spec, values[key] as ParamValue)).toBeNull();
  for (const [, spec] of shown) expect([spec.label.length > 0, spec.help.length > 0]).toEqual([true, true]);
});

test('tools have names, keys and words of their own', () => {
  for (const word of ['name', 'key', 'label', 'hint'] as const)
    expect(new Set(TOOLS.map((t) => t[word])).size).toBe(TOOLS.length);
  expect(TOOLS.every((t) => t.hint.endsWith('.'))).toBe(true);
  expect(toolNamed('nothing of the kind')).toBe(TOOLS[0]);
});

test('what is set goes to the tool; what does not fit is refused', async () => {
  const { user } = show(<ToolOptions tool={toolNamed('room')} />);
  await user.clear(field('Walls'));
  await user.type(field('Walls'), '2*12{Enter}');
  await user.click(screen.getByText('Pit'));
  await user.clear(field('Height'));
  await user.type(field('Height'), '3{Enter}');
  expect(useRoomOptions.getState()).toMatchObject({ wall: 24, inset: 'pit', height: 272 });
  expect(await screen.findByText('Height must be at least 8 cm.')).toBeTruthy();
  await user.click(screen.getByText('Pillar'));
  expect(screen.queryByRole('textbox', { name: 'Rise or depth' })).toBeNull();
});

test('the shape that is drawn brings its own options along, kept for each', async () => {
  const { user } = show(<ToolOptions tool={toolNamed('draw')} />);
  const choose = async (label: string) => {
    await user.click(screen.getByRole('combobox', { name: 'Shape' }));
    await user.click(await screen.findByRole('option', { name: label }));
  };
  await choose('Cylinder');
  await user.clear(field('Sides'));
  await user.type(field('Sides'), '9{Enter}');
  await choose('Box');
  expect(screen.queryByRole('textbox', { name: 'Sides' })).toBeNull();
  await choose('Cylinder');
  expect(field('Sides').value).toBe('9');
});

test('a natural size stands for none, and what moves along is asked of rooms only', async () => {
  usePlaceOptions.setState({ what: 'sheet' });
  const { user, again } = show(<ToolOptions tool={toolNamed('place')} />);
  expect([field('Width').value, field('Width').placeholder]).toEqual(['', 'natural']);
  await user.type(field('Width'), '120{Enter}');
  expect(usePlaceOptions.getState().width).toBe(120);
  await user.clear(field('Width'));
  await user.tab();
  expect(usePlaceOptions.getState().width).toBe(0);
  again(<ToolOptions tool={toolNamed('pick')} />);
  expect(screen.queryByRole('switch', { name: 'Neighbours' })).toBeNull();
});
