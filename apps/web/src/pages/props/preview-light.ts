import { EVEN_HARMONIC, HARMONICS, harmonics, length, scale, type ProbeLight, type Vec3 } from '@yesca/core';
import { WORKROOM } from '../../scene/props.ts';

/** Light of one kind: from far off in one direction, lux on what faces it, and the rest from all sides. */
interface Far {
  readonly from: Vec3;
  readonly lux: Vec3;
  /** What falls on every side of a thing, lux. */
  readonly even: Vec3;
}

/** Nine coefficients of red, green and blue of light from far off, beside light that is the same from everywhere. */
export function farLight({ from, lux, even }: Far): ProbeLight {
  const basis = new Float64Array(HARMONICS);
  const [x, y, z] = scale(from, 1 / length(from));
  harmonics(x, y, z, basis);
  const out = new Float32Array(HARMONICS * 3);
  for (let k = 0; k < HARMONICS; k++) for (let c = 0; c < 3; c++) out[k * 3 + c] = lux[c]! * basis[k]!;
  // What is the same from everywhere falls as π times its radiance on each side.
  for (let c = 0; c < 3; c++) out[c]! += even[c]! / (Math.PI * EVEN_HARMONIC);
  return out;
}

export type PreviewLight = 'noon' | 'dusk' | 'lamp' | 'workroom';

/** By which lights a prop is looked at. */
export const PREVIEW_LIGHTS: Readonly<Record<PreviewLight, ProbeLight>> = {
  noon: farLight({ from: [0.5, -0.6, 0.9], lux: [210, 200, 180], even: [60, 68, 80] }),
  dusk: farLight({ from: [-0.9, -0.4, 0.2], lux: [150, 84, 44], even: [26, 30, 46] }),
  lamp: farLight({ from: [0.7, -0.7, 0.5], lux: [160, 118, 70], even: [5, 5, 6] }),
  workroom: Float32Array.from(WORKROOM.flatMap((c) => [c, c, c])),
};
