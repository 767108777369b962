/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import { useState } from 'react';
import {
  ENTITY_KINDS,
  initialValues,
  type Keyframe,
  params,
  SETTINGS,
  SHAPES,
  shownParams,
  type ParamSpecs,
  type ParamValue,
} from '@yesca/core';
import { emptyMap } from '@yesca/core';
import { useEditor } from '../../state/editor.ts';
import { show } from '../testing.tsx';
import { ParamPanel } from './ParamPanel.tsx';

type Values = Readonly<Record<string, ParamValue | undefined>>;

const SPECS = {
  reach: params.length(64, { label: 'Reach', help: 'How far it goes', min: 8, max: 512 }),
  turns: params.integer(2, { label: 'Turns', help: 'How often', min: 0, max: 9 }),
  open: params.yesNo(false, { label: 'Open', help: 'Whether it is' }),
  way: params.choice(['slide', 'swing'], 'slide', { label: 'Way', help: 'How it moves', names: { swing: 'Swings' } }),
  tint: params.color('#ffcc88', { label: 'Tint', help: 'Its colour' }),
  words: params.text('', { label: 'Words', help: 'What is said', longest: 12 }),
  story: params.text('', { label: 'Story', help: 'What is told', lines: true }),
  swing: params.angle(90, { label: 'Swing', help: 'How wide', shownWhen: (v) => v.way === 'swing' }),
  where: params.way([0, 0, 0], { label: 'Where to', help: 'From the thing' }),
  aim: params.reference('thing', { label: 'Aim', help: 'What it looks at' }),
  limit: params.length(0, { label: 'Limit', help: 'Where it ends', none: 'nowhere' }),
} satisfies ParamSpecs;

/** The panel over some things, whose values follow what is set. */
function Trial({ first, onSet }: { first: readonly Values[]; onSet?: (key: string, value: unknown) => void }) {
  const [values, setValues] = useState(first);
  return (
    <ParamPanel
      specs={SPECS}
      values={values}
      choices={() => [{ value: 'lamp-1', label: 'Lamp' }]}
      onChange={(key, value) => {
        onSet?.(key, value);
        setValues((all) => all.map((v) => ({ ...v, [key]: value })));
      }}
    />
  );
}

const all = (change: Values = {}): Values => ({ ...initialValues(SPECS), ...change });
/** By its label: asking by role looks at the whole page each time. */
const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name, { selector: 'input, textarea' });

beforeEach(() => useEditor.getState().load('m', 1, emptyMap('t')));

test('shows what several things share, and says where they differ; what is typed is set for all', async () => {
  const set: unknown[] = [];
  const { user } = show(
    <Trial first={[all({ reach: 32, turns: 3 }), all({ reach: 48, turns: 3 })]} onSet={(...a) => set.push(a)} />,
  );
  expect([field('Reach').value, field('Reach').placeholder]).toEqual(['', 'mixed']);
  expect(field('Turns').value).toBe('3');
  await user.type(field('Reach'), '2*48{Enter}');
  expect(set).toEqual([['reach', 96]]);
  expect(field('Reach').value).toBe('96');
});

test('what is out of range or no number is refused with the sentence of files and commands, and nothing is set', async () => {
  const set: unknown[] = [];
  const { user } = show(<Trial first={[all()]} onSet={(...a) => set.push(a)} />);
  await user.clear(field('Reach'));
  await user.type(field('Reach'), '9000{Enter}');
  expect(await screen.findByText('Reach must be at most 512 cm.')).toBeTruthy();
  expect(field('Reach').value).toBe('64');
  await user.clear(field('Reach'));
  await user.type(field('Reach'), 'far{Enter}');
  expect(await screen.findByText('Reach: type a number or a sum.')).toBeTruthy();
  await user.clear(field('Words'));
  await user.type(field('Words'), 'far too many of them{Enter}');
  expect(await screen.findByText('Words must have at most 12 characters.')).toBeTruthy();
  expect(set).toEqual([]);
});

test('whole numbers stay whole, texts stay texts, and Esc drops what was typed', async () => {
  const set: unknown[] = [];
  const { user } = show(<Trial first={[all()]} onSet={(...a) => set.push(a)} />);
  await user.clear(field('Turns'));
  await user.type(field('Turns'), '3.6{Enter}');
  await user.type(field('Words'), '12{Enter}');
  await user.type(field('Story'), 'one{Enter}two');
  await user.tab();
  await user.type(field('Words'), ' and more{Escape}');
  expect(set).toEqual([
    ['turns', 4],
    ['words', '12'],
    ['story', 'one\ntwo'],
  ]);
  expect(field('Words').value).toBe('12');
});

