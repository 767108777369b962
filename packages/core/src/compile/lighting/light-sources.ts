import type { Brush } from '../../brush/index.ts';
import { coneShare, endShare } from '../../entity/index.ts';
import {
  addScaled,
  arcTangent2,
  boxCenter,
  boxOf,
  clipBehind,
  cosSinOf,
  cross,
  dot,
  length,
  normalize,
  OFF_SURFACE,
  ON_PLANE,
  outlineArea,
  scale,
  sub,
  windingArea,
  windingCentroid,
  type Vec3,
  type Winding,
} from '../../math/index.ts';
import { chartPoint, planeDirections } from './charts.ts';
import {
  brightnessOf,
  FAR,
  LEAST_LUX,
  reachOfSky,
  type AreaLight,
  type Light,
  type PointLight,
  type SunLight,
} from './lights.ts';
import type { Luxels } from './luxels.ts';

/** A place, with the last number 1; or a direction, with 0. */
export type Homogeneous = readonly [number, number, number, number];

/** A light as the tiles of a chart see it. Places are lattice coordinates of the chart, light is lux for a strength of 1. */
export interface SourceAt {
  /** What holds it. */
  readonly points: readonly Homogeneous[];
  /** Light at a place that sees all of it. */
  readonly lux: (a: number, b: number) => number;
  /** Whether nothing that counts comes anywhere within a rectangle. */
  readonly isWeak: (a0: number, b0: number, a1: number, b1: number) => boolean;
  /** Whether the light at the middle of a square tells the mean over it. */
  readonly isFar: (a0: number, b0: number, size: number) => boolean;
  /** Whether not even a few places of a square tell the mean over it: then `over` does. */
  readonly isNear: (a0: number, b0: number, size: number) => boolean;
  /** The mean over a convex polygon that sees all of it. */
  readonly over: (polygon: readonly (readonly [number, number])[]) => number;
  /**
   * Where rays are sent from a place where something may be in the way, the `n`-th of a luxel: fills `targets` with places and the light
   * that comes from each, five numbers, and gives how many. They hold until the next place is aimed from, by whatever light.
   */
  readonly aim: (n: number, a: number, b: number) => number;
  readonly targets: Float64Array;
  /** For what has some size: how it looks from places where something may be in the way. */
  readonly shape?: Shape;
}

/** What of a light can be seen as flat convex faces, past which solids cast their shadows. */
export interface Shape {
  /** Whether it is near enough to a place to be looked at whole; else a few rays tell. */
  readonly isClose: (a: number, b: number) => boolean;
  /** So large that one place of a luxel tells the mean over it. */
  readonly broad?: boolean;
  /** The direction of what is as far away as the sky: `far` cm. Absent of what stands in the world. */
  readonly towards?: Vec3;
  readonly faces: (p: Vec3, far: number) => readonly Winding[];
  /** The light at a place of what {@link faces} are left, by the sum of their pieces: {@link rowLight} with a normal. */
  readonly normal: (p: Vec3) => Vec3;
  readonly light: (a: number, b: number, p: Vec3, sum: number) => number;
}

/** A chart, and how finely it is sampled. */
type Sampled = Pick<Luxels, 'chart' | 'samples'>;

/**
 * The light that rays from a place to a light's targets bring, of the first `count`; `isStopped` says which meet something before
 * their end. Rays to what is as far away as the sky must go out through a face of it, where there are any.
 */
export function rayLight(
  targets: Float64Array,
  count: number,
  [x, y, z]: Vec3,
  skies: readonly Brush[],
  isStopped: (dx: number, dy: number, dz: number, far: number) => boolean,
): number {
  let seen = 0;
  for (let g = 0; g < count * 5; g += 5) {
    if (targets[g + 4] === 0) continue;
    const w = targets[g + 3]!;
    const dx = targets[g]! - w * x;
    const dy = targets[g + 1]! - w * y;
    const dz = targets[g + 2]! - w * z;
    let far = w ? 1 : FAR;
    if (w === 0 && skies.length > 0) {
      far = reachOfSky(skies, [x, y, z], [dx, dy, dz]);
      if (far < 0) continue;
    }
    if (!isStopped(dx, dy, dz, far)) seen += targets[g + 4]!;
  }
  return seen;
}

