import { boxSolid, brushBounds, type Brush } from '../brush/index.ts';
import {
  buildStructure,
  buildVisibility,
  closing,
  isSealed,
  cellVolume,
  seedsOf,
  shutTriangles,
  type BlockCache,
  type Cell,
  type SightLookups,
  type Structure,
} from '../compile/index.ts';
import { addBrushes, EditError, gateInOpening } from '../edit/index.ts';
import { Cancelled, type StageControl } from '../jobs/index.ts';
import { bodiesOf, stillBrushes, withoutScenery, type MapDocument } from '../map/index.ts';
import { boxCenter, type Box, type Vec3 } from '../math/index.ts';
import { dressSolid, type MaterialLookup } from '../surface/index.ts';

/** Something that would make a map cheaper, tried by computation. */
export interface Suggestion {
  /** A hint to be drawn as a box, or an opening whose door a gate would serve. */
  readonly what: { readonly hint: Box } | { readonly gate: string };
  /** Triangles drawn on average over all places inside, doors with gates closed: before and after. */
  readonly before: number;
  readonly after: number;
  readonly at: Vec3;
}

/** Cells in which hints are tried: those that weigh most. In each so many places. */
const CELLS = 5;
const PLACES = 3;
/** A hint leaves at least so much of its cell on either side, cm. */
const LEAST = 96;
/** Thickness of a hint, cm. */
const THIN = 4;
/** Less than this share of what is drawn is not worth a brush. */
const WORTH = 0.01;

/**
 * Tries hints across the costliest cells and gates in openings with doors, each by itself, and gives those that save anything, best first.
 * Null where the map leaks or holds nothing. Throws {@link Cancelled} when the signal is raised.
 */
export function suggestSight(doc: MapDocument, lookups: SightLookups, control: StageControl = {}): Suggestion[] | null {
  const cache: BlockCache = new Map();
  const now = costOf(doc, lookups, cache, control);
  if (!now) return null;
  const tries = [...gatesToTry(doc, lookups.materials), ...hintsToTry(doc, now)];
  const found: Suggestion[] = [];
  tries.forEach(({ what, at, make }, i) => {
    if (control.signal?.aborted) throw new Cancelled();
    control.progress?.(i / tries.length);
    const after = costOf(make(), lookups, cache, { signal: control.signal });
    if (after && after.mean < now.mean * (1 - WORTH)) found.push({ what, at, before: now.mean, after: after.mean });
  });
  return found.sort((a, b) => a.after - b.after);
}

/**
 * Triangles drawn on average over all places inside, doors with gates closed; null where the map leaks or holds nothing. Blocks of space
 * that are as they were are taken from the cache.
 */
export const drawnOnAverage = (
  doc: MapDocument,
  lookups: SightLookups,
  cache: BlockCache = new Map(),
  control: StageControl = {},
): number | null => costOf(doc, lookups, cache, control)?.mean ?? null;

interface Cost {
  readonly mean: number;
  readonly cells: readonly (Cell & { readonly weight: number; readonly triangles: number })[];
  readonly structure: Structure;
}

/** What is drawn on average over the inside, with gates closed. */
function costOf(whole: MapDocument, lookups: SightLookups, cache: BlockCache, control: StageControl): Cost | null {
  const doc = withoutScenery(whole);
  const still = stillBrushes(doc);
  const structure = buildStructure(still, seedsOf(doc), control, cache);
  if (!isSealed(structure)) return null;
  const visibility = buildVisibility(structure, { cheap: false, solids: still }, control);
  const seen = shutTriangles(doc, structure, visibility, lookups);
  const cells = structure.cells
    .filter((cell) => cell.inside)
    .map((cell, c) => ({ ...cell, weight: cellVolume(cell.sides), triangles: seen[c]! }));
  const all = cells.reduce((n, c) => n + c.weight, 0);
  return { mean: cells.reduce((n, c) => n + c.triangles * c.weight, 0) / Math.max(1e-9, all), cells, structure };
}

interface Try {
  readonly what: Suggestion['what'];
  readonly at: Vec3;
  readonly make: () => MapDocument;
}

/** Gates in openings that a door fills, where none stands yet. */
function gatesToTry(doc: MapDocument, materials: MaterialLookup): Try[] {
  const bodies = bodiesOf(doc);
  return [...doc.openings.keys()].sort().flatMap((opening): Try[] => {
    try {
      const { doc: made, gate } = gateInOpening(doc, opening);
      const brush = made.brushes.get(gate)!;
      if (closing(brush, bodies, materials).length === 0) return [];
      return [{ what: { gate: opening }, at: boxCenter(brushBounds(brush)), make: () => made }];
    } catch (error) {
      if (error instanceof EditError) return [];
      throw error;
    }
  });
}

/** Hints across the cells that weigh most: where openings into them begin and end, and in their middle. */
function hintsToTry(doc: MapDocument, { cells, structure }: Cost): Try[] {
  const heavy = [...cells].sort((a, b) => b.weight * b.triangles - a.weight * a.triangles).slice(0, CELLS);
  return heavy.flatMap(({ bounds, portals }) =>
    ([0, 1, 2] as const).flatMap((axis) => {
      const [low, high] = [bounds.min[axis], bounds.max[axis]];
      const rims = portals.flatMap((p) => {
        const along = structure.portals[p]!.winding.map((q) => q[axis]);
        return [Math.min(...along), Math.max(...along)];
      });
      const places = [(low + high) / 2, ...rims].map(Math.round).filter((x) => x - low >= LEAST && high - x >= LEAST);
      return [...new Set(places)].slice(0, PLACES).map((x): Try => {
        const side = (end: 'min' | 'max', by: number) =>
          bounds[end].map((c, i) => (i === axis ? x + by : c)) as unknown as Vec3;
        const hint = { min: side('min', -THIN / 2), max: side('max', THIN / 2) };
        return { what: { hint }, at: boxCenter(hint), make: () => addBrushes(doc, [hintBrush(hint, `${axis} ${x}`)]) };
      });
    }),
  );
}

/** Named by where it lies, so that a map always gets the same suggestions. */
const hintBrush = (box: Box, place: string): Brush =>
  dressSolid(boxSolid(box), `hint tried at ${place}`, 'clear', { role: 'hint' });
