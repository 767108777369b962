import { clipBehind, flipPlane, ON_PLANE, signedDistance, type Plane, type Winding } from '../../math/index.ts';
import { Cancelled, type StageControl } from '../../jobs/index.ts';
import type { Structure } from '../structure/index.ts';
import { countBits, hasBit, makeBits, setBit, type Bits } from './bits.ts';
import { clipToBeam } from './separators.ts';

export interface VisibilityOptions {
  /** Stop at the cheap bound: what lies in front of and behind whom, without clipping beams. */
  readonly cheap: boolean;
  /** Beam clips a portal may cost before it falls back to the cheap bound. */
  readonly budget?: number;
}

/** For each inside cell the cells that may be seen from any point of it. */
export interface Visibility {
  /** Number of rows and columns: the inside cells of the structure, in its order. The void sees nothing and has no row. */
  readonly count: number;
  /** The row of each of the structure's cells, −1 for the void. */
  readonly rowOf: Int32Array;
  /** Row per cell, `words` words each: bit `b` of row `a` is set when `b` may be seen from `a`. Symmetric. */
  readonly rows: Uint32Array;
  readonly words: number;
  /** Portals that ran over their budget and kept the cheap bound. */
  readonly fellBack: number;
}

/** Whether one of the structure's cells may be seen from another. */
export function canSee(v: Visibility, from: number, to: number): boolean {
  const [a, b] = [v.rowOf[from]!, v.rowOf[to]!];
  return a >= 0 && b >= 0 && (v.rows[a * v.words + (b >> 5)]! & (1 << (b & 31))) !== 0;
}

/** A portal seen in one direction: the plane's normal points into the cell it leads to. */
interface Gate {
  readonly from: number;
  readonly to: number;
  readonly winding: Winding;
  readonly plane: Plane;
}

/**
 * The visibility stage: which cells can be seen from which, never too few. `sketch` uses the cheap bound; otherwise each
 * portal's beam is followed through every chain of portals and clipped at each one.
 */
export function buildVisibility(
  structure: Structure,
  options: VisibilityOptions,
  control: StageControl = {},
): Visibility {
  const { cells, portals } = structure;
  const gates: Gate[] = [];
  const out: number[][] = cells.map(() => []);
  for (const { a, b, winding, plane } of portals) {
    if (!cells[a]!.inside || !cells[b]!.inside) continue;
    out[a]!.push(gates.push({ from: a, to: b, winding, plane }) - 1);
    out[b]!.push(gates.push({ from: b, to: a, winding: winding.toReversed(), plane: flipPlane(plane) }) - 1);
  }
  const might = gates.map((g) => cheapBound(g, gates, out));
  let fellBack = 0;
  let seen = might;
  if (!options.cheap) {
    const order = gates.map((_, i) => i).sort((a, b) => countBits(might[a]!) - countBits(might[b]!) || a - b);
    const done: (Bits | null)[] = gates.map(() => null);
    order.forEach((g, i) => {
      if (control.signal?.aborted) throw new Cancelled();
      const flow = followBeam(g, gates, out, might, done, options.budget ?? 200_000);
      if (!flow) fellBack++;
      done[g] = flow ?? might[g]!;
      control.progress?.((i + 1) / order.length);
    });
    seen = done as Bits[];
  }
  const rowOf = new Int32Array(cells.length).fill(-1);
  let count = 0;
  cells.forEach((cell, c) => {
    if (cell.inside) rowOf[c] = count++;
  });
  const words = (count + 31) >> 5;
  const rows = new Uint32Array(words * count);
  const mark = (from: number, to: number) => {
    const [a, b] = [rowOf[from]!, rowOf[to]!];
    rows[a * words + (b >> 5)]! |= 1 << (b & 31);
  };
  cells.forEach((cell, c) => {
    if (!cell.inside) return;
    mark(c, c);
    for (const g of out[c]!) {
      const to = gates[g]!.to;
      mark(c, to);
      mark(to, c);
      gates.forEach((q, i) => {
        if (!hasBit(seen[g]!, i)) return;
        mark(c, q.to);
        mark(q.to, c);
      });
    }
  });
  return { count, rowOf, rows, words, fellBack };
}

/** Gates that lie at least partly in front of a gate, face away from it, and are connected to it through such gates. */
function cheapBound(g: Gate, gates: readonly Gate[], out: readonly (readonly number[])[]): Bits {
  const bits = makeBits(gates.length);
  const stack = [g.to];
  while (stack.length) {
    for (const i of out[stack.pop()!]!) {
      const q = gates[i]!;
      if (
        hasBit(bits, i) ||
        q.winding.every((p) => signedDistance(g.plane, p) <= ON_PLANE) ||
        g.winding.every((p) => signedDistance(q.plane, p) >= -ON_PLANE)
      )
        continue;
      setBit(bits, i);
      stack.push(q.to);
    }
  }
  return bits;
}

/** All gates the beam that enters through one can leave through; null when that costs more than the budget. */
function followBeam(
  start: number,
  gates: readonly Gate[],
  out: readonly (readonly number[])[],
  might: readonly Bits[],
  done: readonly (Bits | null)[],
  budget: number,
): Bits | null {
  const first = gates[start]!;
  const seen = makeBits(gates.length);
  const onPath = new Set<number>();
  let spent = 0;
  const follow = (cell: number, source: Winding, pass: Winding | null, allowed: Bits): boolean => {
    for (const i of out[cell]!) {
      if (!hasBit(allowed, i) || onPath.has(i)) continue;
      const q = gates[i]!;
      const beyond = done[i] ?? might[i]!;
      const next = makeBits(gates.length);
      let news = !hasBit(seen, i);
      for (let w = 0; w < next.length; w++) {
        next[w] = allowed[w]! & beyond[w]!;
        if (next[w]! & ~seen[w]!) news = true;
      }
      if (!news) continue;
      if (++spent > budget) return false;
      let target = clipBehind(q.winding, flipPlane(first.plane));
      let from: Winding | null = target && clipBehind(source, q.plane);
      if (!target || !from) continue;
      if (pass) {
        target = clipToBeam(from, pass, target);
        if (!target) continue;
        // And what of the source is still seen back through the pass.
        from = clipToBeam(target, pass, from);
        if (!from) continue;
      }
      setBit(seen, i);
      onPath.add(i);
      const finished = follow(q.to, from, target, next);
      onPath.delete(i);
      if (!finished) return false;
    }
    return true;
  };
  return follow(first.to, first.winding, null, might[start]!) ? seen : null;
}
