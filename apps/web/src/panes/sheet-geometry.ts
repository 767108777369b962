import { brushBounds, brushPlanes, cutOutline, type Brush, type MapDocument, type Plane, type Vec3 } from '@yesca/core';
import type { Thing } from '../state/selection.ts';
import { beyond, toScreen, type SheetView } from './projection.ts';

/** A brush as one drawing shows it: cut through, seen beyond the cut, or in front of it (drawn dashed). */
export interface DrawnBrush {
  readonly brush: Brush;
  readonly where: 'cut' | 'beyond' | 'before';
  /** Outlines in world points: the cut, or the faces turned to the viewer. */
  readonly outlines: readonly { readonly points: readonly Vec3[]; readonly face: number; readonly depth: number }[];
}

const cutPlane = (view: SheetView): Plane => {
  const normal: [number, number, number] = [0, 0, 0];
  normal[view.d] = 1;
  return { normal, distance: view.cut };
};

const cache = new Map<string, WeakMap<Brush, DrawnBrush>>();

/** How a drawing shows a brush. Kept a brush and cut: most brushes stay the same from one frame to the next. */
export function drawnBrush(brush: Brush, view: SheetView): DrawnBrush {
  const key = `${view.kind} ${view.cut}`;
  let known = cache.get(key);
  if (!known) {
    if (cache.size > 8) cache.clear();
    cache.set(key, (known = new WeakMap()));
  }
  let drawn = known.get(brush);
  if (!drawn) known.set(brush, (drawn = project(brush, view)));
  return drawn;
}

function project(brush: Brush, view: SheetView): DrawnBrush {
  const { min, max } = brushBounds(brush);
  if (min[view.d] < view.cut && max[view.d] > view.cut) {
    const points = cutOutline(brush, cutPlane(view));
    if (points) return { brush, where: 'cut', outlines: [{ points, face: -1, depth: 0 }] };
  }
  const planes = brushPlanes(brush);
  const outlines = brush.faces.flatMap((face, i) => {
    if (planes[i]!.normal[view.d] * view.facing <= 1e-6) return [];
    const points = face.loop.map((k) => brush.vertices[k]!);
    const depth = beyond(view, points.reduce((sum, p) => sum + p[view.d], 0) / points.length);
    return [{ points, face: i, depth }];
  });
  const nearest = beyond(view, view.facing > 0 ? max[view.d] : min[view.d]);
  return { brush, where: nearest >= -1e-6 ? 'beyond' : 'before', outlines };
}

/** Everything a drawing shows, farthest first. */
export function drawnBrushes(
  doc: MapDocument,
  view: SheetView,
): { cut: DrawnBrush[]; before: DrawnBrush[]; faces: { drawn: DrawnBrush; points: readonly Vec3[]; depth: number }[] } {
  const cut: DrawnBrush[] = [];
  const before: DrawnBrush[] = [];
  const faces: { drawn: DrawnBrush; points: readonly Vec3[]; depth: number }[] = [];
  for (const brush of doc.brushes.values()) {
    if (isOffScreen(brush, view)) continue;
    const drawn = drawnBrush(brush, view);
    if (drawn.where === 'cut') cut.push(drawn);
    else if (drawn.where === 'before') before.push(drawn);
    else for (const o of drawn.outlines) faces.push({ drawn, points: o.points, depth: o.depth });
  }
  faces.sort((a, b) => b.depth - a.depth);
  return { cut, before, faces };
}

function isOffScreen(brush: Brush, view: SheetView): boolean {
  const { min, max } = brushBounds(brush);
  const w = view.width / 2 / view.zoom;
  const h = view.height / 2 / view.zoom;
  return (
    max[view.h] < view.centre[view.h] - w ||
    min[view.h] > view.centre[view.h] + w ||
    max[view.v] < view.centre[view.v] - h ||
    min[view.v] > view.centre[view.v] + h
  );
}

/** Whether a point of the drawing lies in a polygon of it. */
export function insidePolygon(points: readonly Vec3[], view: SheetView, p: Vec3): boolean {
  let inside = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const a = points[i]!;
    const b = points[j]!;
    if (
      a[view.v] > p[view.v] !== b[view.v] > p[view.v] &&
      p[view.h] < ((b[view.h] - a[view.h]) * (p[view.v] - a[view.v])) / (b[view.v] - a[view.v]) + a[view.h]
    )
      inside = !inside;
  }
  return inside;
}

export interface SheetHit {
  readonly thing: Thing;
  /** The face under the pointer, as a place in the brush's faces; −1 where a cut shows none. */
  readonly face: number;
}

/** Radius within which an entity's symbol is hit, pixels. */
const SYMBOL = 11;

/** What lies under a point of a drawing, front to back: symbols, cut solids, faces beyond, then what is before the cut. */
export function hitSheet(doc: MapDocument, view: SheetView, p: Vec3): SheetHit[] {
  const out: SheetHit[] = [];
  const [x, y] = toScreen(view, p);
  for (const e of doc.entities.values()) {
    const [ex, ey] = toScreen(view, e.at);
    if (Math.hypot(ex - x, ey - y) <= SYMBOL) out.push({ thing: { type: 'entity', id: e.id }, face: -1 });
  }
  const found: { drawn: DrawnBrush; face: number; depth: number }[] = [];
  for (const brush of doc.brushes.values()) {
    const { min, max } = brushBounds(brush);
    if (p[view.h] < min[view.h] || p[view.h] > max[view.h] || p[view.v] < min[view.v] || p[view.v] > max[view.v])
      continue;
    const drawn = drawnBrush(brush, view);
    const outline = drawn.outlines.find((o) => insidePolygon(o.points, view, p));
    if (outline)
      found.push({
        drawn,
        face: outline.face,
        depth: drawn.where === 'cut' ? -1 : drawn.where === 'beyond' ? outline.depth : 1e9 - outline.depth,
      });
  }
  found.sort((a, b) => a.depth - b.depth);
  const rooms = new Set<string>();
  for (const { drawn, face } of found) {
    const { brush } = drawn;
    if (brush.room && !rooms.has(brush.room.id)) {
      rooms.add(brush.room.id);
      out.push({ thing: { type: 'room', id: brush.room.id }, face });
    }
    out.push({ thing: { type: 'brush', id: brush.id }, face });
  }
  return out;
}