/** A light as a chart sees it; null when it shines on the chart's back. Few rays go to it from a luxel when `quick`. */
export function sourceAt(luxels: Sampled, light: Light, quick = false): SourceAt | null {
  if (light.type === 'point') return pointSource(luxels, light);
  return light.type === 'parallel' ? sunSource(luxels, light) : areaSource(luxels, light, quick);
}

/** So many times its edge away, a square's middle tells the mean of a lamp's light over it to a thousandth. */
const FAR_AWAY = 24;

/** So many times its edge away, a few places of a square do. */
const AWAY = 5;

function pointSource({ chart }: Sampled, { at, intensity, cone, radius = 0, end }: PointLight): SourceAt | null {
  const { normal, distance } = chart.surface.plane;
  const along = dot(at, normal) - distance;
  if (along <= 0) return null;
  const [la, lb] = [dot(at, chart.s), dot(at, chart.t)];
  const bright = brightnessOf(intensity);
  // In the lattice's directions.
  const axis = cone && { ...cone, axis: [chart.s, chart.t, normal].map((d) => dot(cone.axis, d)) as unknown as Vec3 };
  /** A lamp's candela give lux a square metre, and distances are in cm. */
  const lux = (a: number, b: number): number => {
    const da = a - la;
    const db = b - lb;
    const d2 = da * da + db * db + along * along;
    const d = Math.sqrt(d2);
    const plain = ((along * 10_000) / (d2 * d)) * endShare(end, d2);
    const given = axis ? plain * coneShare(axis, da / d, db / d, -along / d) : plain;
    return given * bright < LEAST_LUX ? 0 : given;
  };
  const least2 = (a0: number, b0: number, a1: number, b1: number): number => {
    const da = Math.max(a0 - la, la - a1, 0);
    const db = Math.max(b0 - lb, lb - b1, 0);
    return da * da + db * db + along * along;
  };
  const isWeak = (a0: number, b0: number, a1: number, b1: number): boolean => {
    const d2 = least2(a0, b0, a1, b1);
    return ((along * 10_000) / (d2 * Math.sqrt(d2))) * bright * endShare(end, d2) < LEAST_LUX;
  };
  // The edge of a cone is narrower than light is smooth.
  const isFar = (a0: number, b0: number, size: number): boolean =>
    !axis && least2(a0, b0, a0 + size, b0 + size) > (FAR_AWAY * size) ** 2;
  const isNear = (a0: number, b0: number, size: number): boolean =>
    !axis && least2(a0, b0, a0 + size, b0 + size) < (AWAY * size) ** 2;
  const over = (polygon: readonly (readonly [number, number])[]): number => {
    const all = (solidAngle(polygon.map(([a, b]): Vec3 => [a - la, b - lb, along])) * 10_000) / outlineArea(polygon);
    if (end === undefined) return all;
    // So small a piece is near the lamp or far from its end, where the share changes little over it.
    const [a, b] = [0, 1].map((k) => polygon.reduce((sum, p) => sum + p[k]!, 0) / polygon.length) as [number, number];
    return all * endShare(end, least2(a, b, a, b));
  };
  const targets = Float64Array.of(...at, 1, 0);
  const aim = (_: number, a: number, b: number): number => {
    targets[4] = lux(a, b);
    return 1;
  };
  const whole: SourceAt = { points: [[...at, 1]], lux, isWeak, isFar, isNear, over, aim, targets };
  if (radius <= 0) return whole;
  const towards = (p: Vec3): Vec3 => normalize(sub(at, p));
  const corners = [-1, 1].flatMap((x) =>
    [-1, 1].flatMap((y) =>
      [-1, 1].map((z): Homogeneous => [at[0] + x * radius, at[1] + y * radius, at[2] + z * radius, 1]),
    ),
  );
  return {
    ...whole,
    points: corners,
    shape: {
      isClose: () => true,
      // As a disc that looks at a place: so a ball is seen.
      faces: (p) => [roundAt(at, normalize(sub(p, at)), radius)],
      normal: towards,
      light: (a, b, p, sum) => lux(a, b) * Math.min(1, sum / roundLight(radius, length(sub(at, p)))),
    },
  };
}

