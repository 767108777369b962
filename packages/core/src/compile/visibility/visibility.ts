import type { Brush } from '../../brush/index.ts';
import { doDue, dueJob, partOf, type DueJob, type StageControl } from '../../jobs/index.ts';
import type { Structure } from '../structure/index.ts';
import { countBits, hasBit, onesOf } from './bits.ts';
import { makePorts, reversed, type Ports } from './ports.ts';
import { boundJob, flowJob, type Answer, type Bound, type Proof, type Question } from './jobs.ts';
import { packRanges } from './ranges.ts';

export interface VisibilityOptions {
  /** Stop at the bound: windows of all ways together, without following each. */
  readonly cheap: boolean;
  /** Beams that may be followed of a portal before it falls back to the bound. */
  readonly budget?: number;
  /** What bars sight: with it lines are looked for that prove what is seen. */
  readonly solids?: readonly Brush[];
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
  /** Portals that ran over their budget and kept a coarser bound. */
  readonly fellBack: number;
  /** Whether lines were looked for that prove pairs of cells. */
  readonly searched: boolean;
  /** Those that were found. */
  readonly witnesses: Witnessed;
}

/** Of each pair of rows that is proven, the first less than the second, a line from one to the other: six numbers. */
export interface Witnessed {
  readonly pairs: Int32Array;
  readonly lines: Float64Array;
}

/** Whether one of the structure's cells may be seen from another. */
export function canSee(v: Visibility, from: number, to: number): boolean {
  const [a, b] = [v.rowOf[from]!, v.rowOf[to]!];
  return a >= 0 && b >= 0 && (v.rows[a * v.words + (b >> 5)]! & (1 << (b & 31))) !== 0;
}

/** Share of the pairs of cells in sight of one another that a line proves, 0 to 1. */
export function provenShare({ rows, count, witnesses }: Visibility): number {
  const pairs = (countBits(rows) - count) / 2;
  return pairs > 0 ? witnesses.pairs.length / 2 / pairs : 1;
}

/** Beams that may be cut for the bound of one portal, and how many more there may be where portals are few. */
const BOUND = { cheap: { least: 120, all: 250_000 }, full: { least: 250, all: 500_000 } };
/** The same for following beams. */
const FLOW = { least: 300, all: 600_000 };

/** The visibility stage, done here: see {@link seeLevel}. */
export function buildVisibility(
  structure: Structure,
  options: VisibilityOptions,
  control: StageControl = {},
): Visibility {
  return doDue(seeLevel(structure, options, control));
}

/**
 * The visibility stage: which cells can be seen from which, never too few. First what each portal's light can come to at most; then
 * lines that prove what of it is seen; then, unless it is to be cheap, the beams to what is neither proven nor ruled out, each way
 * followed by itself. What is seen one way only is not seen.
 */
export function* seeLevel(
  structure: Structure,
  { cheap, budget, solids }: VisibilityOptions,
  control: StageControl = {},
): Generator<DueJob, Visibility, unknown> {
  const rowOf = new Int32Array(structure.cells.length).fill(-1);
  let count = 0;
  structure.cells.forEach((cell, c) => {
    if (cell.inside) rowOf[c] = count++;
  });
  const ports = makePorts(structure, rowOf);
  const perPort = ({ least, all }: { least: number; all: number }) =>
    Math.max(least, Math.floor(all / Math.max(1, ports.count)));
  const shared = {
    ports,
    solids: cheap || !solids ? null : solids.filter((b) => b.role === 'structure'),
    budget: perPort(cheap ? BOUND.cheap : BOUND.full),
  };
  const bounds = (yield dueJob(boundJob, shared, partOf(control, 0, cheap ? 1 : 0.5))) as readonly Bound[];
  const sets = bothWays(ports, bounds);
  const table = new Table(count);
  let fellBack = bounds.reduce((n, b) => n + b.over, 0);
  for (let g = 0; g < ports.count; g++) for (const c of sets[g]!) table.mark(ports.from[g]!, c);
  for (let g = 0; g < ports.count; g++) table.mark(ports.from[g]!, ports.to[g]!);
  table.keepMutual();
  const proofs: { cell: number; proof: Proof }[] = bounds.map(({ proof }, cell) => ({ cell, proof }));
  if (!cheap) {
    const known = provenTable(count, proofs);
    const questions = table.without(known);
    const might = packRanges(sets);
    const flowShared = { ...shared, might, flowBudget: budget ?? perPort(FLOW) };
    const answers = (yield dueJob(
      flowJob,
      { shared: flowShared, questions },
      partOf(control, 0.5, 1),
    )) as readonly Answer[];
    const beams = new Table(count);
    beams.add(known);
    answers.forEach(({ seen, proof, over }, i) => {
      const { cell } = questions[i]!;
      for (const c of seen) beams.mark(cell, c);
      proofs.push({ cell, proof });
      fellBack += over;
    });
    beams.keepMutual();
    table.keepOnly(beams);
    table.add(provenTable(count, proofs));
  }
  return {
    count,
    rowOf,
    rows: table.rows,
    words: table.words,
    fellBack,
    searched: shared.solids !== null,
    witnesses: gathered(proofs),
  };
}

