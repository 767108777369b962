import {
  eyeOf,
  startPlayer,
  stepPlayer,
  TIME_STEP,
  type Collision,
  type PlayerInput,
  type PlayerState,
  type Vec3,
} from '@yesca/core';

/** Who falls past this height (cm) fell off the map. */
const BOTTOM = -30_000;
/** Seconds caught up after a slow frame; beyond that the world waits. */
const MOST = 0.2;

/** Somebody who walks, in the Eye on the map as it is now or in Play on a level: the same body, steps and keys. */
export interface Walker {
  state: PlayerState;
  /** Time not yet stepped, seconds. */
  rest: number;
}

/** A walker with the feet at a place, turned by some degrees. */
export const walkerFrom = (feet: Vec3, yaw: number): Walker => ({ state: startPlayer(feet, yaw), rest: 0 });

/** A walker whose eyes are where a camera is; it falls to the floor from there. */
export function walkerAt(eyes: Vec3): Walker {
  const lift = eyeOf(startPlayer(eyes, 0))[2] - eyes[2];
  return walkerFrom([eyes[0], eyes[1], eyes[2] - lift], 0);
}

/** What the keys that are held mean to somebody who looks some way, in degrees. */
export function walkInput(keys: ReadonlySet<string>, yaw: number, pitch: number): PlayerInput {
  const axis = (plus: string, minus: string) => (keys.has(plus) ? 1 : 0) - (keys.has(minus) ? 1 : 0);
  return {
    forward: axis('KeyW', 'KeyS'),
    right: axis('KeyD', 'KeyA'),
    jump: keys.has('Space'),
    crouch: keys.has('KeyC'),
    yaw,
    pitch,
  };
}

/** Steps a walker on by some time; gives where its eyes are then, and whether it moves. */
export function walkOn(
  world: Collision,
  walker: Walker,
  input: PlayerInput,
  seconds: number,
): { readonly eyes: Vec3; readonly moving: boolean } {
  if (walker.state.at[2] < BOTTOM) return { eyes: eyeOf(walker.state), moving: false };
  walker.rest = Math.min(walker.rest + seconds, MOST);
  for (; walker.rest >= TIME_STEP; walker.rest -= TIME_STEP)
    walker.state = stepPlayer(world, walker.state, input, TIME_STEP);
  const { state } = walker;
  const wants = input.forward !== 0 || input.right !== 0 || input.jump || input.crouch;
  return { eyes: eyeOf(state), moving: wants || !state.onGround || Math.hypot(...state.velocity) > 1 };
}
