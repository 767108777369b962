import { brushBounds, brushPlanes, type Brush } from '../brush/index.ts';
import { firstSpawn } from '../entity/index.ts';
import type { MapDocument } from '../map/index.ts';
import { orderRound } from '../compile/index.ts';
import { meetPlane, signedDistance, type Plane, type Vec3 } from '../math/index.ts';

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

/** A small plan of a map in SVG path data: cut solids, things beyond, and the view box that holds it. For cards. */
export interface PlanDrawing {
  readonly viewBox: readonly [number, number, number, number];
  /** Solids the cut passes through. */
  readonly cut: string;
  /** Outlines of floors below the cut. */
  readonly below: string;
}

const path = (points: readonly (readonly number[])[]): string =>
  `M${points.map((p) => `${Math.round(p[0]!)} ${Math.round(-p[1]!)}`).join('L')}Z`;

/** Draws the plan of a map at the height most rooms are cut by: a metre above the lowest spawn or floor. Null for an empty map. */
export function planDrawing(doc: MapDocument): PlanDrawing | null {
  const solids = [...doc.brushes.values()].filter((b) => b.role === 'structure' || b.role === 'detail');
  if (solids.length === 0) return null;
  const spawn = firstSpawn(doc.entities.values());
  const floors = [...doc.rooms.values()].map((r) => r.floor);
  const base =
    spawn?.at[2] ?? (floors.length ? Math.min(...floors) : Math.min(...solids.map((b) => brushBounds(b).min[2])));
  const plane: Plane = { normal: [0, 0, 1], distance: base + 100.5 };
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  let cut = '';
  let below = '';
  for (const b of solids) {
    const { min, max } = brushBounds(b);
    [x0, y0, x1, y1] = [Math.min(x0, min[0]), Math.min(y0, min[1]), Math.max(x1, max[0]), Math.max(y1, max[1])];
    const outline = cutOutline(b, plane);
    if (outline) cut += path(outline);
    else if (max[2] < plane.distance) {
      const top = brushPlanes(b).reduce((best, p, i) => (p.normal[2] > brushPlanes(b)[best]!.normal[2] ? i : best), 0);
      below += path(b.faces[top]!.loop.map((i) => b.vertices[i]!));
    }
  }
  return { viewBox: [x0, -y1, x1 - x0, y1 - y0].map(Math.round) as unknown as PlanDrawing['viewBox'], cut, below };
}
