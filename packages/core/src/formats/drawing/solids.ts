import { brushBounds, brushPlanes, type Brush, type Role } from '../../brush/index.ts';
import { orderRound } from '../../compile/index.ts';
import {
  centroid,
  clipBehind,
  dot,
  meetPlane,
  planeHull,
  signedDistance,
  type Plane,
  type Vec3,
} from '../../math/index.ts';
import { beyond, spanAlong, type DrawingView } from './view.ts';

/** Points nearer to each other than this are one on a drawing, cm. */
const SAME_POINT = 1e-3;

/** What an upright or level cut through a solid looks like: its outline on the cutting plane, or null where it misses. */
export function cutOutline(brush: Brush, plane: Plane): Vec3[] | null {
  const points: Vec3[] = [];
  const d = brush.vertices.map((v) => signedDistance(plane, v));
  for (const { loop } of brush.faces)
    for (let k = 0; k < loop.length; k++) {
      const i = loop[k]!;
      const j = loop[k + 1 === loop.length ? 0 : k + 1]!;
      if (i > j || d[i]! > 0 === d[j]! > 0) continue;
      const p = meetPlane(plane, brush.vertices[i]!, brush.vertices[j]!, d[i]!, d[j]!);
      // A corner on the plane is met by several edges.
      if (!points.some((q) => Math.abs(p[0] - q[0]) + Math.abs(p[1] - q[1]) + Math.abs(p[2] - q[2]) < SAME_POINT))
        points.push(p);
    }
  return points.length >= 3 ? orderRound(points, plane.normal) : null;
}

/** A brush as one drawing shows it: cut through, seen beyond the cut, or in front of it (drawn dashed). */
export interface DrawnBrush {
  readonly brush: Brush;
  readonly where: 'cut' | 'beyond' | 'before';
  /** Outlines in world points: the cut, or the faces turned to the viewer. */
  readonly outlines: readonly DrawnOutline[];
  /** Of a brush that is cut: what of its faces is seen beyond the cut. */
  readonly below?: readonly DrawnOutline[];
}

export interface DrawnOutline {
  readonly points: readonly Vec3[];
  /** As a place in the brush's faces; −1 for the cut. */
  readonly face: number;
  readonly depth: number;
}

const cache = new Map<string, WeakMap<Brush, DrawnBrush>>();

/** How a drawing shows a brush. Kept a brush and cut: most brushes stay the same from one frame to the next. */
export function drawnBrush(brush: Brush, view: DrawingView): DrawnBrush {
  const key = `${view.away.join(' ')} ${view.cut}`;
  let known = cache.get(key);
  if (!known) {
    if (cache.size > 8) cache.clear();
    cache.set(key, (known = new WeakMap()));
  }
  let drawn = known.get(brush);
  if (!drawn) known.set(brush, (drawn = project(brush, view)));
  return drawn;
}

/** From where to where a solid reaches away from the viewer. Its box tells as much unless the cut goes through that: then corners do. */
function reachOf(brush: Brush, { away, cut }: DrawingView): readonly [number, number] {
  const [near, far] = spanAlong(brushBounds(brush), away);
  if (near >= cut || far <= cut) return [near, far];
  return brush.vertices.reduce<readonly [number, number]>(
    ([low, high], p) => [Math.min(low, dot(p, away)), Math.max(high, dot(p, away))],
    [Infinity, -Infinity],
  );
}

/** Whether a solid is cut, lies beyond the cut, or before it. */
export function whereOf(brush: Brush, view: DrawingView): DrawnBrush['where'] {
  const [near, far] = reachOf(brush, view);
  if (near - view.cut >= -1e-6) return 'beyond';
  return far > view.cut ? 'cut' : 'before';
}

function project(brush: Brush, view: DrawingView): DrawnBrush {
  const lies = whereOf(brush, view);
  const points = lies === 'cut' ? cutOutline(brush, { normal: view.away, distance: view.cut }) : null;
  const planes = brushPlanes(brush);
  /** What lies before the cut is taken off the faces of a brush that is cut. */
  const before: Plane = { normal: [-view.away[0], -view.away[1], -view.away[2]], distance: -view.cut };
  const outlines: DrawnOutline[] = [];
  for (let i = 0; i < brush.faces.length; i++) {
    if (dot(planes[i]!.normal, view.away) >= -1e-6) continue;
    const whole = brush.faces[i]!.loop.map((k) => brush.vertices[k]!);
    const shown = points ? clipBehind(whole, before) : whole;
    if (shown) outlines.push({ points: shown, face: i, depth: beyond(view, centroid(shown)) });
  }
  if (points) return { brush, where: 'cut', outlines: [{ points, face: -1, depth: 0 }], below: outlines };
  return { brush, where: lies === 'beyond' ? 'beyond' : 'before', outlines };
}

