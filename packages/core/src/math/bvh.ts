import type { Box } from './box.ts';

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

/** Builds the tree by the surface-area heuristic over bins (Wald, On fast Construction of SAH-based Bounding Volume Hierarchies, 2007). */
export function buildBvh(boxes: readonly Box[]): Bvh {
  const n = boxes.length;
  const order = Int32Array.from(boxes.keys());
  const bounds = new Float64Array(Math.max(1, 2 * n) * 6);
  const link = new Int32Array(Math.max(1, 2 * n) * 2);
  let count = 0;
  let deepest = 0;

  const place = (from: number, to: number, depth: number): number => {
    const at = count++;
    deepest = Math.max(deepest, depth);
    const box = boundsOf(boxes, order, from, to);
    bounds.set(box, at * 6);
    const cut = to - from > LEAF_SIZE ? bestCut(boxes, order, from, to) : -1;
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

function boundsOf(boxes: readonly Box[], order: Int32Array, from: number, to: number): Float64Array {
  const out = new Float64Array([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
  for (let i = from; i < to; i++) grow(out, boxes[order[i]!]!);
  return out;
}

function grow(out: Float64Array, b: Box): void {
  for (let k = 0; k < 3; k++) {
    if (b.min[k]! < out[k]!) out[k] = b.min[k]!;
    if (b.max[k]! > out[k + 3]!) out[k + 3] = b.max[k]!;
  }
}

const halfArea = (b: Float64Array): number => {
  const [x, y, z] = [b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!];
  return x < 0 ? 0 : x * y + y * z + z * x;
};

/** Reorders a range of items round the cheapest cut and gives its place. Falls back to the middle when all centres coincide. */
function bestCut(boxes: readonly Box[], order: Int32Array, from: number, to: number): number {
  let best = { cost: Infinity, axis: 0, bin: 0, low: 0, scale: 0 };
  for (let axis = 0; axis < 3; axis++) {
    let low = Infinity;
    let high = -Infinity;
    const centre = (i: number) => (boxes[i]!.min[axis]! + boxes[i]!.max[axis]!) / 2;
    for (let i = from; i < to; i++) {
      const c = centre(order[i]!);
      low = Math.min(low, c);
      high = Math.max(high, c);
    }
    if (high - low < 1e-9) continue;
    const scale = (BINS - 1e-6) / (high - low);
    const counts = new Int32Array(BINS);
    const bins = Array.from(
      { length: BINS },
      () => new Float64Array([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]),
    );
    for (let i = from; i < to; i++) {
      const b = Math.floor((centre(order[i]!) - low) * scale);
      counts[b]!++;
      grow(bins[b]!, boxes[order[i]!]!);
    }
    const right = new Float64Array(BINS);
    const sweep = new Float64Array([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
    let items = 0;
    for (let b = BINS - 1; b > 0; b--) {
      items += counts[b]!;
      merge(sweep, bins[b]!);
      right[b] = items * halfArea(sweep);
    }
    sweep.set([Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]);
    items = 0;
    for (let b = 0; b < BINS - 1; b++) {
      items += counts[b]!;
      merge(sweep, bins[b]!);
      const cost = items * halfArea(sweep) + right[b + 1]!;
      if (items > 0 && items < to - from && cost < best.cost) best = { cost, axis, bin: b, low, scale };
    }
  }
  if (best.cost === Infinity) return (from + to) >> 1;
  let cut = from;
  for (let i = from; i < to; i++) {
    const item = order[i]!;
    const centre = (boxes[item]!.min[best.axis]! + boxes[item]!.max[best.axis]!) / 2;
    if (Math.floor((centre - best.low) * best.scale) <= best.bin) {
      order[i] = order[cut]!;
      order[cut++] = item;
    }
  }
  return cut;
}

function merge(out: Float64Array, b: Float64Array): void {
  for (let k = 0; k < 3; k++) {
    if (b[k]! < out[k]!) out[k] = b[k]!;
    if (b[k + 3]! > out[k + 3]!) out[k + 3] = b[k + 3]!;
  }
}
