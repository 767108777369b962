import { brushBounds, brushPlanes, hullOf, type Brush, type Solid } from '../brush/index.ts';
import { freeRegion, sectionAt } from '../edit/index.ts';
import { stillBrushes, type MapDocument } from '../map/index.ts';
import {
  addScaled,
  areaVector,
  boxesOverlap,
  boxOf,
  centroid,
  cross,
  dot,
  growBox,
  hashRandom,
  hypot,
  negate,
  normalize,
  samePlane,
  signedDistance,
  sub,
  type Plane,
  type Vec3,
} from '../math/index.ts';

/** How thick (cm) a brush that fills a hole is. */
export const PLUG = 16;
/** It reaches so far (cm) into what it ends at. */
const LAP = 2;
/** Where a hole is found only roughly, the gap may begin so far (cm) from the middle of its outline. */
const NEAR = 64;
/** Beside the hole's own plane (cm along its normal): where walls meet slantwise the gap may end in one of them only. */
const BESIDE = [0, PLUG / 2, -PLUG / 2, PLUG, -PLUG];
/** So many planes of faces are tried, no farther than this (cm) from the hole: where a whole wall is missing those of its neighbours' ends. */
const [PLANES, FAR] = [24, 1000];
/** Solids farther than this (cm) from the hole do not count: no gap is that large. */
const AROUND = 1500;
/** So many places of a gap are looked from, so many ways each. */
const [PLACES, WAYS] = [4, 12];
/** How far from the gap, cm. */
const PAST = [1, 20, 50];

/** A plane in which the gap between solids may lie, through a point in it. */
interface GapPlane {
  readonly at: Vec3;
  readonly normal: Vec3;
  /** From where along the normal, and to where, a brush would fill it. */
  readonly from: number;
  readonly to: number;
}

/**
 * A solid that closes a hole: across the whole gap between solids, in the hole's plane or, where that is only a place on the way out, in
 * the plane near it behind which most is void. `from` is where the way out goes through the hole, or begins where that has no outline.
 * Null where none is found.
 */
export function plugFor(doc: MapDocument, hole: readonly Vec3[], from?: Vec3): Solid | null {
  const normal = hole.length < 3 ? null : normalize(areaVector(hole));
  const outlined = normal !== null && normal.every(Number.isFinite) && hypot(...normal) > 0.5;
  const middle = outlined ? centroid(hole) : null;
  const around = growBox(boxOf([...(outlined ? hole : []), ...(from ? [from] : [])]), AROUND);
  const solids = stillBrushes(doc).filter((b) => b.role === 'structure' && boxesOverlap(brushBounds(b), around));
  const best = [middle, from ?? null]
    .flatMap((point) => (point ? (bestGap(solids, point, outlined ? normal : null) ?? []) : []))
    .reduce<Closed | null>((a, b) => (a && a.score >= b.score ? a : b), null);
  if (best) return best.plug;
  if (!outlined || !middle) return null;
  const wider = hole.map((p) => addScaled(p, normalize(sub(p, middle)), LAP));
  return hullOf(wider.flatMap((p) => [addScaled(p, normal, PLUG / 2), addScaled(p, normal, -PLUG / 2)]));
}

/** A solid that closes a gap, and how much more void there is on one side of it than on the other, 0 to 1. */
interface Closed {
  readonly plug: Solid;
  readonly score: number;
}

/** What closes the gap near a point best. */
function bestGap(solids: readonly Brush[], point: Vec3, normal: Vec3 | null): Closed | null {
  let best: Closed | null = null;
  for (const gap of gapsNear(solids, point, normal)) {
    const found = closing(solids, gap);
    // The hole's own planes come first: others have to be clearly better.
    if (found && (!best || found.score > best.score + 0.15)) best = found;
  }
  return best;
}

