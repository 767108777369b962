import { boxSolid, type Brush } from '../brush/index.ts';
import { placeEntity } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { applyAffine, type Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import {
  fits,
  placedIn,
  stepWorld,
  TIME_STEP,
  type PlayerInput,
  type Told,
  type World,
  type WorldState,
} from '../play/index.ts';
import { movingNear } from '../play/bodies.ts';
import { dressSolid } from '../surface/index.ts';

export const STILL: PlayerInput = { forward: 0, right: 0, jump: false, crouch: false, use: false, yaw: 0, pitch: 0 };

export const block = (id: string, min: Vec3, max: Vec3, owner?: Brush['owner']): Brush => ({
  ...dressSolid(boxSolid({ min, max }), id, 'm'),
  ...(owner ? { owner } : {}),
});

/** A map with brushes and things: `[kind, id, place, parameters]`. */
export function scene(
  brushes: readonly Brush[],
  things: readonly (readonly [kind: string, id: string, at: Vec3, params?: Record<string, unknown>])[],
): MapDocument {
  const doc = things.reduce((d, [kind, id, at]) => placeEntity(d, kind, at, 0, id), emptyMap('t'));
  const entities = new Map(
    things.map(([, id, , params]) => {
      const e = doc.entities.get(id)!;
      return [id, { ...e, params: { ...e.params, ...(params as Record<string, ParamValue>) } }] as const;
    }),
  );
  return { ...doc, brushes: new Map(brushes.map((b) => [b.id, b])), entities };
}

export interface Run {
  readonly state: WorldState;
  readonly told: readonly Told[];
}

/** Plays on for some seconds, everybody with the same input. */
export function play(
  world: World,
  from: WorldState,
  seconds: number,
  input: (t: number, state: WorldState) => PlayerInput = () => STILL,
  each?: (state: WorldState) => void,
): Run {
  let state = from;
  const told: Told[] = [];
  for (let k = 0; k < Math.round(seconds / TIME_STEP); k++) {
    const next = stepWorld(
      world,
      state,
      state.people.map(() => input(k * TIME_STEP, state)),
      TIME_STEP,
    );
    state = next.state;
    told.push(...next.told);
    each?.(state);
  }
  return { state, told };
}

/** Where a point of a body is that was drawn somewhere. */
export const pointOf = (world: World, state: WorldState, p: Vec3, body = 0): Vec3 =>
  applyAffine(placedIn(world, state).poses[body]!, p);

/** Whether nobody of a state is in a solid. */
export function isFree(world: World, state: WorldState): boolean {
  const placed = placedIn(world, state);
  return state.people.every(({ body }) => {
    const near = { min: body.at.map((x) => x - 300) as never, max: body.at.map((x) => x + 300) as never };
    return fits({ ...world.still, moving: movingNear(world, placed, near) }, body.at, body.crouching);
  });
}
