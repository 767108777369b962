import type { Memory } from '../entity/index.ts';
import type { ParamValue } from '../params/index.ts';
import type { Person } from './person.ts';
import type { World } from './world.ts';

/** An action that a wire does in a while. */
export interface Due {
  /** In which step. */
  readonly tick: number;
  readonly thing: number;
  readonly action: string;
  readonly value?: ParamValue;
  readonly by?: number;
}

/** All that changes while a map is played: plain data. */
export interface WorldState {
  /** Steps since the beginning. */
  readonly tick: number;
  readonly people: readonly Person[];
  /** What each thing remembers, in the world's order. */
  readonly memories: readonly Memory[];
  readonly due: readonly Due[];
  /** How often each wire has worked, by id. */
  readonly worked: Readonly<Record<string, number>>;
}

/** Something that was told in a step, for those who show or sound it. */
export interface Told {
  readonly thing: string;
  readonly signal: string;
  readonly by?: number;
}

/** A world as play begins. */
export const beginWorld = (world: World, people: readonly Person[]): WorldState => ({
  tick: 0,
  people,
  memories: world.things.map(({ entity, behaviour }) => behaviour.begin(entity, world.around)),
  due: [],
  worked: {},
});
