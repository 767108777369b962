import {
  acrossOf,
  batchFor,
  pathOf,
  sheetContents,
  upOf,
  type Brush,
  type FaceBatch,
  type Role,
  type SheetContents,
} from '@yesca/core';
import type { Chunks } from '../state/chunks.ts';
import type { SheetView } from './projection.ts';
import { traceOutline } from './outline.ts';

/** What a drawing shows of some brushes, in paths (cm across and up the drawing) that hold for every zoom and place of the paper. */
export type SheetPaths = SheetContents<Path2D>;

const keyOf = (view: SheetView): string => `${view.away.join(' ')} ${view.cut} ${view.reach}`;

/** What was made of a list, kept for a few cuts as long as the list itself is. */
function keptBy<T extends object>(make: (list: T, view: SheetView) => SheetPaths) {
  const made = new WeakMap<T, Map<string, SheetPaths>>();
  return (list: T, view: SheetView): SheetPaths => {
    const key = keyOf(view);
    let known = made.get(list);
    if (!known || known.size > 8) made.set(list, (known = new Map()));
    let paths = known.get(key);
    if (!paths) known.set(key, (paths = make(list, view)));
    return paths;
  };
}

/**
 * The paths of some brushes. Kept as long as the chunks and the cut stay the same: sliding and zooming draw them again as
 * they are, and an edit makes those of the chunks anew that it touched.
 */
export const sheetPaths = keptBy<Chunks>((chunks, view) => joined(chunks.map((c) => chunkPaths(c, view))));

const newPath = (): Path2D => new Path2D();

const chunkPaths = keptBy<readonly Brush[]>((brushes, view) =>
  sheetContents(brushes, view, {
    make: newPath,
    trace: (path, points) =>
      traceOutline(
        path,
        points.map((p) => [acrossOf(view, p), upOf(view, p)]),
      ),
  }),
);

/** The paths of chunks as those of one list: what looks alike is one path, or strokes over strokes would be darker. */
function joined(parts: readonly SheetPaths[]): SheetPaths {
  if (parts.length === 1) return parts[0]!;
  const faces: FaceBatch<Path2D>[] = [];
  const sorted = parts.flatMap((p) => p.faces).sort((a, b) => b.depth - a.depth || a.role.localeCompare(b.role));
  for (const { role, depth, path } of sorted) batchFor(faces, role, depth, newPath).path.addPath(path);
  const before = new Path2D();
  const byRole = new Map<Role, Path2D>();
  for (const part of parts) {
    before.addPath(part.before);
    for (const { role, path } of part.cut) pathOf(byRole, role, newPath).addPath(path);
  }
  return { faces, before, cut: [...byRole].map(([role, path]) => ({ role, path })) };
}

/** A path as it lies on screen. */
export function onScreen(path: Path2D, view: SheetView): Path2D {
  const out = new Path2D();
  const { zoom, width, height, centre } = view;
  out.addPath(
    path,
    new DOMMatrix([
      zoom,
      0,
      0,
      -zoom,
      width / 2 - acrossOf(view, centre) * zoom,
      height / 2 + upOf(view, centre) * zoom,
    ]),
  );
  return out;
}