/** The corners of what is seen round, on a circle of radius 1. */
const ROUND = Array.from({ length: 12 }, (_, k) => cosSinOf((2 * Math.PI * k) / 12));

/** A round face about a place, seen from where its normal points. */
function roundAt(at: Vec3, normal: Vec3, radius: number): Vec3[] {
  const { s, t } = planeDirections(normal);
  return ROUND.map(([c, d]) => addScaled(addScaled(at, s, c * radius), t, d * radius));
}

/** The corners of a square that holds such a face. */
function squareAt(at: Vec3, radius: number): Vec3[] {
  const { s, t } = planeDirections(at);
  return [1, -1].flatMap((u) => [u, -u].map((v) => addScaled(addScaled(at, s, u * radius), t, v * radius)));
}

/** What falls of a round face on a place on its axis that looks at its middle, for a luminance of 1: as much by each of its edges. */
function roundLight(radius: number, away: number): number {
  const [from, to] = [ROUND[0]!, ROUND[1]!].map(([c, d]): Vec3 => [c * radius, d * radius, away]) as [Vec3, Vec3];
  const across = cross(from, to);
  const long = length(across);
  return (ROUND.length * arcTangent2(long, dot(from, to)) * across[2]) / (2 * long);
}

function sunSource({ chart }: Sampled, { towards, spread = 0 }: SunLight): SourceAt | null {
  const cos = dot(towards, chart.surface.plane.normal);
  if (cos <= 0) return null;
  const whole: SourceAt = {
    points: [[...towards, 0]],
    lux: () => cos,
    isWeak: () => false,
    isFar: () => true,
    isNear: () => false,
    over: () => cos,
    aim: () => 1,
    targets: Float64Array.of(...towards, 0, cos),
  };
  if (spread <= 0) return whole;
  const [across, along] = [cosSinOf(spread)[1], cosSinOf(spread)[0]];
  const rim = roundAt(towards, scale(towards, -1), across / along);
  const all = roundLight(across / along, 1);
  return {
    ...whole,
    points: squareAt(towards, across / along).map((d): Homogeneous => [...d, 0]),
    shape: {
      towards,
      isClose: () => true,
      // As far away as the sky is.
      faces: (p, far) => [rim.map((d) => addScaled(p, d, far))],
      normal: () => towards,
      light: (_a, _b, _p, sum) => cos * Math.min(1, sum / all),
    },
  };
}

/** A glowing face is shrunk by this (cm), so that what it ends at is not in its own way. */
const SHRUNK = 0.05;

/** From so many times its radius on a glowing face is as good as a point with its area. */
const SMALL = 16;

/** Rays from a place to a glowing face are so many about, and at most. */
const RAYS: Readonly<Record<number, number>> = { 1: 32, 2: 16, 4: 8 };
const MOST_RAYS = 256;
const QUICK_RAYS = 4;

/** Where the rays of the place that is aimed from go: one place at a time, whatever the light. */
const AIMED = new Float64Array(MOST_RAYS * 5);

/** And as many from farther than so many times the faces' radius. */
const PARTS = 4;
const FEW_RAYS: Readonly<Record<number, number>> = { 1: 12, 2: 3, 4: 1 };

const MOST_CUTS = 5;

/** Faces that shine over more than this (cm) from their middle, as the sky does, throw shadows far softer than a luxel. */
const BROAD = 120;

