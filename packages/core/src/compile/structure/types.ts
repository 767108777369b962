import type { Leak } from '../../checks/index.ts';
import type { TextureFrame } from '../../brush/index.ts';
import type { Box, Plane, Vec3, Winding } from '../../math/index.ts';
import type { Block } from './block.ts';

/** An opening between two cells. The plane's normal points from `a` to `b`; the winding is counter-clockwise seen from `b`. */
export interface Portal {
  readonly a: number;
  readonly b: number;
  readonly winding: Winding;
  readonly plane: Plane;
}

/** A convex piece of open space. */
export interface Cell {
  readonly bounds: Box;
  /** Reached by the flood from the entities. */
  readonly inside: boolean;
  /** Touches the outer border of the world. */
  readonly outer: boolean;
  /** Indices of its portals. */
  readonly portals: readonly number[];
  /** Its sides, counter-clockwise from outside; none of cells in the void. */
  readonly sides: readonly Winding[];
}

/** A polygon to be drawn and lit. Corners include those of neighbours on its edges, so that no cracks show. */
export interface Surface {
  readonly winding: Winding;
  readonly plane: Plane;
  readonly material: string;
  readonly frame: TextureFrame;
  readonly sky: boolean;
  /** Edge of a luxel against the rest. */
  readonly grain: number;
  /** How much of the light it reflects as a mirror, 0 to 1. */
  readonly mirror: number;
  /** The thing whose reflections it shows; null for the nearest. */
  readonly reflection: string | null;
  /** The brush that it is a face of, or the first of several. */
  readonly brush: string;
  /** All brushes of whose flush faces it is made, that one among them. */
  readonly brushes: readonly string[];
  readonly face: number;
  /** The cells it can be seen from, ascending. */
  readonly cells: readonly number[];
}

/** A point the flood starts from. */
export interface Seed {
  readonly id: string;
  readonly at: Vec3;
}

export interface Structure {
  readonly blocks: BlockGrid;
  readonly cells: readonly Cell[];
  readonly portals: readonly Portal[];
  /** First those of what stands still, then those of each body that moves. */
  readonly surfaces: readonly Surface[];
  /** Where the surfaces of each body begin, and where those of the last end. */
  readonly bodyFirst: readonly number[];
  /** The hole with the shortest trail, and all that were found, that one first. */
  readonly leak: Leak | null;
  readonly leaks: readonly Leak[];
  /** Seeds that lie in a solid or outside everything, by id. */
  readonly misplaced: readonly { readonly id: string; readonly where: 'solid' | 'void' }[];
}

/** Blocks covering the world, x fastest, then y, then z. */
export interface BlockGrid {
  /** For each axis where the blocks begin, and where the last one ends: one more number than there are blocks. */
  readonly edges: readonly [readonly number[], readonly number[], readonly number[]];
  readonly counts: readonly [number, number, number];
  readonly blocks: readonly Block[];
  /** Place in `cellOf` of each block's first cell. */
  readonly firstCell: readonly number[];
  /** Of each block's cells, one block after another, the number in the structure: several of one number are one cell. */
  readonly cellOf: readonly number[];
}
