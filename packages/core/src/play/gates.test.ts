import { buildLevel, levelCell } from '../compile/index.ts';
import { doorInOpening, gateInOpening, placeEntity } from '../edit/index.ts';
import { play } from '../testing/playing.ts';
import { twoRooms } from '../testing/rooms.ts';
import { areasInSight, beginWorld, order, placedIn, worldOfLevel, type WorldState } from './index.ts';

test('a gate opens with the first movement of its door, and closes when the door is back', () => {
  const doc = placeEntity(placeEntity(twoRooms(), 'pointLight', [200, 200, 200]), 'spawn', [100, 100, 0]);
  const made = doorInOpening(gateInOpening(doc, 'door').doc, 'door', {
    leaves: 'two',
    moves: 'slides',
    thickness: 6,
    material: 'oak-plank',
  });
  const { level } = buildLevel(made.doc, 'sketch');
  const world = worldOfLevel(level);
  const cell = levelCell(level, [100, 100, 50]);
  const reached = (s: WorldState) =>
    areasInSight(level, world, s, placedIn(world, s), cell)!.reduce((n, x) => n + x, 0);
  const begun = beginWorld(world, []);
  expect(reached(begun)).toBe(1);
  let [first, moved] = [-1, -1];
  let step = 0;
  const opened = play(world, order(world, begun, made.door, 'open'), 3, undefined, (s) => {
    step++;
    const off = placedIn(world, s).poses.some((p) => Math.abs(p[7]) + Math.abs(p[3]) > 1e-6);
    if (off && moved < 0) moved = step;
    if (reached(s) === 2 && first < 0) first = step;
  }).state;
  expect(moved).toBeGreaterThan(0);
  expect(first).toBe(moved);
  expect(reached(opened)).toBe(2);
  const closed = play(world, order(world, opened, made.door, 'close'), 8).state;
  expect(reached(closed)).toBe(1);
});
