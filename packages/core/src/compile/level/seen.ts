import type { Visibility } from '../visibility/index.ts';
import type { LevelGate } from './gates.ts';
import { trianglesOf, type KeptCells } from './space.ts';
import type { Surface } from '../structure/index.ts';

/** The inside as gates part it while every door stands closed: of each cell the areas that are reached from it, by their first. */
export interface Parting {
  readonly reached: readonly (readonly number[])[];
  readonly count: number;
}

/** What is reached from each cell while all gates that can close are closed; null where no gate closes. */
export function shutParting(gates: readonly LevelGate[], areas: number, cellArea: ArrayLike<number>): Parting | null {
  if (!gates.some((g) => g.bodies.length > 0)) return null;
  // Areas joined by gates that stay open are one.
  const joined = Array.from({ length: areas }, (_, i) => i);
  const root = (a: number): number => (joined[a] === a ? a : root(joined[a]!));
  for (const gate of gates)
    if (gate.bodies.length === 0) for (const a of gate.areas) joined[root(a)] = root(gate.areas[0]!);
  // Whoever stands in a gate reaches both sides of it.
  const sides = new Map(gates.flatMap((g) => g.cells.map((c) => [c, [...new Set(g.areas.map(root))]] as const)));
  const reached = Array.from(cellArea, (area, c) => (area < 0 ? (sides.get(c) ?? []) : [root(area)]));
  return { reached, count: areas };
}

/** What is drawn with the cells from which it can be seen. */
export interface Drawn {
  readonly triangles: number;
  readonly cells: readonly number[];
}

/** Surfaces as what is drawn. */
export const surfacesDrawn = (surfaces: readonly Surface[]): Drawn[] =>
  surfaces.map(({ winding, cells }) => ({ triangles: trianglesOf(winding.length), cells }));

/** Triangles that are drawn for whoever stands in each cell; with a parting only those of areas that are reached, and of gates. */
export function trianglesSeen(
  drawn: readonly Drawn[],
  visibility: Visibility | null,
  { cells: { length: n }, number }: KeptCells,
  parting: Parting | null = null,
): Uint32Array {
  const seen = new Uint32Array(n);
  const words = (n + 31) >> 5;
  const near = new Uint32Array(words);
  /** Of each area the cells from which it is reached. */
  const from = Array.from({ length: parting?.count ?? 0 }, () => new Uint32Array(words));
  parting?.reached.forEach((areas, c) => {
    for (const a of areas) from[a]![c >> 5]! |= 1 << (c & 31);
  });
  for (const { triangles, cells } of drawn) {
    near.fill(visibility ? 0 : 0xffffffff);
    if (visibility)
      for (const cell of cells) {
        const c = number[cell]!;
        // What stands in a gate is drawn with either of its sides.
        const reaching = parting?.reached[c]!.map((a) => from[a]!);
        for (let w = 0; w < words; w++) {
          const mask = reaching ? reaching.reduce((bits, list) => bits | list[w]!, 0) : 0xffffffff;
          near[w]! |= visibility.rows[c * words + w]! & mask;
        }
      }
    // Who sees any of its cells draws it.
    for (let c = 0; c < n; c++) if (near[c >> 5]! & (1 << (c & 31))) seen[c]! += triangles;
  }
  return seen;
}
