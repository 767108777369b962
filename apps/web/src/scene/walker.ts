import {
  beginWorld,
  eyeOf,
  newPerson,
  startPlayer,
  stepWorld,
  TIME_STEP,
  type PlayerInput,
  type PlayerState,
  type Told,
  type Vec3,
  type World,
  type WorldState,
} from '@yesca/core';

/** Who falls past this height (cm) fell off the map. */
const BOTTOM = -30_000;
/** Seconds caught up after a slow frame; beyond that the world waits. */
const MOST = 0.2;

/** A world that is being played, in the Eye on the map as it is now or in Play on a level: the same steps and keys. */
export interface Played {
  readonly world: World;
  state: WorldState;
  /** Time not yet stepped, seconds. */
  rest: number;
  /** How often use was pressed that no step has done yet. */
  uses: number;
}

/** A world with somebody in it, whose feet are at a place, turned by some degrees. */
export const playedFrom = (world: World, feet: Vec3, yaw: number): Played => ({
  world,
  state: beginWorld(world, [newPerson(feet, yaw)]),
  rest: 0,
  uses: 0,
});

/** Where the feet are of somebody whose eyes are where a camera is; they fall to the floor from there. */
export function feetBelow(eyes: Vec3): Vec3 {
  const lift = eyeOf(startPlayer(eyes, 0))[2] - eyes[2];
  return [eyes[0], eyes[1], eyes[2] - lift];
}

/** The body of who walks; null when nobody does. */
export const walkerOf = ({ state }: Played): PlayerState | null => state.people[0]?.body ?? null;

/** Code of the key that uses what lies ahead. */
export const USE = 'KeyE';

/** What the keys that are held mean to somebody who looks some way, in degrees. */
export function walkInput(keys: ReadonlySet<string>, yaw: number, pitch: number): PlayerInput {
  const axis = (plus: string, minus: string) => (keys.has(plus) ? 1 : 0) - (keys.has(minus) ? 1 : 0);
  return {
    forward: axis('KeyW', 'KeyS'),
    right: axis('KeyD', 'KeyA'),
    jump: keys.has('Space'),
    crouch: keys.has('KeyC'),
    use: keys.has(USE),
    yaw,
    pitch,
  };
}

/** More presses than this that wait are nobody's wish. */
const MOST_USES = 4;

/** What came of playing on for a while. */
export interface PlayedOn {
  /** Where the eyes of who walks are; null when nobody does. */
  readonly eyes: Vec3 | null;
  /** Whether who walks moves, or wants to. */
  readonly moving: boolean;
  readonly told: readonly Told[];
  /** By how many degrees who walks was turned by what carries them. */
  readonly turned: number;
}

/**
 * What somebody wants in one step. Each press of use is done, however many came within a frame and however short they were: it is let go of
 * between two.
 */
function inStep(played: Played, input: PlayerInput, yaw: number): PlayerInput {
  if (played.uses === 0) return { ...input, yaw };
  const use = !walkerOf(played)!.useHeld;
  if (use) played.uses--;
  return { ...input, yaw, use };
}

/** Steps a world on by some time, in which use was pressed `uses` times. Who has fallen off the map stays where they are. */
export function playOn(played: Played, input: PlayerInput, seconds: number, uses = 0): PlayedOn {
  const told: Told[] = [];
  let turned = 0;
  const body = walkerOf(played);
  if (body && body.at[2] < BOTTOM) return { eyes: eyeOf(body), moving: false, told, turned };
  if (body) played.uses = Math.min(played.uses + uses, MOST_USES);
  played.rest = Math.min(played.rest + seconds, MOST);
  for (; played.rest >= TIME_STEP; played.rest -= TIME_STEP) {
    const next = stepWorld(
      played.world,
      played.state,
      body ? [inStep(played, input, input.yaw + turned)] : [],
      TIME_STEP,
    );
    played.state = next.state;
    told.push(...next.told);
    turned += next.turned[0] ?? 0;
  }
  const now = walkerOf(played);
  const wants = input.forward !== 0 || input.right !== 0 || input.jump || input.crouch;
  const moving = now !== null && (wants || !now.onGround || Math.hypot(...now.velocity) > 1 || now.standsOn >= 0);
  return { eyes: now && eyeOf(now), moving, told, turned };
}
