import type { Vec3 } from '@yesca/core';
import { alongWay } from './follow.ts';

test('a way is followed leg by leg, and no farther than its end', () => {
  const way: Vec3[] = [
    [0, 0, 0],
    [100, 0, 0],
    [100, 0, 0],
    [100, 50, 0],
  ];
  expect(alongWay(way, 0)).toEqual([0, 0, 0]);
  expect(alongWay(way, 25)).toEqual([25, 0, 0]);
  expect(alongWay(way, 120)).toEqual([100, 20, 0]);
  expect(alongWay(way, 1000)).toEqual([100, 50, 0]);
});
