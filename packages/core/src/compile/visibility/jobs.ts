import type { Brush } from '../../brush/index.ts';
import type { Job } from '../../jobs/index.ts';
import { Reach, portFlat } from './bound.ts';
import { emptyFlat, type Flat } from './beam.ts';
import { makeBits, onesOf, setBit } from './bits.ts';
import { Flow } from './flow.ts';
import type { Ports } from './ports.ts';
import { Ranges, type RangeData } from './ranges.ts';
import { pointIn, Witnesses } from './witness.ts';

/** Lines tried for each window of a cell that is not proven yet. */
const TRIES = 8;
/** A port over its budget gets so many times as much where less than this of the cells it might see is proven. */
const CLOSER = 10;
const LITTLE = 0.75;
/** Lines tried for each way a beam comes to a cell. */
const FLOW_TRIES = 4;

/** What is proven of a cell: cells it sees, and their lines, six numbers each. */
export interface Proof {
  readonly cells: Int32Array;
  readonly lines: Float64Array;
}

export interface BoundShared {
  readonly ports: Ports;
  /** What bars sight. Null: nothing is proven. */
  readonly solids: readonly Brush[] | null;
  /** Beams that may be cut for a port. */
  readonly budget: number;
}

/** What comes of a cell's ports, one after the other: `first[k] … first[k + 1]` in `reached` are the ports that its `k`th reaches. */
export interface Bound {
  readonly first: Int32Array;
  readonly reached: Int32Array;
  readonly proof: Proof;
  /** Ports that ran over their budget. */
  readonly over: number;
}

/** For each port the ports that may be seen through it. Items are cells. */
export const boundJob: Job<BoundShared, BoundShared, number, Bound, readonly Bound[]> = {
  name: 'sight bounds',
  cut: (shared) => ({ shared, items: Array.from({ length: shared.ports.cells }, (_, c) => c) }),
  shard: 16,
  prepare: ({ ports, solids, budget }) => {
    const reach = new Reach(ports);
    const witnesses = solids && new Witnesses(solids, ports.cells);
    const [source, window] = [emptyFlat(0), emptyFlat(0)];
    /** Tries lines from a port to the windows of what it reaches. */
    const prove = (cell: number, start: number): void => {
      if (!witnesses) return;
      portFlat(ports, start, source);
      const middle = pointIn(source, 0, start);
      const at = start * 4;
      const off = (by: number) => middle.map((c, i) => c + ports.plane[at + i]! * by);
      witnesses.prove(ports.to[start]!, off(-0.02), off(0.02));
      for (let n = 0; n < TRIES; n++) {
        const from = pointIn(source, n, start);
        for (const port of reach.reached) {
          const to = ports.to[port]!;
          if (to === cell || !witnesses.isOpen(to)) continue;
          reach.window(port, window);
          witnesses.try(to, from, pointIn(window, n, port));
        }
        if (witnesses.test() === 0) break;
      }
    };
    /** How much of what some ports lead to is proven. */
    const share = (cell: number, list: readonly number[]): number => {
      const cells = new Set(list.map((port) => ports.to[port]!));
      cells.delete(cell);
      let proven = 0;
      for (const c of cells) if (witnesses!.has(c)) proven++;
      return cells.size ? proven / cells.size : 1;
    };
    return (cell) => {
      witnesses?.reset();
      const starts = ports.out.subarray(ports.outFirst[cell], ports.outFirst[cell + 1]);
      const busy: boolean[] = [];
      const lists = Array.from(starts, (start, k) => {
        reach.start(start, budget);
        busy[k] = reach.spent > budget;
        prove(cell, start);
        return [...reach.reached];
      });
      // Where little of what they might see is proven, to look closer is worth the while.
      starts.forEach((start, k) => {
        if (!busy[k] || !witnesses || share(cell, lists[k]!) >= LITTLE) return;
        reach.start(start, budget * CLOSER);
        busy[k] = reach.spent > budget * CLOSER;
        prove(cell, start);
        lists[k] = [...reach.reached];
      });
      const first = [0];
      const reached: number[] = [];
      for (const list of lists) {
        for (const port of list.sort((x, y) => x - y)) reached.push(port);
        first.push(reached.length);
      }
      return {
        first: Int32Array.from(first),
        reached: Int32Array.from(reached),
        proof: proofOf(witnesses),
        over: busy.filter(Boolean).length,
      };
    };
  },
  merge: (_, bounds) => bounds,
};

export interface FlowShared extends BoundShared {
  /** For each port the cells that may be seen through it. */
  readonly might: RangeData;
  /** Beams that may be cut for a port when they are followed. */
  readonly flowBudget: number;
}

/** A cell and those of which it is not known whether it sees them. */
export interface Question {
  readonly cell: number;
  readonly asked: Int32Array;
}

export interface Answer {
  /** Those that may be seen, as far as beams tell. */
  readonly seen: Int32Array;
  readonly proof: Proof;
  readonly over: number;
}

/** Follows beams to the cells of which it is not known whether they are seen. */
export const flowJob: Job<
  { shared: FlowShared; questions: readonly Question[] },
  FlowShared,
  Question,
  Answer,
  readonly Answer[]
> = {
  name: 'sight beams',
  cut: ({ shared, questions }) => ({ shared, items: questions }),
  shard: 16,
  prepare: ({ ports, solids, budget, might, flowBudget }) => {
    const reach = new Reach(ports);
    const ranges = new Ranges(might);
    const flow = new Flow(ports, reach, ranges);
    const witnesses = solids && new Witnesses(solids, ports.cells);
    const words = (ports.cells + 31) >> 5;
    const asked = makeBits(ports.cells);
    const beyond = makeBits(ports.cells);
    return ({ cell, asked: list }) => {
      witnesses?.reset();
      asked.fill(0);
      for (const c of list) setBit(asked, c);
      const seen: number[] = [];
      let over = 0;
      const found = (c: number, source: Flat, lit: Flat) => {
        asked[c >> 5]! &= ~(1 << (c & 31));
        seen.push(c);
        if (!witnesses) return;
        for (let n = 0; n < FLOW_TRIES; n++) witnesses.try(c, pointIn(source, n, c), pointIn(lit, n, c + 1));
        witnesses.test();
      };
      for (let k = ports.outFirst[cell]!; k < ports.outFirst[cell + 1]!; k++) {
        const start = ports.out[k]!;
        ranges.copy(start, beyond);
        if (!beyond.some((w, i) => w & asked[i]!)) continue;
        reach.start(start, budget);
        if (flow.follow(start, flowBudget, asked, found)) continue;
        over++;
        // Too busy: what the bound allows counts as seen.
        for (const c of onesOf(beyond.map((w, i) => w & asked[i]!))) seen.push(c);
        for (let i = 0; i < words; i++) asked[i]! &= ~beyond[i]!;
      }
      return { seen: Int32Array.from(seen), proof: proofOf(witnesses), over };
    };
  },
  merge: (_, answers) => answers,
};

const proofOf = (w: Witnesses | null): Proof => ({
  cells: Int32Array.from(w?.cells ?? []),
  lines: Float64Array.from(w?.lines ?? []),
});
