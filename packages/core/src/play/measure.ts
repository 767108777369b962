import { hypot, planeFromLoop, type Vec3 } from '../math/index.ts';
import { stillBrushes, type MapDocument } from '../map/index.ts';
import { stopsPlayers } from '../brush/index.ts';
import type { PlayerBody } from '../checks/index.ts';
import { packColliders } from '../compile/index.ts';
import { makeCollision, newSweep, sweepBox, type Collision } from './collide.ts';
import { PLAYER } from './constants.ts';
import { fits } from './player.ts';

/** How far down (cm) ground is looked for. */
const GROUND_REACH = 1000;

/** How far (cm) a running jump carries on level ground: the time in the air at walking speed. */
export const jumpReach = (): number => PLAYER.walkSpeed * 2 * Math.sqrt((2 * PLAYER.jump) / PLAYER.gravity);

/** How high (cm) the feet are over their start after `gap` cm of a running jump; at its best when the gap is short. */
const jumpHeightAfter = (gap: number): number => {
  const rise = Math.sqrt(2 * PLAYER.gravity * PLAYER.jump);
  const t = gap / PLAYER.walkSpeed;
  // Before the top of the jump one can still land on anything up to its height later on.
  return t <= rise / PLAYER.gravity ? PLAYER.jump : rise * t - (PLAYER.gravity * t * t) / 2;
};

/** The solids of a map as play meets them, for questions asked while drawing. */
export const collisionOf = (doc: MapDocument): Collision =>
  makeCollision(packColliders([...doc.brushes.values()].filter(stopsPlayers)));

export interface PlayerAnswers {
  readonly stand: boolean;
  readonly crouch: boolean;
  /** Can walk straight from one place to the other, on foot and upright, crouched, or not at all. */
  readonly pass: 'upright' | 'crouching' | 'no';
  /** Can get up the difference in height as a step. */
  readonly step: boolean;
  /** Can jump from one place to the other. */
  readonly jump: boolean;
}

/**
 * What a player can do between two places for the feet, with the same body and movement numbers that play uses. Passing
 * sweeps the body straight along; jumping asks whether the arc of a running jump reaches that far and high.
 */
export function askPlayer(world: Collision, from: Vec3, to: Vec3): PlayerAnswers {
  const gap = hypot(to[0] - from[0], to[1] - from[1]);
  const rise = to[2] - from[2];
  const up = (p: Vec3): Vec3 => [p[0], p[1], p[2] + 0.1];
  const clear = (crouching: boolean): boolean => {
    const height = crouching ? PLAYER.crouching : PLAYER.standing;
    // Feet lifted by a step's height at most, as walking does over small ledges.
    const lift = Math.min(PLAYER.step, Math.max(0, rise)) + 0.1;
    const middle: Vec3 = [from[0], from[1], from[2] + lift + height / 2];
    const s = sweepBox(
      world,
      middle,
      PLAYER.halfWidth,
      PLAYER.halfWidth,
      height / 2,
      to[0] - from[0],
      to[1] - from[1],
      0,
      newSweep(),
    );
    return !s.stuck && s.fraction > 0.999;
  };
  const level = Math.abs(rise) <= PLAYER.step;
  return {
    stand: fits(world, up(to), false),
    crouch: fits(world, up(to), true),
    pass: level && clear(false) ? 'upright' : level && clear(true) ? 'crouching' : 'no',
    step: rise <= PLAYER.step,
    jump: rise <= PLAYER.jump && rise <= jumpHeightAfter(Math.max(0, gap - PLAYER.halfWidth * 2)),
  };
}

/** The area (cm²) of a loop of points in space. */
export function loopArea(points: readonly Vec3[]): number {
  const plane = points.length >= 3 ? planeFromLoop(points) : null;
  if (!plane) return 0;
  let x = 0;
  let y = 0;
  let z = 0;
  const o = points[0]!;
  for (let i = 1; i + 1 < points.length; i++) {
    const [a, b] = [points[i]!, points[i + 1]!];
    const [ax, ay, az] = [a[0] - o[0], a[1] - o[1], a[2] - o[2]];
    const [bx, by, bz] = [b[0] - o[0], b[1] - o[1], b[2] - o[2]];
    x += ay * bz - az * by;
    y += az * bx - ax * bz;
    z += ax * by - ay * bx;
  }
  return hypot(x, y, z) / 2;
}

/** What checks ask about a player in a map; the solids are packed only when the first question comes. */
export function bodyIn(doc: MapDocument): PlayerBody {
  let world: Collision | null = null;
  // Doors open and lifts go away: what moves is not in the way of anybody for good.
  const solids = () => (world ??= makeCollision(packColliders(stillBrushes(doc).filter(stopsPlayers))));
  return {
    width: PLAYER.halfWidth * 2,
    standing: PLAYER.standing,
    crouching: PLAYER.crouching,
    step: PLAYER.step,
    fits: (feet) => fits(solids(), feet, true),
    groundUnder: (p) => {
      const half = 0.5;
      const s = sweepBox(solids(), [p[0], p[1], p[2] + half], half, half, half, 0, 0, -GROUND_REACH, newSweep());
      return s.stuck || s.fraction === 1 ? null : p[2] - s.fraction * GROUND_REACH;
    },
  };
}
