import type { Brush } from '../../brush/index.ts';
import { shines } from '../../entity/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { distance, planeFromLoop, type Vec3 } from '../../math/index.ts';
import { locate, type Structure } from '../structure/index.ts';
import { makeRays } from '../tracing/index.ts';
import { countBits, type Visibility } from '../visibility/index.ts';
import { packLiquids, type CellFilling } from './liquids.ts';
import { surfacesDrawn, trianglesSeen, type Drawn, type Parting } from './seen.ts';
import type { KeptCells } from './space.ts';

/** What is known of cells. */
export interface CellFigures extends CellFilling {
  /** Sides of each cell: unit normal outward and distance. */
  readonly cellPlaneFirst: Uint32Array;
  readonly cellPlane: Float32Array;
  /** Surfaces and triangles in it, and things that shine. */
  readonly cellFaces: Uint32Array;
  readonly cellTriangles: Uint32Array;
  readonly cellLights: Uint32Array;
  /** Cells and triangles that may be seen from it, its own among them. */
  readonly cellSeen: Uint32Array;
  readonly cellSeenTriangles: Uint32Array;
  /** The same while every door stands closed in its gate. */
  readonly cellShutTriangles: Uint32Array;
  /** The longest clear line that is known to go through it, cm. */
  readonly cellLongest: Float32Array;
  /** Pairs of cells of which a line proves that they see one another, the first less than the second; the lines, six numbers each. */
  readonly witnessPair: Uint32Array;
  readonly witnessLine: Float32Array;
  /** The longest clear lines that are known, from wall to wall, the longest first: six numbers each. */
  readonly sightLine: Float32Array;
}

/** How many long lines are told, and how near to one another (cm, both ends) two count as one. */
const LONG_LINES = 24;
const SAME_LINE = 200;

/** Works the figures out. `solids` is what bars sight. */
export function packFigures(
  doc: MapDocument,
  structure: Structure,
  /** What is drawn besides its surfaces. */
  besides: readonly Drawn[],
  visibility: Visibility | null,
  solids: readonly Brush[],
  kept: KeptCells,
  parting: Parting | null,
): CellFigures {
  const n = kept.cells.length;
  const cellPlaneFirst = new Uint32Array(n + 1);
  const planes: number[] = [];
  kept.cells.forEach((cell, c) => {
    for (const side of cell.sides) {
      const plane = planeFromLoop(side);
      if (plane) planes.push(...plane.normal, plane.distance);
    }
    cellPlaneFirst[c + 1] = planes.length / 4;
  });
  const [cellFaces, cellTriangles, cellLights] = [new Uint32Array(n), new Uint32Array(n), new Uint32Array(n)];
  const words = (n + 31) >> 5;
  const drawn = [...surfacesDrawn(structure.surfaces), ...besides];
  for (const { triangles, cells } of drawn) {
    for (const cell of cells) {
      const c = kept.number[cell]!;
      cellFaces[c]!++;
      cellTriangles[c]! += triangles;
    }
  }
  for (const entity of doc.entities.values()) {
    if (!shines(entity)) continue;
    const cell = locate(structure.blocks, entity.at);
    if (typeof cell === 'number' && kept.number[cell]! >= 0) cellLights[kept.number[cell]!]!++;
  }
  const cellSeen = new Uint32Array(n).fill(n);
  if (visibility)
    for (let c = 0; c < n; c++) cellSeen[c] = countBits(visibility.rows.subarray(c * words, (c + 1) * words));
  const seen = trianglesSeen(drawn, visibility, kept);
  return {
    cellPlaneFirst,
    cellPlane: Float32Array.from(planes),
    cellFaces,
    cellTriangles,
    cellLights,
    cellSeen,
    cellSeenTriangles: seen,
    cellShutTriangles: parting ? trianglesSeen(drawn, visibility, kept, parting) : seen,
    ...packLiquids(doc, kept),
    ...longLines(kept, visibility, solids),
  };
}

