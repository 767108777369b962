import type { Solid } from '../brush/index.ts';
import { boxesOverlap, boxOf, planeFromLoop, type Box, type Plane, type Vec3 } from '../math/index.ts';
import { eyeOf, IN_AIR, playerHeight, type Medium, type PlayerState } from './player.ts';
import { PLAYER } from './constants.ts';

/** A convex space that is not solid but in which one moves otherwise: water, or beside a ladder. */
export interface Space {
  readonly bounds: Box;
  readonly planes: readonly Plane[];
}

export const spaceOf = ({ vertices, loops }: Solid): Space => ({
  bounds: boxOf(vertices),
  planes: loops.flatMap((loop) => planeFromLoop(loop.map((i) => vertices[i]!)) ?? []),
});

const holds = ({ planes }: Space, p: Vec3): boolean =>
  planes.every(({ normal, distance }) => normal[0] * p[0] + normal[1] * p[1] + normal[2] * p[2] <= distance);

/** A ladder is held as long as the feet are less than this (cm) above it, so that one gets over the edge that it leads to. */
const ABOVE_LADDER = 16;
/** A ladder is held from this far beside it, cm. */
const BESIDE_LADDER = 6;
/** Steps (cm) in which the height of the water round a body is told. */
const STEP = 4;

/** What somebody is in. */
export function mediumAt(liquids: readonly Space[], ladders: readonly Space[], body: PlayerState): Medium {
  if (liquids.length + ladders.length === 0) return IN_AIR;
  const [x, y, z] = body.at;
  const [w, h] = [PLAYER.halfWidth, playerHeight(body.crouching)];
  const box: Box = { min: [x - w, y - w, z], max: [x + w, y + w, z + h] };
  const near = liquids.filter((s) => boxesOverlap(s.bounds, box));
  let water = 0;
  for (let up = STEP; near.length && up <= h; up += STEP)
    if (near.some((s) => holds(s, [x, y, z + up]))) water = up;
    else break;
  const eye = eyeOf(body);
  const reach: Box = {
    min: [box.min[0] - BESIDE_LADDER, box.min[1] - BESIDE_LADDER, z - ABOVE_LADDER],
    max: [box.max[0] + BESIDE_LADDER, box.max[1] + BESIDE_LADDER, z + h],
  };
  return {
    water,
    under: near.some((s) => holds(s, eye)),
    ladder: ladders.some((s) => boxesOverlap(s.bounds, reach)),
  };
}
