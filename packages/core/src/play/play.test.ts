import { boxSolid, wedgeSolid, type Brush } from '../brush/index.ts';
import { buildLevel } from '../compile/index.ts';
import { addBrushes, placeEntity } from '../edit/index.ts';
import { hashRandom, rotation, type Box, type Vec3 } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { oneRoom, twoRooms } from '../testing/rooms.ts';
import { makeCollision, newSweep, sweepBox } from './collide.ts';
import { PLAYER, TIME_STEP } from './constants.ts';
import { startPlayer, stepPlayer, type PlayerInput, type PlayerState } from './player.ts';
import { replay, spawnOf, type Recording } from './recording.ts';

const STILL: PlayerInput = { forward: 0, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 };
const EAST: PlayerInput = { ...STILL, forward: 1 };
const box = (b: Box, id: string) => dressSolid(boxSolid(b), id, 'm', { role: 'detail' });

const levelWith = (...brushes: Brush[]) =>
  buildLevel(placeEntity(addBrushes(oneRoom(), brushes), 'spawn', [100, 224, 0], 0, 's'), 'sketch').level;

/** Walks from the spawn of the room with some inputs; seconds each. */
function walk(brushes: Brush[], ...legs: [number, PlayerInput][]): PlayerState {
  const level = levelWith(...brushes);
  return replay(level, {
    ...spawnOf(level),
    inputs: legs.map(([seconds, input]) => ({ steps: Math.round(seconds / TIME_STEP), input })),
  });
}

describe('walks that end at known places', () => {
  test('standing still falls onto the floor and stays', () => {
    const end = walk([], [1, STILL]);
    expect(end.at[0]).toBe(100);
    expect(end.at[2]).toBeGreaterThanOrEqual(0);
    expect(end.at[2]).toBeLessThan(0.1);
    expect(end.onGround).toBe(true);
  });

  test('walking east ends at the wall, half a player away', () => {
    const end = walk([], [4, EAST]);
    expect(end.at[0]).toBeCloseTo(544 - PLAYER.halfWidth, 1);
    expect(end.at[1]).toBeCloseTo(224, 6);
  });

  test('walking speed is reached and kept', () => {
    const a = walk([], [0.6, EAST]);
    const b = walk([], [0.85, EAST]);
    expect((b.at[0] - a.at[0]) / 0.25).toBeCloseTo(PLAYER.walkSpeed, 0);
  });

  test('walking at a slant along a wall slides along it', () => {
    const end = walk([], [3, { ...EAST, yaw: 45 }]);
    expect(end.at[0]).toBeCloseTo(544 - 20, 1);
    expect(end.at[1]).toBeCloseTo(416 - 20, 1);
  });

  test('a ledge of a step is walked up, a higher one is not', () => {
    const ledge = (top: number) => [box({ min: [300, 32, 0], max: [544, 416, top] }, 'ledge')];
    expect(walk(ledge(PLAYER.step), [4, EAST]).at[2]).toBeCloseTo(PLAYER.step, 1);
    const stopped = walk(ledge(PLAYER.step + 2), [4, EAST]);
    expect(stopped.at[0]).toBeCloseTo(300 - 20, 1);
    expect(stopped.at[2]).toBeLessThan(0.1);
  });

  test('a flight of stairs is walked up and down without leaving the ground for long', () => {
    const stairs = Array.from({ length: 3 }, (_, i) =>
      box({ min: [200 + i * 40, 32, 0], max: [240 + i * 40, 416, (i + 1) * 30] }, `s${i}`),
    );
    const top = box({ min: [320, 32, 0], max: [544, 416, 90] }, 'top');
    const up = walk([...stairs, top], [3, EAST]);
    expect(up.at[2]).toBeCloseTo(90, 1);
    const down = walk([...stairs, top], [3, EAST], [0.35, { ...EAST, forward: -1 }]);
    expect(down.onGround).toBe(true);
    const bottom = walk([...stairs, top], [3, EAST], [3, { ...EAST, forward: -1 }]);
    expect(bottom.at[2]).toBeLessThan(0.1);
  });

  test('a jump rises exactly as high as it should and no higher by holding the key', () => {
    const level = levelWith();
    const collision = makeCollision(level);
    let s = startPlayer([100, 224, 0.1], 0);
    for (let i = 0; i < 60; i++) s = stepPlayer(collision, s, STILL, TIME_STEP);
    let top = 0;
    let jumps = 0;
    let before = true;
    for (let i = 0; i < 240; i++) {
      s = stepPlayer(collision, s, { ...STILL, jump: true }, TIME_STEP);
      top = Math.max(top, s.at[2]);
      if (before && !s.onGround) jumps++;
      before = s.onGround;
    }
    expect(Math.abs(top - PLAYER.jump)).toBeLessThan(1);
    expect(jumps).toBe(1);
  });

  test('a jump clears what a step cannot', () => {
    const block = [box({ min: [300, 32, 0], max: [544, 416, 56] }, 'block')];
    const end = walk(block, [0.3, EAST], [1.2, { ...EAST, jump: true }], [1, EAST]);
    expect(end.at[2]).toBeCloseTo(56, 1);
  });

  test('a low passage is entered crouching, and one does not stand up in it', () => {
    const lintel = [box({ min: [250, 32, 130], max: [400, 416, 272] }, 'lintel')];
    expect(walk(lintel, [3, EAST]).at[0]).toBeCloseTo(250 - 20, 1);
    const under = walk(lintel, [1.4, { ...EAST, crouch: true }], [0.2, STILL]);
    expect(under.at[0]).toBeGreaterThan(260);
    expect(under.crouching).toBe(true);
    const through = walk(lintel, [1.4, { ...EAST, crouch: true }], [3, EAST]);
    expect(through.at[0]).toBeCloseTo(544 - 20, 1);
    expect(through.crouching).toBe(false);
  });

  test('a slope of 30° is walked, one of 60° is not', () => {
    const ramp = (height: number) => [
      dressSolid(wedgeSolid({ min: [250, 32, 0], max: [450, 416, height] }, 'east'), 'ramp', 'm', { role: 'detail' }),
    ];
    expect(walk(ramp(200 * Math.tan(Math.PI / 6)), [0.9, EAST]).at[2]).toBeGreaterThan(20);
    const steep = walk(ramp(260), [3, EAST]);
    expect(steep.at[0]).toBeLessThan(300);
    expect(steep.at[2]).toBeLessThan(PLAYER.step + 45);
  });

  test('a clip brush that is not drawn holds the player back', () => {
    const clip = dressSolid(boxSolid({ min: [300, 32, 0], max: [310, 416, 272] }), 'clip', 'm', { role: 'clip' });
    expect(walk([clip], [3, EAST]).at[0]).toBeCloseTo(300 - 20, 1);
  });

  test('through the doorway into the next room', () => {
    const { level } = buildLevel(placeEntity(twoRooms(), 'spawn', [100, 224, 0], 0, 's'), 'sketch');
    const recording: Recording = { ...spawnOf(level), inputs: [{ steps: 480, input: EAST }] };
    const end = replay(level, recording);
    expect(end.at[0]).toBeCloseTo(944 - 20, 1);
    expect(replay(level, recording)).toEqual(end);
  });
});

