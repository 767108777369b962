import { composeAffine } from '../math/index.ts';
import { AT_REST, type Memory, type Pose } from '../entity/index.ts';
import { moveBody, placedAtRest, removeBody, type Placed } from './bodies.ts';
import type { WorldState } from './state.ts';
import type { World } from './world.ts';

/** Where everything is in a state, kept beside what things remember: the next step begins with it. */
export interface Whereabouts {
  /** Of the parts of each thing, with what it rides on. */
  readonly poses: (readonly Pose[])[];
  readonly placed: Placed;
  /** Things that do nothing until something happens to them: 1. What they would do follows from what they remember. */
  readonly asleep: Uint8Array;
  /** Things that moved where nobody was near: 1. Where their bodies are is found out when somebody asks. */
  readonly stale: Uint8Array;
}

const known = new WeakMap<World, WeakMap<readonly Memory[], Whereabouts>>();

export function keepWhereabouts(world: World, memories: readonly Memory[], where: Whereabouts): Whereabouts {
  if (!known.has(world)) known.set(world, new WeakMap());
  known.get(world)!.set(memories, where);
  return where;
}

export function whereaboutsOf(world: World, memories: readonly Memory[]): Whereabouts {
  const kept = known.get(world)?.get(memories);
  if (kept) return kept;
  const poses: (readonly Pose[])[] = [];
  world.things.forEach((_, i) => poses.push(posesOf(world, memories, poses, i)));
  const placed = placedAtRest(world);
  world.bodies.forEach((b, k) => {
    moveBody(world, placed, k, poses[b.thing]![b.part] ?? AT_REST);
    if (isGone(world, memories, b.thing)) removeBody(placed, k);
  });
  return keepWhereabouts(world, memories, {
    poses,
    placed,
    asleep: new Uint8Array(world.things.length),
    stale: new Uint8Array(world.things.length),
  });
}

const isGone = (world: World, memories: readonly Memory[], thing: number): boolean =>
  world.things[thing]!.behaviour.gone?.(memories[thing]!) ?? false;

/** Whether the parts of a thing, or what lies on it, are not there. */
export const isAway = (world: World, state: Pick<WorldState, 'memories'>, thing: number): boolean =>
  isGone(world, state.memories, thing);

/** Where all bodies are in a state. */
export const placedIn = (world: World, { memories }: Pick<WorldState, 'memories'>): Placed =>
  allOf(world, memories).placed;

/** Where everything is, with nothing left to be found out. */
function allOf(world: World, memories: readonly Memory[]): Whereabouts {
  const where = whereaboutsOf(world, memories);
  for (let i = where.stale.indexOf(1); i >= 0; i = where.stale.indexOf(1, i + 1)) freshen(world, memories, where, i);
  return where;
}

/** Finds out where the bodies of a thing are that moved where nobody was near. */
export function freshen(
  world: World,
  memories: readonly Memory[],
  { poses, placed, stale }: Whereabouts,
  i: number,
): void {
  stale[i] = 0;
  poses[i] = posesOf(world, memories, poses, i);
  for (const body of world.things[i]!.bodies)
    moveBody(world, placed, body, poses[i]![world.bodies[body]!.part] ?? AT_REST);
}

export function posesOf(
  world: World,
  memories: readonly Memory[],
  all: readonly (readonly Pose[])[],
  i: number,
): readonly Pose[] {
  const { entity, behaviour, carrier, on: part } = world.things[i]!;
  const own = behaviour.poses?.(entity, memories[i]!, world.around) ?? [];
  const on = carrier < 0 ? undefined : (all[carrier]![part] ?? all[carrier]![0]);
  return on && on !== AT_REST ? (own.length ? own : [AT_REST]).map((p) => composeAffine(on, p)) : own;
}

/** Where a thing is that rides on others, from where it was drawn. */
export const poseOfThing = (world: World, { memories }: Pick<WorldState, 'memories'>, thing: number): Pose =>
  allOf(world, memories).poses[thing]?.[0] ?? AT_REST;
