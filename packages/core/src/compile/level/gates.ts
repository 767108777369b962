import { DRAWN_ROLES, type Brush } from '../../brush/index.ts';
import { bodiesOf, type Body, type MapDocument } from '../../map/index.ts';
import { dot, subtractWinding, windingArea, type Vec3, type Winding } from '../../math/index.ts';
import type { MaterialLookup } from '../../surface/index.ts';
import { flatHull, sidesOf, type Areas } from '../structure/index.ts';
import type { KeptCells } from './space.ts';

/** A gate as play needs it. */
export interface LevelGate {
  readonly brush: string;
  /** The bodies that close it while all of them are where they were drawn: their places in `meta.bodies`. None: it never closes. */
  readonly bodies: readonly number[];
  /** The areas that it parts. */
  readonly areas: readonly number[];
  readonly cells: readonly number[];
}

/** Gates as they stand, each with whether a door closes it: what checks ask. */
export function gatesOf(doc: MapDocument, { gates }: Areas, materials: MaterialLookup) {
  const bodies = bodiesOf(doc);
  return gates.map((gate) => {
    const brush = doc.brushes.get(gate.brush);
    return { ...gate, closes: brush !== undefined && closing(brush, bodies, materials).length > 0 };
  });
}

/** What of a gate may stay open round its door: this share of its area. */
const UNFILLED = 1e-3;

/** Gates with what closes them. Of a door every part has to be drawn and solid, and together they have to fill the gate. */
export function packGates(
  doc: MapDocument,
  areas: Areas,
  kept: KeptCells,
  materials: MaterialLookup,
): { gates: LevelGate[]; cellArea: Int32Array } {
  const bodies = bodiesOf(doc);
  const cellArea = new Int32Array(kept.cells.length);
  areas.areaOf.forEach((area, cell) => {
    if (kept.number[cell]! >= 0) cellArea[kept.number[cell]!] = area;
  });
  const gates = areas.gates.map(({ brush, cells, areas: parted, gaps }): LevelGate => {
    const gate = doc.brushes.get(brush);
    return {
      brush,
      bodies: gate && gaps.length === 0 ? closing(gate, bodies, materials) : [],
      areas: parted,
      cells: cells.map((c) => kept.number[c]!),
    };
  });
  return { gates, cellArea };
}

/** The bodies that together fill a gate where they were drawn; none when they leave any of it open. */
export function closing(gate: Brush, bodies: readonly Pick<Body, 'brushes'>[], materials: MaterialLookup): number[] {
  const side = sidesOf(gate);
  if (!side) return [];
  const { plane, winding, depth } = side;
  const full = windingArea(winding);
  let open: Winding[] = [winding];
  const used: number[] = [];
  bodies.forEach(({ brushes }, k) => {
    const shades = brushes
      .filter((b) => isOpaque(b, materials))
      .flatMap((b) => shadeOf(b, plane.normal, plane.distance, depth));
    let left = open;
    for (const shade of shades) left = left.flatMap((part) => subtractWinding(part, shade, plane.normal));
    if (areaOf(left) < areaOf(open) - full * UNFILLED) used.push(k);
    open = left;
  });
  return areaOf(open) <= full * UNFILLED ? used : [];
}

const areaOf = (parts: readonly Winding[]): number => parts.reduce((n, w) => n + windingArea(w), 0);

/** Whether a brush hides all that is behind it. */
function isOpaque(brush: Brush, materials: MaterialLookup): boolean {
  return (
    DRAWN_ROLES.has(brush.role) &&
    brush.role !== 'liquid' &&
    brush.faces.every((f) => f.show === undefined && (materials(f.material)?.solidity ?? 'solid') === 'solid')
  );
}

/** What a solid that stands in a gate hides of it: its outline as seen through the gate. None for one that stands beside. */
function shadeOf({ vertices }: Brush, normal: Vec3, distance: number, depth: number): Winding[] {
  const off = vertices.map((v) => dot(normal, v) - distance);
  if (Math.max(...off) < -depth || Math.min(...off) > 0) return [];
  const hull = flatHull(
    vertices.map((v, i) => v.map((c, k) => c - normal[k]! * off[i]!) as unknown as Vec3),
    normal,
  );
  return hull.length >= 3 ? [hull] : [];
}

/**
 * The areas that are reached from a cell through gates that are open, one byte an area; `closed` tells of a gate. Whoever stands in a
 * gate reaches both sides of it. Null where no gate parts anything: everything is reached.
 */
export function openAreas(
  {
    meta: { gates, areas },
    cellArea,
  }: { readonly meta: { readonly gates: readonly LevelGate[]; readonly areas: number }; readonly cellArea: Int32Array },
  cell: number,
  closed: (gate: number) => boolean,
): Uint8Array | null {
  if (gates.length === 0 || cell < 0) return null;
  const open = new Uint8Array(areas);
  const from =
    cellArea[cell]! >= 0 ? [cellArea[cell]!] : gates.filter((g) => g.cells.includes(cell)).flatMap((g) => g.areas);
  for (const a of from) open[a] = 1;
  for (let more = true; more;) {
    more = false;
    gates.forEach((gate, g) => {
      if (!gate.areas.some((a) => open[a]) || gate.areas.every((a) => open[a]) || closed(g)) return;
      for (const a of gate.areas) open[a] = 1;
      more = true;
    });
  }
  return open;
}
