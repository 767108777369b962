import { DRAWN_ROLES, type Brush } from '../../brush/index.ts';
import { findLeaks, flood, portalsOfCells, seedCell } from './flood.ts';
import type { Vec3 } from '../../math/index.ts';
import { DIVIDING_ROLES } from './block.ts';
import { joinBlocks } from './joined.ts';
import { buildBlocks, locate, type BlockCache } from './grid.ts';
import { linkBlocks } from './links.ts';
import { closeTJunctions, collectSurfaces } from './surfaces.ts';
import type { StageControl } from '../../jobs/index.ts';
import type { Cell, Seed, Structure } from './types.ts';

/**
 * The structure stage: space divided into convex cells and portals, what is inside, what can be seen, and where it leaks.
 * Deterministic: brushes are taken in id order. A map without brushes gives no cells and no surfaces.
 * In a leaking map, or one without seeds, everything that is not solid counts as inside. What is only to be known, not `drawn`, gets no surfaces.
 */
export function buildStructure(
  brushes: Iterable<Brush>,
  seeds: readonly Seed[],
  control: StageControl = {},
  cache?: BlockCache,
  drawn = true,
): Structure {
  const ordered = [...brushes]
    .filter((b) => DRAWN_ROLES.has(b.role) || DIVIDING_ROLES.has(b.role))
    .sort((a, b) => (a.id < b.id ? -1 : 1));
  const grid = buildBlocks(ordered, control, cache);
  if (!grid) {
    const nowhere = {
      edges: [[0], [0], [0]] as const,
      counts: [0, 0, 0] as const,
      blocks: [],
      firstCell: [],
      cellOf: [],
    };
    return {
      blocks: nowhere,
      cells: [],
      portals: [],
      surfaces: [],
      bodyFirst: [0],
      leak: null,
      leaks: [],
      misplaced: seeds.map(({ id }) => ({ id, where: 'void' as const })),
    };
  }
  const { portals, outer } = linkBlocks(grid);
  const shapes = grid.blocks.flatMap((b) => b.cells);
  const ofCell = portalsOfCells(shapes.length, portals, true);
  const placed: { seed: Seed; cell: number }[] = [];
  const misplaced: { id: string; where: 'solid' | 'void' }[] = [];
  const open = flood(outer, portals, ofCell);
  for (const seed of seeds) {
    const cell = seedCell(grid, seed.at);
    if (typeof cell === 'number') placed.push({ seed, cell });
    else misplaced.push({ id: seed.id, where: cell === 'solid' ? 'solid' : 'void' });
  }
  // A thing in the void does not make a sealed map leak as long as others stand inside.
  const sealedSeeds = placed.filter(({ cell }) => !open.has(cell));
  const strays = placed.filter(({ cell }) => open.has(cell) && isStray(cell, placed, open, outer));
  const leaking = placed.filter((s) => open.has(s.cell) && !strays.includes(s));
  for (const { seed } of strays) misplaced.push({ id: seed.id, where: 'void' });
  const leaks = leaking.length
    ? findLeaks(
        grid,
        leaking.map((s) => s.seed),
        ordered,
      )
    : [];
  const leak = leaks[0] ?? null;
  const inside =
    leak || placed.length === 0
      ? new Set(shapes.keys())
      : flood(
          sealedSeeds.map((s) => s.cell),
          portals,
          ofCell,
        );
  const joined = joinBlocks(grid, portals, inside, ordered);
  const isInside = new Set([...inside].map((cell) => joined.grid.cellOf[cell]!));
  const isOuter = new Set([...outer].map((cell) => joined.grid.cellOf[cell]!));
  const ofJoined = portalsOfCells(joined.cells.length, joined.portals);
  const cells = joined.cells.map((cell, i): Cell => ({
    ...cell,
    inside: isInside.has(i),
    outer: isOuter.has(i),
    portals: ofJoined[i]!,
  }));
  const surfaces = drawn ? closeTJunctions(collectSurfaces(joined.grid, (cell) => isInside.has(cell))) : [];
  return {
    blocks: joined.grid,
    cells,
    portals: joined.portals,
    surfaces,
    bodyFirst: [surfaces.length],
    leak,
    leaks,
    misplaced,
  };
}

/** Whether a structure has an inside that nothing leads out of: then what cannot be seen is culled. */
export const isSealed = ({ leak, cells }: Pick<Structure, 'leak' | 'cells'>): boolean =>
  leak === null && cells.some((c) => c.inside && !c.outer);

/** Answers for any point whether it is open to the inside, in a solid, or in the void. */
export const placesOf =
  (structure: Structure) =>
  (p: Vec3): 'open' | 'solid' | 'void' => {
    const cell = locate(structure.blocks, p);
    if (typeof cell === 'number') return structure.cells[cell]!.inside ? 'open' : 'void';
    return cell === 'solid' ? 'solid' : 'void';
  };

/** A seed that stands in a cell at the world's border is simply outside, if any other seed is enclosed. */
function isStray(
  cell: number,
  placed: readonly { cell: number }[],
  open: ReadonlySet<number>,
  outer: ReadonlySet<number>,
): boolean {
  return outer.has(cell) && placed.some((other) => !open.has(other.cell));
}
