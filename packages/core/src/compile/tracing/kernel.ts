import type { Brush } from '../../brush/index.ts';
import { startKernel } from './kernel-module.ts';
import type { Rays } from './rays.ts';
import { makeWideTree } from './wide-tree.ts';

/** What `kernel/tracer.ts` exports. */
interface Exports {
  readonly setUp: (root: number, solids: number, stack: number) => void;
  readonly anyHit: (ox: number, oy: number, oz: number, dx: number, dy: number, dz: number, far: number) => number;
  readonly anyHits: (rays: number, count: number, out: number) => void;
  readonly firstHit: Exports['anyHit'];
  readonly lastHitAt: () => number;
  readonly firstHits: Exports['anyHits'];
}

/** Where the tree lies in memory. */
const TREE = 65_536;

/** Rays that are traced in one call. */
const BATCH = 1024;

/** Rays by the WebAssembly kernel, or null where it cannot start. Coordinates are 32-bit floats round the solids' middle. */
export function kernelRays(brushes: readonly Brush[]): Rays | null {
  // Rays, results and the stack come first, then the tree.
  const out = BATCH * 32;
  const stack = out + BATCH * 8;
  const base = TREE;
  const tree = makeWideTree(brushes, base);
  // Beside the waiting entries the kernel keeps its scratch there.
  if (stack + tree.waiting * 8 + 64 > base) return null;
  const started = startKernel<Exports>(base + tree.bytes.byteLength + 64);
  if (!started) return null;
  const { memory, kernel } = started;
  new Uint8Array(memory).set(new Uint8Array(tree.bytes), base);
  kernel.setUp(base, base + tree.solids, stack);
  const [mx, my, mz] = tree.middle;
  const rays = new Float32Array(memory, 0, BATCH * 8);
  const bits = new Uint8Array(memory, out, BATCH);
  const found = new Int32Array(memory, out, BATCH * 2);
  const places = new Float32Array(memory, out, BATCH * 2);

  /** Copies rays in, as many as a batch holds. */
  const load = (list: Float64Array, from: number, count: number): void => {
    for (let i = 0; i < count; i++) {
      const a = (from + i) * 7;
      const b = i * 8;
      rays[b] = list[a]! - mx;
      rays[b + 1] = list[a + 1]! - my;
      rays[b + 2] = list[a + 2]! - mz;
      rays[b + 3] = list[a + 6]!;
      rays[b + 4] = list[a + 3]!;
      rays[b + 5] = list[a + 4]!;
      rays[b + 6] = list[a + 5]!;
    }
  };
  return {
    brushes,
    anyHit: (ox, oy, oz, dx, dy, dz, far) => kernel.anyHit(ox - mx, oy - my, oz - mz, dx, dy, dz, far) !== 0,
    firstHit: (ox, oy, oz, dx, dy, dz, far) => kernel.firstHit(ox - mx, oy - my, oz - mz, dx, dy, dz, far),
    lastHitAt: () => kernel.lastHitAt(),
    anyHits: (list, count, hits) => {
      for (let from = 0; from < count; from += BATCH) {
        const n = Math.min(BATCH, count - from);
        load(list, from, n);
        kernel.anyHits(0, n, out);
        hits.set(n === BATCH ? bits : bits.subarray(0, n), from);
      }
    },
    firstHits: (list, count, solids, at) => {
      for (let from = 0; from < count; from += BATCH) {
        const n = Math.min(BATCH, count - from);
        load(list, from, n);
        kernel.firstHits(0, n, out);
        for (let i = 0; i < n; i++) {
          solids[from + i] = found[i * 2]!;
          at[from + i] = places[i * 2 + 1]!;
        }
      }
    },
  };
}
