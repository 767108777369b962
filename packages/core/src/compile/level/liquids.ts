import { brushBounds, brushPlanes, type Brush, type Role } from '../../brush/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { boxesOverlap } from '../../math/index.ts';
import { cellVolume, clipCell } from '../structure/index.ts';
import type { KeptCells } from './space.ts';

/** What fills cells. */
export interface CellFilling {
  /** Ranges of the two below, one a cell. */
  readonly cellLiquidFirst: Uint32Array;
  /** Liquids in it, by their place in `meta.spaces.liquid`. */
  readonly cellLiquid: Uint32Array;
  /** The share of the cell that each fills, above 0 up to 1. */
  readonly cellLiquidShare: Float32Array;
}

/** A smaller share of a cell is rounding at its sides. */
const LEAST = 1e-6;

/** The brushes of a role, in id order: that of `meta.spaces`. */
export const brushesOfRole = ({ brushes }: Pick<MapDocument, 'brushes'>, role: Role): Brush[] =>
  [...brushes.values()].filter((b) => b.role === role).sort((a, b) => (a.id < b.id ? -1 : 1));

/** Finds what fills cells. */
export function packLiquids(doc: Pick<MapDocument, 'brushes'>, { cells }: KeptCells): CellFilling {
  const liquids = brushesOfRole(doc, 'liquid');
  const first = new Uint32Array(cells.length + 1);
  const which: number[] = [];
  const share: number[] = [];
  cells.forEach((cell, c) => {
    const whole = liquids.length ? cellVolume(cell.sides) : 0;
    liquids.forEach((brush, k) => {
      if (!boxesOverlap(brushBounds(brush), cell.bounds)) return;
      const filled = cellVolume(clipCell(cell.sides, brushPlanes(brush))) / whole;
      if (!(filled > LEAST)) return;
      which.push(k);
      share.push(Math.min(1, filled));
    });
    first[c + 1] = which.length;
  });
  return {
    cellLiquidFirst: first,
    cellLiquid: Uint32Array.from(which),
    cellLiquidShare: Float32Array.from(share),
  };
}
