import type { Brush } from '@yesca/core';

/** Brushes in chunks, so that what is made of them is made anew for those chunks alone in which something changed. */
export type Chunks = readonly (readonly Brush[])[];

/** About how many brushes share a chunk: few enough that one is made anew within a frame, enough that chunks stay few. */
const CHUNK = 512;

/** Which chunk a brush belongs to follows from its name alone: what comes and goes moves no other. */
function hashOf(id: string): number {
  let hash = 2166136261;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 16777619);
  // The low bits decide, and names that follow one another differ there least.
  return (hash ^ (hash >>> 15)) >>> 0;
}

const sameList = (a: readonly Brush[], b: readonly Brush[]): boolean =>
  a.length === b.length && a.every((x, i) => x === b[i]);

/** Divides a list of brushes that changes over time. */
export class Chunker {
  private chunks: Chunks = [];
  private readonly hashes = new Map<string, number>();

  /** The chunks of some brushes; those in which nothing changed since the last call are the very same lists. */
  update(brushes: Iterable<Brush>): Chunks {
    const all = [...brushes];
    const now: Brush[][] = Array.from({ length: this.countFor(all.length) }, () => []);
    for (const brush of all) now[this.hash(brush.id) & (now.length - 1)]!.push(brush);
    const old = this.chunks;
    const kept = now.map((list, i) => (old[i] && sameList(old[i], list) ? old[i] : list));
    if (kept.length !== old.length || kept.some((list, i) => list !== old[i])) this.chunks = kept;
    return this.chunks;
  }

  /** A power of two. It shrinks late, so that deleting and undoing round a border does not divide everything anew each time. */
  private countFor(brushes: number): number {
    const least = 2 ** Math.max(0, Math.ceil(Math.log2(brushes / CHUNK)));
    const now = this.chunks.length;
    return least < now && least * 4 > now ? now : least;
  }

  private hash(id: string): number {
    let hash = this.hashes.get(id);
    if (hash === undefined) {
      if (this.hashes.size > 100_000) this.hashes.clear();
      this.hashes.set(id, (hash = hashOf(id)));
    }
    return hash;
  }
}
