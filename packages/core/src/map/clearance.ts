import { brushBounds, brushPlanes, clipToPlanes, stopsPlayers, sweptContact, type Brush } from '../brush/index.ts';
import { movedBox, type Carried } from '../entity/index.ts';
import { boxesOverlap, uniteBoxes, type Box, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, transformBrush } from '../surface/index.ts';
import { isMoving, partsOf } from './around.ts';
import type { MapDocument } from './types.ts';

/** Meeting by less than this (cm) is touching. */
export const TOUCHING = 1;

/** Whether two brushes share more than a touch. */
export function meet(a: Brush, b: Brush): boolean {
  if (!boxesOverlap(brushBounds(a), brushBounds(b), TOUCHING)) return false;
  const planes = brushPlanes(b).map(({ normal, distance }) => ({ normal, distance: distance - TOUCHING }));
  return clipToPlanes(a, planes, DRESS_CARRIED.cap).inside !== null;
}

/** What a moving part meets first. */
export interface Clearance {
  /** How much of its way is free: cm, or degrees of what turns (as large as they are, whichever way round). */
  readonly free: number;
  readonly meets: Brush;
  /** It slides into a wall, which hides it: that is no mistake. */
  readonly hidden?: true;
}

/** Degrees that a turning part is tried by; what it meets is then looked for between two of them. */
const TURN_STEP = 1;
const HALVINGS = 7;

/**
 * What a part of a thing meets first on its way, walls that it slides into only where there is nothing else, and on from there, up to a
 * `limit` (cm, or degrees: negative ones turn the other way). What it is in where it was drawn does not count. Null: nothing in it.
 */
export function clearance(doc: MapDocument, thing: string, carried: Carried, limit: number): Clearance | null {
  const own = partsOf(doc, thing)[carried.part] ?? [];
  if (own.length === 0) return null;
  const bounds = uniteBoxes(own.map(brushBounds));
  const steps = carried.along ? 1 : Math.max(1, Math.ceil(Math.abs(limit) / TURN_STEP));
  const amounts = Array.from({ length: steps + 1 }, (_, i) => (limit * i) / steps);
  const reach = uniteBoxes(amounts.map((a) => movedBox(carried.pose(a), bounds)));
  const still = within(doc.brushes, reach).filter((b) => stopsPlayers(b) && !isMoving(doc, b));
  const inWay = still.filter((b) => !own.some((o) => meet(o, b)));
  if (!carried.along) return turned(own, carried, inWay, amounts);
  // Walls hide what slides into them; what stands before or behind them is in its way.
  const [walls, others] = [true, false].map((are) =>
    inWay.filter((b) => (carried.hides === true && b.role === 'structure') === are),
  );
  const met = slid(own, carried, others!, limit);
  if (met) return met;
  const wall = slid(own, carried, walls!, limit);
  return wall && { ...wall, hidden: true };
}

/** The bounds of a map's brushes as numbers in a row: asked for in every frame of a drag, in which no brush changes. */
function tableOf(brushes: MapDocument['brushes']): { list: readonly Brush[]; bounds: Float64Array } {
  const known = tables.get(brushes);
  if (known) return known;
  const list = [...brushes.values()];
  const bounds = Float64Array.from(
    list.flatMap((b) => {
      const { min, max } = brushBounds(b);
      return [...min, ...max];
    }),
  );
  const table = { list, bounds };
  tables.set(brushes, table);
  return table;
}

const tables = new WeakMap<MapDocument['brushes'], { list: readonly Brush[]; bounds: Float64Array }>();

/** The brushes that share more than a touch with a box, by their bounds. */
function within(brushes: MapDocument['brushes'], { min, max }: Box): Brush[] {
  const { list, bounds: b } = tableOf(brushes);
  const [x0, y0, z0] = min.map((c) => c + TOUCHING) as [number, number, number];
  const [x1, y1, z1] = max.map((c) => c - TOUCHING) as [number, number, number];
  const out: Brush[] = [];
  for (let i = 0, k = 0; i < list.length; i++, k += 6)
    if (b[k]! < x1 && b[k + 3]! > x0 && b[k + 1]! < y1 && b[k + 4]! > y0 && b[k + 2]! < z1 && b[k + 5]! > z0)
      out.push(list[i]!);
  return out;
}

function slid(
  own: readonly Brush[],
  { along, pose }: Carried,
  inWay: readonly Brush[],
  limit: number,
): Clearance | null {
  const begins = pose(0);
  const placed = own.map((o) => transformBrush(o, begins, true));
  // By their boxes first, the nearest before others: what comes later than what was met need not be looked at.
  const near = inWay
    .flatMap((b) => {
      const soonest = Math.min(...placed.map((p) => boxContact(brushBounds(p), brushBounds(b), along!)));
      return soonest < limit ? [{ b, soonest }] : [];
    })
    .sort((x, y) => x.soonest - y.soonest);
  let first: Clearance | null = null;
  for (const { b, soonest } of near) {
    if (soonest >= (first?.free ?? limit)) break;
    for (const p of placed) {
      const free = sweptContact(p, b, along!, TOUCHING);
      // It is let in by a touch: what it then comes up to is that much nearer.
      if (free !== null && free - TOUCHING < (first?.free ?? limit))
        first = { free: Math.max(0, free - TOUCHING), meets: b };
    }
  }
  return first;
}

/** How far a box goes along a unit vector before it may be in another one; infinite when it never is. */
function boxContact(moving: Box, still: Box, along: Vec3): number {
  let [enters, leaves] = [0, Infinity];
  for (let i = 0; i < 3; i++) {
    const [low, high] = [still.min[i]! - moving.max[i]!, still.max[i]! - moving.min[i]!];
    const speed = along[i]!;
    if (Math.abs(speed) < 1e-12) {
      if (low >= 0 || high <= 0) return Infinity;
      continue;
    }
    enters = Math.max(enters, speed > 0 ? low / speed : high / speed);
    leaves = Math.min(leaves, speed > 0 ? high / speed : low / speed);
    if (enters >= leaves) return Infinity;
  }
  return enters;
}

function turned(
  own: readonly Brush[],
  { pose }: Carried,
  inWay: readonly Brush[],
  amounts: readonly number[],
): Clearance | null {
  const bounds = uniteBoxes(own.map(brushBounds));
  const metAt = (amount: number): Brush | undefined => {
    const here = movedBox(pose(amount), bounds);
    const near = inWay.filter((b) => boxesOverlap(here, brushBounds(b), TOUCHING));
    if (near.length === 0) return undefined;
    const placed = own.map((o) => transformBrush(o, pose(amount), true));
    return near.find((b) => placed.some((p) => meet(p, b)));
  };
  for (let i = 1; i < amounts.length; i++) {
    let meets = metAt(amounts[i]!);
    if (!meets) continue;
    let [low, high] = [amounts[i - 1]!, amounts[i]!];
    for (let k = 0; k < HALVINGS; k++) {
      const middle = (low + high) / 2;
      const there = metAt(middle);
      if (there) [high, meets] = [middle, there];
      else low = middle;
    }
    return { free: Math.abs(low), meets };
  }
  return null;
}
