import { startKernel } from '../tracing/index.ts';

/** Lights that are summed at once, and the numbers a patch has for them: of each red, green, blue and luminance. */
export const AT_ONCE = 4;
export const PER_PATCH = 4 * AT_ONCE;

/**
 * Sums over the links of patches. `given` is written by who asks; `add` puts into `sums`, for each patch, the sum of what those gave
 * that its links end on, and into `squares`, when asked to, the sum of the squares.
 */
export interface LinkSums {
  readonly given: Float32Array;
  readonly sums: Float32Array;
  readonly squares: Float32Array;
  readonly add: (squared: boolean) => void;
}

/** What `kernel/link-sums.ts` exports. */
interface Exports {
  readonly sumLinks: (links: number, count: number, patches: number, given: number, sums: number) => void;
  readonly sumLinksSquared: (...list: [...Parameters<Exports['sumLinks']>, squares: number]) => void;
}

/** Sums by the kernel; by plain code where it cannot start. `links` are `count` places of patches a patch, negative ones end on none. */
export const makeLinkSums = (links: Int32Array, count: number): LinkSums =>
  kernelSums(links, count) ?? plainSums(links, count);

function kernelSums(links: Int32Array, count: number): LinkSums | null {
  const patches = links.length / count;
  const given = Math.ceil(links.byteLength / 64) * 64;
  const each = patches * PER_PATCH * 4;
  const started = startKernel<Exports>(given + 3 * each);
  if (!started) return null;
  const { kernel, memory } = started;
  new Int32Array(memory, 0, links.length).set(links);
  const list = (k: number) => new Float32Array(memory, given + k * each, patches * PER_PATCH);
  return {
    given: list(0),
    sums: list(1),
    squares: list(2),
    add: (squared) => {
      if (squared) kernel.sumLinksSquared(0, count, patches, given, given + each, given + 2 * each);
      else kernel.sumLinks(0, count, patches, given, given + each);
    },
  };
}

/** Sums by plain code: what the kernel is tested against. */
export function plainSums(links: Int32Array, count: number): LinkSums {
  const patches = links.length / count;
  const list = () => new Float32Array(patches * PER_PATCH);
  const [given, sums, squares] = [list(), list(), list()];
  return {
    given,
    sums,
    squares,
    add: (squared) => {
      sums.fill(0);
      if (squared) squares.fill(0);
      for (let k = 0; k < links.length; k++) {
        const from = links[k]! * PER_PATCH;
        if (from < 0) continue;
        const to = Math.floor(k / count) * PER_PATCH;
        for (let n = 0; n < PER_PATCH; n++) {
          const value = given[from + n]!;
          sums[to + n]! += value;
          if (squared) squares[to + n]! += value * value;
        }
      }
    },
  };
}
