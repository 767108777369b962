/** Sets of cells, one a port, as bits: of each only the words from its first cell to its last are held, one set after the other. */
export class Ranges {
  private readonly first: Int32Array;
  private readonly low: Int32Array;
  private readonly words: Uint32Array;

  constructor({ first, low, words }: RangeData) {
    this.first = first;
    this.low = low;
    this.words = words;
  }

  /** A set as bits of all cells. */
  copy(set: number, into: Uint32Array): void {
    into.fill(0);
    const low = this.low[set]!;
    for (let i = this.first[set]!; i < this.first[set + 1]!; i++) into[low + i - this.first[set]!] = this.words[i]!;
  }

  /** What of `allowed` is in a set, in `into`; whether anything of it is asked for. */
  narrow(set: number, allowed: Uint32Array, asked: Uint32Array, into: Uint32Array): boolean {
    const from = this.first[set]!;
    const low = this.low[set]!;
    const count = this.first[set + 1]! - from;
    let any = 0;
    for (let i = 0; i < count; i++) any |= this.words[from + i]! & allowed[low + i]! & asked[low + i]!;
    if (any === 0) return false;
    into.fill(0);
    for (let i = 0; i < count; i++) into[low + i] = this.words[from + i]! & allowed[low + i]!;
    return true;
  }
}

/** Plain data of {@link Ranges}: words `first[s] … first[s + 1]` are those of set `s`, the first of them word `low[s]` of all cells. */
export interface RangeData {
  readonly first: Int32Array;
  readonly low: Int32Array;
  readonly words: Uint32Array;
}

/** Packs sets given as lists of cells. */
export function packRanges(sets: readonly (readonly number[])[]): RangeData {
  const low = new Int32Array(sets.length);
  const first = new Int32Array(sets.length + 1);
  sets.forEach((cells, s) => {
    let [least, most] = [Infinity, -1];
    for (const c of cells) {
      least = Math.min(least, c >> 5);
      most = Math.max(most, c >> 5);
    }
    low[s] = cells.length ? least : 0;
    first[s + 1] = first[s]! + (cells.length ? most - least + 1 : 0);
  });
  const words = new Uint32Array(first[sets.length]!);
  sets.forEach((cells, s) => {
    for (const c of cells) words[first[s]! + (c >> 5) - low[s]!]! |= 1 << (c & 31);
  });
  return { first, low, words };
}
