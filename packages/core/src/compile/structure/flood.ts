import TinyQueue from 'tinyqueue';
import { brushBounds, type Brush } from '../../brush/index.ts';
import {
  addScaled,
  boxesOverlap,
  boxOf,
  cosSinOf,
  cross,
  distance,
  dot,
  edgePlane,
  growBox,
  lerp,
  negate,
  normalize,
  ON_PLANE,
  scale,
  sub,
  type Vec3,
  type Winding,
  windingArea,
  windingCentroid,
} from '../../math/index.ts';
import { firstHit, makeTracer, type Tracer } from '../tracing/index.ts';
import { MIN_PORTAL } from './cells.ts';
import { locate, unmergedGrid } from './grid.ts';
import { linkBlocks } from './links.ts';
import { flatHull } from './polyhedron.ts';
import type { Leak } from '../../checks/index.ts';
import type { BlockGrid, Portal, Seed } from './types.ts';

/** Directions in which a seed that touches a surface is nudged to find open space, cm. Up first: most things stand on floors. */
const NUDGES: readonly Vec3[] = [[0, 0, 0.5], [0, 0, 0], [0, 0, -0.5], [0.5, 0, 0], [-0.5, 0, 0], [0, 0.5, 0], [0, -0.5, 0]]; // prettier-ignore

/** The cell a seed stands in, or why it stands in none. */
export function seedCell(grid: BlockGrid, at: Vec3): number | 'solid' | 'beyond' {
  let answer: number | 'solid' | 'beyond' = 'solid';
  for (const [x, y, z] of NUDGES) {
    answer = locate(grid, [at[0] + x, at[1] + y, at[2] + z]);
    if (typeof answer === 'number') return answer;
  }
  return answer;
}

/** For each cell, its portals; of those that are `passable` alone, the ones through which anything gets out. */
export function portalsOfCells(count: number, portals: readonly Portal[], passable = false): number[][] {
  const out: number[][] = Array.from({ length: count }, () => []);
  portals.forEach((p, i) => {
    if (passable && windingArea(p.winding) <= MIN_PORTAL) return;
    out[p.a]!.push(i);
    out[p.b]!.push(i);
  });
  return out;
}

/** All cells that can be reached from some through portals. */
export function flood(
  start: Iterable<number>,
  portals: readonly Portal[],
  ofCell: readonly (readonly number[])[],
): Set<number> {
  const reached = new Set(start);
  const stack = [...reached];
  while (stack.length) {
    const cell = stack.pop()!;
    for (const p of ofCell[cell]!) {
      const { a, b } = portals[p]!;
      const next = a === cell ? b : a;
      if (!reached.has(next)) {
        reached.add(next);
        stack.push(next);
      }
    }
  }
  return reached;
}

/** So many holes are told of at once, and looked for so often. */
const MOST_HOLES = 6;
const SEARCHES = 10;

/**
 * The holes of a map, the one with the shortest trail first; none when it is sealed. Each is closed in thought before the next is
 * looked for; one that is met again beside a known one is passed over.
 */
export function findLeaks(merged: BlockGrid, seeds: readonly Seed[], brushes: readonly Brush[]): Leak[] {
  const grid = unmergedGrid(merged);
  const { portals, outer } = linkBlocks(grid);
  const ofCell = portalsOfCells(
    grid.blocks.reduce((n, b) => n + b.cells.length, 0),
    portals,
    true,
  );
  const middles = portals.map((p) => windingCentroid(p.winding));
  const leaks: Leak[] = [];
  const closed = new Set<number>();
  for (let k = 0; k < SEARCHES && leaks.length < MOST_HOLES; k++) {
    const found = findLeak({ grid, portals, middles, outer, ofCell, closed }, seeds, brushes);
    if (!found) break;
    const { leak, portal } = found;
    const again = leaks.some((known) => boxesOverlap(growBox(boxOf(known.hole), THICKEST), boxOf(leak.hole)));
    if (leaks.length === 0 || !again) leaks.push(leak);
    if (leak.hole.length === 0) break;
    const shut = portal >= 0 ? besideInPlane(portals, portal) : across(portals, leak.hole);
    const before = closed.size;
    for (const p of shut) closed.add(p);
    if (closed.size === before) break;
  }
  return leaks;
}

/** The portals of one opening: those in the plane of one that touch it, and those that touch these. */
function besideInPlane(portals: readonly Portal[], portal: number): Set<number> {
  const { plane } = portals[portal]!;
  const flat = portals.flatMap(({ winding }, p) =>
    winding.every((q) => Math.abs(dot(plane.normal, q) - plane.distance) <= ON_PLANE * 2)
      ? [{ p, box: growBox(boxOf(winding), ON_PLANE * 2) }]
      : [],
  );
  const met = new Set([portal]);
  const open = flat.filter(({ p }) => p === portal);
  for (let next = open.pop(); next; next = open.pop())
    for (const other of flat)
      if (!met.has(other.p) && boxesOverlap(next.box, other.box)) {
        met.add(other.p);
        open.push(other);
      }
  return met;
}

