/** @jest-environment jsdom */
import { screen, within } from '@testing-library/react';
import { addRoom, decalOf, emptyMap, type Vec3 } from '@yesca/core';
import { MATERIALS } from '@yesca/stock';
import { useCurrent } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import { useLibrary } from '../state/library.ts';
import { NOTHING } from '../state/selection.ts';
import { decalsHeld, layCall, placeDecal } from '../tools/decals.ts';
import { PLACED_DECAL, usePlaceOptions } from '../tools/place-options.ts';
import { pickTool } from '../tools/pick/tool.ts';
import type { PanePointer } from '../tools/tool.ts';
import { Particulars } from './Particulars.tsx';
import { StockDecals } from './StockDecals.tsx';
import { show } from './testing.tsx';

beforeEach(() => {
  useLibrary.getState().setMaterials(MATERIALS);
  const footprint = [[0, 0], [400, 0], [400, 400], [0, 400]] as const; // prettier-ignore
  const dress = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };
  useEditor.getState().load('m', 1, addRoom(emptyMap('t'), { footprint, floor: 0, ceiling: 272, wall: 16 }, dress));
  usePlaceOptions.setState({ turn: 0, scale: 1, rounds: true });
});

const tiles = () => screen.getAllByRole('button').filter((b) => b.classList.contains('stock-prop'));
const decals = () => [...useEditor.getState().doc.entities.values()].filter((e) => decalOf(e));
const inEye = (raw: Vec3, normal: Vec3 | undefined, more: Partial<PanePointer> = {}): PanePointer => ({
  pane: 'eye',
  raw,
  snapped: raw,
  hits: [],
  ...(normal ? { normal } : {}),
  x: 0,
  y: 0,
  shift: false,
  ctrl: false,
  alt: false,
  ...more,
});
const SIGN = { material: 'stencil-marks', region: 'quay sign' };
const EAST: Vec3 = [-1, 0, 0];

test('every region of a sheet of decals is a tile; found by words, and what is pressed is placed next', async () => {
  const { user } = show(<StockDecals />);
  const regions = MATERIALS.filter((m) => m.tags.includes('decal')).flatMap((m) => m.regions ?? []);
  expect(regions.length).toBeGreaterThanOrEqual(24);
  expect(tiles()).toHaveLength(regions.length);
  await user.type(screen.getByLabelText('Search decals'), 'crack');
  expect(tiles().map((t) => t.textContent)).toContain('forked crack');
  await user.click(within(screen.getByRole('group', { name: 'Sheets' })).getByText('Stains and growth'));
  expect(screen.getByText(/No decal is called that/)).toBeTruthy();
  await user.clear(screen.getByLabelText('Search decals'));
  await user.click(screen.getByText('moss patch'));
  const { what, picture, region } = usePlaceOptions.getState();
  expect([useCurrent.getState().tool, what, picture, region]).toEqual(['place', PLACED_DECAL, 'stains', 'moss patch']);
});

test('on a wall it lies upright at its natural size; beside a corner round it, as deep as it is wide', () => {
  placeDecal(SIGN, inEye([400, 200, 120], EAST));
  const first = decalOf(decals()[0]!)!;
  expect([first.at, first.across, first.upward, first.through]).toEqual([
    [400, 200, 120],
    [0, -128, 0],
    [0, 0, 40],
    [-32, 0, 0],
  ]);
  placeDecal(SIGN, inEye([400, 392, 120], EAST));
  const round = decalOf(decals()[1]!)!;
  const s = 128 / Math.SQRT2;
  expect(round.at.map(Math.round)).toEqual([400, 400, 120]);
  [-s, -s, 0].forEach((c, k) => expect(round.through[k]).toBeCloseTo(c, 2));
  usePlaceOptions.setState({ rounds: false });
  placeDecal(SIGN, inEye([400, 392, 120], EAST));
  expect(decalOf(decals()[2]!)!.through).toEqual([-32, 0, 0]);
});

test('held decals are laid from wall to floor by dragging, previewed, put back by Esc, and one undo brings it back', () => {
  placeDecal(SIGN, inEye([400, 200, 120], EAST));
  const [sign] = decals();
  const { select } = useEditor.getState();
  select({ ...NOTHING, entities: new Set([sign!.id]) });
  expect(decalsHeld(sign!.id)).toEqual([sign!.id]);
  const tool = pickTool();
  const hits = [{ thing: { type: 'entity' as const, id: sign!.id }, face: -1 }];
  const drag = (to: PanePointer) => {
    tool.down(inEye([400, 200, 120], EAST, { hits }));
    tool.move(to);
  };
  const floor = inEye([200, 150, 0], [0, 0, 1], { x: 80, y: 60 });
  drag(floor);
  const shown = () => decalOf(useEditor.getState().draft!.entities.get(sign!.id)!)!;
  expect([shown().at, shown().through, shown().across]).toEqual([
    [200, 150, 0],
    [0, 0, 32],
    [0, -128, 0],
  ]);
  tool.cancel();
  expect([useEditor.getState().draft, decalOf(decals()[0]!)!.at]).toEqual([null, [400, 200, 120]]);
  drag(floor);
  tool.up(floor);
  expect(decalOf(decals()[0]!)!.at).toEqual([200, 150, 0]);
  useEditor.getState().undoOne();
  expect(decalOf(decals()[0]!)!.at).toEqual([400, 200, 120]);
  // With Alt a copy is laid, and it stays.
  tool.down(inEye([400, 200, 120], EAST, { hits, alt: true }));
  tool.move(floor);
  tool.up(floor);
  expect(decals().map((d) => decalOf(d)!.at)).toEqual([
    [400, 200, 120],
    [200, 150, 0],
  ]);
  useEditor.getState().undoOne();
  expect(decals()).toHaveLength(1);
  // Over nothing it stays where it is.
  const away = inEye([0, 0, 0], undefined, { x: 80, y: 60 });
  expect(layCall([sign!.id], away)).toBeNull();
  drag(away);
  tool.up(away);
  expect(decalOf(decals()[0]!)!.at).toEqual([400, 200, 120]);
});

test('its size and turn are typed, it is flipped and made as large as its picture, all at once for several', async () => {
  placeDecal(SIGN, inEye([400, 200, 120], EAST));
  placeDecal(SIGN, inEye([200, 200, 0], [0, 0, 1]));
  const ids = decals().map((d) => d.id);
  useEditor.getState().select({ ...NOTHING, entities: new Set(ids) });
  const { user } = show(<Particulars />);
  const type = async (label: string, text: string) => {
    const field = screen.getByLabelText(label);
    await user.clear(field);
    await user.type(field, `${text}{Enter}`);
  };
  await type('Width', '64');
  await type('Turn', '90');
  const all = () => decals().map((d) => decalOf(d)!);
  expect(all().map((d) => d.across)).toEqual([
    [0, 0, 64],
    [0, 64, 0],
  ]);
  await user.click(screen.getByText('Flip'));
  expect(all()[0]!.across.map((c) => c + 0)).toEqual([0, 0, -64]);
  await user.click(screen.getByText('Natural size'));
  expect(all().map((d) => Math.hypot(...d.across))).toEqual([128, 128]);
  for (let k = 0; k < 4; k++) useEditor.getState().undoOne();
  expect(all()[0]!.across).toEqual([0, -128, 0]);
});
