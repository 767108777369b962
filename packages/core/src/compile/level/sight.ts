import type { StageControl } from '../../jobs/index.ts';
import { stillBrushes, type MapDocument } from '../../map/index.ts';
import { isSealed, type BlockGrid, type Structure } from '../structure/index.ts';
import { buildVisibility } from '../visibility/index.ts';
import { packFigures, type CellFigures } from './figures.ts';
import { keptCells, packShapes, packTree, type LevelShapes, type LevelSpace } from './space.ts';

/**
 * What of a level tells what is seen from where and what it costs: a part of every level, and made of a map alone, without its
 * light, while it is worked on.
 */
export interface Sight extends LevelShapes, LevelSpace, CellFigures {
  readonly meta: { readonly grid: Pick<BlockGrid, 'edges'>; readonly cells: number; readonly sealed: boolean };
  /** A row of bits a cell: what may be seen from it. Empty where nothing is culled. */
  readonly pvsWords: Uint32Array;
}

/** The sight of a map whose structure is known: full visibility, without light. Null where it leaks or holds nothing. */
export function sightOf(doc: MapDocument, structure: Structure, control: StageControl = {}): Sight | null {
  if (!isSealed(structure)) return null;
  const solids = stillBrushes(doc).filter((b) => b.role === 'structure');
  const visibility = buildVisibility(structure, { cheap: false, solids }, control);
  const kept = keptCells(structure);
  return {
    meta: { grid: { edges: structure.blocks.edges }, cells: kept.cells.length, sealed: true },
    ...packShapes(structure.surfaces, kept.number),
    ...packTree(structure, kept),
    pvsWords: visibility.rows,
    ...packFigures(doc, structure, visibility, solids, kept),
  };
}

/** Whether a cell may be seen from another; everything may in a level without visibility. */
export function levelSees(level: Pick<Sight, 'meta' | 'pvsWords'>, from: number, to: number): boolean {
  if (level.pvsWords.length === 0) return true;
  const words = (level.meta.cells + 31) >> 5;
  return (level.pvsWords[from * words + (to >> 5)]! & (1 << (to & 31))) !== 0;
}

/**
 * Marks in `out` (one byte a surface) what is to be drawn for a viewer in a cell; everything when outside all cells. With `open`, one byte
 * an area, only what lies in areas that are reached, or in gates.
 */
export function markVisible(
  level: Pick<Sight, 'meta' | 'pvsWords' | 'surfaceCellFirst' | 'surfaceCell'> & { readonly cellArea?: Int32Array },
  cell: number,
  out: Uint8Array,
  open: Uint8Array | null = null,
): void {
  const n = level.surfaceCellFirst.length - 1;
  if (cell < 0 || level.pvsWords.length === 0) return void out.fill(1);
  const reached = (c: number) => !open || !level.cellArea || level.cellArea[c]! < 0 || open[level.cellArea[c]!] === 1;
  for (let i = 0; i < n; i++) {
    let seen = 0;
    for (let k = level.surfaceCellFirst[i]!; k < level.surfaceCellFirst[i + 1]!; k++) {
      const c = level.surfaceCell[k]!;
      if (levelSees(level, cell, c) && reached(c)) seen = 1;
    }
    out[i] = seen;
  }
}