/** Glowing faces, as far as they lie before the chart's plane. Their light is known in closed form (Lambert, Photometria, 1760). */
function areaSource({ chart, samples }: Sampled, { faces, luminance }: AreaLight, quick: boolean): SourceAt | null {
  const { s, t, surface } = chart;
  const { normal, distance } = surface.plane;
  const behind = { normal: scale(normal, -1), distance: -distance };
  const seen = faces.flatMap(({ winding, normal: facing }) => {
    let [low, high] = [Infinity, -Infinity];
    for (const p of winding) {
      const h = dot(normal, p) - distance;
      if (h < low) low = h;
      if (h > high) high = h;
    }
    if (high <= 0) return [];
    // Most are seen whole, by all charts alike.
    const face = low >= 0 ? winding : clipBehind(winding, behind);
    if (!face) return [];
    const front = dot(facing, face[0]!);
    if (surface.winding.every((p) => dot(p, facing) <= front + ON_PLANE)) return [];
    return [face === winding ? wholeFace(winding, facing) : glowingFace(face, facing)];
  });
  if (seen.length === 0) return null;
  const whole = boxOf(seen.flatMap((f) => [...f.face]));
  const middle = boxCenter(whole);
  const radius = length(sub(whole.max, middle));
  const bright = brightnessOf(luminance) * seen.reduce((sum, f) => sum + f.area, 0);
  const place = chartPoint(chart, 0, 0);
  const [ma, mb, height] = [dot(middle, s), dot(middle, t), dot(middle, normal) - distance];
  const at = (a: number, b: number): Vec3 => [
    place[0] + s[0] * a + t[0] * b,
    place[1] + s[1] * a + t[1] * b,
    place[2] + s[2] * a + t[2] * b,
  ];
  const isSmall = (a: number, b: number): boolean =>
    (a - ma) ** 2 + (b - mb) ** 2 + height * height > (SMALL * radius) ** 2;
  /** Of a face that is small from there, by its middle. */
  const smallLight = (f: number, x: number, y: number, z: number): number => {
    const { middle: m, facing, area } = seen[f]!;
    const dx = m[0] - x;
    const dy = m[1] - y;
    const dz = m[2] - z;
    const here = dx * normal[0] + dy * normal[1] + dz * normal[2];
    const there = -(dx * facing[0] + dy * facing[1] + dz * facing[2]);
    const d2 = dx * dx + dy * dy + dz * dz;
    return here > 0 && there > 0 ? (area * here * there) / (d2 * d2) : 0;
  };
  const lux = (a: number, b: number): number => {
    let sum = 0;
    if (isSmall(a, b)) {
      const x = place[0] + s[0] * a + t[0] * b;
      const y = place[1] + s[1] * a + t[1] * b;
      const z = place[2] + s[2] * a + t[2] * b;
      for (let f = 0; f < seen.length; f++) sum += smallLight(f, x, y, z);
      return sum;
    }
    const p = at(a, b);
    for (const { face, facing, front } of seen) if (dot(p, facing) > front) sum += faceLight(face, p, normal);
    return sum;
  };
  /** The way from a rectangle to what holds the faces: not more than it is. */
  const least = (a0: number, b0: number, a1: number, b1: number): number => {
    const [da, db] = [Math.max(a0 - ma, ma - a1, 0), Math.max(b0 - mb, mb - b1, 0)];
    return Math.sqrt(da * da + db * db + height * height) - radius;
  };
  const isWeak = (a0: number, b0: number, a1: number, b1: number): boolean => {
    const d = least(a0, b0, a1, b1);
    return d > 0 && bright < LEAST_LUX * d * d;
  };
  const isFar = (a0: number, b0: number, size: number): boolean =>
    least(a0, b0, a0 + size, b0 + size) > (FAR_AWAY / 4) * size;

  const targets = AIMED;
  let count = 0;
  const put = (p: Vec3, light: number): void => {
    if (count >= MOST_RAYS) return;
    const k = count++ * 5;
    targets[k] = p[0];
    targets[k + 1] = p[1];
    targets[k + 2] = p[2];
    targets[k + 3] = 1;
    targets[k + 4] = light;
  };
  /** Sends a ray to a triangle, or to its quarters where it brings more than a ray should. */
  const send = (corners: readonly Vec3[], p: Vec3, n: number, worth: number, cuts: number): void => {
    const light = faceLight(corners, p, normal);
    if (light <= 0) return;
    if (light <= worth || cuts === 0) return put(within(corners, n), light);
    const [a, b, c] = corners as [Vec3, Vec3, Vec3];
    const half = (q: Vec3, r: Vec3): Vec3 => [(q[0] + r[0]) / 2, (q[1] + r[1]) / 2, (q[2] + r[2]) / 2];
    const [ab, bc, ca] = [half(a, b), half(b, c), half(c, a)];
    send([a, ab, ca], p, n, worth, cuts - 1);
    send([ab, b, bc], p, n + 1, worth, cuts - 1);
    send([ca, bc, c], p, n + 2, worth, cuts - 1);
    send([bc, ca, ab], p, n + 3, worth, cuts - 1);
  };
  const aim = (n: number, a: number, b: number): number => {
    const p = at(a, b);
    count = 0;
    const light = lux(a, b);
    if (light <= 0) return 0;
    const rays = quick ? QUICK_RAYS : RAYS[samples]!;
    const way2 = (a - ma) ** 2 + (b - mb) ** 2 + height * height;
    if (way2 > (PARTS * radius) ** 2) {
      // Few rays from each place of a luxel, each time to other places of the faces, as many to each as it brings of the light.
      const few = quick ? 1 : FEW_RAYS[samples]!;
      for (let k = 0; k < few; k++) {
        let part = ((n * few + k + 0.5) * 0.6180339887498949) % 1;
        let f = 0;
        for (; f < seen.length - 1; f++) {
          part -= smallLight(f, p[0], p[1], p[2]) / light;
          if (part < 0) break;
        }
        const { triangles } = seen[f]!;
        put(within(triangles[(n + k) % triangles.length]!, n * few + k), light / few);
      }
      return count;
    }
    const worth = light / rays;
    for (const { facing, front, triangles } of seen)
      if (dot(p, facing) > front) for (const triangle of triangles) send(triangle, p, n * 5, worth, MOST_CUTS);
    // Where there was no room for all rays those that there are stand for them.
    let sum = 0;
    for (let k = 0; k < count; k++) sum += targets[k * 5 + 4]!;
    if (count === MOST_RAYS && sum > 0) for (let k = 0; k < count; k++) targets[k * 5 + 4]! *= light / sum;
    return count;
  };
  const points = seen.flatMap(({ drawn }) => drawn.map((p): Homogeneous => [...p, 1]));
  const shape = {
    broad: radius > BROAD,
    faces: (p: Vec3) => seen.flatMap(({ face, facing, front }) => (dot(p, facing) > front ? [face] : [])),
    normal: () => normal,
    light: (_a: number, _b: number, _p: Vec3, sum: number) => sum,
    isClose: (a: number, b: number) => (a - ma) ** 2 + (b - mb) ** 2 + height * height <= (PARTS * radius) ** 2,
  };
  return { points: cornersOf(points), lux, isWeak, isFar, isNear: () => false, over: () => 0, aim, targets, shape };
}

