import { sweepPlanesOf } from '../compile/index.ts';
import type { Solid } from '../brush/index.ts';
import { AT_REST, isShift, movedBox, type Pose } from '../entity/index.ts';
import { applyAffine, boxesOverlap, boxOf, EMPTY_BOX, growBox, type Box } from '../math/index.ts';
import type { MovingSolid } from './collide.ts';
import type { World, WorldBody } from './world.ts';

/** Where all bodies of a world are: changed in place while a step is made. */
export interface Placed {
  readonly poses: Pose[];
  readonly bounds: Box[];
}

export const placedAtRest = ({ bodies }: World): Placed => ({
  poses: bodies.map(() => AT_REST),
  bounds: bodies.map((b) => b.bounds),
});

/** The planes of each solid as it was drawn: moved along, they only shift. */
const restPlanes = new WeakMap<Solid, Float64Array>();

function planesAtRest(solid: Solid): Float64Array {
  const known = restPlanes.get(solid) ?? Float64Array.from(sweepPlanesOf(solid));
  restPlanes.set(solid, known);
  return known;
}

/** A solid of a body as sweeps meet it at a pose. */
export function solidAt(body: number, solid: Solid, box: Box, pose: Pose): MovingSolid {
  if (isShift(pose)) {
    const rest = planesAtRest(solid);
    const planes = new Float64Array(rest);
    for (let k = 0; k < planes.length; k += 4)
      planes[k + 3] = rest[k + 3]! + rest[k]! * pose[3] + rest[k + 1]! * pose[7] + rest[k + 2]! * pose[11];
    return { body, bounds: movedBox(pose, box), planes };
  }
  const vertices = solid.vertices.map((v) => applyAffine(pose, v));
  return { body, bounds: boxOf(vertices), planes: Float64Array.from(sweepPlanesOf({ ...solid, vertices })) };
}

/** Solids made for a pose are kept while the body stays there. */
const made = new WeakMap<WorldBody, { pose: Pose; solids: MovingSolid[] }>();

export function solidsAt(world: World, body: number, pose: Pose): readonly MovingSolid[] {
  const b = world.bodies[body]!;
  const known = made.get(b);
  if (known?.pose === pose) return known.solids;
  const solids = b.solids.map((s, k) => solidAt(body, s, b.boxes[k]!, pose));
  made.set(b, { pose, solids });
  return solids;
}

/** The moving solids that come near a box, but for one body. */
export function movingNear(world: World, placed: Placed, box: Box, but = -1): MovingSolid[] {
  const out: MovingSolid[] = [];
  for (let k = 0; k < world.bodies.length; k++)
    if (k !== but && boxesOverlap(placed.bounds[k]!, box)) out.push(...solidsAt(world, k, placed.poses[k]!));
  return out;
}

/** Takes a body away: nothing meets it until it is moved somewhere. */
export const removeBody = (placed: Placed, body: number): void => {
  placed.bounds[body] = EMPTY_BOX;
};

export const moveBody = (world: World, placed: Placed, body: number, pose: Pose): void => {
  placed.poses[body] = pose;
  placed.bounds[body] = growBox(movedBox(pose, world.bodies[body]!.bounds), 0.1);
};
