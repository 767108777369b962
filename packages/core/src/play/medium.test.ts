import { block, play, scene, STILL } from '../testing/playing.ts';
import { PLAYER } from './constants.ts';
import { beginWorld, newPerson, type WorldState } from './index.ts';
import { worldOfMap } from './world.ts';

const feet = (s: WorldState) => s.people[0]!.body.at;
const ground = block('ground', [-1000, -1000, -20], [0, 1000, 0]);
const EAST = { ...STILL, forward: 1 };

describe('a ladder', () => {
  // A cliff 300 high to the east, a ladder on it that ends at its edge.
  const world = worldOfMap(
    scene(
      [
        block('floor', [-1000, -1000, -20], [1000, 1000, 0]),
        block('cliff', [100, -500, 0], [600, 500, 300]),
        { ...block('ladder', [92, -30, 0], [100, 30, 300]), role: 'ladder' },
      ],
      [],
    ),
  );
  const at = (z: number) => beginWorld(world, [newPerson([70, 0, z], 0)]);

  test('is climbed by walking towards it, and stepped off at its top', () => {
    const half = play(world, at(0.1), 1, () => EAST);
    expect(feet(half.state)[2]).toBeCloseTo(PLAYER.climbSpeed, -1);
    const top = play(world, at(0.1), 2.8, () => EAST).state;
    expect(feet(top)[0]).toBeGreaterThan(150);
    expect(feet(top)[2]).toBeCloseTo(300, 0);
    expect(top.people[0]!.body.onGround).toBe(true);
  });

  test('holds who does nothing, is climbed down looking down, and jumped off', () => {
    const up = play(world, at(0.1), 1, () => EAST).state;
    expect(feet(play(world, up, 2).state)[2]).toBeCloseTo(feet(up)[2], 6);
    const down = play(world, up, 2, () => ({ ...EAST, pitch: -60 })).state;
    expect(feet(down)[2]).toBeLessThan(1);
    const off = play(world, up, 0.4, (t) => ({ ...STILL, jump: t < 0.2 })).state;
    expect(feet(off)[0]).toBeLessThan(20);
  });

  test('does not keep who walks away from its foot, or along beside it', () => {
    const away = play(world, at(0.1), 1, () => ({ ...STILL, forward: -1 })).state;
    expect(feet(away)[0]).toBeLessThan(-150);
    expect(feet(away)[2]).toBeLessThan(0.1);
  });
});

describe('a pool', () => {
  // 300 deep, its surface 10 below the floor round it.
  const world = worldOfMap(
    scene(
      [
        ground,
        block('bottom', [0, -1000, -330], [1000, 1000, -310]),
        block('far', [600, -1000, -310], [1000, 1000, 0]),
        block('near', [-20, -1000, -310], [0, 1000, -20]),
        { ...block('water', [0, -1000, -310], [600, 1000, -10]), role: 'liquid' },
      ],
      [],
    ),
  );

  test('carries who swims, with the head above it, and lets them out at its edge', () => {
    const afloat = play(world, beginWorld(world, [newPerson([300, 0, -100], 0)]), 6).state;
    // The surface at the shoulders.
    expect(feet(afloat)[2] + PLAYER.swimsFrom).toBeLessThan(-10 + 1);
    expect(feet(afloat)[2] + PLAYER.eyeStanding).toBeGreaterThan(-10);
    expect(afloat.people[0]!.breath).toBe(PLAYER.breath);
    const out = play(world, afloat, 2.8, () => ({ ...EAST, jump: true })).state;
    expect(feet(out)[0]).toBeGreaterThan(620);
    expect(feet(out)[2]).toBeGreaterThan(-0.1);
  });

  test('is dived in, as fast as one swims, and drowns who stays under', () => {
    const dive = play(world, beginWorld(world, [newPerson([300, 0, -60], 0)]), 3, () => ({
      ...EAST,
      pitch: -89,
    })).state;
    expect(feet(dive)[2]).toBeCloseTo(-310, 0);
    const along = play(world, dive, 1, () => ({ ...STILL, right: 1, crouch: true }));
    expect(Math.hypot(along.state.people[0]!.body.velocity[0], along.state.people[0]!.body.velocity[1])).toBeCloseTo(
      PLAYER.swimSpeed,
      -1,
    );
    const short = play(world, dive, 8, () => ({ ...STILL, crouch: true })).state.people[0]!;
    expect(short.health).toBe(100);
    const long = play(world, dive, 18, () => ({ ...STILL, crouch: true })).state.people[0]!;
    expect(long.health).toBeLessThan(80);
    expect(long.health).toBeGreaterThan(30);
  });

  test('slows who wades', () => {
    const shallow = worldOfMap(
      scene([ground, { ...block('water', [-1000, -1000, 0], [0, 1000, 56]), role: 'liquid' }], []),
    );
    const wading = play(shallow, beginWorld(shallow, [newPerson([-800, 0, 0.1], 0)]), 1, () => EAST).state;
    // Half as deep as carries: four fifths, less what the height of the water is told in.
    expect(wading.people[0]!.body.velocity[0] / PLAYER.walkSpeed).toBeGreaterThan(0.79);
    expect(wading.people[0]!.body.velocity[0] / PLAYER.walkSpeed).toBeLessThan(0.82);
  });
});
