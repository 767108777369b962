import type { SoundName } from '@yesca/core';
import { after, faded, gain, high, looped, loud, low, mix, noise, ring, struck, wave, type Wave } from './synth.ts';

const tone = (hertz: number, seconds: number, half: number): Wave =>
  wave(seconds, (t) => Math.sin(2 * Math.PI * hertz * t) * struck(half)(t));

/** Wood, iron or stone that is struck: noise that rings at some frequencies. */
const knock = (
  seed: number,
  rings: readonly (readonly [hertz: number, width: number])[],
  half: number,
  s = 0.5,
): Wave => {
  const hit = gain(noise(s, seed), struck(0.006));
  return gain(mix(...rings.map(([hertz, width]) => ring(hit, hertz, width))), struck(half));
};

/** Something dry that turns in something dry: it sticks and slips, slower and faster. */
const creak = (seconds: number, hertz: number, seed: number): Wave =>
  ring(
    wave(seconds, (t) => {
      const phase =
        t * hertz * (1 + 0.35 * Math.sin(2 * Math.PI * 0.8 * t + seed) + 0.1 * Math.sin(2 * Math.PI * 2.3 * t));
      return (phase % 1) ** 6 - 1 / 7;
    }),
    900,
    260,
  );

const shards = (seed: number, pitches: readonly number[], spread: number): Wave =>
  mix(
    ...pitches.map((p, k) =>
      after(gain(tone(p, 0.5, 0.05), 0.5 + 0.5 * Math.sin(seed + k * 2.1) ** 2), spread * ((k * 0.618) % 1)),
    ),
  );

/** Every sound that ships, drawn from nothing but sines and noise. */
export const SOUND_RECIPES: Readonly<Record<SoundName, () => Wave>> = {
  hinge: () => faded(mix(creak(1.3, 34, 1), gain(low(noise(1.3, 3), 500), 0.12)), 0.12),
  winch: () => faded(mix(creak(1.6, 18, 4), gain(mix(...[0, 1, 2, 3, 4, 5, 6].map((k) => after(knock(20 + k, [[620, 90], [1480, 120]], 0.04, 0.2), k * 0.22))), 2)), 0.05), // prettier-ignore
  slide: () =>
    faded(
      gain(low(high(noise(1.1, 7), 180), 900), (t) => 0.7 + 0.3 * Math.sin(2 * Math.PI * 11 * t)),
      0.15,
    ),
  latch: () => mix(knock(11, [[1900, 160], [3100, 200]], 0.03, 0.25), after(knock(12, [[1200, 140], [2500, 200]], 0.04, 0.25), 0.07)), // prettier-ignore
  bolt: () => mix(faded(gain(high(noise(0.22, 14), 900), 0.15), 0.05), after(knock(15, [[420, 60], [1100, 90]], 0.09, 0.4), 0.2)), // prettier-ignore
  thud: () =>
    mix(
      knock(
        17,
        [
          [95, 30],
          [190, 50],
          [340, 90],
        ],
        0.11,
        0.6,
      ),
      gain(tone(62, 0.5, 0.08), 0.4),
    ),
  denied: () => mix(tone(220, 0.18, 0.09), after(tone(175, 0.3, 0.12), 0.16)),
  pickup: () => mix(tone(660, 0.25, 0.07), after(tone(990, 0.4, 0.11), 0.09)),
  tokens: () => mix(...[2350, 2790, 3130].map((p, k) => after(tone(p, 0.4, 0.06), k * 0.06))),
  water: () =>
    looped(
      mix(
        low(high(noise(2.6, 21), 300), 1600),
        gain(ring(noise(2.6, 22), 520, 220), (t) => 1.5 + Math.sin(2 * Math.PI * 0.7 * t)),
      ),
      0.5,
    ),
  splash: () =>
    gain(low(high(noise(0.8, 24), 250), 2600), (t) => struck(0.12)(t) * (0.7 + 0.3 * Math.sin(2 * Math.PI * 23 * t))),
  wheel: () =>
    looped(
      mix(
        gain(creak(3.4, 7, 2), 0.8),
        gain(low(noise(3.4, 26), 420), (t) => 0.5 + 0.4 * Math.sin(2 * Math.PI * 0.9 * t)),
      ),
      0.6,
    ),
  wind: () =>
    looped(
      gain(
        ring(noise(4.2, 28), 420, 320),
        (t) => 1 + 0.5 * Math.sin(2 * Math.PI * 0.26 * t) + 0.25 * Math.sin(2 * Math.PI * 0.61 * t),
      ),
      0.8,
    ),
  stepStone: () => mix(knock(31, [[240, 90], [760, 200]], 0.035, 0.2), gain(high(noise(0.09, 32), 1400), (t) => 0.05 * struck(0.02)(t))), // prettier-ignore
  stepWood: () =>
    knock(
      34,
      [
        [130, 40],
        [270, 60],
        [540, 120],
      ],
      0.06,
      0.25,
    ),
  stepMetal: () => mix(knock(37, [[410, 30], [1130, 60], [2270, 90]], 0.08, 0.3), gain(high(noise(0.08, 38), 1800), (t) => 0.04 * struck(0.02)(t))), // prettier-ignore
  stepEarth: () =>
    mix(
      gain(low(noise(0.25, 39), 420), struck(0.05)),
      gain(high(low(noise(0.2, 40), 3000), 900), (t) => 0.12 * struck(0.03)(t)),
    ),
  stepWater: () => gain(low(high(noise(0.35, 36), 350), 2100), struck(0.07)),
  breakWood: () => mix(knock(41, [[180, 50], [420, 80], [900, 160]], 0.1, 0.6), ...[0.05, 0.12, 0.2, 0.31].map((s, k) => after(gain(knock(42 + k, [[500 + k * 130, 110], [1300, 200]], 0.04, 0.25), 0.6), s))), // prettier-ignore
  breakGlass: () => mix(gain(high(noise(0.25, 47), 2500), struck(0.04)), shards(1, [2100, 2600, 3300, 3900, 4700, 5300, 6100], 0.35)), // prettier-ignore
  breakStone: () => mix(knock(51, [[85, 40], [210, 80]], 0.16, 0.8), ...[0.08, 0.17, 0.3, 0.42].map((s, k) => after(gain(knock(52 + k, [[160 + 60 * k, 90], [700, 220]], 0.06, 0.3), 0.55), s))), // prettier-ignore
  shimmer: () => faded(mix(...[523, 659, 784, 1047].map((p, k) => wave(0.9, (t) => Math.sin(2 * Math.PI * p * (1 + 0.004 * k) * t) * Math.sin(Math.PI * Math.min(1, t / 0.9)) * (0.4 + 0.6 * ((k * 0.37) % 1))))), 0.08), // prettier-ignore
};

/** A sound as it ships. */
export const soundOf = (name: SoundName): Wave => loud(SOUND_RECIPES[name]());