/** The portals that lie across an outline no portal marks. */
function across(portals: readonly Portal[], hole: Winding): number[] {
  const near = growBox(boxOf(hole), STEP * 3);
  return portals.flatMap(({ winding }, p) => (boxesOverlap(boxOf(winding), near) ? [p] : []));
}

interface Leaves {
  readonly grid: BlockGrid;
  readonly portals: readonly Portal[];
  readonly middles: readonly Vec3[];
  readonly outer: ReadonlySet<number>;
  readonly ofCell: readonly (readonly number[])[];
  /** Portals through which nothing gets any more. */
  readonly closed: ReadonlySet<number>;
}

/**
 * The shortest way through portal middles from any seed to a cell at the world's border (Dijkstra, A Note on Two Problems
 * in Connexion with Graphs, 1959). Null when there is none. The trail ends one step beyond the hole: the last opening
 * on the way that is rimmed by solids all round, or else the narrowest. Looked for among the leaves, which keep a portal in
 * more planes of brushes than the cells do.
 */
function findLeak(
  { grid, portals, middles, outer, ofCell, closed }: Leaves,
  seeds: readonly Seed[],
  brushes: readonly Brush[],
): { leak: Leak; portal: number } | null {
  const best = new Map<number, { cost: number; at: Vec3; via: number; from: number; seed: Seed }>();
  const queue = new TinyQueue<{ cost: number; cell: number }>([], (a, b) => a.cost - b.cost || a.cell - b.cell);
  for (const seed of seeds) {
    const cell = seedCell(grid, seed.at);
    if (typeof cell !== 'number' || best.has(cell)) continue;
    best.set(cell, { cost: 0, at: seed.at, via: -1, from: -1, seed });
    queue.push({ cost: 0, cell });
  }
  const done = new Set<number>();
  for (let entry = queue.pop(); entry; entry = queue.pop()) {
    const { cell } = entry;
    if (done.has(cell)) continue;
    done.add(cell);
    const here = best.get(cell)!;
    if (outer.has(cell)) return trailTo(cell, best, portals, middles, brushes, grid);
    for (const p of ofCell[cell]!) {
      if (closed.has(p)) continue;
      const next = portals[p]!.a === cell ? portals[p]!.b : portals[p]!.a;
      const cost = here.cost + distance(here.at, middles[p]!);
      const known = best.get(next);
      if (done.has(next) || (known && known.cost <= cost)) continue;
      best.set(next, { cost, at: middles[p]!, via: p, from: cell, seed: here.seed });
      queue.push({ cost, cell: next });
    }
  }
  return null;
}

/** The trail to a cell at the border, and the portal that is its hole; −1 where no portal marks it. */
function trailTo(
  end: number,
  best: ReadonlyMap<number, { at: Vec3; via: number; from: number; seed: Seed }>,
  portals: readonly Portal[],
  middles: readonly Vec3[],
  brushes: readonly Brush[],
  grid: BlockGrid,
): { leak: Leak; portal: number } {
  const steps: { portal: number; from: number }[] = [];
  let at = best.get(end)!;
  const { seed } = at;
  for (; at.via >= 0; at = best.get(at.from)!) steps.unshift({ portal: at.via, from: at.from });
  const way = steps.map((s) => middles[s.portal]!);
  const outlines = steps.map(({ portal, from }): Outline => {
    const { plane, winding, a } = portals[portal]!;
    return { winding, out: a === from ? plane.normal : negate(plane.normal) };
  });
  const rimmed = outlines.findLastIndex((o) => solidRim(grid, o) > RIMMED);
  // From half a step up: rays along the floor a thing stands on meet nothing.
  const mouth = findMouth(
    [addScaled(seed.at, [0, 0, 1], STEP / 2), ...way, ...exitOf(grid, end, way.at(-1) ?? seed.at)],
    brushes,
  );
  if (mouth && (rimmed < 0 || (mouth.leg > rimmed && distance(mouth.at, way[rimmed]!) > THICKEST)))
    return { leak: describe(seed, [...way.slice(0, mouth.leg), mouth.at], mouth, brushes), portal: -1 };
  if (steps.length === 0) return { leak: { entity: seed.id, trail: [seed.at], hole: [], beside: [] }, portal: -1 };
  const areas = outlines.map((o) => windingArea(o.winding));
  const narrowest = areas.reduce((m, a, k) => (a < areas[m]! - 1e-6 ? k : m), 0);
  const hole = rimmed >= 0 ? rimmed : narrowest;
  return {
    leak: describe(seed, way.slice(0, hole + 1), outlines[hole]!, brushes),
    // An opening without a rim is only the likeliest place: to close it would hide where the hole is.
    portal: rimmed >= 0 ? steps[hole]!.portal : -1,
  };
}

/** An opening and the way out through it. */
interface Outline {
  readonly winding: Winding;
  readonly out: Vec3;
}