/** Where the gap of a hole may lie. */
function* gapsNear(solids: readonly Brush[], middle: Vec3, normal: Vec3 | null): Generator<GapPlane> {
  for (const out of normal ? BESIDE : [])
    yield { at: addScaled(middle, normal!, out), normal: normal!, from: -PLUG / 2, to: PLUG / 2 };
  const near = solids
    .flatMap(brushPlanes)
    .map((plane) => ({ plane, far: Math.abs(signedDistance(plane, middle)) }))
    .filter(({ far }) => far < FAR)
    .sort((a, b) => a.far - b.far);
  const tried: Plane[] = [];
  for (const { plane } of near) {
    if (tried.length === PLANES) return;
    if (tried.some((known) => samePlane(known, plane))) continue;
    tried.push(plane);
    // Just within the ends of what stands beside it.
    const at = addScaled(middle, plane.normal, -signedDistance(plane, middle) - 1);
    yield { at, normal: plane.normal, from: 1 - PLUG, to: 1 };
  }
}

/** The solid that closes a gap. Null where the gap does not end. */
function closing(solids: readonly Brush[], { at, normal, from, to }: GapPlane): Closed | null {
  const u = normalize(cross(Math.abs(normal[2]) < 0.99 ? [0, 0, 1] : [0, 1, 0], normal));
  const v = cross(normal, u);
  const region = freeRegion(sectionAt(solids, { at, u, v }), NEAR);
  if (!region) return null;
  const put = ([a, b]: readonly [number, number], out: number) =>
    addScaled(addScaled(addScaled(at, u, a), v, b), normal, out);
  const range = (k: 0 | 1) => [Math.min(...region.map((p) => p[k])), Math.max(...region.map((p) => p[k]))] as const;
  const middle = [range(0), range(1)].map(([low, high]) => (low + high) / 2);
  // All about: beside an acute corner, too, it reaches into both of what meet there.
  const wider = region.flatMap(([a, b]) =>
    [-LAP, LAP].flatMap((da) => [-LAP, LAP].map((db) => [a + da, b + db] as const)),
  );
  const plug = hullOf(wider.flatMap((p) => [put(p, from), put(p, to)]));
  // Halfway between where the gap begins and ends, along it.
  const places = Array.from({ length: PLACES }, (_, i) => {
    const k = 2 * Math.floor(((i + 0.5) / PLACES) * (region.length / 2));
    const [x, low, high] = [region[k]![0], region[k]![1], region[k + 1]![1]];
    return [x + Math.sign(middle[0]! - x), (low + high) / 2] as const;
  });
  // Beside it, and past the wall that it is in.
  const open = (way: Vec3, out: number) =>
    Math.max(
      ...PAST.map((more) =>
        openShare(
          solids,
          places.map((p) => addScaled(put(p, out), way, more)),
          way,
        ),
      ),
    );
  return { plug, score: Math.abs(open(normal, to) - open(negate(normal), from)) };
}

/** What share of the ways from some places, to one side, meet no solid. */
function openShare(solids: readonly Brush[], places: readonly Vec3[], side: Vec3): number {
  let open = 0;
  places.forEach((place, i) => {
    for (let k = 0; k < WAYS; k++) {
      const random = [1, 2, 3].map((c) => hashRandom(i, k, c) * 2 - 1) as unknown as Vec3;
      const way = normalize(dot(random, side) < 0 ? negate(random) : random);
      if (!solids.some((solid) => meets(solid, place, way))) open++;
    }
  });
  return open / (places.length * WAYS);
}

/** Whether a ray meets a solid. */
function meets(solid: Brush, from: Vec3, way: Vec3): boolean {
  const { min, max } = brushBounds(solid);
  // Most lie behind it.
  if ([0, 1, 2].some((i) => (way[i]! > 0 ? max[i]! < from[i]! : way[i]! < 0 ? min[i]! > from[i]! : false)))
    return false;
  let [enter, leave] = [0, Infinity];
  for (const { normal, distance } of brushPlanes(solid)) {
    const [ahead, over] = [dot(normal, way), dot(normal, from) - distance];
    if (ahead === 0) {
      if (over > 0) return false;
    } else if (ahead < 0) enter = Math.max(enter, -over / ahead);
    else leave = Math.min(leave, -over / ahead);
    if (enter > leave) return false;
  }
  return true;
}
