import { LUMINANCE } from '../../surface/index.ts';
import { boxCenter, boxOf, dot, length, scale, sub, type Vec3 } from '../../math/index.ts';
import { chartPoint, GUTTER, type Chart } from './charts.ts';
import type { LitChart } from './direct-job.ts';
import type { Group } from './groups.ts';
import type { Light, Source } from './lights.ts';
import { repair } from './repair.ts';

/** The way to a light from a place, as long as it comes from one direction: 1 from a point, less from what is wide as seen from there. */
type Aim = (p: Vec3) => Vec3;

function aimAt(light: Light): Aim {
  if (light.type === 'parallel') return () => light.towards;
  const [middle, radius] =
    light.type === 'point'
      ? [light.at, light.radius ?? 0]
      : (() => {
          const box = boxOf(light.faces.flatMap(({ winding }) => [...winding]));
          return [boxCenter(box), length(sub(box.max, boxCenter(box)))] as const;
        })();
  return (p) => {
    const way = sub(middle, p);
    const far2 = dot(way, way);
    // Of a disc that fills so much of what is seen the mean direction is that much shorter.
    return far2 > 0 ? scale(way, Math.sqrt(far2) / (far2 + radius * radius)) : [0, 0, 0];
  };
}

/** Finds for charts from where their light comes. */
export class Directions {
  private readonly aims: ReadonlyMap<string, Aim>;
  /** How bright the light of each source is seen, for a share of 1. */
  private readonly strengths = new Map<string, number>();

  constructor(sources: readonly Source[], groups: readonly Group[]) {
    this.aims = new Map(sources.map(({ id, light }) => [id, aimAt(light)]));
    for (const { parts, tint } of groups)
      for (const [id, strength] of parts)
        this.strengths.set(id, dot([strength[0] * tint[0], strength[1] * tint[1], strength[2] * tint[2]], LUMINANCE));
  }

  /**
   * Packed for each luxel, with the gutter: the direction of what comes straight from lights, as long as its share of all that falls there
   * ({@link packDirection}). Where there are several lights it is their mean. `light` is all that falls there but for lamps that can be
   * switched, which count as if they shone; three floats (lux) a luxel, not yet repaired.
   */
  of(chart: Chart, { shines, repairs }: LitChart, light: Float32Array): Uint32Array {
    const count = light.length / 3;
    const way = new Float32Array(count * 3);
    const all = new Float32Array(count * 3);
    const across = chart.width + 2 * GUTTER;
    for (let k = 0; k < count; k++) all[k * 3] = dot([light[k * 3]!, light[k * 3 + 1]!, light[k * 3 + 2]!], LUMINANCE);
    for (const { source, share } of shines) {
      const strength = this.strengths.get(source);
      const aim = this.aims.get(source);
      if (!strength || !aim) continue;
      for (let k = 0; k < count; k++) {
        const comes = share[k]! * strength;
        if (!(comes > 0)) continue;
        const a = (chart.s0 + (k % across) - GUTTER + 0.5) * chart.size;
        const b = (chart.t0 + Math.floor(k / across) - GUTTER + 0.5) * chart.size;
        const [x, y, z] = aim(chartPoint(chart, a, b));
        way[k * 3]! += x * comes;
        way[k * 3 + 1]! += y * comes;
        way[k * 3 + 2]! += z * comes;
      }
    }
    repair(way, repairs);
    repair(all, repairs);
    const out = new Uint32Array(count);
    for (let k = 0; k < count; k++) {
      const way3: Vec3 = [way[k * 3]!, way[k * 3 + 1]!, way[k * 3 + 2]!];
      // What lamps add that are not in the light is more than all.
      const whole = Math.max(all[k * 3]!, length(way3));
      out[k] = packDirection(whole > 0 ? scale(way3, 1 / whole) : [0, 0, 0]);
    }
    return out;
  }
}

/** A vector no longer than 1 in four bytes, the lowest first: x, y and z as 128 + 127 times what they are, and 255. */
export const packDirection = ([x, y, z]: Vec3): number =>
  (byte(x) | (byte(y) << 8) | (byte(z) << 16) | (255 << 24)) >>> 0;

const byte = (c: number): number => 128 + Math.round(127 * Math.max(-1, Math.min(1, c)));

export const unpackDirection = (word: number): Vec3 => [
  ((word & 255) - 128) / 127,
  (((word >>> 8) & 255) - 128) / 127,
  (((word >>> 16) & 255) - 128) / 127,
];
