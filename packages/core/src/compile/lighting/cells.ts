/** Cells of a lattice with something in them, found by column and row: dense where they lie together, by name where they are strewn. */
export class CellIndex {
  private readonly c0: number;
  private readonly r0: number;
  private readonly columns: number;
  private readonly rows: number;
  private readonly dense: Int32Array | null;
  private readonly strewn = new Map<number, number>();
  /** Of each item the next one in its cell, or −1. */
  private readonly next: Int32Array;

  /** Items by their places in a list of columns and rows. */
  constructor(cells: ArrayLike<number>) {
    const count = cells.length / 2;
    let [c0, r0, c1, r1] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < count; i++) {
      c0 = Math.min(c0, cells[i * 2]!);
      c1 = Math.max(c1, cells[i * 2]!);
      r0 = Math.min(r0, cells[i * 2 + 1]!);
      r1 = Math.max(r1, cells[i * 2 + 1]!);
    }
    this.c0 = c0;
    this.r0 = r0;
    this.columns = count ? c1 - c0 + 1 : 0;
    this.rows = count ? r1 - r0 + 1 : 0;
    const size = this.columns * this.rows;
    this.dense = size <= 64 * count + 1024 ? new Int32Array(size).fill(-1) : null;
    this.next = new Int32Array(count).fill(-1);
    // From the end: the first item of a cell is then the first of the list.
    for (let i = count - 1; i >= 0; i--) {
      const key = (cells[i * 2 + 1]! - r0) * this.columns + cells[i * 2]! - c0;
      const before = this.dense ? this.dense[key]! : (this.strewn.get(key) ?? -1);
      this.next[i] = before;
      if (this.dense) this.dense[key] = i;
      else this.strewn.set(key, i);
    }
  }

  /** The first item in a cell, or −1. */
  first(column: number, row: number): number {
    const [u, v] = [column - this.c0, row - this.r0];
    if (u < 0 || v < 0 || u >= this.columns || v >= this.rows) return -1;
    const key = v * this.columns + u;
    return this.dense ? this.dense[key]! : (this.strewn.get(key) ?? -1);
  }

  /** The item after one in its cell, or −1. */
  after(item: number): number {
    return this.next[item]!;
  }
}
