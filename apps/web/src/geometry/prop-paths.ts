import type { PropSolids } from '../state/prop-solids.ts';
import { traceOutline } from './outline.ts';
import { acrossOf, upOf, type SheetView } from './projection.ts';
import { drawnBrush, silhouette } from './sheet-geometry.ts';

/** Outlines of props that are cut, or lie about as deep, in cm across and up the drawing. */
export interface PropBatch {
  readonly where: 'cut' | 'beyond' | 'before';
  readonly path: Path2D;
}

/** What lies within so much (cm) of depth is drawn at once. */
const DEPTH = 24;

const made = new WeakMap<readonly PropSolids[], Map<string, readonly PropBatch[]>>();

/** The outlines of props, the farthest first and what is before the cut last. Kept as long as their list is. */
export function propPaths(props: readonly PropSolids[], view: SheetView): readonly PropBatch[] {
  const key = `${view.away.join(' ')} ${view.right.join(' ')} ${view.cut} ${view.reach}`;
  let known = made.get(props);
  if (!known || known.size > 8) made.set(props, (known = new Map<string, readonly PropBatch[]>()));
  let out = known.get(key);
  if (out) return out;
  const batches = new Map<string, PropBatch & { readonly order: number }>();
  for (const { brushes } of props)
    for (const brush of brushes) {
      const { where, outlines } = drawnBrush(brush, view);
      const deep = where === 'beyond' ? Math.max(0, ...outlines.map((o) => o.depth)) : 0;
      if (deep > view.reach) continue;
      const step = Math.floor(deep / DEPTH);
      const name = `${where} ${step}`;
      const order = where === 'beyond' ? -step : where === 'cut' ? 1 : 2;
      let batch = batches.get(name);
      if (!batch) batches.set(name, (batch = { where, path: new Path2D(), order }));
      traceOutline(
        batch.path,
        silhouette(brush, view).map((p) => [acrossOf(view, p), upOf(view, p)]),
      );
    }
  out = [...batches.values()].sort((a, b) => a.order - b.order);
  known.set(key, out);
  return out;
}