/** Of each port the cells it may see: through a port another is only seen when the way back is. Its own cell beyond comes first. */
function bothWays(ports: Ports, bounds: readonly Bound[]): number[][] {
  const lists: Int32Array[] = new Array(ports.count);
  bounds.forEach(({ first, reached }, cell) => {
    for (let k = 0; k + 1 < first.length; k++)
      lists[ports.out[ports.outFirst[cell]! + k]!] = reached.subarray(first[k]!, first[k + 1]!);
  });
  return lists.map((list, port) => {
    const cells = new Set([ports.to[port]!]);
    for (const other of list) if (isIn(lists[reversed(other)]!, reversed(port))) cells.add(ports.to[other]!);
    return [...cells];
  });
}

/** Whether an ascending list holds a number. */
function isIn(list: Int32Array, value: number): boolean {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return list[low] === value;
}

/** Which of some rows is marked for which, as bits. Everything is marked for itself. */
class Table {
  readonly rows: Uint32Array;
  readonly words: number;
  private readonly count: number;

  constructor(count: number) {
    this.count = count;
    this.words = (count + 31) >> 5;
    this.rows = new Uint32Array(this.words * count);
    for (let c = 0; c < count; c++) this.mark(c, c);
  }

  mark(a: number, b: number): void {
    this.rows[a * this.words + (b >> 5)]! |= 1 << (b & 31);
  }

  row(a: number): Uint32Array {
    return this.rows.subarray(a * this.words, (a + 1) * this.words);
  }

  /** Takes away what is marked one way only. */
  keepMutual(): void {
    for (let a = 0; a < this.count; a++)
      for (const b of onesOf(this.row(a)))
        if (!hasBit(this.row(b), a)) this.rows[a * this.words + (b >> 5)]! &= ~(1 << (b & 31));
  }

  add(other: Table): void {
    other.rows.forEach((w, i) => (this.rows[i]! |= w));
  }

  keepOnly(other: Table): void {
    other.rows.forEach((w, i) => (this.rows[i]! &= w));
  }

  /** What is marked here and not there, row by row; rows without any are left out. */
  without(other: Table): Question[] {
    const out: Question[] = [];
    for (let cell = 0; cell < this.count; cell++) {
      const theirs = other.row(cell);
      const asked = onesOf(this.row(cell).map((w, i) => w & ~theirs[i]!));
      if (asked.length) out.push({ cell, asked: Int32Array.from(asked) });
    }
    return out;
  }
}

function provenTable(count: number, proofs: readonly { cell: number; proof: Proof }[]): Table {
  const table = new Table(count);
  for (const { cell, proof } of proofs)
    for (const c of proof.cells) {
      table.mark(cell, c);
      table.mark(c, cell);
    }
  return table;
}

/** One line for each pair, in the order of pairs. */
function gathered(proofs: readonly { cell: number; proof: Proof }[]): Witnessed {
  const byPair = new Map<number, { a: number; b: number; line: ArrayLike<number> }>();
  const wide = 2 ** 26;
  for (const { cell, proof } of proofs)
    proof.cells.forEach((c, i) => {
      const line = proof.lines.subarray(i * 6, i * 6 + 6);
      const [a, b] = cell < c ? [cell, c] : [c, cell];
      const key = a * wide + b;
      if (!byPair.has(key))
        byPair.set(key, { a, b, line: cell < c ? line : [line[3]!, line[4]!, line[5]!, line[0]!, line[1]!, line[2]!] });
    });
  const sorted = [...byPair].sort((p, q) => p[0] - q[0]).map(([, pair]) => pair);
  return {
    pairs: Int32Array.from(sorted.flatMap(({ a, b }) => [a, b])),
    lines: Float64Array.from(sorted.flatMap(({ line }) => Array.from(line))),
  };
}
