import { boxSolid, brushBounds, type Brush } from '../brush/index.ts';
import {
  areasOf,
  buildStructure,
  buildVisibility,
  canSee,
  closing,
  gatesOf,
  isSealed,
  seedsOf,
  trianglesOf,
  type BlockCache,
  type Cell,
  type Structure,
  type Visibility,
} from '../compile/index.ts';
import { addBrushes, EditError, gateInOpening } from '../edit/index.ts';
import { Cancelled, type StageControl } from '../jobs/index.ts';
import { bodiesOf, stillBrushes, withoutScenery, type MapDocument } from '../map/index.ts';
import { boxCenter, cross, dot, sub, type Box, type Vec3 } from '../math/index.ts';
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
export function suggestSight(
  doc: MapDocument,
  materials: MaterialLookup,
  control: StageControl = {},
): Suggestion[] | null {
  const cache: BlockCache = new Map();
  const now = costOf(doc, materials, cache, control);
  if (!now) return null;
  const tries = [...gatesToTry(doc, materials), ...hintsToTry(doc, now)];
  const found: Suggestion[] = [];
  tries.forEach(({ what, at, make }, i) => {
    if (control.signal?.aborted) throw new Cancelled();
    control.progress?.(i / tries.length);
    const after = costOf(make(), materials, cache, { signal: control.signal });
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
  materials: MaterialLookup,
  cache: BlockCache = new Map(),
  control: StageControl = {},
): number | null => costOf(doc, materials, cache, control)?.mean ?? null;

interface Cost {
  readonly mean: number;
  readonly cells: readonly (Cell & { readonly weight: number; readonly triangles: number })[];
  readonly structure: Structure;
}

/** What is drawn on average over the inside, with gates closed. */
function costOf(whole: MapDocument, materials: MaterialLookup, cache: BlockCache, control: StageControl): Cost | null {
  const doc = withoutScenery(whole);
  const still = stillBrushes(doc);
  const structure = buildStructure(still, seedsOf(doc), control, cache);
  if (!isSealed(structure)) return null;
  const visibility = buildVisibility(structure, { cheap: false, solids: still }, control);
  const seen = drawnFrom(doc, structure, visibility, materials);
  const cells = structure.cells.flatMap((cell, c) =>
    cell.inside ? [{ ...cell, weight: volumeOf(cell), triangles: seen[c]! }] : [],
  );
  const all = cells.reduce((n, c) => n + c.weight, 0);
  return { mean: cells.reduce((n, c) => n + c.triangles * c.weight, 0) / Math.max(1e-9, all), cells, structure };
}

/** Triangles drawn from each cell: what is visible and lies in its area, or beyond gates that no door closes. */
function drawnFrom(doc: MapDocument, structure: Structure, v: Visibility, materials: MaterialLookup): Float64Array {
  const areas = areasOf(structure, doc.brushes.values());
  const { areaOf, count } = areas;
  // Areas joined by gates that stay open are one.
  const joined = Array.from({ length: count }, (_, i) => i);
  const root = (a: number): number => (joined[a] === a ? a : root(joined[a]!));
  for (const { areas: parted, closes } of gatesOf(doc, areas, materials))
    if (!closes) for (const a of parted) joined[root(a)] = root(parted[0]!);
  const out = new Float64Array(structure.cells.length);
  const inside = structure.cells.flatMap((c, i) => (c.inside ? [i] : []));
  for (const { winding, cells } of structure.surfaces) {
    const triangles = trianglesOf(winding.length);
    for (const c of inside)
      if (
        cells.some((s) => {
          const [here, there] = [areaOf[c]!, areaOf[s]!];
          return canSee(v, c, s) && (here < 0 || there < 0 || root(here) === root(there));
        })
      )
        out[c]! += triangles;
  }
  return out;
}

/** Volume of a cell, cm³, by the divergence theorem. */
function volumeOf({ sides }: Cell): number {
  let v = 0;
  for (const w of sides)
    for (let i = 2; i < w.length; i++) v += dot(w[0]!, cross(sub(w[i - 1]!, w[0]!), sub(w[i]!, w[0]!))) / 6;
  return Math.abs(v);
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
