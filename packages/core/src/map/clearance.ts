import { brushBounds, brushPlanes, clipToPlanes, stopsPlayers, sweptContact, type Brush } from '../brush/index.ts';
import { movedBox, type Carried } from '../entity/index.ts';
import { boxesOverlap, uniteBoxes } from '../math/index.ts';
import { DRESS_CARRIED, transformBrush } from '../surface/index.ts';
import { partsOf, stillBrushes } from './around.ts';
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
}

/** Degrees that a turning part is tried by; what it meets is then looked for between two of them. */
const TURN_STEP = 1;
const HALVINGS = 7;

/**
 * What a part of a thing meets first on its way, and on from there, up to a `limit` (cm, or degrees: negative ones turn the other
 * way). What it is in where it was drawn does not count. Null: nothing in it.
 */
export function clearance(doc: MapDocument, thing: string, carried: Carried, limit: number): Clearance | null {
  const own = partsOf(doc, thing)[carried.part] ?? [];
  if (own.length === 0) return null;
  const bounds = uniteBoxes(own.map(brushBounds));
  const steps = carried.along ? 1 : Math.max(1, Math.ceil(Math.abs(limit) / TURN_STEP));
  const amounts = Array.from({ length: steps + 1 }, (_, i) => (limit * i) / steps);
  const reach = uniteBoxes(amounts.map((a) => movedBox(carried.pose(a), bounds)));
  const still = stillBrushes(doc).filter((b) => boxesOverlap(brushBounds(b), reach, TOUCHING) && stopsPlayers(b));
  const inWay = still.filter((b) => !own.some((o) => meet(o, b)));
  return carried.along ? slid(own, carried, inWay, limit) : turned(own, carried, inWay, amounts);
}

function slid(
  own: readonly Brush[],
  { along, pose }: Carried,
  inWay: readonly Brush[],
  limit: number,
): Clearance | null {
  const begins = pose(0);
  let first: Clearance | null = null;
  for (const o of own) {
    const placed = transformBrush(o, begins, true);
    for (const b of inWay) {
      const free = sweptContact(placed, b, along!, TOUCHING);
      // It is let in by a touch: what it then comes up to is that much nearer.
      if (free !== null && free - TOUCHING < (first?.free ?? limit))
        first = { free: Math.max(0, free - TOUCHING), meets: b };
    }
  }
  return first;
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
