import type { Box } from './box.ts';
import type { Vec3 } from './vec3.ts';

/**
 * A bounding-volume tree over boxes, packed for speed.
 *
 * Node `i` holds its bounds in `bounds[6i … 6i+5]` (min x, y, z, max x, y, z). `link[2i+1]` is the number of items of a leaf, or 0
 * for an inner node. A leaf's items are `order[link[2i] …]`; an inner node's children are `i + 1` and `link[2i]`.
 */
export interface Bvh {
  readonly bounds: Float64Array;
  readonly link: Int32Array;
  readonly order: Int32Array;
  readonly depth: number;
}

const LEAF_SIZE = 2;
const BINS = 16;

/** Makes bounds hold nothing: what is then merged into them is what they hold. */
function empty(out: Float64Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    out[o + k] = Infinity;
    out[o + k + 3] = -Infinity;
  }
}

/** Builds the tree by the surface-area heuristic over bins (Wald, On fast Construction of SAH-based Bounding Volume Hierarchies, 2007). */
export function buildBvh(boxes: readonly Box[]): Bvh {
  const n = boxes.length;
  const order = Int32Array.from(boxes.keys());
  const bounds = new Float64Array(Math.max(1, 2 * n) * 6);
  const link = new Int32Array(Math.max(1, 2 * n) * 2);
  const cutter = makeCutter(boxes, order);
  let count = 0;
  let deepest = 0;

  const place = (from: number, to: number, depth: number): number => {
    const at = count++;
    deepest = Math.max(deepest, depth);
    empty(bounds, at * 6);
    for (let i = from; i < to; i++) merge(bounds, at * 6, cutter.flat, order[i]! * 6);
    const cut = to - from > LEAF_SIZE ? cutter.bestCut(from, to) : -1;
    if (cut <= from || cut >= to) {
      link[at * 2] = from;
      link[at * 2 + 1] = to - from;
      return at;
    }
    place(from, cut, depth + 1);
    link[at * 2] = place(cut, to, depth + 1);
    return at;
  };
  if (n > 0) place(0, n, 1);
  else bounds.fill(NaN);
  return {
    bounds: bounds.slice(0, Math.max(1, count) * 6),
    link: link.slice(0, Math.max(1, count) * 2),
    order,
    depth: deepest,
  };
}

/** Grows six bounds of one list by six of another. */
function merge(out: Float64Array, o: number, by: Float64Array, b: number): void {
  for (let k = 0; k < 3; k++) {
    if (by[b + k]! < out[o + k]!) out[o + k] = by[b + k]!;
    if (by[b + k + 3]! > out[o + k + 3]!) out[o + k + 3] = by[b + k + 3]!;
  }
}

function halfArea(b: Float64Array): number {
  const x = b[3]! - b[0]!;
  const y = b[4]! - b[1]!;
  const z = b[5]! - b[2]!;
  return x < 0 ? 0 : x * y + y * z + z * x;
}

