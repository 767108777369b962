import {
  boxCorners,
  type Affine,
  applyAffine,
  arcTangent2,
  type Box,
  composeAffine,
  hypot,
  IDENTITY,
  rotationAbout,
  translation,
  type Vec3,
  smoothStep,
} from '../math/index.ts';
import type { Ease, Keyframe } from '../params/index.ts';

/** Where a part is and how it is turned, from where it was drawn: a rigid map. */
export type Pose = Affine;

/** How far along (0 to 1) something is that began at 0 and has used a share of its time. */
export function eased(ease: Ease, t: number): number {
  switch (ease) {
    case 'even':
      return t;
    case 'gentle':
      return smoothStep(t);
    case 'start':
      return t * t;
    case 'end':
      return t * (2 - t);
  }
}

/** The time at which a track's last keyframe is over, seconds. */
export const trackLength = (keys: readonly Keyframe[]): number =>
  (keys.at(-1)?.at ?? 0) + keys.reduce((sum, k) => sum + (k.hold ?? 0), 0);

const mix = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

/** Where a track is at a time (s): before its first keyframe as drawn on the way there, after its last as that says. Turns go about `pivot`. */
export function trackPose(keys: readonly Keyframe[], time: number, pivot: Vec3): Pose {
  let from: Pick<Keyframe, 'move' | 'turn'> = { move: [0, 0, 0], turn: [0, 0, 0] };
  let began = 0;
  let held = 0;
  for (const key of keys) {
    const comes = key.at + held;
    if (time < comes) {
      const t = eased(key.ease ?? 'gentle', (time - began) / (comes - began));
      return poseOf(mix(from.move, key.move, t), mix(from.turn, key.turn, t), pivot);
    }
    from = key;
    held += key.hold ?? 0;
    began = key.at + held;
    if (time < began) break;
  }
  return poseOf(from.move, from.turn, pivot);
}

/** Turned about a point by a turn (its axis, as long as the degrees), and moved. */
export function poseOf(move: Vec3, turn: Vec3, pivot: Vec3): Pose {
  const degrees = hypot(...turn);
  return degrees === 0 ? translation(move) : composeAffine(translation(move), rotationAbout(turn, degrees, pivot));
}

/** The box round a box that is somewhere else. */
export function movedBox(pose: Pose, { min, max }: Box): Box {
  if (isShift(pose))
    return {
      min: [min[0] + pose[3], min[1] + pose[7], min[2] + pose[11]],
      max: [max[0] + pose[3], max[1] + pose[7], max[2] + pose[11]],
    };
  const low = [pose[3], pose[7], pose[11]];
  const high = [pose[3], pose[7], pose[11]];
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) {
      const a = pose[r * 4 + c]! * min[c]!;
      const b = pose[r * 4 + c]! * max[c]!;
      low[r]! += Math.min(a, b);
      high[r]! += Math.max(a, b);
    }
  return { min: low as unknown as Vec3, max: high as unknown as Vec3 };
}

/** How far the points of a box get at most from one pose to another, cm. */
export function farthestMove(box: Box, from: Pose, to: Pose): number {
  if (isShift(from) && isShift(to)) return hypot(to[3] - from[3], to[7] - from[7], to[11] - from[11]);
  return Math.max(
    ...boxCorners(box).map((p) => {
      const [a, b] = [applyAffine(from, p), applyAffine(to, p)];
      return hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
    }),
  );
}

/** Whether a pose only moves. */
export const isShift = (p: Pose): boolean =>
  p[0] === 1 &&
  p[5] === 1 &&
  p[10] === 1 &&
  p[1] === 0 &&
  p[2] === 0 &&
  p[4] === 0 &&
  p[6] === 0 &&
  p[8] === 0 &&
  p[9] === 0;

/** The inverse of a rigid map. */
export const undoPose = (p: Pose): Pose => {
  const t = (c: number) => -(p[c]! * p[3] + p[4 + c]! * p[7] + p[8 + c]! * p[11]);
  return [p[0], p[4], p[8], t(0), p[1], p[5], p[9], t(1), p[2], p[6], p[10], t(2)];
};

/** What leads from one pose to another. */
export const stepBetween = (from: Pose, to: Pose): Pose =>
  isShift(from) && isShift(to)
    ? translation([to[3] - from[3], to[7] - from[7], to[11] - from[11]])
    : composeAffine(to, undoPose(from));

/** A pose on the way from one to another near by: turned by a share of the turn, with a point moved by as much of its way. */
export function poseBetween(from: Pose, to: Pose, share: number, centre: Vec3): Pose {
  if (share >= 1) return to;
  if (share <= 0) return from;
  const step = stepBetween(from, to);
  const a = applyAffine(from, centre);
  const b = applyAffine(to, centre);
  const by = translation([(b[0] - a[0]) * share, (b[1] - a[1]) * share, (b[2] - a[2]) * share]);
  if (isShift(step)) return composeAffine(by, from);
  const axis: Vec3 = [step[9] - step[6], step[2] - step[8], step[4] - step[1]];
  const sine = hypot(...axis) / 2;
  const degrees = (arcTangent2(sine, (step[0] + step[5] + step[10] - 1) / 2) * 180) / Math.PI;
  return composeAffine(by, composeAffine(rotationAbout(axis, degrees * share, a), from));
}

export { IDENTITY as AT_REST };
