import type { Brush, Role, Vec3 } from '@yesca/core';
import type { Chunks } from '../state/chunks.ts';
import { acrossOf, upOf, type SheetView } from './projection.ts';
import { traceOutline } from './outline.ts';
import { drawnBrushes } from './sheet-geometry.ts';

/** Faces that look alike and lie at one depth, as one path in cm across and up the drawing. */
export interface FaceBatch {
  readonly role: Role;
  /** How far beyond the cut, cm. */
  readonly depth: number;
  readonly path: Path2D;
}

/** What a drawing shows of some brushes, in paths that hold for every zoom and place of the paper. */
export interface SheetPaths {
  /** Farthest first. */
  readonly faces: readonly FaceBatch[];
  readonly before: Path2D;
  readonly cut: readonly { readonly role: Role; readonly path: Path2D }[];
}

const SAME_DEPTH = 0.01;

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

const chunkPaths = keptBy<readonly Brush[]>((brushes, view) => {
  const drawn = drawnBrushes(brushes, view);
  const trace = (path: Path2D, points: readonly Vec3[]) =>
    traceOutline(
      path,
      points.map((p) => [acrossOf(view, p), upOf(view, p)]),
    );
  const faces: FaceBatch[] = [];
  for (const { drawn: d, points, depth } of drawn.faces) {
    trace(batchFor(faces, d.brush.role, depth).path, points);
  }
  const before = new Path2D();
  for (const { outlines, brush } of drawn.before) if (!brush.room) for (const o of outlines) trace(before, o.points);
  const byRole = new Map<Role, Path2D>();
  for (const { brush, outlines } of drawn.cut) {
    // A cap of sky is there to seal, not to be built: where it is cut it is only hinted at.
    const path = brush.faces.some((f) => f.show === 'sky') ? before : pathOf(byRole, brush.role);
    for (const o of outlines) trace(path, o.points);
  }
  return { faces, before, cut: [...byRole].map(([role, path]) => ({ role, path })) };
});

/** Sorted by depth, so what can be one path follows one another; faces at one depth do not hide each other. */
function batchFor(faces: FaceBatch[], role: Role, depth: number): FaceBatch {
  const last = faces.at(-1);
  if (last && last.role === role && Math.abs(last.depth - depth) <= SAME_DEPTH) return last;
  const batch = { role, depth, path: new Path2D() };
  faces.push(batch);
  return batch;
}

function pathOf(byRole: Map<Role, Path2D>, role: Role): Path2D {
  let path = byRole.get(role);
  if (!path) byRole.set(role, (path = new Path2D()));
  return path;
}

/** The paths of chunks as those of one list: what looks alike is one path, or strokes over strokes would be darker. */
function joined(parts: readonly SheetPaths[]): SheetPaths {
  if (parts.length === 1) return parts[0]!;
  const faces: FaceBatch[] = [];
  const sorted = parts.flatMap((p) => p.faces).sort((a, b) => b.depth - a.depth || a.role.localeCompare(b.role));
  for (const { role, depth, path } of sorted) batchFor(faces, role, depth).path.addPath(path);
  const before = new Path2D();
  const byRole = new Map<Role, Path2D>();
  for (const part of parts) {
    before.addPath(part.before);
    for (const { role, path } of part.cut) pathOf(byRole, role).addPath(path);
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
