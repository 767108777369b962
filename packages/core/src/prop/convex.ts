import { boxSolid, hullOf, hullVolume, solidVolume, type Solid } from '../brush/index.ts';
import { clipPolytopeAll, type Polytope } from '../brush/polytope.ts';
import {
  addScaled,
  arcTangent2,
  areaVector,
  boxContains,
  boxCorners,
  boxOf,
  clipBehind,
  cross,
  dot,
  flipPlane,
  growBox,
  latticeHash,
  length,
  normalize,
  planeFromLoop,
  signedDistance,
  sub,
  type Box,
  type Plane,
  type Vec3,
  type Winding,
} from '../math/index.ts';

/** How far a model is cut up. */
export interface ConvexLimits {
  /** Convex parts at most. */
  readonly most: number;
  /** A cut that saves less than this share of the model's one hull is not made. */
  readonly least: number;
  /** One hull is enough that holds no more than its parts by this share. */
  readonly simple: number;
}

const USUAL: ConvexLimits = { most: 12, least: 0.015, simple: 0.1 };

/** A hull with more corners than this is replaced by planes in fewer directions. */
const MOST_CORNERS = 32;
/** Of no more corners than this the hull itself is what cuts are judged by. */
const FEW = 48;
/** Of more corners than this no hull is looked for. */
const MOST_HULLED = 400;
/** A solid is no thinner, cm. */
const THIN = 1;
/** Places along each axis at which a cut is tried. */
const TRIED = 6;
/** Corners nearer than this (cm) are one. */
const WELD = 0.01;
/** Pieces of which more hang loose than this are taken together. */
const MOST_LOOSE = 24;

/** Directions to the corners, edges and sides of a cube: what is bounded by planes across them has few faces. */
const WAYS: readonly Vec3[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [-1, 0, 1].flatMap((z) => (x || y || z ? [normalize([x, y, z])] : []))),
);

/**
 * Convex solids that together hold all of a mesh, each corner of it in one of them at least: cut along planes across the axes where that
 * saves most of what the hulls hold too much, what hangs loose taken apart. Greedy; what is told apart by planes across the axes comes out exactly.
 * `triangles`: three corners each, cm. Of a mesh without triangles none.
 */
export function convexHulls(triangles: readonly Winding[], limits: Partial<ConvexLimits> = {}): Solid[] {
  const { most, least, simple } = { ...USUAL, ...limits };
  if (triangles.length === 0) return [];
  let parts = loose(triangles, most).map((mesh) => partOf(mesh, EVERYWHERE, isClosed(mesh) ? mesh : null));
  const whole = roughVolume(welded(triangles.flat()));
  while (parts.length < most) {
    let best: Chosen | null = null;
    for (const [at, part] of parts.entries()) {
      part.cut ??= bestCut(part);
      if (part.cut === 'none' || parts.length - 1 + part.cut.into.length > most) continue;
      if (!best || part.cut.saves > best.saves) best = { at, ...part.cut };
    }
    if (!best || best.saves < least * whole) best = bestTwice(parts, most, 2 * least * whole);
    if (!best) break;
    parts = [...parts.slice(0, best.at), ...best.into, ...parts.slice(best.at + 1)];
  }
  const solids = withoutInner(parts.map(({ points }) => boundOf(points)));
  if (solids.length === 1) return solids;
  // What parts hardly hold less than one body is one: nobody catches on its corners then.
  const one = boundOf(triangles.flat());
  const held = solids.reduce((sum, s) => sum + solidVolume(s), 0);
  return solidVolume(one) < held * (1 + simple) ? [one] : solids;
}

/** Without solids that lie within another one: that holds what they hold. */
function withoutInner(solids: readonly Solid[]): Solid[] {
  const planes = solids.map(({ vertices, loops }) =>
    loops.map((loop) => planeFromLoop(loop.map((v) => vertices[v]!))).filter((p) => p !== null),
  );
  const within = (a: number, b: number): boolean =>
    solids[a]!.vertices.every((p) => planes[b]!.every((plane) => signedDistance(plane, p) <= WELD));
  // Of two that hold each other the first stays.
  return solids.filter((_, a) => !solids.some((__, b) => a !== b && within(a, b) && (b < a || !within(b, a))));
}

