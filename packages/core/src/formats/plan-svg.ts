import { brushBounds, brushPlanes, type Brush } from '../brush/index.ts';
import { firstSpawn } from '../entity/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { Plane } from '../math/index.ts';
import { cutOutline } from './drawing/index.ts';

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

const drawnRole = ({ role }: Brush): boolean => role === 'structure' || role === 'detail';

/** The height most rooms are cut by: a metre above the first spawn, the lowest floor, or the lowest solid; cm. */
export function usualCut(doc: MapDocument): number {
  const at = firstSpawn(doc.entities.values())?.at[2];
  if (at !== undefined) return at + 100;
  const floors = [...doc.rooms.values()].map((r) => r.floor);
  const lows =
    floors.length > 0 ? floors : [...doc.brushes.values()].filter(drawnRole).map((b) => brushBounds(b).min[2]);
  return lows.reduce((least, z) => Math.min(least, z), lows[0] ?? 0) + 100;
}

/** Draws the plan of a map at the height most rooms are cut by. Null for an empty map. */
export function planDrawing(doc: MapDocument): PlanDrawing | null {
  const solids = [...doc.brushes.values()].filter(drawnRole);
  if (solids.length === 0) return null;
  const plane: Plane = { normal: [0, 0, 1], distance: usualCut(doc) + 0.5 };
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
