import { modelOf, propPose, propTurn, type Model } from '../entity/index.ts';
import { factsOfProp, propSize, type MapDocument } from '../map/index.ts';
import {
  applyAffine,
  boxCorners,
  boxOf,
  composeAffine,
  invertAffine,
  length,
  scale,
  translation,
  type Box,
  type Vec3,
} from '../math/index.ts';
import type { PropLookup } from '../prop/index.ts';

/** A prop that is about to stand somewhere. */
export interface Standing extends Pick<Model, 'up' | 'scale'> {
  readonly bounds: Box;
  readonly at: Vec3;
  readonly turn: number;
}

/** Turned against one another by less than this (a sine) boxes count as square to each other. */
const SQUARE = 1e-3;
const [X, Y, Z] = [0, 1, 2] as const;

/**
 * Where a prop stands when it joins its neighbours: flush with the side of the nearest box that is no farther than `reach` (cm), and in line
 * with that box where it nearly is. Only those that stand as upright and square to it count; without one it stays where it is.
 */
export function joinNeighbours(doc: MapDocument, own: Standing, lookup: PropLookup, reach: number): Vec3 {
  const pose = composeAffine(translation(own.at), propTurn(own.up, own.turn, 1));
  const back = invertAffine(pose)!;
  const inOwn = (p: Vec3): Vec3 => applyAffine(back, p);
  const box = { min: scale(own.bounds.min, own.scale), max: scale(own.bounds.max, own.scale) };
  let best: { readonly by: Vec3; readonly far: number } | null = null;
  for (const thing of doc.entities.values()) {
    const model = modelOf(thing);
    if (!model) continue;
    const there = propPose(model, thing.at, thing.turn);
    const [o, x, z] = ([[0, 0, 0], [1, 0, 0], [0, 0, 1]] as const).map((p) => inOwn(applyAffine(there, p))) as [Vec3, Vec3, Vec3]; // prettier-ignore
    const way = x.map((c, k) => (c - o[k]!) / model.scale);
    const isSquare =
      Math.min(Math.abs(way[X]!), Math.abs(way[Y]!)) < SQUARE && z[Z] - o[Z] > model.scale * (1 - SQUARE);
    if (!isSquare) continue;
    const other = boxOf(
      boxCorners(factsOfProp(model, lookup)?.bounds ?? propSize(thing)).map((p) => inOwn(applyAffine(there, p))),
    );
    const by = joint(box, other, reach);
    const far = by ? length(by) : Infinity;
    if (by && (!best || far < best.far)) best = { by, far };
  }
  return best ? applyAffine(pose, best.by) : own.at;
}

/** By what a box is moved to lie flush beside another one; null where it is not near its side. */
function joint(own: Box, other: Box, reach: number): Vec3 | null {
  if (own.min[Z] >= other.max[Z] || own.max[Z] <= other.min[Z]) return null;
  let best: { readonly axis: 0 | 1; readonly by: number; readonly shared: number } | null = null;
  for (const axis of [X, Y]) {
    // Boxes meet on the sides that face each other most: the ends of two walls in a row, not their flanks.
    const shared = sharedPart(own, other, axis === X ? Y : X);
    if (shared <= 0) continue;
    for (const by of [other.max[axis] - own.min[axis], other.min[axis] - own.max[axis]]) {
      const better = !best || shared > best.shared || (shared === best.shared && Math.abs(by) < Math.abs(best.by));
      if (Math.abs(by) <= reach && better) best = { axis, by, shared };
    }
  }
  if (!best) return null;
  const across = best.axis === X ? Y : X;
  const lines = [
    (other.min[across] + other.max[across] - own.min[across] - own.max[across]) / 2,
    other.min[across] - own.min[across],
    other.max[across] - own.max[across],
  ].sort((a, b) => Math.abs(a) - Math.abs(b));
  const line = Math.abs(lines[0]!) <= reach ? lines[0]! : 0;
  return best.axis === X ? [best.by, line, 0] : [line, best.by, 0];
}

/** How much of the shorter of two boxes' extents along an axis lies beside the other one. */
function sharedPart({ min: a, max: b }: Box, { min: c, max: d }: Box, axis: 0 | 1): number {
  const beside = Math.min(b[axis], d[axis]) - Math.max(a[axis], c[axis]);
  return beside / Math.min(b[axis] - a[axis], d[axis] - c[axis]);
}
