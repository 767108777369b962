import type { StageControl } from '../../jobs/index.ts';
import { stillBrushes, type MapDocument } from '../../map/index.ts';
import type { PropLookup } from '../../prop/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import { areasOf, isSealed, type BlockGrid, type Structure } from '../structure/index.ts';
import { buildVisibility, type Visibility } from '../visibility/index.ts';
import { packFigures, type CellFigures } from './figures.ts';
import { packGates, type LevelGate } from './gates.ts';
import { fileProps, type LevelProps } from './props.ts';
import { shutParting, surfacesDrawn, trianglesSeen } from './seen.ts';
import { keptCells, packShapes, packTree, type LevelShapes, type LevelSpace } from './space.ts';

/**
 * What of a level tells what is seen from where and what it costs: a part of every level, and made of a map alone, without its
 * light, while it is worked on.
 */
export interface Sight extends LevelShapes, LevelSpace, CellFigures {
  readonly meta: {
    readonly grid: Pick<BlockGrid, 'edges'>;
    readonly cells: number;
    readonly sealed: boolean;
    readonly gates: readonly LevelGate[];
    readonly areas: number;
  };
  /** The area of each cell, −1 in gates. */
  readonly cellArea: Int32Array;
  /** A row of bits a cell: what may be seen from it. Empty where nothing is culled. */
  readonly pvsWords: Uint32Array;
}

/** What is known of what a map names: whether it is seen through, and how much there is to draw of it. */
export interface SightLookups {
  readonly materials: MaterialLookup;
  readonly props: PropLookup;
}

/** The sight of a map whose structure is known: full visibility, without light. Null where it leaks or holds nothing. */
export function sightOf(
  doc: MapDocument,
  structure: Structure,
  { materials, props }: SightLookups,
  control: StageControl = {},
): Sight | null {
  if (!isSealed(structure)) return null;
  const solids = stillBrushes(doc).filter((b) => b.role === 'structure');
  const visibility = buildVisibility(structure, { cheap: false, solids }, control);
  const kept = keptCells(structure);
  const areas = areasOf(structure, doc.brushes.values());
  const { gates, cellArea } = packGates(doc, areas, kept, materials);
  return {
    meta: {
      grid: { edges: structure.blocks.edges },
      cells: kept.cells.length,
      sealed: true,
      gates,
      areas: areas.count,
    },
    ...packShapes(structure.surfaces, kept.number),
    ...packTree(structure, kept),
    cellArea,
    pvsWords: visibility.rows,
    ...packFigures(
      doc,
      structure,
      fileProps(doc, structure, props),
      visibility,
      solids,
      kept,
      shutParting(gates, areas.count, cellArea),
    ),
  };
}

/** Triangles drawn for whoever stands in each cell of the inside while every door stands closed, in the structure's order. */
export function shutTriangles(
  doc: MapDocument,
  structure: Structure,
  visibility: Visibility,
  { materials, props }: SightLookups,
): Uint32Array {
  const kept = keptCells(structure);
  const areas = areasOf(structure, doc.brushes.values());
  const { gates, cellArea } = packGates(doc, areas, kept, materials);
  const drawn = [...surfacesDrawn(structure.surfaces), ...fileProps(doc, structure, props)];
  return trianglesSeen(drawn, visibility, kept, shutParting(gates, areas.count, cellArea));
}

/** Whether a cell may be seen from another; everything may in a level without visibility. */
export function levelSees(level: Pick<Sight, 'meta' | 'pvsWords'>, from: number, to: number): boolean {
  if (level.pvsWords.length === 0) return true;
  const words = (level.meta.cells + 31) >> 5;
  return (level.pvsWords[from * words + (to >> 5)]! & (1 << (to & 31))) !== 0;
}

type Seen = Pick<Sight, 'meta' | 'pvsWords' | 'cellArea'>;

/**
 * Marks in `out` (one byte a surface) what is to be drawn for a viewer in a cell; everything when outside all cells. With `open`, one byte
 * an area, only what lies in areas that are reached, or in gates beside them.
 */
export const markVisible = (
  level: Seen & Pick<Sight, 'surfaceCellFirst' | 'surfaceCell'>,
  cell: number,
  out: Uint8Array,
  open: Uint8Array | null = null,
): void => markFiled(level, level.surfaceCellFirst, level.surfaceCell, cell, out, open);

/** The same of props, in the order of `meta.props`. In levels older than their filing all are drawn. */
export function markVisibleProps(
  level: Seen & Partial<LevelProps>,
  cell: number,
  out: Uint8Array,
  open: Uint8Array | null = null,
): void {
  if (!level.propCellFirst || !level.propCell) return void out.fill(1);
  markFiled(level, level.propCellFirst, level.propCell, cell, out, open);
}

/** Marks what is filed in cells that are seen: `cells` from `first[i]` to before `first[i + 1]`. */
function markFiled(
  level: Seen,
  first: Uint32Array,
  cells: Uint32Array,
  cell: number,
  out: Uint8Array,
  open: Uint8Array | null,
): void {
  if (cell < 0 || level.pvsWords.length === 0) return void out.fill(1);
  const reached = open && reachedCells(level, open);
  for (let i = 0; i < first.length - 1; i++) {
    let seen = 0;
    for (let k = first[i]!; k < first[i + 1]!; k++) {
      const c = cells[k]!;
      if (levelSees(level, cell, c) && (!reached || reached[c])) seen = 1;
    }
    out[i] = seen;
  }
}

/** The cells of areas that are reached, and of gates beside them, one byte each. */
function reachedCells({ meta, cellArea }: Pick<Sight, 'meta' | 'cellArea'>, open: Uint8Array): Uint8Array {
  const reached = Uint8Array.from(cellArea, (area) => (area < 0 ? 0 : open[area]!));
  for (const { cells, areas } of meta.gates) if (areas.some((a) => open[a])) for (const c of cells) reached[c] = 1;
  return reached;
}