/** A face that shines, or what of it a chart sees. */
interface GlowingFace {
  readonly face: Winding;
  readonly facing: Vec3;
  /** How far along `facing` it lies. */
  readonly front: number;
  readonly middle: Vec3;
  readonly area: number;
  readonly triangles: readonly Vec3[][];
  /** A little smaller, and off its solid. */
  readonly drawn: readonly Vec3[];
}

function glowingFace(face: Winding, facing: Vec3): GlowingFace {
  const middle = windingCentroid(face);
  const drawn = drawnIn(face, middle, facing);
  const triangles = drawn.slice(2).map((p, i): Vec3[] => [drawn[0]!, drawn[i + 1]!, p]);
  return { face, facing, front: dot(facing, face[0]!), middle, area: windingArea(face), triangles, drawn };
}

const wholeFaces = new WeakMap<Winding, GlowingFace>();

/** {@link glowingFace} of a whole face, made once for all charts. */
function wholeFace(face: Winding, facing: Vec3): GlowingFace {
  let known = wholeFaces.get(face);
  if (!known) wholeFaces.set(face, (known = glowingFace(face, facing)));
  return known;
}

/** A face a little smaller, and off its solid. */
const drawnIn = (face: Winding, middle: Vec3, facing: Vec3): Vec3[] =>
  face.map((p) => {
    const way = sub(middle, p);
    const drawn = addScaled(p, way, Math.min(0.25, SHRUNK / Math.max(1e-9, length(way))));
    return addScaled(drawn, facing, OFF_SURFACE);
  });

