import type { Brush } from '../../brush/index.ts';
import { hashRandom } from '../../math/index.ts';
import { makeRays, type Rays } from '../tracing/index.ts';
import type { Flat } from './beam.ts';

/** How far (cm) a line goes on beyond the openings it is drawn between, so that it ends in the cells beyond them. */
const BEYOND = 0.05;

/** A line that did not prove its cell this often is not looked for any more. */
const PATIENCE = 60;

/**
 * Lines that prove that one cell sees others. Lines are tried together, as they come by the hundred: those that meet no solid are
 * proof.
 */
export class Witnesses {
  /** Cells that are proven to be seen, and their lines: six numbers each. */
  readonly cells: number[] = [];
  readonly lines: number[] = [];
  /** For each cell the turn in which it was proven, and how often it was tried in this turn. */
  private readonly proven: Int32Array;
  private readonly tried: Uint8Array;
  private turn = 0;
  private readonly rays: Rays;
  private list = new Float64Array(7 * 256);
  private targets = new Int32Array(256);
  private hits = new Uint8Array(256);
  private count = 0;

  constructor(solids: readonly Brush[], cells: number) {
    this.rays = makeRays(solids);
    this.proven = new Int32Array(cells).fill(-1);
    this.tried = new Uint8Array(cells);
  }

  /** Begins with another cell. */
  reset(): void {
    this.cells.length = 0;
    this.lines.length = 0;
    this.tried.fill(0);
    this.turn++;
  }

  /** Whether a line to a cell is still worth a try. */
  isOpen(cell: number): boolean {
    return this.proven[cell] !== this.turn && this.tried[cell]! < PATIENCE;
  }

  has(cell: number): boolean {
    return this.proven[cell] === this.turn;
  }

  /** Takes a line for granted. */
  prove(cell: number, from: ArrayLike<number>, to: ArrayLike<number>): void {
    if (this.proven[cell] === this.turn) return;
    this.proven[cell] = this.turn;
    this.cells.push(cell);
    this.lines.push(from[0]!, from[1]!, from[2]!, to[0]!, to[1]!, to[2]!);
  }

  /** Adds a line to those that are tried next. */
  try(cell: number, from: ArrayLike<number>, to: ArrayLike<number>): void {
    if (this.count === this.hits.length) this.grow();
    const [x, y, z] = [to[0]! - from[0]!, to[1]! - from[1]!, to[2]! - from[2]!];
    const { list } = this;
    const k = this.count * 7;
    const more = BEYOND / Math.max(1e-3, Math.sqrt(x * x + y * y + z * z));
    list[k] = from[0]! - x * more;
    list[k + 1] = from[1]! - y * more;
    list[k + 2] = from[2]! - z * more;
    list[k + 3] = x * (1 + 2 * more);
    list[k + 4] = y * (1 + 2 * more);
    list[k + 5] = z * (1 + 2 * more);
    list[k + 6] = 1;
    this.tried[cell]!++;
    this.targets[this.count++] = cell;
  }

  /** Tries the lines that were added; those that are clear prove their cells. How many there were. */
  test(): number {
    const { count, list, hits } = this;
    if (count) this.rays.anyHits(list, count, hits);
    for (let i = 0; i < count; i++) {
      if (hits[i]) continue;
      const k = i * 7;
      const [x, y, z] = [list[k]!, list[k + 1]!, list[k + 2]!];
      this.prove(this.targets[i]!, [x, y, z], [x + list[k + 3]!, y + list[k + 4]!, z + list[k + 5]!]);
    }
    this.count = 0;
    return count;
  }

  private grow(): void {
    const size = this.hits.length * 2;
    const [list, targets] = [new Float64Array(size * 7), new Int32Array(size)];
    list.set(this.list);
    targets.set(this.targets);
    Object.assign(this, { list, targets, hits: new Uint8Array(size) });
  }
}

/** The `k`th point of a polygon: its middle first, then others by chance, the same each time. */
export function pointIn({ points, at, corners }: Flat, k: number, salt: number): [number, number, number] {
  let [x, y, z, all] = [0, 0, 0, 0];
  for (let i = 0; i < corners; i++) {
    const u = k === 0 ? 1 : hashRandom(salt, k, i);
    const weight = u * u * u + 1e-6;
    all += weight;
    x += points[at + i * 3]! * weight;
    y += points[at + i * 3 + 1]! * weight;
    z += points[at + i * 3 + 2]! * weight;
  }
  return [x / all, y / all, z / all];
}
