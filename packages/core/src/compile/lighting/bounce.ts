import { LUMINANCE } from '../../surface/index.ts';
import type { HotPairs } from './hot.ts';
import { AT_ONCE, makeLinkSums, PER_PATCH, type LinkSums } from './link-sums.ts';
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
  /** What was given off at first: lux times cm². */
  readonly whole: number;
}

/** Bounces end when less than this share of the light can still come. */
const ENOUGH = 0.01;
const MOST = 200;

/**
 * All bounces of lights over links, of each light by itself: each time a patch receives the mean of what its links' ends gave off
 * before. Links that end nowhere are left out of the mean, those that end outside bring nothing. What comes out grows with what is given off
 * to the last bit that floats hold: the light of several is the sum of those of each, whatever their strengths.
 */
export function bounce(world: PatchWorld, firsts: readonly First[]): Bounced[] {
  const sums = makeLinkSums(world.links, world.count);
  const out: Bounced[] = [];
  for (let at = 0; at < firsts.length; at += AT_ONCE)
    out.push(...bounceSome(world, sums, firsts.slice(at, at + AT_ONCE)));
  return out;
}

/** What is summed of a light, as a list of its own. */
interface Flight {
  readonly first: First;
  readonly light: Float32Array;
  readonly noise: Float32Array;
  readonly left: number[];
  readonly whole: number;
  before: number;
  done: boolean;
}

function bounceSome(world: PatchWorld, sums: LinkSums, firsts: readonly First[]): Bounced[] {
  const { area, reflects, share } = world;
  const patches = area.length;
  sums.given.fill(0);
  const flights = firsts.map((first, lane): Flight => {
    let whole = 0;
    for (let p = 0; p < patches; p++) {
      const [from, to] = [p * 3, p * PER_PATCH + lane * 4];
      const [r, g, b] = [first.given[from]!, first.given[from + 1]!, first.given[from + 2]!];
      sums.given[to] = r;
      sums.given[to + 1] = g;
      sums.given[to + 2] = b;
      sums.given[to + 3] = luminanceOf(first.given, from);
      whole += area[p]! * (r + g + b);
    }
    const done = whole <= 0;
    const [light, noise] = [new Float32Array(patches * 3), new Float32Array(patches)];
    return { first, light, noise, left: [], whole, before: whole, done };
  });
  sums.add(true);
  flights.forEach((flight, lane) => receiveFirst(world, sums, flight, lane));
  for (let n = 0; n < MOST && flights.some((f) => !f.done); n++) {
    flights.forEach((flight, lane) => {
      if (flight.done) return;
      // What falls now: of the first bounce all that came, later what the links brought.
      let now = 0;
      for (let p = 0; p < patches; p++) {
        const [o, k] = [p * 3, p * PER_PATCH + lane * 4];
        for (let c = 0; c < 3; c++) {
          const falls = n === 0 ? flight.light[o + c]! : sums.sums[k + c]! * share[p]!;
          if (n > 0) flight.light[o + c]! += falls;
          const given = falls * reflects[o + c]!;
          sums.given[k + c] = given;
          now += area[p]! * given;
        }
      }
      // A geometric series: so much can still come if it goes on as it did.
      flight.left.push(now / (1 - Math.min(0.999, now / flight.before)) / flight.whole);
      flight.done = now <= 0 || flight.left.at(-1)! < ENOUGH;
      flight.before = now;
    });
    if (flights.every((f) => f.done)) break;
    sums.add(false);
  }
  return flights.map(({ light, noise, left, whole }) => ({ light, noise, left, whole }));
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

/** Takes what one light brings at the first bounce: of hot patches straight, of others over links; and its noise. */
function receiveFirst(
  { area, links, count, share }: PatchWorld,
  { sums, squares }: LinkSums,
  { first: { given, hot }, light, noise }: Flight,
  lane: number,
): void {
  /** By patch: the last receiver that looks at it straight, and one. */
  const looked = new Int32Array(area.length);
  let k = 0;
  for (let p = 0; p < area.length; p++) {
    const at = p * PER_PATCH + lane * 4;
    let [r, g, b, l, square] = [sums[at]!, sums[at + 1]!, sums[at + 2]!, sums[at + 3]!, squares[at + 3]!];
    const from = k;
    for (; k < hot.share.length && hot.pairs[k * 2] === p; k++) looked[hot.pairs[k * 2 + 1]!] = p + 1;
    // What is looked at straight is not to come over links as well.
    if (k > from)
      for (let n = p * count; n < (p + 1) * count; n++) {
        const link = links[n]!;
        if (link < 0 || looked[link] !== p + 1) continue;
        const own = luminanceOf(given, link * 3);
        r -= given[link * 3]!;
        g -= given[link * 3 + 1]!;
        b -= given[link * 3 + 2]!;
        l -= own;
        square -= own * own;
      }
    const mean = l * share[p]!;
    noise[p] = Math.sqrt(Math.max(0, square * share[p]! - mean * mean) * share[p]!);
    r = Math.max(0, r) * share[p]!;
    g = Math.max(0, g) * share[p]!;
    b = Math.max(0, b) * share[p]!;
    for (let h = from; h < k; h++) {
      const q = hot.pairs[h * 2 + 1]! * 3;
      r += given[q]! * hot.share[h]!;
      g += given[q + 1]! * hot.share[h]!;
      b += given[q + 2]! * hot.share[h]!;
    }
    light[p * 3] = r;
    light[p * 3 + 1] = g;
    light[p * 3 + 2] = b;
  }
}

/** The luminance of three floats in a list. */
export const luminanceOf = (list: Float32Array, at: number): number =>
  LUMINANCE[0] * list[at]! + LUMINANCE[1] * list[at + 1]! + LUMINANCE[2] * list[at + 2]!;