describe('the sweep of a box', () => {
  test('past the corner of a turned box touches its real shape, not its bounds', () => {
    const turned = transformBrush(
      box({ min: [-50, -50, 0], max: [50, 50, 100] }, 'b'),
      rotation(2, 45, [0, 0, 0]),
      true,
    );
    const level = buildLevel(addBrushes(oneRoom(), [{ ...turned, role: 'detail' }]), 'sketch').level;
    const only = {
      ...level,
      colliderBounds: level.colliderBounds,
      colliderFirst: level.colliderFirst,
      colliderPlane: level.colliderPlane,
    };
    const c = makeCollision(only);
    const out = newSweep();
    // Beside the diamond at y = −60: its bounds reach to x = −70, the diamond there only to about x = −10 + …
    sweepBox(c, [-300, -75, 50], 10, 10, 10, 290, 0, 0, out);
    const stop = -300 + 290 * out.fraction;
    // The box's corner (x + 10, −65) meets the edge x + y = −70.71 (with x < 0) at x = −5.71 − 10.
    expect(stop).toBeCloseTo(-70.7107 + 65 - 10, 1);
    expect(out.nx).toBeCloseTo(-Math.SQRT1_2, 6);
  });

  test('never ends inside a solid, however it moves', () => {
    const pile = Array.from({ length: 12 }, (_, i) => {
      const [x, y] = [120 + hashRandom(i, 1) * 350, 80 + hashRandom(i, 2) * 280];
      return {
        ...transformBrush(
          box({ min: [x, y, 0], max: [x + 60, y + 40, 30 + i * 9] }, `p${i}`),
          rotation(2, i * 31, [x, y, 0]),
          true,
        ),
      };
    });
    const level = levelWith(...pile);
    const c = makeCollision(level);
    const out = newSweep();
    let s = startPlayer([60, 60, 1], 0);
    for (let i = 0; i < 6000; i++) {
      const k = Math.floor(i / 40);
      const input: PlayerInput = {
        forward: hashRandom(k, 1) * 2 - 1,
        right: hashRandom(k, 2) * 2 - 1,
        jump: hashRandom(k, 3) > 0.6 && i % 40 < 20,
        crouch: hashRandom(k, 4) > 0.7,
        yaw: hashRandom(k, 5) * 360,
        pitch: 0,
      };
      s = stepPlayer(c, s, input, TIME_STEP);
      const h = (s.crouching ? PLAYER.crouching : PLAYER.standing) / 2;
      const centre: Vec3 = [s.at[0], s.at[1], s.at[2] + h];
      expect(sweepBox(c, centre, 20, 20, h, 0, 0, 0, out).stuck).toBe(false);
      expect(s.at[2]).toBeGreaterThan(-0.1);
    }
  });
});
