import type { Level } from '../compile/index.ts';
import { firstSpawn } from '../entity/index.ts';
import type { Vec3 } from '../math/index.ts';
import { makeCollision } from './collide.ts';
import { TIME_STEP } from './constants.ts';
import { startPlayer, stepPlayer, type PlayerInput, type PlayerState } from './player.ts';

/** Inputs of a walk, each with how many steps of {@link TIME_STEP} it lasted. */
export interface Recording {
  readonly at: Vec3;
  readonly yaw: number;
  readonly inputs: readonly { readonly steps: number; readonly input: PlayerInput }[];
}

/** Where a player begins in a level: the first spawn by name, or the middle of the world when there is none. */
export function spawnOf(level: Level): { at: Vec3; yaw: number } {
  const spawn = firstSpawn(level.meta.entities);
  return spawn ? { at: [spawn.at[0], spawn.at[1], spawn.at[2] + 0.1], yaw: spawn.turn } : { at: [0, 0, 0], yaw: 0 };
}

/** Plays a recording again; the same level and recording always end in the same state. */
export function replay(level: Level, { at, yaw, inputs }: Recording): PlayerState {
  const collision = makeCollision(level);
  let state = startPlayer(at, yaw);
  for (const { steps, input } of inputs)
    for (let i = 0; i < steps; i++) state = stepPlayer(collision, state, input, TIME_STEP);
  return state;
}