/** What cuts ranges of items in two. Its working memory is taken once: a tree of thousands asks thousands of times. */
function makeCutter(boxes: readonly Box[], order: Int32Array) {
  const flat = new Float64Array(boxes.length * 6);
  const centres = new Float64Array(boxes.length * 3);
  boxes.forEach(({ min, max }, i) => {
    for (let k = 0; k < 3; k++) {
      flat[i * 6 + k] = min[k]!;
      flat[i * 6 + k + 3] = max[k]!;
      centres[i * 3 + k] = (min[k]! + max[k]!) / 2;
    }
  });
  const counts = new Int32Array(BINS);
  const bins = new Float64Array(BINS * 6);
  const right = new Float64Array(BINS);
  const sweep = new Float64Array(6);

  /** Reorders a range of items round the cheapest cut and gives its place. Falls back to the middle when all centres coincide. */
  const bestCut = (from: number, to: number): number => {
    let bestCost = Infinity;
    let bestAxis = 0;
    let bestBin = 0;
    let bestLow = 0;
    let bestScale = 0;
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        const c = centres[order[i]! * 3 + axis]!;
        if (c < low) low = c;
        if (c > high) high = c;
      }
      if (high - low < 1e-9) continue;
      const scale = (BINS - 1e-6) / (high - low);
      counts.fill(0);
      for (let b = 0; b < BINS; b++) empty(bins, b * 6);
      for (let i = from; i < to; i++) {
        const b = Math.floor((centres[order[i]! * 3 + axis]! - low) * scale);
        counts[b]!++;
        merge(bins, b * 6, flat, order[i]! * 6);
      }
      empty(sweep, 0);
      let items = 0;
      for (let b = BINS - 1; b > 0; b--) {
        items += counts[b]!;
        merge(sweep, 0, bins, b * 6);
        right[b] = items * halfArea(sweep);
      }
      empty(sweep, 0);
      items = 0;
      for (let b = 0; b < BINS - 1; b++) {
        items += counts[b]!;
        merge(sweep, 0, bins, b * 6);
        const cost = items * halfArea(sweep) + right[b + 1]!;
        if (items === 0 || items === to - from || cost >= bestCost) continue;
        bestCost = cost;
        bestAxis = axis;
        bestBin = b;
        bestLow = low;
        bestScale = scale;
      }
    }
    if (bestCost === Infinity) return (from + to) >> 1;
    let cut = from;
    for (let i = from; i < to; i++) {
      const item = order[i]!;
      if (Math.floor((centres[item * 3 + bestAxis]! - bestLow) * bestScale) > bestBin) continue;
      order[i] = order[cut]!;
      order[cut++] = item;
    }
    return cut;
  };
  return { flat, bestCut };
}

/** Visits the items whose boxes meet a box that moves along a way: those that the box itself meets, for a way of no length. */
export function eachSwept(
  { bounds, link, order }: Bvh,
  boxes: readonly Box[],
  box: Box,
  way: Vec3,
  visit: (item: number) => void,
): void {
  if (order.length === 0) return;
  // What moves as a point: its middle, against boxes that are larger by half of it.
  const half = [0, 1, 2].map((k) => (box.max[k]! - box.min[k]!) / 2) as unknown as Vec3;
  const from = [0, 1, 2].map((k) => (box.max[k]! + box.min[k]!) / 2) as unknown as Vec3;
  const stack = [0];
  for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
    const at = i * 6;
    let near = 0;
    let away = 1;
    for (let k = 0; k < 3; k++) {
      const low = bounds[at + k]! - half[k]! - from[k]!;
      const high = bounds[at + 3 + k]! + half[k]! - from[k]!;
      const w = way[k]!;
      if (w === 0) {
        if (low > 0 || high < 0) away = -1;
        continue;
      }
      const a = low / w;
      const b = high / w;
      near = Math.max(near, a < b ? a : b);
      away = Math.min(away, a < b ? b : a);
    }
    if (near > away) continue;
    const n = link[i * 2 + 1]!;
    const first = link[i * 2]!;
    if (n === 0) stack.push(first, i + 1);
    for (let s = first; s < first + n; s++) if (meetsSwept(boxes[order[s]!]!, half, from, way)) visit(order[s]!);
  }
}

/** Whether a point that moves along a way meets a box that is larger by so much on each side. */
function meetsSwept({ min, max }: Box, half: Vec3, from: Vec3, way: Vec3): boolean {
  let near = 0;
  let away = 1;
  for (let k = 0; k < 3; k++) {
    const low = min[k]! - half[k]! - from[k]!;
    const high = max[k]! + half[k]! - from[k]!;
    const w = way[k]!;
    if (w === 0) {
      if (low > 0 || high < 0) return false;
      continue;
    }
    const a = low / w;
    const b = high / w;
    near = Math.max(near, a < b ? a : b);
    away = Math.min(away, a < b ? b : a);
  }
  return near <= away;
}