/** What holds some points: they themselves, or where there are many the corners of their box. */
function cornersOf(points: readonly Homogeneous[]): Homogeneous[] {
  if (points.length <= 8) return [...points];
  const { min, max } = boxOf(points.map(([x, y, z]): Vec3 => [x, y, z]));
  return Array.from({ length: 8 }, (_, i) => [
    i & 1 ? max[0] : min[0],
    i & 2 ? max[1] : min[1],
    i & 4 ? max[2] : min[2],
    1,
  ]);
}

/** {@link faceLight} of corners in a row: three numbers each. */
export function rowLight(row: Float64Array, from: number, to: number, [px, py, pz]: Vec3, [nx, ny, nz]: Vec3): number {
  let sum = 0;
  let [ax, ay, az] = [row[to - 3]! - px, row[to - 2]! - py, row[to - 1]! - pz];
  for (let k = from; k < to; k += 3) {
    const [bx, by, bz] = [row[k]! - px, row[k + 1]! - py, row[k + 2]! - pz];
    const x = ay * bz - az * by;
    const y = az * bx - ax * bz;
    const z = ax * by - ay * bx;
    const long = Math.sqrt(x * x + y * y + z * z);
    if (long > 1e-12) sum += (arcTangent2(long, ax * bx + ay * by + az * bz) * (x * nx + y * ny + z * nz)) / long;
    [ax, ay, az] = [bx, by, bz];
  }
  return Math.max(0, -sum / 2);
}

/** What falls on a place with a normal of a convex face that it sees all of, for a luminance of 1. */
function faceLight(face: Winding, p: Vec3, normal: Vec3): number {
  let sum = 0;
  let from = sub(face[face.length - 1]!, p);
  for (const corner of face) {
    const to = sub(corner, p);
    const across = cross(from, to);
    const long = length(across);
    if (long > 1e-12) sum += (arcTangent2(long, dot(from, to)) * dot(across, normal)) / long;
    from = to;
  }
  // Seen from before it a face runs clockwise.
  return Math.max(0, -sum / 2);
}

/** A place of a triangle, another one for each number. */
function within([a, b, c]: readonly Vec3[], n: number): Vec3 {
  const [u, v] = [PLACES[(n % PLACE_COUNT) * 2]!, PLACES[(n % PLACE_COUNT) * 2 + 1]!];
  const w = 1 - u - v;
  return [a![0] * w + b![0] * u + c![0] * v, a![1] * w + b![1] * u + c![1] * v, a![2] * w + b![2] * u + c![2] * v];
}

/** Places in a triangle, evenly spread: its second and third part. */
const PLACE_COUNT = 61;
const PLACES = Float64Array.from({ length: PLACE_COUNT * 2 }, (_, i) => {
  const n = i >> 1;
  const [u, v] = [(0.5 + n * 0.7548776662466927) % 1, (0.5 + n * 0.5698402909980532) % 1];
  return i % 2 ? (u + v > 1 ? 1 - v : v) : u + v > 1 ? 1 - u : u;
});

/**
 * The solid angle (sr) under which a convex polygon is seen from the origin: of its triangles (Van Oosterom & Strackee, The Solid Angle
 * of a Plane Triangle, 1983).
 */
export function solidAngle(polygon: readonly Vec3[]): number {
  const [a, ...rest] = polygon;
  let sum = 0;
  for (let i = 0; i + 1 < rest.length; i++) {
    const [b, c] = [rest[i]!, rest[i + 1]!];
    const [x, y, z] = [length(a!), length(b), length(c)];
    sum += 2 * arcTangent2(Math.abs(dot(a!, cross(b, c))), x * y * z + dot(a!, b) * z + dot(a!, c) * y + dot(b, c) * x);
  }
  return sum;
}
