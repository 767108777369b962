import { brushBounds, type Brush } from '../../brush/index.ts';
import { ON_PLANE, type Box, type Vec3 } from '../../math/index.ts';
import { buildBlock, type Block } from './block.ts';
import { Cancelled, type StageControl } from '../../jobs/index.ts';
import type { BlockGrid } from './types.ts';

/** Edge length of a block, cm. Where nothing stands a block is as long as the gap. */
export const BLOCK_SIZE = 1024;

/** Blocks of earlier runs, kept while their brushes are the same objects: an edit re-makes only the blocks it touches. */
export type BlockCache = Map<string, { readonly brushes: readonly Brush[]; readonly block: Block }>;

/** Divides the world of some brushes (in id order) into blocks and builds each. Null when there is no brush. */
export function buildBlocks(brushes: readonly Brush[], control: StageControl, cache?: BlockCache): BlockGrid | null {
  if (brushes.length === 0) return null;
  const edges = [0, 1, 2].map((axis) => axisEdges(brushes, axis)) as unknown as BlockGrid['edges'];
  const counts = edges.map((e) => e.length - 1) as [number, number, number];
  const lists: Brush[][] = Array.from({ length: counts[0] * counts[1] * counts[2] }, () => []);
  for (const brush of brushes) {
    const { min, max } = brushBounds(brush);
    // A brush that only touches a block's side belongs to that block too: its face may lie in the side, as near as faces lie in planes.
    const from = min.map((c, i) => spanAt(edges[i]!, c - ON_PLANE));
    const to = max.map((c, i) => spanAt(edges[i]!, c + ON_PLANE));
    for (let z = from[2]!; z <= to[2]!; z++)
      for (let y = from[1]!; y <= to[1]!; y++)
        for (let x = from[0]!; x <= to[0]!; x++) lists[(z * counts[1] + y) * counts[0] + x]!.push(brush);
  }
  const blocks: Block[] = [];
  const firstCell: number[] = [];
  const seen = new Set<string>();
  let cells = 0;
  lists.forEach((list, i) => {
    if (control.signal?.aborted) throw new Cancelled();
    const place = [i % counts[0], Math.floor(i / counts[0]) % counts[1], Math.floor(i / (counts[0] * counts[1]))];
    const corner = (more: number): Vec3 => place.map((k, axis) => edges[axis]![k + more]!) as unknown as Vec3;
    const box: Box = { min: corner(0), max: corner(1) };
    const key = `${box.min.join()} ${box.max.join()}`;
    seen.add(key);
    const kept = cache?.get(key);
    const block = kept && sameList(kept.brushes, list) ? kept.block : buildBlock(box, list);
    cache?.set(key, { brushes: list, block });
    blocks.push(block);
    firstCell.push(cells);
    cells += block.cells.length;
    control.progress?.((i + 1) / lists.length);
  });
  if (cache) for (const key of cache.keys()) if (!seen.has(key)) cache.delete(key);
  return { edges, counts, blocks, firstCell, cellOf: Array.from({ length: cells }, (_, i) => i) };
}

/** A margin round the map (cm), so that the outermost blocks always hold some void. */
const MARGIN = 8;

/** A brush that ends this near (cm) to where a block would, and not just there, would leave slivers that count on no side. */
const HAIR = 0.05;

/** Such a block ends a little farther on instead: by how much, cm, as often as it takes. */
const ASIDE = 0.37;

/**
 * Where the blocks of an axis begin and end: every {@link BLOCK_SIZE} where brushes stand, but beside what stands a hair off that. A
 * stretch without any is one block, so that a brush far away from all others costs next to nothing.
 */
function axisEdges(brushes: readonly Brush[], axis: number): number[] {
  const taken = new Set<number>();
  const beside = new Set<number>();
  const ends = (c: number): void => {
    const k = Math.round(c / BLOCK_SIZE);
    const off = Math.abs(c - k * BLOCK_SIZE);
    if (off > 0 && off < HAIR) beside.add(k);
  };
  for (const brush of brushes) {
    const { min, max } = brushBounds(brush);
    const last = Math.ceil((max[axis]! + MARGIN) / BLOCK_SIZE) - 1;
    for (let k = Math.floor((min[axis]! - MARGIN) / BLOCK_SIZE); k <= last; k++) taken.add(k);
    ends(min[axis]!);
    ends(max[axis]!);
  }
  const edgeOf = (k: number): number => {
    let edge = k * BLOCK_SIZE;
    const isNear = (c: number) => Math.abs(c - edge) < HAIR;
    // Not so far that the outermost blocks would hold no void.
    for (let tried = 0; beside.has(k) && tried < MARGIN / 2 / ASIDE; tried++) {
      edge += ASIDE;
      if (!brushes.some((b) => isNear(brushBounds(b).min[axis]!) || isNear(brushBounds(b).max[axis]!))) break;
    }
    return edge;
  };
  const out = new Set<number>();
  for (const k of taken) out.add(k).add(k + 1);
  return [...out].sort((a, b) => a - b).map(edgeOf);
}

/** Which stretch between ascending edges holds a coordinate, the first or last where it lies before or behind all. */
function spanAt(edges: readonly number[], c: number): number {
  let low = 0;
  let high = edges.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (edges[middle]! <= c) low = middle;
    else high = middle;
  }
  return low;
}

/** The same space with every leaf a cell of its own: finer than the cells, with a portal in every plane of a brush. */
export function unmergedGrid(grid: BlockGrid): BlockGrid {
  const firstCell: number[] = [];
  let cells = 0;
  const blocks = grid.blocks.map((block): Block => {
    const open = block.leaves.flatMap((leaf, i) => (leaf ? [i] : []));
    const number = new Map(open.map((leaf, i) => [leaf, i]));
    firstCell.push(cells);
    cells += open.length;
    return {
      ...block,
      cells: open.map((i) => block.leaves[i]!),
      leafCell: block.leaves.map((_, i) => number.get(i) ?? -1),
      links: block.leafLinks.map((link) => ({ ...link, a: number.get(link.a)!, b: number.get(link.b)! })),
    };
  });
  return { ...grid, blocks, firstCell, cellOf: Array.from({ length: cells }, (_, i) => i) };
}

const sameList = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** The block that holds a point, or −1 outside all. */
export function blockAt(grid: BlockGrid, p: Vec3): number {
  for (let i = 0; i < 3; i++) {
    const edges = grid.edges[i]!;
    if (!(p[i]! >= edges[0]! && p[i]! < edges.at(-1)!)) return -1;
  }
  const at = grid.edges.map((edges, i) => spanAt(edges, p[i]!));
  return (at[2]! * grid.counts[1] + at[1]!) * grid.counts[0] + at[0]!;
}

/** The cell that holds a point: its number, `solid`, or `beyond` outside all blocks. */
export function locate(grid: BlockGrid, p: Vec3): number | 'solid' | 'beyond' {
  const b = blockAt(grid, p);
  if (b < 0) return 'beyond';
  const block = grid.blocks[b]!;
  let at = block.root;
  while (at >= 0) {
    const { plane, front, back } = block.nodes[at]!;
    const { normal, distance } = block.planes[plane]!;
    at = normal[0] * p[0] + normal[1] * p[1] + normal[2] * p[2] >= distance ? front : back;
  }
  const cell = block.leafCell[-1 - at]!;
  return cell < 0 ? 'solid' : grid.cellOf[grid.firstCell[b]! + cell]!;
}
