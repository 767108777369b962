import {
  addScaled,
  boxCenter,
  boxOf,
  clipBehind,
  dot,
  length,
  OFF_SURFACE,
  ON_PLANE,
  scale,
  sub,
  windingArea,
  windingCentroid,
  type Vec3,
  type Winding,
} from '../../math/index.ts';
import { chartPoint } from './charts.ts';
import { faceLight } from './face-light.ts';
import { brightnessOf, LEAST_LUX, type AreaLight } from './lights.ts';
import { FAR_AWAY, type Homogeneous, type SourceAt, type Sampled } from './source-at.ts';

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
export function areaSource(
  { chart, samples }: Sampled,
  { faces, luminance }: AreaLight,
  quick: boolean,
): SourceAt | null {
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
