import { boxSolid, buildLevel, type Affine, type MapDocument } from '@yesca/core';
import { addBrushes, addRoom, changeEntity, changeSettings, dressSolid, emptyMap, placeEntity } from '@yesca/core';
import { makeMovingLight } from './moving-light.ts';

/** A hall whose west end is lit by a lamp, with a lift there and something to take. */
function hall(lit = true): MapDocument {
  let doc = addRoom(
    emptyMap('hall'),
    { footprint: [[0, 0], [2000, 0], [2000, 400], [0, 400]], floor: 0, ceiling: 300, wall: 16 }, // prettier-ignore
    { floor: 'm', wall: 'm', ceiling: 'm' },
  );
  doc = placeEntity(changeSettings(doc, { ambientLux: 1 }), 'spawn', [300, 200, 0], 0, 's');
  doc = placeEntity(doc, 'pointLight', [100, 200, 200], 0, 'l');
  doc = changeEntity(doc, 'l', { params: { candela: 300, lit } });
  doc = placeEntity(doc, 'pickup', [250, 100, 0], 0, 'p');
  doc = placeEntity(doc, 'mover', [300, 200, 60], 0, 'm');
  const box = dressSolid(boxSolid({ min: [280, 180, 40], max: [320, 220, 80] }), 'box', 'm', { role: 'detail' });
  return addBrushes(doc, [{ ...box, owner: { id: 'm' } }]);
}
const shifted = (by: number): Affine => [1, 0, 0, by, 0, 1, 0, 0, 0, 0, 1, 0];

test('what moves into the dark gets darker, and as it was on its way back; a lamp that goes out takes its light along', () => {
  const { level } = buildLevel(hall(false), 'sketch');
  const carried: (readonly [number, number, number])[] = [];
  const seen: number[] = [];
  const moving = makeMovingLight(
    level,
    { carry: (_, __, times) => void carried.push(times) },
    { light: (_, light) => void seen.push(light[0]!) },
  );
  const follow = (by: number, share: number, anew = false) =>
    moving.follow(
      [{ thing: 'm', part: 0, pose: shifted(by) }],
      [{ thing: 'p', part: 0, pose: shifted(by) }],
      new Map([['l', share]]),
      anew,
    );
  follow(0, 1);
  expect(carried.at(-1)).toEqual([1, 1, 1]);
  const near = seen.at(-1)!;
  follow(2, 1);
  // So little is not looked at.
  expect(carried).toHaveLength(1);
  follow(1500, 1);
  expect(Math.max(...carried.at(-1)!)).toBeLessThan(0.2);
  expect(seen.at(-1)!).toBeLessThan(0.2 * near);
  follow(0, 1);
  expect(carried.at(-1)).toEqual([1, 1, 1]);
  follow(0, 0, true);
  expect(seen.at(-1)!).toBeLessThan(0.2 * near);
  // It is as dark where it was lit: what it carries is no change.
  expect(carried.at(-1)).toEqual([1, 1, 1]);
});

test('what keeps the light of a place has it wherever it moves', () => {
  const place = placeEntity(hall(), 'pickup', [1800, 200, 0], 0, 'dark');
  const { level } = buildLevel(changeEntity(place, 'm', { params: { litAt: 'dark' } }), 'sketch');
  const carried: (readonly [number, number, number])[] = [];
  const moving = makeMovingLight(
    level,
    { carry: (_, __, times) => void carried.push(times) },
    { light: () => undefined },
  );
  for (const by of [0, 600, 1400])
    moving.follow([{ thing: 'm', part: 0, pose: shifted(by) }], [], new Map(), by === 1400);
  // Dark from the beginning, and then it does not change: asked again, the same.
  expect(carried).toHaveLength(2);
  expect(Math.max(...carried[0]!)).toBeLessThan(0.3);
  expect(carried[1]).toEqual(carried[0]);
});
