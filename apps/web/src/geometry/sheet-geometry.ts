import {
  acrossOf,
  drawnBrush,
  spanAlong,
  upOf,
  brushBounds,
  brushPlanes,
  groupChain,
  propOfBrush,
  dot,
  type DrawnBrush,
  type DrawnOutline,
  type Box,
  type Brush,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import type { Thing } from '../state/selection.ts';
import { propSolidsIn } from '../state/prop-solids.ts';
import { toScreen, type SheetView } from './projection.ts';

/** The face of a cut brush whose edge in the cut is nearest to a point of the drawing: the side that is meant. */
function faceBesideCut(brush: Brush, outline: readonly Vec3[], view: SheetView, p: Vec3): number {
  const [x, y] = [acrossOf(view, p), upOf(view, p)];
  let best = { distance: Infinity, face: 0 };
  outline.forEach((a, i) => {
    const b = outline[(i + 1) % outline.length]!;
    const [ax, ay, bx, by] = [acrossOf(view, a), upOf(view, a), acrossOf(view, b), upOf(view, b)];
    const [dx, dy] = [bx - ax, by - ay];
    const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
    const distance = Math.hypot(ax + dx * t - x, ay + dy * t - y);
    if (distance >= best.distance) return;
    const face = brushPlanes(brush).findIndex((plane) =>
      [a, b].every((q) => Math.abs(dot(plane.normal, q) - plane.distance) < 0.02),
    );
    if (face >= 0) best = { distance, face };
  });
  return best.face;
}

/** Whether a point of the drawing lies in a polygon of it. */
export function insidePolygon(points: readonly Vec3[], view: SheetView, p: Vec3): boolean {
  let inside = false;
  const [x, y] = [acrossOf(view, p), upOf(view, p)];
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [ax, ay] = [acrossOf(view, points[i]!), upOf(view, points[i]!)];
    const [bx, by] = [acrossOf(view, points[j]!), upOf(view, points[j]!)];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

export interface SheetHit {
  readonly thing: Thing;
  /** The face under the pointer, as a place in the brush's faces; in a cut the side nearest to it. −1 for what has none. */
  readonly face: number;
}

/** Radius within which an entity's symbol is hit, pixels. */
const SYMBOL = 11;

/** The things a brush stands for, the widest first: its room, its groups, itself. `known` holds what was already listed. */
export function thingsAt(doc: MapDocument, brush: Brush, known: Set<string>): Thing[] {
  const out: Thing[] = [];
  const once = (thing: Thing) => {
    if (known.has(thing.id)) return;
    known.add(thing.id);
    out.push(thing);
  };
  if (brush.room && !brush.room.released) once({ type: 'room', id: brush.room.id });
  for (const id of groupChain(doc, brush.group).reverse()) once({ type: 'group', id });
  once({ type: 'brush', id: brush.id });
  return out;
}

/** What is picked where a thing is, the outermost first: the groups it is in, and it. */
export function entityThings(doc: MapDocument, id: string, known = new Set<string>()): Thing[] {
  const out: Thing[] = [];
  for (const group of groupChain(doc, doc.entities.get(id)?.group).reverse()) {
    if (!known.has(group)) out.push({ type: 'group', id: group });
    known.add(group);
  }
  return [...out, { type: 'entity', id }];
}

/** Those that were not met before; a prop of several solids is met once. */
const once = (things: readonly Thing[], known: Set<string>): Thing[] =>
  things.filter(({ type, id }) => {
    if (type !== 'entity') return true;
    const fresh = !known.has(id);
    known.add(id);
    return fresh;
  });

/** What lies under a point of a drawing, front to back: symbols, cut solids, faces beyond, then what is before the cut. */
export function hitSheet(doc: MapDocument, view: SheetView, p: Vec3): SheetHit[] {
  const out: SheetHit[] = [];
  const known = new Set<string>();
  const [x, y] = toScreen(view, p);
  for (const e of doc.entities.values()) {
    const [ex, ey] = toScreen(view, e.at);
    if (Math.hypot(ex - x, ey - y) > SYMBOL) continue;
    for (const thing of once(entityThings(doc, e.id, known), known)) out.push({ thing, face: -1 });
  }
  const found: { drawn: DrawnBrush; face: number; depth: number }[] = [];
  const [a, b] = [acrossOf(view, p), upOf(view, p)];
  const over = (box: Box): boolean => {
    const [a0, a1] = spanAlong(box, view.right);
    const [b0, b1] = spanAlong(box, view.up);
    return a >= a0 && a <= a1 && b >= b0 && b <= b1;
  };
  const look = (brush: Brush): void => {
    if (!over(brushBounds(brush))) return;
    const drawn = drawnBrush(brush, view);
    const under = (o: DrawnOutline): boolean => o.depth <= view.reach && insidePolygon(o.points, view, p);
    const outline = drawn.outlines.find(under) ?? drawn.below?.find(under);
    if (!outline) return;
    const cut = outline.face < 0;
    found.push({
      drawn,
      face: cut ? faceBesideCut(brush, outline.points, view, p) : outline.face,
      depth: cut ? -1 : drawn.where === 'before' ? 1e9 - outline.depth : outline.depth,
    });
  };
  for (const brush of doc.brushes.values()) look(brush);
  for (const { bounds, brushes } of propSolidsIn(doc)) if (over(bounds)) brushes.forEach(look);
  found.sort((a, b) => a.depth - b.depth);
  for (const { drawn, face } of found) {
    const prop = propOfBrush(drawn.brush);
    if (prop) for (const thing of once(entityThings(doc, prop, known), known)) out.push({ thing, face: -1 });
    else for (const thing of thingsAt(doc, drawn.brush, known)) out.push({ thing, face });
  }
  return out;
}
