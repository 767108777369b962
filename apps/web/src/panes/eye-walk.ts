import { eyeOf, startPlayer, stepPlayer, TIME_STEP, type Collision, type PlayerState, type Vec3 } from '@yesca/core';

/** Who falls past this height (cm) fell off the map. */
const BOTTOM = -30_000;

/** A walker of the Eye: the same body and steps as in play, on the map as it is now. */
export interface Walker {
  state: PlayerState;
  /** Time not yet stepped, seconds. */
  rest: number;
}

/** A walker whose eyes are where the camera is; it falls to the floor from there. */
export function walkerAt(eyes: Vec3): Walker {
  const start = startPlayer(eyes, 0);
  const lift = eyeOf(start)[2] - eyes[2];
  return { state: startPlayer([eyes[0], eyes[1], eyes[2] - lift], 0), rest: 0 };
}

/** Steps a walker on by some time with the keys held; gives where its eyes are then, and whether it still moves. */
export function walkOn(
  world: Collision,
  walker: Walker,
  keys: ReadonlySet<string>,
  yaw: number,
  seconds: number,
): { eyes: Vec3; moving: boolean } {
  const axis = (plus: string, minus: string) => (keys.has(plus) ? 1 : 0) - (keys.has(minus) ? 1 : 0);
  const input = {
    forward: axis('KeyW', 'KeyS'),
    right: axis('KeyD', 'KeyA'),
    jump: keys.has('Space'),
    crouch: keys.has('KeyC'),
    yaw: (yaw * 180) / Math.PI,
    pitch: 0,
  };
  if (walker.state.at[2] < BOTTOM) return { eyes: eyeOf(walker.state), moving: false };
  walker.rest += Math.min(seconds, 0.25);
  while (walker.rest >= TIME_STEP) {
    walker.state = stepPlayer(world, walker.state, input, TIME_STEP);
    walker.rest -= TIME_STEP;
  }
  const { state } = walker;
  return { eyes: eyeOf(state), moving: keys.size > 0 || !state.onGround || Math.hypot(...state.velocity) > 1 };
}