/** A piece of a mesh, cut out of it by a box. */
interface Part {
  readonly polygons: readonly Winding[];
  readonly region: Box;
  /** The mesh that it was cut out of, where that has an inside. */
  readonly solid: readonly Winding[] | null;
  /** Corners of its hull and of what it was cut by within the solid. */
  readonly points: readonly Vec3[];
  /** About that of its hull. */
  readonly volume: number;
  /** The best cut of it, once it was looked for. */
  cut?: { readonly into: readonly Part[]; readonly saves: number } | 'none';
}

const EVERYWHERE: Box = { min: [-Infinity, -Infinity, -Infinity], max: [Infinity, Infinity, Infinity] };

function partOf(polygons: readonly Winding[], region: Box, solid: Part['solid']): Part {
  const corners = polygons.flat();
  const points = welded([...corners, ...innerCorners(corners, region, solid)]);
  return { polygons, region, solid, points, volume: roughVolume(points) };
}

/** Corners of what a piece was cut by that lie within its solid: on no face of it, and yet of its hull. */
function innerCorners(points: readonly Vec3[], region: Box, solid: Part['solid']): Vec3[] {
  const corners = solid ? boxCorners(region).filter((p) => p.every(Number.isFinite)) : [];
  if (!solid || corners.length === 0) return [];
  const near = growBox(boxOf(points), WELD);
  return corners.filter((p) => boxContains(near, p) && windsRound(solid, p));
}

/**
 * Whether a closed mesh goes round a point: by the solid angles of its triangles (Van Oosterom & Strackee, The Solid Angle of a Plane
 * Triangle, 1983).
 */
function windsRound(triangles: readonly Winding[], o: Vec3): boolean {
  let sum = 0;
  for (const t of triangles) {
    const [a, b, c] = [sub(t[0]!, o), sub(t[1]!, o), sub(t[2]!, o)];
    const [la, lb, lc] = [length(a), length(b), length(c)];
    sum += arcTangent2(dot(a, cross(b, c)), la * lb * lc + dot(a, b) * lc + dot(b, c) * la + dot(c, a) * lb);
  }
  // Each is half of the angle; all round they come to 2π.
  return Math.abs(sum) > Math.PI;
}

/** The two boxes that a plane across an axis makes of one. */
const halvesOf = ({ min, max }: Box, axis: 0 | 1 | 2, at: number): [below: Box, above: Box] => [
  { min, max: put(max, axis, at) },
  { min: put(min, axis, at), max },
];
const put = (p: Vec3, axis: 0 | 1 | 2, at: number): Vec3 => p.map((c, k) => (k === axis ? at : c)) as unknown as Vec3;

/** What a plane across an axis makes of a piece, what hangs loose apart; none where all of it lies on one side. */
function piecesOf({ polygons, region, solid }: Part, axis: 0 | 1 | 2, at: number): Part[] {
  const sides = cutBy(polygons, { normal: axisWay(axis), distance: at });
  if (sides.some((side) => side.length === 0)) return [];
  const regions = halvesOf(region, axis, at);
  return sides.flatMap((side, k) => loose(side, MOST_LOOSE).map((w) => partOf(w, regions[k]!, solid)));
}

/** The volume of the hull of points, or of those that lie outermost where they are many: what cuts are judged by. */
function roughVolume(points: readonly Vec3[]): number {
  return hullVolume(thickened(points.length > FEW ? outermost(points) : points));
}

/** Of points those that lie farthest in each of {@link WAYS}. */
function outermost(points: readonly Vec3[]): Vec3[] {
  const found = new Set<Vec3>();
  for (const way of WAYS) {
    let best = points[0]!;
    let far = -Infinity;
    for (const p of points) {
      const d = dot(p, way);
      if (d > far) [best, far] = [p, d];
    }
    found.add(best);
  }
  return welded([...found]);
}

/** A cut, and of which part. */
interface Chosen {
  readonly at: number;
  readonly into: readonly Part[];
  readonly saves: number;
}

/** Halves of a part, cut once more: what one cut alone does not save, as of a ring. Null where that saves no more than `least`. */
function bestTwice(parts: readonly Part[], most: number, least: number): Chosen | null {
  let best: Chosen | null = null;
  parts.forEach((part, at) => {
    const { min, max } = boxOf(part.points);
    for (const axis of [0, 1, 2] as const) {
      const into = piecesOf(part, axis, (min[axis] + max[axis]) / 2).flatMap((half): readonly Part[] => {
        half.cut ??= bestCut(half);
        return half.cut !== 'none' && half.cut.saves > 0 ? half.cut.into : [half];
      });
      if (into.length === 0) continue;
      const saves = part.volume - into.reduce((sum, p) => sum + p.volume, 0);
      if (saves < least || parts.length - 1 + into.length > most) continue;
      if (!best || saves > best.saves) best = { at, into, saves };
    }
  });
  return best;
}

