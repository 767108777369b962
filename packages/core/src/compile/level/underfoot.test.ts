import { boxSolid } from '../../brush/index.ts';
import { addBrushes, placeEntity, setShow } from '../../edit/index.ts';
import { rotation, type Vec3 } from '../../math/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import { DRESS, twoRooms } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import { levelCell, makeRoomSize, makeUnderfoot } from './index.ts';

const block = (id: string, min: Vec3, max: Vec3, material: string) =>
  dressSolid(boxSolid({ min, max }), id, material, { role: 'detail' });

test('one stands on the floor of a room, on what stands on it, and on ramps; in the air and in the void on nothing', () => {
  const ramp = transformBrush(
    block('ramp', [300, 200, 0], [400, 260, 10], 'iron-plate'),
    rotation(1, -25, [300, 230, 0]),
    true,
  );
  const doc = placeEntity(
    addBrushes(twoRooms(), [block('crate', [100, 100, 0], [160, 160, 60], 'pine-board'), ramp]),
    'spawn',
    [40, 40, 0],
  );
  const under = makeUnderfoot(buildLevel(doc, 'sketch').level);
  expect(under([40, 40, 0.1])).toBe(DRESS.floor);
  expect(under([130, 130, 60.1])).toBe('pine-board');
  // Beside the crate, on the floor as high as its top, and over it.
  expect([under([170, 130, 0.1]), under([170, 130, 60.1]), under([130, 130, 90])]).toEqual([DRESS.floor, null, null]);
  const top = 10 / Math.cos((25 * Math.PI) / 180) + 50 * Math.tan((25 * Math.PI) / 180);
  expect(under([350, 230, top + 0.1])).toBe('iron-plate');
  expect(under([1e5, 0, 0])).toBeNull();
});

test('rooms are as large as their cells, and what sees the sky lies open', () => {
  const closed = buildLevel(placeEntity(twoRooms(), 'spawn', [40, 40, 0]), 'sketch').level;
  const size = makeRoomSize(closed)(levelCell(closed, [40, 40, 50]));
  expect(size![0]).toBeGreaterThan(300);
  expect(size![2]).toBeGreaterThan(200);
  expect(makeRoomSize(closed)(-2)).toBeNull();
  const doc = placeEntity(twoRooms(), 'spawn', [40, 40, 0]);
  const ceilings = [...doc.brushes.values()].filter((b) => b.room?.part.kind === 'ceiling');
  const refs = ceilings.flatMap((b) => b.faces.map((f) => ({ brush: b.id, face: f.id })));
  const open = buildLevel(setShow(doc, refs, 'sky'), 'sketch').level;
  expect(makeRoomSize(open)(levelCell(open, [40, 40, 50]))).toBeNull();
});
