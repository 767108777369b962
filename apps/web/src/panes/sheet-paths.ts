import type { Brush, Role, Vec3 } from '@yesca/core';
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

const made = new WeakMap<readonly Brush[], Map<string, SheetPaths>>();

/** The paths of some brushes. Kept as long as the list and the cut stay the same: sliding and zooming draw them again as they are. */
export function sheetPaths(brushes: readonly Brush[], view: SheetView): SheetPaths {
  const key = `${view.away.join(' ')} ${view.cut} ${view.reach}`;
  let known = made.get(brushes);
  if (!known || known.size > 8) made.set(brushes, (known = new Map()));
  let paths = known.get(key);
  if (!paths) known.set(key, (paths = makePaths(brushes, view)));
  return paths;
}

function makePaths(brushes: readonly Brush[], view: SheetView): SheetPaths {
  const drawn = drawnBrushes(brushes, view);
  const trace = (path: Path2D, points: readonly Vec3[]) =>
    traceOutline(path, points.map((p) => [acrossOf(view, p), upOf(view, p)])); // prettier-ignore
  const faces: FaceBatch[] = [];
  for (const { drawn: d, points, depth } of drawn.faces) {
    const { role } = d.brush;
    // Sorted by depth, so what can be one path follows one another; faces at one depth do not hide each other.
    let batch = faces.at(-1);
    if (!batch || batch.role !== role || Math.abs(batch.depth - depth) > 0.01)
      faces.push((batch = { role, depth, path: new Path2D() }));
    trace(batch.path, points);
  }
  const before = new Path2D();
  for (const { outlines, brush } of drawn.before) if (!brush.room) for (const o of outlines) trace(before, o.points);
  const byRole = new Map<Role, Path2D>();
  for (const { brush, outlines } of drawn.cut) {
    // A cap of sky is there to seal, not to be built: where it is cut it is only hinted at.
    if (brush.faces.some((f) => f.show === 'sky')) {
      for (const o of outlines) trace(before, o.points);
      continue;
    }
    let path = byRole.get(brush.role);
    if (!path) byRole.set(brush.role, (path = new Path2D()));
    for (const o of outlines) trace(path, o.points);
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