function bestCut(part: Part): NonNullable<Part['cut']> {
  let best: Exclude<Part['cut'], 'none' | undefined> | null = null;
  for (const axis of [0, 1, 2] as const)
    for (const at of placesAlong(part.points, axis)) {
      const into = piecesOf(part, axis, at);
      if (into.length === 0) continue;
      const saves = part.volume - into.reduce((sum, p) => sum + p.volume, 0);
      if (!best || saves > best.saves) best = { into, saves };
    }
  return best ?? 'none';
}

/** What of polygons lies behind a plane and before it; what lies in it belongs to the side that it bounds. */
function cutBy(polygons: readonly Winding[], plane: Plane): [back: Winding[], front: Winding[]] {
  const [back, front]: [Winding[], Winding[]] = [[], []];
  for (const w of polygons) {
    const [b, f] = [clipBehind(w, plane), clipBehind(w, flipPlane(plane))];
    if (b) back.push(b);
    if (f) front.push(f);
    if (!b && !f) (dot(areaVector(w), plane.normal) > 0 ? back : front).push(w);
  }
  return [back, front];
}

const axisWay = (axis: 0 | 1 | 2): Vec3 => [Number(axis === 0), Number(axis === 1), Number(axis === 2)];

/** Places between the ends of points along an axis: where many corners lie first, then evenly. */
function placesAlong(points: readonly Vec3[], axis: 0 | 1 | 2): number[] {
  const counts = new Map<number, number>();
  let [low, high] = [Infinity, -Infinity];
  for (const p of points) {
    const c = p[axis];
    low = Math.min(low, c);
    high = Math.max(high, c);
    const key = Math.round(c * 100) / 100;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const inner = (c: number): boolean => c > low + THIN / 2 && c < high - THIN / 2;
  const often = [...counts]
    .filter(([c]) => inner(c))
    .sort((a, b) => b[1] - a[1] || a[0] - b[0])
    .slice(0, TRIED)
    .map(([c]) => c);
  const even = [1, 2, 3].map((k) => low + ((high - low) * k) / 4).filter(inner);
  return [...often, ...even];
}

/** Polygons by what hangs together; all as one where more hang loose than `most`. */
function loose(polygons: readonly Winding[], most: number): (readonly Winding[])[] {
  const root: number[] = polygons.map((_, k) => k);
  const find = (k: number): number => {
    let at = k;
    while (root[at] !== at) at = root[at] = root[root[at]!]!;
    return at;
  };
  // Corners that share a number by chance are taken for one: then two pieces count as one, and still hold all.
  const owner = new Map<number, number>();
  polygons.forEach((w, k) => {
    for (const p of w) {
      const key = placeKey(p);
      const known = owner.get(key);
      if (known === undefined) owner.set(key, k);
      else root[find(k)] = find(known);
    }
  });
  const out = new Map<number, Winding[]>();
  polygons.forEach((w, k) => {
    const list = out.get(find(k));
    if (list) list.push(w);
    else out.set(find(k), [w]);
  });
  return out.size > most ? [polygons] : [...out.values()];
}

/** What planes across {@link WAYS} leave round points. */
function boundedBy(points: readonly Vec3[]): Polytope {
  const { min, max } = boxOf(points);
  const lack = [0, 1, 2].map((k) => Math.max(0, THIN - (max[k]! - min[k]!)) / 2);
  const solid = boxSolid({
    min: min.map((c, k) => c - lack[k]!) as unknown as Vec3,
    max: max.map((c, k) => c + lack[k]!) as unknown as Vec3,
  });
  const sides = solid.loops.map((loop) => loop.map((v) => solid.vertices[v]!));
  const planes = WAYS.filter((w) => Math.abs(w[0]) + Math.abs(w[1]) + Math.abs(w[2]) > 1.01).map((normal): Plane => {
    let distance = -Infinity;
    let least = Infinity;
    for (const p of points) {
      const d = dot(normal, p);
      distance = Math.max(distance, d);
      least = Math.min(least, d);
    }
    // No thinner than a solid may be, in no direction.
    return { normal, distance: distance + Math.max(0, THIN - (distance - least)) / 2 };
  });
  return clipPolytopeAll(sides, planes);
}

/** The solid that bounds points: their hull, or where that would have many corners what few planes leave of a box. No thinner than 1 cm. */
export function boundOf(points: readonly Vec3[]): Solid {
  const few = welded(points);
  if (few.length <= MOST_HULLED) {
    const hull = hullOrSheet(few);
    if (hull.vertices.length <= MOST_CORNERS) return hull;
  }
  // Its corners are where three planes meet: the hull of them is what they bound.
  return hullOf(boundedBy(points).flat());
}

/** Points of which none share a place to {@link WELD}. */
function welded(points: readonly Vec3[]): Vec3[] {
  const out: Vec3[] = [];
  // Places that share a number by chance are told apart by a look.
  const known = new Map<number, number[]>();
  for (const p of points) {
    const key = placeKey(p);
    const there = known.get(key);
    if (!there) known.set(key, [out.push(p) - 1]);
    else if (!there.some((k) => isSamePlace(out[k]!, p))) there.push(out.push(p) - 1);
  }
  return out;
}

const cell = (c: number): number => Math.round(c / WELD);
/** A number for a place to {@link WELD}; others may have it too. */
const placeKey = (p: Vec3): number => latticeHash(cell(p[0]), cell(p[1]), cell(p[2]));
const isSamePlace = (a: Vec3, b: Vec3): boolean =>
  cell(a[0]) === cell(b[0]) && cell(a[1]) === cell(b[1]) && cell(a[2]) === cell(b[2]);

/** The hull of points; of those in one plane or on one line as thick as a solid has to be. */
const hullOrSheet = (points: readonly Vec3[]): Solid => hullOf(thickened(points));

/** Points as they are; those in one plane or on one line to either side of it. */
function thickened(points: readonly Vec3[]): readonly Vec3[] {
  const flat = flatWay(points);
  if (!flat) return points;
  return flat.reduce<readonly Vec3[]>(
    (all, way) => all.flatMap((p) => [addScaled(p, way, -THIN / 2), addScaled(p, way, THIN / 2)]),
    points,
  );
}

/** The ways in which points lack thickness; null for points that have some in all. */
function flatWay(points: readonly Vec3[]): Vec3[] | null {
  const a = points[0]!;
  const far = (score: (p: Vec3) => number): Vec3 => points.reduce((best, p) => (score(p) > score(best) ? p : best), a);
  const b = far((p) => length(sub(p, a)));
  const ab = sub(b, a);
  if (length(ab) < THIN / 2) return [[1, 0, 0], [0, 1, 0], [0, 0, 1]]; // prettier-ignore
  const c = far((p) => length(cross(ab, sub(p, a))));
  const square = cross(ab, sub(c, a));
  if (length(square) / length(ab) < THIN / 10) {
    const side = normalize(cross(ab, Math.abs(ab[2]) < 0.9 * length(ab) ? [0, 0, 1] : [1, 0, 0]));
    return [side, normalize(cross(ab, side))];
  }
  const normal = normalize(square);
  const off = Math.max(...points.map((p) => Math.abs(dot(sub(p, a), normal))));
  return off < THIN / 10 ? [normal] : null;
}

/** The volume that a closed mesh holds (cm³), by the divergence theorem; negative for one that is inside out. */
export const meshVolume = (triangles: readonly Winding[]): number =>
  triangles.reduce((sum, w) => sum + dot(w[0]!, areaVector(w)) / 6, 0);

/** Whether each edge of a mesh has one other triangle beyond it that runs the other way: then it has an inside. */
export function isClosed(triangles: readonly Winding[]): boolean {
  const edges = new Map<string, number>();
  const key = (p: Vec3): string => p.map((c) => Math.round(c / WELD)).join(' ');
  for (const w of triangles)
    w.forEach((p, k) => {
      const [a, b] = [key(p), key(w[(k + 1) % w.length]!)];
      if (a === b) return;
      const [name, way] = a < b ? [`${a},${b}`, 1] : [`${b},${a}`, -1];
      edges.set(name, (edges.get(name) ?? 0) + way);
    });
  return triangles.length > 0 && [...edges.values()].every((sum) => sum === 0);
}