/** The lines that prove what is seen, drawn out from wall to wall. */
function longLines(kept: KeptCells, visibility: Visibility | null, solids: readonly Brush[]) {
  const n = kept.cells.length;
  const cellLongest = new Float32Array(n);
  const lines: { length: number; ends: number[] }[] = [];
  kept.cells.forEach(({ sides }, c) => {
    const ends = farthestApart(sides.flat());
    if (!ends) return;
    const length = distance(...ends);
    cellLongest[c] = length;
    lines.push({ length, ends: ends.flat() });
  });
  const pairs = visibility?.witnesses.pairs ?? new Int32Array(0);
  const given = visibility?.witnesses.lines ?? new Float64Array(0);
  const count = pairs.length / 2;
  const rays = makeRays(solids);
  const list = new Float64Array(count * 14);
  for (let i = 0; i < count; i++) {
    const [a, b] = [given.subarray(i * 6, i * 6 + 3), given.subarray(i * 6 + 3, i * 6 + 6)];
    const far = Math.max(1e-6, Math.sqrt((b[0]! - a[0]!) ** 2 + (b[1]! - a[1]!) ** 2 + (b[2]! - a[2]!) ** 2));
    for (let k = 0; k < 3; k++) {
      const d = (b[k]! - a[k]!) / far;
      list[i * 14 + k] = b[k]!;
      list[i * 14 + 3 + k] = d;
      list[i * 14 + 7 + k] = a[k]!;
      list[i * 14 + 10 + k] = -d;
    }
    list[i * 14 + 6] = list[i * 14 + 13] = FARTHEST;
  }
  const [hit, at] = [new Int32Array(count * 2), new Float64Array(count * 2)];
  if (count) rays.firstHits(list, count * 2, hit, at);
  for (let i = 0; i < count; i++) {
    // What leaves the world through nothing is no line of sight.
    if (hit[i * 2]! < 0 || hit[i * 2 + 1]! < 0) continue;
    const end = (k: number): number[] =>
      [0, 1, 2].map((x) => list[i * 14 + k * 7 + x]! + list[i * 14 + k * 7 + 3 + x]! * at[i * 2 + k]!);
    const ends = [...end(1), ...end(0)];
    const length = distance(ends.slice(0, 3) as unknown as Vec3, ends.slice(3) as unknown as Vec3);
    for (const c of [pairs[i * 2]!, pairs[i * 2 + 1]!]) cellLongest[c] = Math.max(cellLongest[c]!, length);
    lines.push({ length, ends });
  }
  lines.sort((a, b) => b.length - a.length);
  const long: number[][] = [];
  for (const { ends } of lines) {
    if (long.length === LONG_LINES) break;
    if (!long.some((other) => isSameLine(other, ends))) long.push(ends);
  }
  return {
    cellLongest,
    witnessPair: Uint32Array.from(pairs),
    witnessLine: Float32Array.from(given),
    sightLine: Float32Array.from(long.flat()),
  };
}

/** Longer than any map (cm). */
const FARTHEST = 400_000;

function isSameLine(a: readonly number[], b: readonly number[]): boolean {
  const near = (i: number, j: number) => [0, 1, 2].every((k) => Math.abs(a[i + k]! - b[j + k]!) < SAME_LINE);
  return (near(0, 0) && near(3, 3)) || (near(0, 3) && near(3, 0));
}

/** The two of some points that lie farthest apart: the longest line in a convex cell. */
function farthestApart(points: readonly Vec3[]): readonly [Vec3, Vec3] | null {
  let best: readonly [Vec3, Vec3] | null = null;
  let most = 0;
  for (let i = 0; i < points.length; i++)
    for (let j = i + 1; j < points.length; j++) {
      const far = distance(points[i]!, points[j]!);
      if (far > most) [most, best] = [far, [points[i]!, points[j]!]];
    }
  return best;
}
