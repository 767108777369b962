import { acrossOf, propOutline, upOf, type Brush, type PropOutline } from '@yesca/core';
import type { PropSolids } from '../state/prop-solids.ts';
import { traceOutline } from './outline.ts';
import type { SheetView } from './projection.ts';

/** Outlines of props that are cut, or lie about as deep, in cm across and up the drawing. */
export interface PropBatch {
  readonly where: PropOutline['where'];
  readonly path: Path2D;
}

/** The outline of one solid as a path. */
type Outline = Omit<PropOutline, 'points'> & { readonly path: Path2D };

const made = new WeakMap<readonly PropSolids[], Map<string, readonly PropBatch[]>>();
const outlines = new WeakMap<PropSolids, Map<string, readonly Outline[]>>();

/** What a list or a prop is kept by; of views that nobody looks from any more only a few are kept. */
function kept<K extends object, V>(all: WeakMap<K, Map<string, V>>, of: K, key: string, make: () => V): V {
  let known = all.get(of);
  if (!known || known.size > 8) all.set(of, (known = new Map<string, V>()));
  let out = known.get(key);
  if (!out) known.set(key, (out = make()));
  return out;
}

/** The outlines of props, the farthest first and what is before the cut last. Kept as long as their list is, and of each as long as it stands. */
export function propPaths(props: readonly PropSolids[], view: SheetView): readonly PropBatch[] {
  const key = `${view.away.join(' ')} ${view.right.join(' ')} ${view.cut} ${view.reach}`;
  return kept(made, props, key, () => {
    const batches = new Map<string, PropBatch & { readonly order: number }>();
    for (const prop of props)
      for (const { where, order, path } of kept(outlines, prop, key, () => outlinesOf(prop, view))) {
        const name = `${where} ${order}`;
        let batch = batches.get(name);
        if (!batch) batches.set(name, (batch = { where, path: new Path2D(), order }));
        batch.path.addPath(path);
      }
    return [...batches.values()].sort((a, b) => a.order - b.order);
  });
}

const outlinesOf = ({ brushes }: PropSolids, view: SheetView): Outline[] =>
  brushes.flatMap((brush) => outlineOf(brush, view) ?? []);

/** Null for what lies too far beyond the cut to be seen. */
function outlineOf(brush: Brush, view: SheetView): Outline | null {
  const outline = propOutline(brush, view);
  if (!outline) return null;
  const { where, order, points } = outline;
  const path = new Path2D();
  traceOutline(
    path,
    points.map((p) => [acrossOf(view, p), upOf(view, p)]),
  );
  return { where, order, path };
}
