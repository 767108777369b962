import { smoothStep, type Vec3 } from '../math/index.ts';

/** What a thing that shines gives, in linear red, green and blue. */
export type LightSource =
  | {
      readonly type: 'point';
      readonly at: Vec3;
      /** Candela. */
      readonly intensity: Vec3;
      /** Absent: all round. */
      readonly cone?: LightCone;
      /** Of the ball that shines, cm. Absent: a point. */
      readonly radius?: number;
      /** Where its light comes to an end, cm. Absent: nowhere. */
      readonly end?: number;
    }
  | {
      readonly type: 'parallel';
      /** Unit vector towards it. */
      readonly towards: Vec3;
      /** Lux on a surface that faces it. */
      readonly illuminance: Vec3;
      /** Half of the angle under which it is seen, radians. Absent: all its light comes from one direction. */
      readonly spread?: number;
    }
  | {
      /** Even light in a region, in place of that of the map. */
      readonly type: 'even';
      /** Lux. */
      readonly illuminance: Vec3;
      /** How far beyond the region (cm) it goes over into the light outside. */
      readonly edge: number;
    };

/** Candela or lux of a light. */
export const strengthOfLight = (light: LightSource): Vec3 =>
  light.type === 'point' ? light.intensity : light.illuminance;

/** All of a light but its strength and colour, as text. */
export function lightShape(light: LightSource): string {
  const shape = light.type === 'point' ? { ...light, intensity: 0 } : { ...light, illuminance: 0 };
  return JSON.stringify(shape);
}

/**
 * How much of a lamp's light is left at the square of a distance from it (cm²), from 1 to 0 at its end: as good as all through the first
 * half of the way, and without a seam at its end.
 */
export function endShare(end: number | undefined, d2: number): number {
  if (end === undefined) return 1;
  const part = d2 / (end * end);
  return part >= 1 ? 0 : (1 - part * part) ** 2;
}

/** Light within a cone: whole up to the inner angle from its axis, fading to none at the outer. */
export interface LightCone {
  /** Unit vector along which it shines. */
  readonly axis: Vec3;
  /** Cosines of the half angles; `inner` is at least `outer`. */
  readonly inner: number;
  readonly outer: number;
}

/**
 * How much of a cone's light goes a way (unit vector, from the lamp), from 0 to 1: smooth between the two angles, as a cubic of
 * the angle's cosine (smoothstep), so that neither edge shows.
 */
export function coneShare({ axis, inner, outer }: LightCone, x: number, y: number, z: number): number {
  const cos = axis[0] * x + axis[1] * y + axis[2] * z;
  if (cos >= inner) return 1;
  if (cos <= outer) return 0;
  const t = (cos - outer) / (inner - outer);
  return smoothStep(t);
}
