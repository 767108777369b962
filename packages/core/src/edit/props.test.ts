import { modelOf } from '../entity/index.ts';
import { emptyMap } from '../map/index.ts';
import { crateAlone } from '../testing/props.ts';
import { placeProps } from './props.ts';

test('props that are put in at once each have what was asked of them, however alike the others are', () => {
  const wishes = [
    { model: 'crate', at: [0, 0, 0] },
    { model: 'crate', at: [100, 0, 0], turn: 30 },
    { model: 'crate', at: [200, 0, 0], scale: 2 },
    { model: 'crate', at: [300, 0, 0], up: [1, 0, 1] },
    { model: 'crate', at: [400, 0, 0], turn: 90 },
  ] as const;
  const { doc, made } = placeProps(emptyMap('m'), wishes, crateAlone);
  const placed = made.entities.map((id) => doc.entities.get(id)!);
  expect(new Set(made.entities).size).toBe(wishes.length);
  expect(placed.map((e) => e.id)).toEqual(made.entities);
  expect(placed.map((e) => e.at)).toEqual(wishes.map((w) => w.at));
  expect(placed.map((e) => e.turn)).toEqual([0, 30, 0, 0, 90]);
  expect(placed.map((e) => modelOf(e)!.scale)).toEqual([1, 1, 2, 1, 1]);
  expect(placed.map((e) => modelOf(e)!.up)).toEqual([[0, 0, 1], [0, 0, 1], [0, 0, 1], [1, 0, 1], [0, 0, 1]]); // prettier-ignore
});

test('a prop at no place, or of no kind, is refused, and none of the others is put in', () => {
  const doc = emptyMap('m');
  const put = (model: string, x: number) => () =>
    placeProps(
      doc,
      [
        { model: 'crate', at: [0, 0, 0] },
        { model, at: [x, 0, 0] },
      ],
      crateAlone,
    );
  expect(put('crate', NaN)).toThrow(expect.objectContaining({ code: 'entity.place' }));
  expect(put('crate', 1e9)).toThrow(expect.objectContaining({ code: 'entity.place' }));
  expect(put('nobody', 0)).toThrow('nobody');
  expect(doc.entities.size).toBe(0);
});
