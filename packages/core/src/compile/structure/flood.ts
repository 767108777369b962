import { brushBounds, type Brush } from '../../brush/index.ts';
import { addScaled, boxesOverlap, boxOf, distance, growBox, windingArea, windingCentroid, type Vec3 } from '../../math/index.ts';
import { locate } from './grid.ts';
import type { BlockGrid, Leak, Portal, Seed } from './types.ts';

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

/** For each cell, its portals. */
export function portalsOfCells(count: number, portals: readonly Portal[]): number[][] {
  const out: number[][] = Array.from({ length: count }, () => []);
  portals.forEach((p, i) => {
    out[p.a]!.push(i);
    out[p.b]!.push(i);
  });
  return out;
}

/** All cells that can be reached from some through portals. */
export function flood(start: Iterable<number>, portals: readonly Portal[], ofCell: readonly (readonly number[])[]): Set<number> {
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

/**
 * The shortest way through portal middles from any seed to a cell at the world's border (Dijkstra, A Note on Two Problems
 * in Connexion with Graphs, 1959). Null when the map is sealed. The trail ends one step beyond the hole: the narrowest
 * portal on the way.
 */
export function findLeak(
  seeds: readonly { readonly seed: Seed; readonly cell: number }[],
  portals: readonly Portal[],
  ofCell: readonly (readonly number[])[],
  outer: ReadonlySet<number>,
  brushes: readonly Brush[],
): Leak | null {
  const middles = portals.map((p) => windingCentroid(p.winding));
  const best = new Map<number, { cost: number; at: Vec3; via: number; from: number; seed: Seed }>();
  const queue = new MinQueue();
  for (const { seed, cell } of seeds) {
    if (best.has(cell)) continue;
    best.set(cell, { cost: 0, at: seed.at, via: -1, from: -1, seed });
    queue.push(0, cell);
  }
  const done = new Set<number>();
  for (let cell = queue.pop(); cell !== undefined; cell = queue.pop()) {
    if (done.has(cell)) continue;
    done.add(cell);
    const here = best.get(cell)!;
    if (outer.has(cell)) return trailTo(cell, best, portals, middles, brushes);
    for (const p of ofCell[cell]!) {
      const next = portals[p]!.a === cell ? portals[p]!.b : portals[p]!.a;
      const cost = here.cost + distance(here.at, middles[p]!);
      const known = best.get(next);
      if (done.has(next) || (known && known.cost <= cost)) continue;
      best.set(next, { cost, at: middles[p]!, via: p, from: cell, seed: here.seed });
      queue.push(cost, next);
    }
  }
  return null;
}

function trailTo(
  end: number,
  best: ReadonlyMap<number, { at: Vec3; via: number; from: number; seed: Seed }>,
  portals: readonly Portal[],
  middles: readonly Vec3[],
  brushes: readonly Brush[],
): Leak {
  const steps: { portal: number; from: number }[] = [];
  let at = best.get(end)!;
  const { seed } = at;
  for (; at.via >= 0; at = best.get(at.from)!) steps.unshift({ portal: at.via, from: at.from });
  if (steps.length === 0) return { entity: seed.id, trail: [seed.at], hole: [], beside: [] };
  // Of equally narrow portals the first is the hole's inner rim.
  const areas = steps.map((s) => windingArea(portals[s.portal]!.winding));
  const narrowest = areas.reduce((m, a, i) => (a < areas[m]! - 1e-6 ? i : m), 0);
  const { portal, from } = steps[narrowest]!;
  const { plane, winding, a } = portals[portal]!;
  const outward = a === from ? 1 : -1;
  const beyond = addScaled(middles[portal]!, plane.normal, outward * 64);
  const rim = growBox(boxOf(winding), 0.5);
  return {
    entity: seed.id,
    trail: [seed.at, ...steps.slice(0, narrowest + 1).map((s) => middles[s.portal]!), beyond],
    hole: winding,
    beside: brushes.filter((b) => b.role === 'structure' && boxesOverlap(rim, brushBounds(b))).map((b) => b.id),
  };
}

/** A binary heap of cells by cost. */
class MinQueue {
  private readonly items: { cost: number; cell: number }[] = [];

  push(cost: number, cell: number): void {
    const items = this.items;
    let i = items.push({ cost, cell }) - 1;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (items[up]!.cost <= items[i]!.cost) break;
      [items[up], items[i]] = [items[i]!, items[up]!];
      i = up;
    }
  }

  pop(): number | undefined {
    const items = this.items;
    const top = items[0];
    const last = items.pop();
    if (!top || !last) return undefined;
    if (items.length) {
      items[0] = last;
      for (let i = 0; ; ) {
        let small = i;
        for (const c of [2 * i + 1, 2 * i + 2]) if (c < items.length && items[c]!.cost < items[small]!.cost) small = c;
        if (small === i) break;
        [items[small], items[i]] = [items[i]!, items[small]!];
        i = small;
      }
    }
    return top.cell;
  }
}