/** Part of a rim that must be solid for an opening to count as a hole in something. */
const RIMMED = 0.98;

function describe(seed: Seed, way: readonly Vec3[], { winding, out }: Outline, brushes: readonly Brush[]): Leak {
  const rim = growBox(boxOf(winding), 0.5);
  return {
    entity: seed.id,
    trail: [seed.at, ...way, addScaled(way.at(-1)!, out, 64)],
    hole: winding,
    beside: brushes.filter((b) => b.role === 'structure' && boxesOverlap(rim, brushBounds(b))).map((b) => b.id),
  };
}

/** Distance (cm) between the points at which the way out is tested for walls all round. */
const STEP = 8;
const AXES: readonly Vec3[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];
/** Directions in which walls are looked for, round an axis. */
const ROUND = 32;

/** A mouth this near (cm) behind a rimmed opening is the other side of the same wall. */
const THICKEST = 64;

/** Where a cell at the world's border leaves it: straight on from a point, the nearest way. */
function exitOf(grid: BlockGrid, cell: number, from: Vec3): Vec3[] {
  const b = grid.firstCell.findLastIndex((first) => first <= cell);
  const { bounds } = grid.blocks[b]!.cells[cell - grid.firstCell[b]!]!;
  let best: Vec3[] = [];
  for (let axis = 0; axis < 3; axis++)
    for (const end of ['min', 'max'] as const) {
      const at = bounds[end][axis]!;
      const edge = grid.edges[axis]!.at(end === 'max' ? -1 : 0)!;
      const exit = from.map((c, i) => (i === axis ? at : c)) as unknown as Vec3;
      if (Math.abs(at - edge) < 1 && (best.length === 0 || distance(from, exit) < distance(from, best[0]!)))
        best = [exit];
    }
  return best;
}

/**
 * Where a way out stops being enclosed: a room without its wall runs on into the void as one convex piece, with no portal
 * where the wall is missing. The last point with walls all round it, square to one of the axes, is the mouth; its outline is
 * what the rays round it meet. `leg` counts the points of the way before the mouth, the start left out.
 */
function findMouth(
  points: readonly Vec3[],
  brushes: readonly Brush[],
): (Outline & { readonly at: Vec3; readonly leg: number }) | null {
  const tracer = makeTracer(brushes.filter((brush) => brush.role === 'structure'));
  for (let leg = points.length - 2; leg >= 0; leg--) {
    const [a, b] = [points[leg]!, points[leg + 1]!];
    const length = distance(a, b);
    if (length < 1e-6) continue;
    const way = normalize(sub(b, a));
    const ring = (d: number): Vec3 | null =>
      AXES.find((axis) => wallsRound(tracer, addScaled(a, way, d), axis).every((p) => p !== null)) ?? null;
    const enclosed = (d: number): boolean => ring(d) !== null;
    let inner = -1;
    for (let d = 0; d < length; d += STEP) if (enclosed(d)) inner = d;
    if (inner < 0) continue;
    let outer = Math.min(length, inner + STEP);
    while (outer - inner > 0.05) {
      const middle = (inner + outer) / 2;
      if (enclosed(middle)) inner = middle;
      else outer = middle;
    }
    const at = addScaled(a, way, inner);
    const axis = ring(inner)!;
    const out = dot(axis, way) < 0 ? negate(axis) : axis;
    return {
      at,
      out,
      leg,
      winding: flatHull(
        wallsRound(tracer, at, out).filter((p) => p !== null),
        out,
      ),
    };
  }
  return null;
}

/** What rays square to a direction meet, all round a point. */
function wallsRound(tracer: Tracer, p: Vec3, out: Vec3): (Vec3 | null)[] {
  const side = normalize(cross(out, Math.abs(out[2]) > 0.7 ? [1, 0, 0] : [0, 0, 1]));
  const up = cross(side, out);
  return Array.from({ length: ROUND }, (_, k) => {
    // Off the axes, so that no ray runs in a face or meets an edge.
    const angle = ((k + 0.37) * 2 * Math.PI) / ROUND;
    const [c, s] = cosSinOf(angle);
    const d = addScaled(scale(up, c), side, s);
    const hit = firstHit(tracer, p, d, WALL_REACH);
    return hit && hit.face >= 0 ? addScaled(p, d, hit.at) : null;
  });
}

/** Walls farther than this (cm) from the way out do not enclose it. */
const WALL_REACH = 4096;

/** The part of a portal's rim, by length, beyond which there is solid. */
function solidRim(grid: BlockGrid, { winding, out: normal }: Outline): number {
  let solid = 0;
  let whole = 0;
  winding.forEach((a, i) => {
    const b = winding[(i + 1) % winding.length]!;
    const length = distance(a, b);
    const out = edgePlane(winding, normal, i).normal;
    for (let k = 0.5; k < 8; k++)
      if (locate(grid, addScaled(lerp(a, b, k / 8), out, 0.5)) === 'solid') solid += length / 8;
    whole += length;
  });
  return solid / whole;
}
