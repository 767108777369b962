import { boxSolid } from '../brush/index.ts';
import { addBrushes } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Box, Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { PLAYER, TIME_STEP } from './constants.ts';
import { askPlayer, bodyIn, collisionOf, jumpReach, loopArea } from './measure.ts';
import { startPlayer, stepPlayer } from './player.ts';

const block = (box: Box) => dressSolid(boxSolid(box), `b${box.min.join()}`, 'm', { role: 'detail' });
const withBlocks = (...boxes: Box[]): MapDocument => addBrushes(oneRoom(), boxes.map(block));
const ask = (doc: MapDocument, from: Vec3, to: Vec3) => askPlayer(collisionOf(doc), from, to);

describe('what a player can do between two places', () => {
  test('in an empty room: stand and pass', () => {
    expect(ask(oneRoom(), [100, 200, 0], [300, 200, 0])).toMatchObject({
      stand: true,
      crouch: true,
      pass: 'upright',
      step: true,
    });
  });

  test.each<[number, string, boolean]>([
    [PLAYER.standing + 2, 'upright', true],
    [PLAYER.standing - 2, 'crouching', false],
    [PLAYER.crouching - 2, 'no', false],
  ])('under a beam %d cm up: %s', (height, pass, stand) => {
    const doc = withBlocks({ min: [180, 32, height], max: [220, 416, 272] });
    expect(ask(doc, [100, 200, 0], [300, 200, 0]).pass).toBe(pass);
    expect(ask(doc, [100, 200, 0], [200, 200, 0]).stand).toBe(stand);
  });

  test('inside a block nobody stands; behind a wall nobody passes', () => {
    const doc = withBlocks({ min: [180, 32, 0], max: [220, 416, 272] });
    expect(ask(doc, [100, 200, 0], [200, 200, 0])).toMatchObject({ stand: false, crouch: false });
    expect(ask(doc, [100, 200, 0], [300, 200, 0]).pass).toBe('no');
  });

  test('steps and jumps end at the heights of movement', () => {
    const up = (z: number) => ask(oneRoom(), [100, 200, 0], [140, 200, z]);
    expect([up(PLAYER.step).step, up(PLAYER.step + 1).step]).toEqual([true, false]);
    expect([up(PLAYER.jump).jump, up(PLAYER.jump + 1).jump]).toEqual([true, false]);
  });

  test('the reach of a running jump is what the simulation does', () => {
    // A long floor, run up to full speed, jump, and see how far the feet are off the ground.
    const floor = collisionOf(withBlocks({ min: [-5000, 4000, -10], max: [5000, 4200, 0] }));
    let s = startPlayer([-2000, 4100, 1], 0);
    const input = { forward: 1, right: 0, crouch: false, yaw: 0, pitch: 0 };
    for (let i = 0; i < 240; i++) s = stepPlayer(floor, s, { ...input, jump: false }, TIME_STEP);
    const from = s.at[0];
    s = stepPlayer(floor, s, { ...input, jump: true }, TIME_STEP);
    while (!s.onGround) s = stepPlayer(floor, s, { ...input, jump: false }, TIME_STEP);
    const flown = s.at[0] - from;
    expect(Math.abs(flown - jumpReach())).toBeLessThan(jumpReach() * 0.05);
    expect(ask(oneRoom(), [0, 0, 0], [flown * 0.9, 0, 0]).jump).toBe(true);
    expect(ask(oneRoom(), [0, 0, 0], [flown + 60, 0, 0]).jump).toBe(false);
  });
});

test('ground is found under a point, and not from inside a solid or over nothing', () => {
  const body = bodyIn(withBlocks({ min: [180, 180, 0], max: [220, 220, 50] }));
  expect(body.groundUnder([100, 100, 100])).toBeCloseTo(0, 1);
  expect(body.groundUnder([200, 200, 100])).toBeCloseTo(50, 1);
  expect(body.groundUnder([200, 200, 20])).toBeNull();
  expect(body.groundUnder([5000, 5000, 100])).toBeNull();
  expect([body.fits([100, 100, 0.1]), body.fits([200, 200, 0.1])]).toEqual([true, false]);
});

test('areas of loops are those of the shoelace formula, on any slope', () => {
  const flat: Vec3[] = [[0, 0, 0], [4, 0, 0], [4, 3, 0], [2, 5, 0], [0, 3, 0]]; // prettier-ignore
  expect(loopArea(flat)).toBeCloseTo(12 + 4, 9);
  const tilt = Math.PI / 3;
  const tilted = flat.map(([x, y]): Vec3 => [x, y * Math.cos(tilt), y * Math.sin(tilt)]);
  expect(loopArea(tilted)).toBeCloseTo(16, 9);
  expect(
    loopArea([
      [0, 0, 0],
      [1, 0, 0],
    ]),
  ).toBe(0);
});
