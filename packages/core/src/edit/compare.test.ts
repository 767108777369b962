import { boxSolid } from '../brush/index.ts';
import { parseMap, writeMap } from '../map/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { addBrushes, movePicked, placeEntity, removePicked } from './index.ts';
import { compareMaps } from './compare.ts';

const crate = (id: string, x: number) =>
  dressSolid(boxSolid({ min: [x, 100, 0], max: [x + 64, 164, 64] }), id, 'slate', { role: 'detail' });
const before = addBrushes(oneRoom(), [crate('stays', 100), crate('moves', 200), crate('goes', 300)]);
const ids = (list: readonly { id: string }[]) => list.map((b) => b.id);

test('a map compared with itself, and with itself written and read again, shows nothing', () => {
  const none = { added: [], removed: [], changed: [], others: { added: 0, removed: 0, changed: 0 } };
  expect(compareMaps(before, before)).toEqual(none);
  expect(compareMaps(before, parseMap(writeMap(before)))).toEqual(none);
});

test('what was added, removed and changed is told apart, both ways round', () => {
  let after = movePicked(before, { brushes: new Set(['moves']) }, [32, 0, 0]);
  after = removePicked(after, { brushes: new Set(['goes']) });
  after = placeEntity(addBrushes(after, [crate('comes', 400)]), 'spawn', [100, 100, 0], 0, 's');
  const forth = compareMaps(before, after);
  expect([ids(forth.added), ids(forth.removed), forth.changed.map((c) => c.before.id)]).toEqual([
    ['comes'],
    ['goes'],
    ['moves'],
  ]);
  expect(forth.changed[0]!.after).toBe(after.brushes.get('moves'));
  expect(forth.others).toEqual({ added: 1, removed: 0, changed: 0 });
  const back = compareMaps(after, before);
  expect([ids(back.added), ids(back.removed), back.others.removed]).toEqual([['goes'], ['comes'], 1]);
});
