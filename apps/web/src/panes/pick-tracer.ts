import { firstHit, makeTracer, solidAt, type Brush, type MapDocument, type Tracer, type Vec3 } from '@yesca/core';

type Brushes = MapDocument['brushes'];

/** So many brushes may differ from the ones the large index was made of before it is made anew. */
const MOST_FRESH = 400;

/**
 * What a line of sight meets in a map that is being edited. The index of all brushes is kept over edits: what changed is
 * looked for in a small one of its own, and what is no longer there is passed over, so that an edit costs what it changed.
 */
export class PickTracer {
  private known: Brushes = new Map();
  private base: Tracer = makeTracer([]);
  private inBase = new Set<Brush>();
  private gone: ReadonlySet<Brush> = new Set();
  private fresh: Tracer = makeTracer([]);

  /** Follows the map to other brushes. */
  update(brushes: Brushes): void {
    if (brushes === this.known) return;
    this.known = brushes;
    const now = new Set(brushes.values());
    const fresh = [...now].filter((b) => !this.inBase.has(b));
    if (fresh.length > MOST_FRESH || now.size < this.inBase.size / 2) {
      this.base = makeTracer([...now]);
      this.inBase = now;
      this.gone = new Set();
      this.fresh = makeTracer([]);
      return;
    }
    this.gone = new Set([...this.inBase].filter((b) => !now.has(b)));
    this.fresh = makeTracer(fresh);
  }

  firstHit(from: Vec3, towards: Vec3, far: number) {
    const old = firstHit(this.base, from, towards, far, this.gone);
    return firstHit(this.fresh, from, towards, old?.at ?? far) ?? old;
  }

  solidAt(p: Vec3): Brush | null {
    return solidAt(this.fresh, p) ?? solidAt(this.base, p, 0, this.gone);
  }
}
