import type { HotPairs } from './hot.ts';
import { NOWHERE } from './links.ts';

/** The world as what bounces sees it: its patches, one list over all charts. */
export interface PatchWorld {
  /** Open area, cm². */
  readonly area: Float32Array;
  /** What of the light that falls on it a patch gives back, 0 to 1. 3 a patch */
  readonly reflects: Float32Array;
  /** Where its links end: patches, or {@link NOWHERE} or less. */
  readonly links: Int32Array;
  /** Links a patch. */
  readonly count: number;
  /** What one link of a patch counts: those that end nowhere are left out of the mean. */
  readonly share: Float32Array;
}

/** What some light makes patches give off at first, lumen a square metre, three floats a patch; and what patches receive of that straight. */
export interface First {
  readonly given: Float32Array;
  readonly hot: HotPairs;
}

export interface Bounced {
  /** What falls on the patches from others, lux. 3 a patch */
  readonly light: Float32Array;
  /** About how far that may be off, since links are few: the standard deviation of their mean, lux (luminance). */
  readonly noise: Float32Array;
  /** What was left in flight after each bounce, as a share of what was given off at first. */
  readonly left: readonly number[];
}

/** Bounces end when less than this share of the light can still come. */
const ENOUGH = 0.01;
const MOST = 200;

/**
 * All bounces of some lights over links: each time a patch receives the mean of what its links' ends gave off before. Links that end
 * nowhere are left out of the mean, those that end outside bring nothing. What is given off at first goes light by light, so that
 * the outcome for several is the sum of those for each.
 */
export function bounce(world: PatchWorld, firsts: readonly First[]): Bounced {
  const { area, reflects, links, count, share } = world;
  const patches = area.length;
  const light = new Float32Array(patches * 3);
  const noise = new Float32Array(patches);
  const power = (given: Float32Array): number => {
    let sum = 0;
    for (let p = 0; p < patches; p++) sum += area[p]! * (given[p * 3]! + given[p * 3 + 1]! + given[p * 3 + 2]!);
    return sum;
  };
  const left: number[] = [];
  const whole = firsts.reduce((sum, { given }) => sum + power(given), 0);
  if (whole <= 0) return { light, noise, left };
  for (const first of firsts) receiveFirst(world, first, light, noise);
  for (let p = 0; p < patches; p++) noise[p] = Math.sqrt(noise[p]!);
  let given: Float32Array = light.map((lux, i) => lux * reflects[i]!);
  let next: Float32Array = new Float32Array(patches * 3);
  let before = whole;
  for (let n = 0; n < MOST; n++) {
    const now = power(given);
    // A geometric series: so much can still come if it goes on as it did.
    left.push(now / (1 - Math.min(0.999, now / before)) / whole);
    if (now <= 0 || left.at(-1)! < ENOUGH) break;
    before = now;
    for (let p = 0; p < patches; p++) {
      let [r, g, b] = [0, 0, 0];
      for (let k = p * count; k < (p + 1) * count; k++) {
        const q = links[k]! * 3;
        if (q < 0) continue;
        r += given[q]!;
        g += given[q + 1]!;
        b += given[q + 2]!;
      }
      const o = p * 3;
      light[o]! += r * share[p]!;
      light[o + 1]! += g * share[p]!;
      light[o + 2]! += b * share[p]!;
      next[o] = r * share[p]! * reflects[o]!;
      next[o + 1] = g * share[p]! * reflects[o + 1]!;
      next[o + 2] = b * share[p]! * reflects[o + 2]!;
    }
    [given, next] = [next, given];
  }
  return { light, noise, left };
}

/** What one link of each patch counts, of so many a patch. */
export function linkShares(links: Int32Array, count: number): Float32Array {
  const share = new Float32Array(links.length / count);
  for (let p = 0; p < share.length; p++) {
    let known = 0;
    for (let k = p * count; k < (p + 1) * count; k++) if (links[k] !== NOWHERE) known++;
    share[p] = known > 0 ? 1 / known : 0;
  }
  return share;
}

/** Adds what one light brings at the first bounce: of hot patches straight, of others over links; and the square of its noise. */
function receiveFirst(
  { area, links, count, share }: PatchWorld,
  { given, hot }: First,
  light: Float32Array,
  noise: Float32Array,
): void {
  /** By patch: the last receiver that looks at it straight, and one. */
  const looked = new Int32Array(area.length);
  let k = 0;
  for (let p = 0; p < area.length; p++) {
    const from = k;
    for (; k < hot.share.length && hot.pairs[k * 2] === p; k++) looked[hot.pairs[k * 2 + 1]!] = p + 1;
    let [r, g, b, squares] = [0, 0, 0, 0];
    for (let l = p * count; l < (p + 1) * count; l++) {
      const link = links[l]!;
      if (link < 0 || looked[link] === p + 1) continue;
      const q = link * 3;
      if (given[q] === 0 && given[q + 1] === 0 && given[q + 2] === 0) continue;
      r += given[q]!;
      g += given[q + 1]!;
      b += given[q + 2]!;
      squares += luminanceOf(given, q) ** 2;
    }
    r *= share[p]!;
    g *= share[p]!;
    b *= share[p]!;
    const mean = LUMINANCE[0] * r + LUMINANCE[1] * g + LUMINANCE[2] * b;
    noise[p]! += Math.max(0, squares * share[p]! - mean * mean) * share[p]!;
    for (let h = from; h < k; h++) {
      const q = hot.pairs[h * 2 + 1]! * 3;
      r += given[q]! * hot.share[h]!;
      g += given[q + 1]! * hot.share[h]!;
      b += given[q + 2]! * hot.share[h]!;
    }
    light[p * 3]! += r;
    light[p * 3 + 1]! += g;
    light[p * 3 + 2]! += b;
  }
}

/** Rec. 709 */
const LUMINANCE = [0.2126, 0.7152, 0.0722] as const;

/** The luminance of three floats in a list. */
export const luminanceOf = (list: Float32Array, at: number): number =>
  LUMINANCE[0] * list[at]! + LUMINANCE[1] * list[at + 1]! + LUMINANCE[2] * list[at + 2]!;