test('a value that is not the usual one goes back to it; one that may be left out is emptied', async () => {
  const { user } = show(<Trial first={[all({ reach: 100, tint: '#112233', limit: 40 })]} />);
  await user.click(screen.getByRole('button', { name: 'Reach: back to 64 cm' }));
  expect(field('Reach').value).toBe('64');
  expect(screen.queryByRole('button', { name: 'Reach: back to 64 cm' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Tint: back to #ffcc88' }));
  expect(field('Tint').value).toBe('#ffcc88');
  await user.clear(field('Limit'));
  await user.tab();
  expect([field('Limit').value, field('Limit').placeholder]).toEqual(['', 'nowhere']);
});

test('what does not matter beside the other values is not shown', async () => {
  const { user } = show(<Trial first={[all()]} />);
  expect(screen.queryByRole('textbox', { name: 'Swing' })).toBeNull();
  await user.click(screen.getByRole('combobox', { name: 'Way' }));
  await user.click(await screen.findByRole('option', { name: 'Swings' }));
  expect(field('Swing').value).toBe('90');
});

test('a switch says when things differ, a vector changes one number, a reference names what there is and what is gone', async () => {
  const set: unknown[] = [];
  const { user } = show(
    <Trial first={[all({ open: true, aim: 'gone-1' }), all({ aim: 'gone-1' })]} onSet={(...a) => set.push(a)} />,
  );
  await user.click(screen.getByRole('switch', { name: 'Open (mixed)' }));
  const [, y] = within(screen.getByText('Where to').parentElement!).getAllByRole('textbox');
  await user.clear(y!);
  await user.type(y!, '-16{Enter}');
  const aim = screen.getByRole<HTMLInputElement>('combobox', { name: 'Aim' });
  expect(aim.value).toBe('gone-1 (gone)');
  await user.click(aim);
  await user.clear(aim);
  await user.click(await screen.findByRole('option', { name: 'Lamp' }));
  expect(set).toEqual([
    ['open', true],
    ['where', [0, -16, 0]],
    ['aim', 'lamp-1'],
  ]);
});

test('Tab goes through the fields in the order of their list', async () => {
  const { user } = show(<Trial first={[all()]} />);
  const seen: string[] = [];
  for (let i = 0; i < 30; i++) {
    await user.tab();
    const key = document.activeElement?.closest('.param')?.querySelector('label, .field-title')?.textContent;
    if (key && seen.at(-1) !== key) seen.push(key);
  }
  expect(seen.slice(0, 10)).toEqual(
    ['Reach', 'Turns', 'Open', 'Way', 'Tint', 'Words', 'Story', 'Where to', 'Aim', 'Limit'].slice(0, 10),
  );
});

test('keyframes are added, set by numbers, kept in the order of time, and removed', async () => {
  const specs = { way: params.keyframes({ label: 'Way', help: 'Where it goes' }) } satisfies ParamSpecs;
  let set: readonly Keyframe[] = [];
  function Way() {
    const [values, setValues] = useState<Values>({ way: [] });
    return (
      <ParamPanel
        specs={specs}
        values={[values]}
        onChange={(key, value) => {
          set = (value ?? []) as readonly Keyframe[];
          setValues({ [key]: value });
        }}
      />
    );
  }
  const { user } = show(<Way />);
  const add = () => user.click(screen.getByRole('button', { name: 'Add a keyframe' }));
  const type = async (row: number, name: string, text: string) => {
    const input = within(screen.getByRole('group', { name: `Way ${row}` })).getByRole('textbox', { name });
    await user.clear(input);
    await user.type(input, `${text}{Enter}`);
  };
  for (let i = 0; i < 3; i++) await add();
  await type(2, 'Move Z', '2*64');
  await type(3, 'Turn Z', '90');
  expect(set).toEqual([
    { at: 0, move: [0, 0, 0], turn: [0, 0, 0] },
    { at: 1, move: [0, 0, 128], turn: [0, 0, 0] },
    { at: 2, move: [0, 0, 0], turn: [0, 0, 90] },
  ]);
  await type(3, 'At', '0.5');
  expect(set.map((k) => [k.at, k.turn[2]])).toEqual([
    [0, 0],
    [0.5, 90],
    [1, 0],
  ]);
  // Two at one time are refused in the sentence that files get.
  await type(2, 'At', '1');
  expect(await screen.findByText('The keyframes of Way must follow one another in time.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Remove keyframe 1' }));
  expect(set.map((k) => k.at)).toEqual([0.5, 1]);
  await user.click(screen.getByRole('button', { name: 'Way: back to none' }));
  expect(set).toEqual([]);
});

const DECLARED: readonly (readonly [string, ParamSpecs])[] = [
  ...ENTITY_KINDS.map((k) => [k.kind, k.params] as const),
  ...SHAPES.map((s) => [s.kind, s.params] as const),
  ['map', SETTINGS],
];
test.each(DECLARED)('each parameter of %s has a control that is called as it is', (_, specs) => {
  show(<ParamPanel specs={specs} values={[initialValues(specs)]} onChange={() => undefined} choices={() => []} />);
  const shown = shownParams(specs, initialValues(specs));
  for (const [, spec] of shown)
    expect(
      spec.type === 'vector' ? screen.getByText(spec.label) : screen.getAllByLabelText(spec.label)[0],
    ).toBeTruthy();
  const outer = [...document.querySelectorAll('.param')].filter((p) => !p.parentElement?.closest('.param'));
  expect(outer).toHaveLength(shown.length);
});
