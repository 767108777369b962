import { openAreas, type Level } from '../compile/index.ts';
import { AT_REST } from '../entity/index.ts';
import type { Placed } from './bodies.ts';
import type { WorldState } from './state.ts';
import { isAway } from './whereabouts.ts';
import type { World } from './world.ts';

/** A body this near to where it was drawn (cm, and as much of a turn) has not moved. */
const UNMOVED = 1e-6;

/**
 * The areas of a level that are reached from a cell as doors stand, one byte an area; null where no gate parts anything. A gate is closed
 * while all that closes it is there and where it was drawn: it opens with the first movement. The bodies of the world are those of the
 * level, in its order.
 */
export function areasInSight(
  level: Pick<Level, 'meta' | 'cellArea'>,
  world: World,
  state: Pick<WorldState, 'memories'>,
  placed: Placed,
  cell: number,
): Uint8Array | null {
  return openAreas(level, cell, (gate) => {
    const { bodies } = level.meta.gates[gate]!;
    return (
      bodies.length > 0 &&
      bodies.every(
        (k) =>
          !isAway(world, state, world.bodies[k]!.thing) &&
          placed.poses[k]!.every((c, i) => Math.abs(c - AT_REST[i]!) <= UNMOVED),
      )
    );
  });
}
