import { brushBounds, brushContains, brushPlanes, faceWinding, type Brush } from '../../brush/index.ts';
import {
  boxesOverlap,
  boxSize,
  centroid,
  ON_PLANE,
  signedDistance,
  windingArea,
  type Plane,
  type Winding,
} from '../../math/index.ts';
import type { Gate } from '../../checks/index.ts';
import type { Structure } from './types.ts';

/** The inside parted by its gates. */
export interface Areas {
  /** Of each cell its area: cells of one are joined by ways that lead through no gate. −1 in gates and in the void. */
  readonly areaOf: Int32Array;
  readonly count: number;
  /** In id order. */
  readonly gates: readonly Gate[];
}

/** A face of a gate that is at least this share of its largest is a side one goes through; others are its rim. */
const SIDE = 0.5;

/** Finds what gates part: whether or not they fit where they stand. */
export function areasOf(structure: Structure, brushes: Iterable<Brush>): Areas {
  const { cells, portals } = structure;
  const standing = [...brushes].filter((b) => b.role === 'gate').sort((a, b) => (a.id < b.id ? -1 : 1));
  const gateOf = new Int32Array(cells.length).fill(-1);
  // Where gates stand within one another the largest has it, whatever they are called.
  const sizes = standing.map((brush) => boxSize(brushBounds(brush)).reduce((v, side) => v * side, 1));
  const largest = [...standing.keys()].sort((a, b) => sizes[b]! - sizes[a]! || a - b);
  for (const g of largest) {
    const brush = standing[g]!;
    const bounds = brushBounds(brush);
    cells.forEach((cell, c) => {
      if (!cell.inside || gateOf[c]! >= 0 || cell.sides.length === 0 || !boxesOverlap(cell.bounds, bounds)) return;
      if (brushContains(brush, centroid(cell.sides.flat()), 0)) gateOf[c] = g;
    });
  }
  const areaOf = new Int32Array(cells.length).fill(-1);
  let count = 0;
  cells.forEach((cell, start) => {
    if (!cell.inside || gateOf[start]! >= 0 || areaOf[start]! >= 0) return;
    const area = count++;
    areaOf[start] = area;
    const stack = [start];
    for (let c = stack.pop(); c !== undefined; c = stack.pop())
      for (const p of cells[c]!.portals) {
        const next = portals[p]!.a === c ? portals[p]!.b : portals[p]!.a;
        if (!cells[next]!.inside || gateOf[next]! >= 0 || areaOf[next]! >= 0) continue;
        areaOf[next] = area;
        stack.push(next);
      }
  });
  const gates = standing.map((brush, g): Gate => {
    const own = cells.flatMap((_, c) => (gateOf[c] === g ? [c] : []));
    const rims = rimPlanes(brush);
    const areas = new Set<number>();
    const gaps: Winding[] = [];
    for (const c of own)
      for (const p of cells[c]!.portals) {
        const { a, b, winding } = portals[p]!;
        const other = a === c ? b : a;
        if (areaOf[other]! < 0) continue;
        if (rims.some((rim) => winding.every((q) => Math.abs(signedDistance(rim, q)) <= ON_PLANE * 2)))
          gaps.push(winding);
        areas.add(areaOf[other]!);
      }
    return { brush: brush.id, cells: own, areas: [...areas].sort((x, y) => x - y), gaps };
  });
  return { areaOf, count, gates };
}

function rimPlanes(brush: Brush): Plane[] {
  const areas = brush.faces.map((_, i) => windingArea(faceWinding(brush, i)));
  const most = Math.max(...areas);
  return brushPlanes(brush).filter((_, i) => areas[i]! < most * SIDE);
}

/** The two largest faces of a brush that look opposite ways: what one goes through of a gate. Null for one without. */
export function sidesOf(
  brush: Brush,
): { readonly winding: Winding; readonly plane: Plane; readonly depth: number } | null {
  const planes = brushPlanes(brush);
  let best = -1;
  let most = 0;
  brush.faces.forEach((_, i) => {
    const area = windingArea(faceWinding(brush, i));
    if (area > most) [best, most] = [i, area];
  });
  if (best < 0) return null;
  const plane = planes[best]!;
  const far = Math.max(...brush.vertices.map((p) => -signedDistance(plane, p)));
  return { winding: faceWinding(brush, best), plane, depth: far };
}