/** Everything a drawing shows of some brushes, farthest first. */
export function drawnBrushes(
  brushes: Iterable<Brush>,
  view: DrawingView,
): { cut: DrawnBrush[]; before: DrawnBrush[]; faces: { drawn: DrawnBrush; points: readonly Vec3[]; depth: number }[] } {
  const cut: DrawnBrush[] = [];
  const before: DrawnBrush[] = [];
  const faces: { drawn: DrawnBrush; points: readonly Vec3[]; depth: number }[] = [];
  for (const brush of brushes) {
    const drawn = drawnBrush(brush, view);
    if (drawn.where === 'cut') {
      cut.push(drawn);
      for (const o of drawn.below ?? [])
        if (o.depth <= view.reach) faces.push({ drawn, points: o.points, depth: o.depth });
    } else if (drawn.where === 'before') before.push(drawn);
    else
      for (const o of drawn.outlines)
        if (o.depth <= view.reach) faces.push({ drawn, points: o.points, depth: o.depth });
  }
  faces.sort((a, b) => b.depth - a.depth);
  return { cut, before, faces };
}

/** Paths of whatever kind, to which closed outlines are added. */
export interface PathMaker<P> {
  readonly make: () => P;
  readonly trace: (path: P, points: readonly Vec3[]) => void;
}

/** Faces that look alike and lie at one depth, as one path. */
export interface FaceBatch<P> {
  readonly role: Role;
  /** How far beyond the cut, cm. */
  readonly depth: number;
  readonly path: P;
}

/** What a drawing shows of some brushes, in paths. */
export interface SheetContents<P> {
  /** Farthest first. */
  readonly faces: readonly FaceBatch<P>[];
  readonly before: P;
  readonly cut: readonly { readonly role: Role; readonly path: P }[];
}

const SAME_DEPTH = 0.01;

/** Sorted by depth, so what can be one path follows one another; faces at one depth do not hide each other. */
export function batchFor<P>(faces: FaceBatch<P>[], role: Role, depth: number, make: () => P): FaceBatch<P> {
  const last = faces.at(-1);
  if (last && last.role === role && Math.abs(last.depth - depth) <= SAME_DEPTH) return last;
  const batch = { role, depth, path: make() };
  faces.push(batch);
  return batch;
}

export function pathOf<P>(byRole: Map<Role, P>, role: Role, make: () => P): P {
  let path = byRole.get(role);
  if (path === undefined) byRole.set(role, (path = make()));
  return path;
}

/** The paths of some brushes. */
export function sheetContents<P>(
  brushes: Iterable<Brush>,
  view: DrawingView,
  { make, trace }: PathMaker<P>,
): SheetContents<P> {
  const drawn = drawnBrushes(brushes, view);
  const faces: FaceBatch<P>[] = [];
  for (const { drawn: d, points, depth } of drawn.faces) trace(batchFor(faces, d.brush.role, depth, make).path, points);
  const before = make();
  for (const { outlines, brush } of drawn.before) if (!brush.room) for (const o of outlines) trace(before, o.points);
  const byRole = new Map<Role, P>();
  for (const { brush, outlines } of drawn.cut) {
    // A cap of sky is there to seal, not to be built: where it is cut it is only hinted at.
    const path = brush.faces.some((f) => f.show === 'sky') ? before : pathOf(byRole, brush.role, make);
    for (const o of outlines) trace(path, o.points);
  }
  return { faces, before, cut: [...byRole].map(([role, path]) => ({ role, path })) };
}

const silhouettes = new WeakMap<Brush, Map<string, readonly Vec3[]>>();

/** The corners of a convex solid that lie outermost as a drawing shows it, in order. */
export function silhouette(brush: Brush, view: Pick<DrawingView, 'right' | 'up'>): readonly Vec3[] {
  const key = `${view.right.join(' ')} ${view.up.join(' ')}`;
  let known = silhouettes.get(brush);
  if (!known) silhouettes.set(brush, (known = new Map<string, readonly Vec3[]>()));
  let out = known.get(key);
  if (out) return out;
  const seen = brush.vertices.map((p) => ({ p, x: dot(p, view.right), y: dot(p, view.up) }));
  out = planeHull(seen).map(({ p }) => p);
  known.set(key, out);
  return out;
}

/** The outline of a prop's solid as drawings show it: how it lies, and after what it is drawn (those of a higher order later). */
export interface PropOutline {
  readonly where: DrawnBrush['where'];
  readonly order: number;
  readonly points: readonly Vec3[];
}

/** What lies within so much (cm) of depth is drawn at once. */
const TOGETHER = 24;

/** Null for what lies too far beyond the cut to be seen. */
export function propOutline(brush: Brush, view: DrawingView): PropOutline | null {
  const where = whereOf(brush, view);
  const deep = where === 'beyond' ? reachOf(brush, view)[0] - view.cut : 0;
  if (deep > view.reach) return null;
  const order = where === 'beyond' ? -Math.floor(deep / TOGETHER) : where === 'cut' ? 1 : 2;
  return { where, order, points: silhouette(brush, view) };
}
