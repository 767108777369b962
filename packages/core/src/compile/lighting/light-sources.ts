import { coneShare, endShare } from '../../entity/index.ts';
import {
  addScaled,
  arcTangent2,
  cosSinOf,
  cross,
  dot,
  length,
  normalize,
  outlineArea,
  scale,
  sub,
  type Vec3,
} from '../../math/index.ts';
import { areaSource } from './area-source.ts';
import { planeDirections } from './charts.ts';
import { solidAngle } from './face-light.ts';
import { brightnessOf, LEAST_LUX, type Light, type PointLight, type SunLight } from './lights.ts';
import { FAR_AWAY, type Homogeneous, type SourceAt, type Sampled } from './source-at.ts';

/** A light as a chart sees it; null when it shines on the chart's back. Few rays go to it from a luxel when `quick`. */
export function sourceAt(luxels: Sampled, light: Light, quick = false): SourceAt | null {
  if (light.type === 'point') return pointSource(luxels, light);
  return light.type === 'parallel' ? sunSource(luxels, light) : areaSource(luxels, light, quick);
}

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
