import { LUMINANCE, linearColor } from '../surface/index.ts';
import { dot, lerp, type Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import type { MapSettings } from './types.ts';

type SkySettings = Pick<MapSettings, 'skyColor' | 'skyHorizon' | 'skyClouds'>;

/** Overhead the colour of a sky is deeper than it is named, and paler at the horizon unless that has a colour of its own. */
const DEEP: Vec3 = [0.62, 0.74, 0.92];
const PALE = 1.15;

/** The colours of a sky in linear light, and how much of it clouds cover (0 to 1). The sky that is drawn is made of them. */
export function skyLook({ skyColor, skyHorizon, skyClouds = 0 }: SkySettings): {
  readonly zenith: Vec3;
  readonly horizon: Vec3;
  readonly clouds: number;
} {
  const color = linearColor(skyColor);
  const pale = color.map((c) => Math.min(1, c * PALE)) as unknown as Vec3;
  return {
    zenith: color.map((c, k) => c * DEEP[k]!) as unknown as Vec3,
    horizon: skyHorizon ? linearColor(skyHorizon) : pale,
    clouds: skyClouds,
  };
}

/**
 * How much of the light that a level floor has of an open sky is of the colour overhead: the mean of a cubic that has risen from the horizon
 * to its end at 0.9 of the height (the sine of the angle), with the cosine as weight: `2 ∫ s(z/0.9) z dz` from 0 to 1.
 */
const OVERHEAD = 0.757;

/** Clouds take the colour out of so much of the sky that they cover. */
const GREY = 0.8;

/** The colour of a sky's light as a whole, in linear red, green and blue. */
export function skyMean(settings: SkySettings): Vec3 {
  const { zenith, horizon, clouds } = skyLook(settings);
  const clear = lerp(horizon, zenith, OVERHEAD);
  const grey = dot(clear, LUMINANCE);
  return lerp(clear, [grey, grey, grey], GREY * clouds);
}

/** A sky that people know, with the even light under it and the sun that belongs to it. */
export interface Sky {
  readonly id: string;
  readonly label: string;
  readonly settings: Required<Pick<MapSettings, 'skyColor' | 'skyHorizon' | 'skyClouds' | 'skyNits'>> &
    Pick<MapSettings, 'ambientColor' | 'ambientLux'>;
  /** Parameters of a sun. */
  readonly sun: Readonly<Record<'lux' | 'height' | 'kelvin' | 'spread', ParamValue>>;
}

const sky = (
  id: string,
  label: string,
  [skyColor, skyHorizon, skyClouds, skyNits]: readonly [string, string, number, number],
  [ambientColor, ambientLux]: readonly [string, number],
  [lux, height, kelvin, spread]: readonly [number, number, number, number],
): Sky => ({
  id,
  label,
  settings: { skyColor, skyHorizon, skyClouds, skyNits, ambientColor, ambientLux },
  sun: { lux, height, kelvin, spread },
});

/** Strengths are for play, whose picture is white from some 55 lux on a white wall: under the real sky all of them are a hundred times as bright. */
export const SKIES: readonly Sky[] = [
  sky('clear', 'Clear day', ['#a6c8f0', '#dde9f2', 0.1, 30], ['#c9d8ee', 5], [320, 55, 5500, 0.53]),
  sky('fair', 'Fair, with clouds', ['#a9c6e8', '#dfe7ec', 0.45, 28], ['#ccd6e4', 5], [220, 45, 5200, 1]),
  sky('overcast', 'Overcast', ['#bcc5cc', '#ccd2d5', 0.95, 26], ['#ccd2d8', 5], [20, 50, 6500, 20]),
  sky('storm', 'Before a storm', ['#66727a', '#8e979b', 0.85, 9], ['#9ea8b0', 3], [8, 35, 6000, 15]),
  sky('low', 'Low sun', ['#c4b8b4', '#f0c594', 0.3, 12], ['#c9c2cf', 4], [200, 8, 2900, 0.53]),
  sky('dusk', 'Dusk', ['#55648a', '#d98f6a', 0.25, 5], ['#8d90ad', 2], [18, 2, 2200, 1]),
  sky('night', 'Moonlit night', ['#232f4c', '#31405f', 0.15, 0.4], ['#6b7ca8', 0.6], [4, 45, 7500, 0.53]),
];
