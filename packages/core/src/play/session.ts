import { AT_REST, type Entity, type Memory, type Pose } from '../entity/index.ts';
import type { ParamValue } from '../params/index.ts';
import { beginWorld, type WorldState } from './state.ts';
import { isAway, placedIn } from './whereabouts.ts';
import type { World, WorldBody } from './world.ts';

/** A thing told to do something from outside: by a person who tries it. */
export const order = (
  world: World,
  state: WorldState,
  thing: string,
  action: string,
  value?: ParamValue,
): WorldState => {
  const k = world.things.findIndex(({ entity }: { entity: Entity }) => entity.id === thing);
  return k < 0
    ? state
    : {
        ...state,
        due: [...state.due, { tick: state.tick, thing: k, action, ...(value === undefined ? {} : { value }) }],
      };
};

/** A state of a map as it went on when the map was edited: things that are still there remember what they did. */
export function carryOver(before: World, state: WorldState, after: World): WorldState {
  const remembered = new Map(before.things.map(({ entity }, i) => [entity.id, { kind: entity.kind, at: i }]));
  const fresh = beginWorld(after, state.people);
  const memories = after.things.map(({ entity, behaviour }, i) => {
    const was = remembered.get(entity.id);
    const shape = (m: Memory) => Object.keys(m).join();
    const kept = was?.kind === entity.kind ? state.memories[was.at]! : undefined;
    // What it remembers of other leaves than it has now would not fit.
    const same = kept && entity === before.things[was!.at]!.entity && shape(kept) === shape(fresh.memories[i]!);
    return same ? kept : behaviour.begin(entity, after.around);
  });
  const renumbered = new Map(before.bodies.map((b, k) => [k, bodyLike(before, b, after)]));
  const people = state.people.map((p) => ({
    ...p,
    body: { ...p.body, standsOn: renumbered.get(p.body.standsOn) ?? -1 },
  }));
  const index = new Map(after.things.map(({ entity }, i) => [entity.id, i]));
  const due = state.due.flatMap((d) => {
    const thing = index.get(before.things[d.thing]!.entity.id);
    return thing === undefined ? [] : [{ ...d, thing }];
  });
  return { ...state, people, memories, due };
}

const bodyLike = (before: World, body: WorldBody, after: World): number =>
  after.bodies.findIndex(
    (b) => b.part === body.part && after.things[b.thing]!.entity.id === before.things[body.thing]!.entity.id,
  );

/** Whether nothing goes on: no thing has changed since another state, and no wire waits. */
export const isQuiet = (before: WorldState, now: WorldState): boolean =>
  now.due.length === 0 && now.memories.every((m, i) => m === before.memories[i]);

/** The poses of all parts that are not where they were drawn, or are away, by thing and part. */
export function movedParts(
  world: World,
  state: WorldState,
): { thing: string; part: number; pose: Pose; away: boolean }[] {
  const { poses } = placedIn(world, state);
  return world.bodies.flatMap(({ thing, part }, k) => {
    const away = isAway(world, state, thing);
    return poses[k] === AT_REST && !away
      ? []
      : [{ thing: world.things[thing]!.entity.id, part, pose: poses[k]!, away }];
  });
}

/** The share of its strength that each lamp shines with which can be switched, by thing. */
export function lampShares(world: World, state: WorldState): Map<string, number> {
  const out = new Map<string, number>();
  world.things.forEach(({ entity, behaviour }, k) => {
    if (behaviour.shine) out.set(entity.id, behaviour.shine(entity, state.memories[k]!));
  });
  return out;
}
