import { windingCentroid, type Vec3 } from '../../math/index.ts';
import type { BlockGrid, Cell, Structure, Surface } from '../structure/index.ts';

/** Where surfaces are, and from which cells each can be seen. */
export interface LevelShapes {
  readonly position: Float32Array;
  readonly index: Uint32Array;
  readonly surfaceIndexFirst: Uint32Array;
  readonly surfaceNormal: Float32Array;
  readonly surfaceCellFirst: Uint32Array;
  readonly surfaceCell: Uint32Array;
}

/** How space is divided: trees that tell a point's cell, and the portals between cells. */
export interface LevelSpace {
  readonly blockRoot: Int32Array;
  readonly node: Int32Array;
  readonly plane: Float64Array;
  readonly leafCell: Int32Array;
  readonly cellBounds: Float32Array;
  readonly portalCells: Uint32Array;
  readonly portalFirst: Uint32Array;
  readonly portalPoint: Float32Array;
}

/** The cells that a level holds, and the number each of the structure's has in it, −2 for the void. */
export interface KeptCells {
  readonly cells: readonly Cell[];
  readonly number: Int32Array;
}

/** Only the inside is kept: the void is neither entered nor drawn. In a leaking map everything open counts as inside. */
export function keptCells({ cells }: Structure): KeptCells {
  const number = new Int32Array(cells.length).fill(VOID);
  let count = 0;
  cells.forEach((c, i) => {
    if (c.inside) number[i] = count++;
  });
  return { cells: cells.filter((c) => c.inside), number };
}

/** The cell of a point in a solid. */
export const SOLID = -1;
const VOID = -2;

/** A fan round the middle never makes a flat triangle, even with corners on straight edges; small polygons need none. */
const isFan = (corners: number): boolean => corners > 4;

/** Triangles that a polygon is drawn as. */
export const trianglesOf = (corners: number): number => (isFan(corners) ? corners : corners - 2);

/** Corners of a polygon as it is drawn, with its middle for a fan. */
export const fanPoints = ({ winding }: Surface): readonly Vec3[] =>
  isFan(winding.length) ? [...winding, windingCentroid(winding)] : winding;

/** Where surfaces are, how they are drawn, and the cells they are seen from; `number` tells what cells are called. */
export function packShapes(surfaces: readonly Surface[], number: Int32Array): LevelShapes {
  const position: number[] = [];
  const index: number[] = [];
  const surfaceIndexFirst = [0];
  const cells: number[] = [];
  const surfaceCellFirst = [0];
  for (const s of surfaces) {
    const base = position.length / 3;
    const points = fanPoints(s);
    for (const p of points) position.push(...p);
    const n = s.winding.length;
    if (points.length > n) for (let k = 0; k < n; k++) index.push(base + n, base + k, base + ((k + 1) % n));
    else for (let k = 2; k < n; k++) index.push(base, base + k - 1, base + k);
    surfaceIndexFirst.push(index.length);
    for (const c of s.cells) cells.push(number[c]!);
    surfaceCellFirst.push(cells.length);
  }
  return {
    position: Float32Array.from(position),
    index: Uint32Array.from(index),
    surfaceIndexFirst: Uint32Array.from(surfaceIndexFirst),
    surfaceNormal: Float32Array.from(surfaces.flatMap((s) => s.plane.normal)),
    surfaceCellFirst: Uint32Array.from(surfaceCellFirst),
    surfaceCell: Uint32Array.from(cells),
  };
}

/** The blocks' trees in one table: children ≥ 0 are nodes, others leaf `−1 − child`. */
export function packTree({ blocks, cells, portals }: Structure, kept: KeptCells): LevelSpace {
  const node: number[] = [];
  const plane: number[] = [];
  const leafCell: number[] = [];
  const blockRoot: number[] = [];
  blocks.blocks.forEach((block, b) => {
    const firstNode = node.length / 3;
    const firstPlane = plane.length / 4;
    const firstLeaf = leafCell.length;
    if (block.leafCell.every((c) => c >= 0 && kept.number[blocks.cellOf[c + blocks.firstCell[b]!]!] === VOID)) {
      // Nobody ever stands in here: the whole block is one leaf.
      leafCell.push(VOID);
      blockRoot.push(-1 - firstLeaf);
      return;
    }
    const child = (c: number) => (c >= 0 ? c + firstNode : c - firstLeaf);
    for (const n of block.nodes) node.push(n.plane + firstPlane, child(n.front), child(n.back));
    for (const p of block.planes) plane.push(...p.normal, p.distance);
    for (const c of block.leafCell)
      leafCell.push(c < 0 ? SOLID : kept.number[blocks.cellOf[c + blocks.firstCell[b]!]!]!);
    blockRoot.push(child(block.root));
  });
  const inner = portals.filter((p) => cells[p.a]!.inside && cells[p.b]!.inside);
  const portalFirst = [0];
  for (const p of inner) portalFirst.push(portalFirst.at(-1)! + p.winding.length);
  return {
    blockRoot: Int32Array.from(blockRoot),
    node: Int32Array.from(node),
    plane: Float64Array.from(plane),
    leafCell: Int32Array.from(leafCell),
    cellBounds: Float32Array.from(kept.cells.flatMap((c) => [...c.bounds.min, ...c.bounds.max])),
    portalCells: Uint32Array.from(inner.flatMap((p) => [kept.number[p.a]!, kept.number[p.b]!])),
    portalFirst: Uint32Array.from(portalFirst),
    portalPoint: Float32Array.from(inner.flatMap((p) => p.winding.flat())),
  };
}

/** The cell at a point: its number, −1 in a solid, −2 in the void and outside the world. */
export function levelCell(
  level: LevelSpace & { readonly meta: { readonly grid: Pick<BlockGrid, 'edges'> } },
  p: ArrayLike<number>,
): number {
  const { edges } = level.meta.grid;
  let block = 0;
  for (let axis = 2; axis >= 0; axis--) {
    const e = edges[axis]!;
    if (!(p[axis]! >= e[0]! && p[axis]! < e[e.length - 1]!)) return VOID;
    let k = 0;
    while (e[k + 1]! <= p[axis]!) k++;
    block = block * (e.length - 1) + k;
  }
  let at = level.blockRoot[block]!;
  const { node, plane, leafCell } = level;
  while (at >= 0) {
    const k = node[at * 3]! * 4;
    const front = plane[k]! * p[0]! + plane[k + 1]! * p[1]! + plane[k + 2]! * p[2]! >= plane[k + 3]!;
    at = node[at * 3 + (front ? 1 : 2)]!;
  }
  return leafCell[-1 - at]!;
}
