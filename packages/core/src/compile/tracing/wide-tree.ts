import { brushBounds, brushPlanes, type Brush } from '../../brush/index.ts';
import { boxCenter, buildBvh, type Box, type Bvh, type Vec3 } from '../../math/index.ts';

/** Bytes of a node, of a solid's entry, and of a group of four planes: see `kernel/tracer.ts`. */
const NODE = 128;
const SOLID = 8;
const GROUP = 64;

/** A child of a node: a node of the binary tree, or a solid. */
type Child = { readonly node: number } | { readonly solid: number };

/** Solids laid out for the kernel: 32-bit floats round a middle of their own, so that they are as exact far from the origin as near it. */
export interface WideTree {
  readonly bytes: ArrayBuffer;
  /** Where the solids' table begins, bytes. Nodes begin at 0. */
  readonly solids: number;
  /** What is taken off every coordinate, cm. */
  readonly middle: Vec3;
  /** The most entries that may wait while a ray goes through the tree. */
  readonly waiting: number;
}

/**
 * A tree of four children a node over convex solids, each solid a child by itself: a binary tree by the surface-area heuristic
 * whose largest children are opened until there are four (Wald, Benthin & Boulos, Getting Rid of Packets, 2008).
 * @param base Address at which the bytes will lie.
 */
export function makeWideTree(brushes: readonly Brush[], base: number): WideTree {
  const boxes = brushes.map(brushBounds);
  const bvh = buildBvh(boxes);
  const whole: Box = brushes.length ? nodeBox(bvh, 0) : { min: [0, 0, 0], max: [0, 0, 0] };
  const middle = boxCenter(whole).map(Math.round) as [number, number, number];
  const nodes: Child[][] = [];
  let deepest = 0;
  const place = (children: Child[], depth: number): number => {
    deepest = Math.max(deepest, depth);
    return nodes.push(children) - 1;
  };
  const links: number[][] = [];
  const build = (children: Child[], depth: number): number => {
    const own = place(children, depth);
    links[own] = [];
    for (const child of children)
      links[own]!.push('solid' in child ? ~child.solid : build(widen(bvh, child.node), depth + 1));
    return own;
  };
  build(brushes.length ? widen(bvh, 0) : [], 1);

  const slanted = brushes.map((brush) =>
    brushPlanes(brush).filter(({ normal }) => !normal.some((c) => Math.abs(c) === 1)),
  );
  const groups = slanted.map((planes) => Math.ceil(planes.length / 4));
  const solids = nodes.length * NODE;
  const planes = Math.ceil((solids + brushes.length * SOLID) / 16) * 16;
  const bytes = new ArrayBuffer(planes + groups.reduce((n, g) => n + g, 0) * GROUP);
  const reals = new Float32Array(bytes);
  const words = new Int32Array(bytes);
  nodes.forEach((children, i) => {
    const at = (i * NODE) / 4;
    let axisBoxes = 0;
    for (let slot = 0; slot < 4; slot++) {
      const child = children[slot];
      const box = child && ('solid' in child ? boxes[child.solid]! : nodeBox(bvh, child.node));
      for (let k = 0; k < 3; k++) {
        reals[at + k * 4 + slot] = box ? box.min[k]! - middle[k]! : Infinity;
        reals[at + 12 + k * 4 + slot] = box ? box.max[k]! - middle[k]! : -Infinity;
      }
      const link = links[i]![slot] ?? 0;
      words[at + 24 + slot] = link < 0 ? link : base + link * NODE;
      if (child && 'solid' in child && groups[child.solid] === 0) axisBoxes |= 1 << slot;
    }
    words[at + 28] = axisBoxes;
  });
  let group = planes;
  slanted.forEach((own, i) => {
    words[solids / 4 + i * 2] = base + group;
    words[solids / 4 + i * 2 + 1] = groups[i]!;
    for (let g = 0; g < groups[i]!; g++, group += GROUP)
      for (let lane = 0; lane < 4; lane++) {
        // What fills the last group up holds everything.
        const plane = own[g * 4 + lane];
        for (let k = 0; k < 3; k++) reals[group / 4 + k * 4 + lane] = plane ? plane.normal[k]! : 0;
        reals[group / 4 + 12 + lane] = plane
          ? plane.distance - plane.normal.reduce((sum, c, k) => sum + c * middle[k]!, 0)
          : 1;
      }
  });
  return { bytes, solids, middle, waiting: deepest * 3 + 4 };
}

function nodeBox({ bounds }: Bvh, i: number): Box {
  const at = (k: number): Vec3 => [bounds[i * 6 + k]!, bounds[i * 6 + k + 1]!, bounds[i * 6 + k + 2]!];
  return { min: at(0), max: at(3) };
}

/** Up to four children that together hold what a node of the binary tree holds. */
function widen(bvh: Bvh, node: number): Child[] {
  const { bounds, link, order } = bvh;
  const children = childrenOf(node);
  for (;;) {
    let largest = -1;
    let most = -1;
    children.forEach((child, i) => {
      if ('solid' in child) return;
      const size = halfArea(child.node);
      const room = 4 - children.length + 1 >= childrenOf(child.node).length;
      if (room && size > most) [largest, most] = [i, size];
    });
    if (largest < 0) return children.sort((a, b) => sizeOf(a) - sizeOf(b));
    const { node: opened } = children[largest] as { node: number };
    children.splice(largest, 1, ...childrenOf(opened));
  }

  function childrenOf(i: number): Child[] {
    const n = link[i * 2 + 1]!;
    const first = link[i * 2]!;
    if (n === 0) return [{ node: i + 1 }, { node: first }];
    return Array.from({ length: n }, (_, k) => ({ solid: order[first + k]! }));
  }
  function sizeOf(child: Child): number {
    return 'solid' in child ? 0 : halfArea(child.node);
  }
  function halfArea(i: number): number {
    const [x, y, z] = [0, 1, 2].map((k) => bounds[i * 6 + 3 + k]! - bounds[i * 6 + k]!) as [number, number, number];
    return x * y + y * z + z * x;
  }
}
