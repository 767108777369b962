import { brushBounds, type Brush } from '../../brush/index.ts';
import { growBox, uniteBoxes, type Box, type Vec3 } from '../../math/index.ts';
import { buildBlock, type Block } from './block.ts';
import { Cancelled, type BlockGrid, type StageControl } from './types.ts';

/** Edge length of a block, cm. */
export const BLOCK_SIZE = 1024;

/** Blocks of earlier runs, kept while their brushes are the same objects: an edit re-makes only the blocks it touches. */
export type BlockCache = Map<string, { readonly brushes: readonly Brush[]; readonly block: Block }>;

/** Divides the world of some brushes (in id order) into blocks and builds each. Null when there is no brush. */
export function buildBlocks(brushes: readonly Brush[], control: StageControl, cache?: BlockCache): BlockGrid | null {
  if (brushes.length === 0) return null;
  // A margin round the map, so that the outermost blocks always hold some void.
  const world = growBox(uniteBoxes(brushes.map(brushBounds)), 8);
  const low = world.min.map((c) => Math.floor(c / BLOCK_SIZE)) as [number, number, number];
  const high = world.max.map((c) => Math.ceil(c / BLOCK_SIZE)) as [number, number, number];
  const counts = [0, 1, 2].map((i) => high[i]! - low[i]!) as [number, number, number];
  const lists: Brush[][] = Array.from({ length: counts[0] * counts[1] * counts[2] }, () => []);
  for (const brush of brushes) {
    const { min, max } = brushBounds(brush);
    const from = min.map((c, i) => Math.max(0, Math.ceil(c / BLOCK_SIZE - 1e-9) - 1 - low[i]!));
    const to = max.map((c, i) => Math.min(counts[i]! - 1, Math.floor(c / BLOCK_SIZE + 1e-9) - low[i]!));
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
    const at: Vec3 = [
      (low[0] + (i % counts[0])) * BLOCK_SIZE,
      (low[1] + (Math.floor(i / counts[0]) % counts[1])) * BLOCK_SIZE,
      (low[2] + Math.floor(i / (counts[0] * counts[1]))) * BLOCK_SIZE,
    ];
    const box: Box = { min: at, max: [at[0] + BLOCK_SIZE, at[1] + BLOCK_SIZE, at[2] + BLOCK_SIZE] };
    const key = at.join();
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
  return {
    origin: [low[0] * BLOCK_SIZE, low[1] * BLOCK_SIZE, low[2] * BLOCK_SIZE],
    counts,
    size: BLOCK_SIZE,
    blocks,
    firstCell,
  };
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
  return { ...grid, blocks, firstCell };
}

const sameList = <T>(a: readonly T[], b: readonly T[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** The block that holds a point, or −1 outside all. */
export function blockAt(grid: BlockGrid, p: Vec3): number {
  const at = [0, 1, 2].map((i) => Math.floor((p[i]! - grid.origin[i]!) / grid.size));
  if (at.some((c, i) => c < 0 || c >= grid.counts[i]!)) return -1;
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
  return cell < 0 ? 'solid' : grid.firstCell[b]! + cell;
}
