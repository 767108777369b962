import { modelOf, propPose, propTurn, type Model } from '../entity/index.ts';
import { factsOfProp, propSize, type MapDocument } from '../map/index.ts';
import {
  add,
  applyAffine,
  arcTangent2,
  boxCorners,
  boxOf,
  composeAffine,
  distance,
  dot,
  hypot,
  invertAffine,
  length,
  normalize,
  scale,
  sub,
  translation,
  wrapDegrees,
  type Box,
  type Vec3,
} from '../math/index.ts';
import type { PropFacts, PropLookup, PropSocket } from '../prop/index.ts';

/** A prop that is about to stand somewhere. */
export interface Standing extends Pick<Model, 'up' | 'scale'>, Pick<PropFacts, 'bounds' | 'sockets'> {
  readonly at: Vec3;
  readonly turn: number;
}

/** Turned against one another by less than this (a sine) boxes count as square to each other. */
const SQUARE = 1e-3;
const [X, Y, Z] = [0, 1, 2] as const;

/** Where a prop joins. */
export interface Joined {
  readonly at: Vec3;
  readonly turn: number;
}

/** Sockets reach this many times as far as sides: turning about its pivot moves a prop on as well. */
const SOCKET_REACH = 1.5;
/** A prop is turned by no more than this (degrees) to meet a socket: across one it is meant to stand so. */
const MOST_TURN = 45;

const isUpright = (up: Vec3): boolean => up[2] > length(up) * (1 - SQUARE);

/**
 * Where a prop stands whose socket meets one of another that stands, of the same name: both look against each other along the level. The
 * nearest to where it is; null where none is within `reach` (cm) and turned nearly so, or one of them leans.
 */
function joinSockets(doc: MapDocument, own: Standing, lookup: PropLookup, reach: number): Joined | null {
  if (!own.sockets?.length || !isUpright(own.up)) return null;
  let best: { readonly joined: Joined; readonly far: number } | null = null;
  const taken = socketsIn(doc, lookup);
  for (const { name, at, way } of taken) {
    // Where something has joined already there is no room.
    if (taken.some((t) => t.name === name && distance(t.at, at) < 1 && dot(t.way, way) < -0.99)) continue;
    for (const socket of own.sockets) {
      if (socket.name !== name || hypot(way[0], way[1], 0) < 0.5) continue;
      const facing = (arcTangent2(-way[1], -way[0]) * 180) / Math.PI;
      const turn = wrapDegrees(facing - (arcTangent2(socket.way[1], socket.way[0]) * 180) / Math.PI);
      if (Math.abs(wrapDegrees(turn - own.turn + 180) - 180) > MOST_TURN) continue;
      const met = applyAffine(propTurn(own.up, turn, own.scale), socket.at);
      const there = sub(at, met).map((c) => Math.round(c * 1e6) / 1e6 + 0) as unknown as Vec3;
      const far = distance(there, own.at);
      if (far <= reach && (!best || far < best.far)) best = { joined: { at: there, turn }, far };
    }
  }
  return best?.joined ?? null;
}

/** The sockets of all props of a map that stand upright, where they are. */
function socketsIn(doc: MapDocument, lookup: PropLookup): PropSocket[] {
  const out: PropSocket[] = [];
  for (const thing of doc.entities.values()) {
    const model = modelOf(thing);
    const sockets = model && factsOfProp(model, lookup)?.sockets;
    if (!sockets?.length || !isUpright(model!.up)) continue;
    const pose = propPose(model!, thing.at, thing.turn);
    for (const { name, at, way } of sockets) {
      const there = applyAffine(pose, at);
      out.push({ name, at: there, way: normalize(sub(applyAffine(pose, add(at, way)), there)) });
    }
  }
  return out;
}

/**
 * Where a prop stands when it joins its neighbours: a socket of it at one of theirs; else flush with the side of the nearest box that is no
 * farther than `reach` (cm), and in line with that box where it nearly is. For that only those that stand as upright and square to it
 * count; without one it stays where it is.
 */
export function joinNeighbours(doc: MapDocument, own: Standing, lookup: PropLookup, reach: number): Joined {
  const socket = joinSockets(doc, own, lookup, reach * SOCKET_REACH);
  if (socket) return socket;
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
  return { at: best ? applyAffine(pose, best.by) : own.at, turn: own.turn };
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
