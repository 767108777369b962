import { DRAWN_ROLES, brushBounds, brushPlanes, faceWinding, type Brush, type Role } from '../../brush/index.ts';
import {
  boxesOverlap,
  clipBehind,
  intersectWindings,
  samePlane,
  splitWinding,
  subtractWinding,
  windingArea,
  type Box,
  type Plane,
  type Vec3,
  type Winding,
} from '../../math/index.ts';
import { mergeLeaves } from './cells.ts';
import {
  boxPolyhedron,
  makePolyhedron,
  sideOfPlane,
  splitPolyhedron,
  type PolyFace,
  type Polyhedron,
} from './polyhedron.ts';
import { PlaneTable } from './planes.ts';

/** A part of a brush's face that looks into open space, in one cell of the block. */
export interface FacePiece {
  readonly brush: Brush;
  readonly face: number;
  readonly winding: Winding;
  readonly cell: number;
}

/** What one block of the world was found to be. Depends on the block's own brushes alone, so it can be kept while they stay. */
export interface Block {
  readonly box: Box;
  readonly planes: readonly Plane[];
  /** Inner nodes: plane, child in front, child behind. A child ≥ 0 is a node, otherwise leaf `−1 − child`. */
  readonly nodes: readonly { readonly plane: number; readonly front: number; readonly back: number }[];
  readonly root: number;
  /** Cell of each leaf, −1 for solid ones. */
  readonly leafCell: readonly number[];
  readonly cells: readonly Polyhedron[];
  /** Links between cells of this block; the winding looks from `a` to `b`. */
  readonly links: readonly {
    readonly a: number;
    readonly b: number;
    readonly winding: Winding;
    readonly plane: Plane;
  }[];
  readonly pieces: readonly FacePiece[];
  /** The leaves before they were joined (null: solid) and the links between them: where a leak is looked for. */
  readonly leaves: readonly (Polyhedron | null)[];
  readonly leafLinks: Block['links'];
}

/** A piece of a brush within a region of the tree. */
interface Fragment {
  readonly shape: Polyhedron;
  readonly solid: boolean;
}

/**
 * Divides one block of space by the planes of the brushes in it into solid and empty convex leaves, joins empty leaves
 * into cells, and finds which parts of the faces look into open space. `brushes` must be in id order.
 */
export function buildBlock(box: Box, brushes: readonly Brush[]): Block {
  const table = new PlaneTable();
  const { planes } = table;
  const indexOf: IndexOf = (plane) => table.indexOf(plane);
  const nodes: { plane: number; front: number; back: number }[] = [];
  const leaves: (Polyhedron | null)[] = [];

  const leaf = (region: Polyhedron | null): number => -leaves.push(region);

  const divide = (region: Polyhedron, fragments: readonly Fragment[]): number => {
    // A fragment without open faces fills the region.
    if (fragments.some((f) => f.solid && f.shape.faces.every((face) => !face.open))) return leaf(null);
    const index = chooseSplit(region, fragments, planes);
    if (index < 0) return leaf(region);
    const plane = planes[index]!;
    const side = sideOfPlane(region, plane);
    const front: Fragment[] = [];
    const back: Fragment[] = [];
    for (const fragment of fragments) {
      const shape = closeOn(fragment.shape, index);
      const where = sideOfPlane(shape, plane);
      if (where === 1) front.push({ ...fragment, shape });
      else if (where === -1) back.push({ ...fragment, shape });
      else if (where === 0) {
        const halves = splitPolyhedron(shape, plane, index);
        front.push({ ...fragment, shape: halves.front });
        back.push({ ...fragment, shape: halves.back });
      }
    }
    // The plane only grazes the region: nothing to divide, go on with the side that has room.
    if (side !== 0) return divide(region, side === 1 ? front : back);
    const halves = splitPolyhedron(region, plane, index);
    const at = nodes.push({ plane: index, front: 0, back: 0 }) - 1;
    const node = nodes[at]!;
    node.front = divide(halves.front, front);
    node.back = divide(halves.back, back);
    return at;
  };

  const fragments: Fragment[] = [];
  for (const brush of brushes) {
    if (brush.role !== 'structure' && !DIVIDING_ROLES.has(brush.role)) continue;
    const shape = clipToBox(dividingShape(brush, indexOf), box);
    if (shape) fragments.push({ shape, solid: brush.role === 'structure' });
  }
  const root = divide(boxPolyhedron(box), fragments);
  const hints = fragments.filter((f) => !f.solid).flatMap((f) => f.shape.faces.filter((face) => face.open));
  const { leafCell, ...space } = mergeLeaves(leaves, planes, hints);
  const tree = { planes, nodes, root, leafCell };
  return { box, ...tree, ...space, pieces: openPieces(box, brushes, tree, indexOf) };
}

export type IndexOf = (plane: Plane) => { index: number; along: boolean };

function brushPolyhedron(brush: Brush, indexOf: IndexOf): Polyhedron {
  const planes = brushPlanes(brush);
  return makePolyhedron(
    brush.faces.map((_, i): PolyFace => {
      const { index, along } = indexOf(planes[i]!);
      return { winding: faceWinding(brush, i), plane: index, along, open: true };
    }),
  );
}

/** A face of a hint smaller than this share of its largest is a rim: a hint drawn as a thin slab divides by its two sides. */
const RIM = 0.25;

/** What divides space without filling it. */
export const DIVIDING_ROLES: ReadonlySet<Role> = new Set(['hint', 'gate']);

/** A brush as it divides space: a hint by its two sides alone, all others, gates among them, by all that they have. */
export function dividingShape(brush: Brush, indexOf: IndexOf): Polyhedron {
  const whole = brushPolyhedron(brush, indexOf);
  return brush.role === 'hint' ? withoutRims(whole) : whole;
}

function withoutRims({ faces, bounds }: Polyhedron): Polyhedron {
  const areas = faces.map((f) => windingArea(f.winding));
  const least = Math.max(...areas) * RIM;
  return { bounds, faces: faces.map((f, i) => (areas[i]! < least ? { ...f, open: false } : f)) };
}

/** The part of a brush within a block. Faces left on the block's sides no longer divide anything. */
function clipToBox(shape: Polyhedron, box: Box): Polyhedron | null {
  let out = shape;
  for (const plane of boxPlanes(box)) {
    const side = sideOfPlane(out, plane);
    if (side === 1 || side === 2) return null;
    if (side === 0) out = splitPolyhedron(out, plane, -1).back;
  }
  return out;
}

export const boxPlanes = ({ min, max }: Box): Plane[] => [
  { normal: [-1, 0, 0], distance: -min[0] },
  { normal: [1, 0, 0], distance: max[0] },
  { normal: [0, -1, 0], distance: -min[1] },
  { normal: [0, 1, 0], distance: max[1] },
  { normal: [0, 0, -1], distance: -min[2] },
  { normal: [0, 0, 1], distance: max[2] },
];

/** Marks the faces of a fragment that lie in a plane as used up. */
function closeOn(shape: Polyhedron, plane: number): Polyhedron {
  if (!shape.faces.some((f) => f.open && f.plane === plane)) return shape;
  return {
    bounds: shape.bounds,
    faces: shape.faces.map((f) => (f.open && f.plane === plane ? { ...f, open: false } : f)),
  };
}

/** At most this many planes are weighed at a node, those with the largest faces: what divides a region well is large in it. */
const WEIGHED = 24;
/** How many splits a plane is worth whose faces fill the whole section of a region: walls divide rooms where they stand. */
const FILLING = 60;
/** A hint that fills at least this share of a region's section comes before all else; one that ends in it waits for the solids. */
const HINT_FIRST = 0.5;

/**
 * The plane to divide a region by: hints that lie right across it first, then planes whose faces fill its section, few splits, even
 * halves, axis planes; −1 when nothing is left.
 */
function chooseSplit(region: Polyhedron, fragments: readonly Fragment[], planes: readonly Plane[]): number {
  const found = new Map<number, { count: number; area: number; solid: boolean; hint: number }>();
  for (const f of fragments)
    for (const face of f.shape.faces) {
      if (!face.open) continue;
      let at = found.get(face.plane);
      if (!at) found.set(face.plane, (at = { count: 0, area: 0, solid: false, hint: 0 }));
      at.count++;
      const area = windingArea(face.winding);
      at.area += area;
      if (f.solid) at.solid = true;
      else at.hint += area;
    }
  if (found.size <= 1) return found.size ? found.keys().next().value! : -1;
  const filled = (index: number, area: number) => Math.min(1, area / sectionArea(region.bounds, planes[index]!.normal));
  const solid = [...found].filter(([, { solid }]) => solid);
  let first = -1;
  let most = solid.length ? HINT_FIRST : 0;
  for (const [index, { hint }] of found) {
    const share = hint > 0 ? filled(index, hint) : 0;
    if (share > most) [first, most] = [index, share];
  }
  if (first >= 0) return first;
  const candidates = solid.length ? solid : [...found];
  if (candidates.length > WEIGHED) candidates.sort((a, b) => b[1].area - a[1].area || a[0] - b[0]);
  let best = -1;
  let bestCost = Infinity;
  for (const [index, { count, area }] of candidates.slice(0, WEIGHED)) {
    const plane = planes[index]!;
    let front = 0;
    let back = 0;
    let across = 0;
    for (const f of fragments) {
      const side = sideOfPlane(f.shape, plane);
      if (side === 1) front++;
      else if (side === -1) back++;
      else if (side === 0) across++;
    }
    const axial = plane.normal[0] === 1 || plane.normal[1] === 1 || plane.normal[2] === 1;
    const cost =
      across * 5 +
      Math.abs(front - back) -
      count * 2 -
      FILLING * filled(index, area) +
      (axial ? 0 : 6) +
      (sideOfPlane(region, plane) === 0 ? 0 : -100);
    if (cost < bestCost) [best, bestCost] = [index, cost];
  }
  return best;
}

/** Area (cm²) of a box as seen along a direction. */
function sectionArea({ min, max }: Box, [x, y, z]: Vec3): number {
  const [a, b, c] = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
  return Math.abs(x) * b * c + Math.abs(y) * a * c + Math.abs(z) * a * b;
}

type Tree = Pick<Block, 'planes' | 'nodes' | 'root' | 'leafCell'>;

/** The parts of all faces in a block that look into empty leaves. Of faces in one plane that look the same way, the first brush's wins. */
function openPieces(box: Box, brushes: readonly Brush[], tree: Tree, indexOf: IndexOf): FacePiece[] {
  const pieces: FacePiece[] = [];
  const sides = boxPlanes(box);
  const onPlane = new Map<string, { brush: Brush; winding: Winding; bounds: Box }[]>();
  for (const brush of brushes) {
    if (!DRAWN_ROLES.has(brush.role)) continue;
    const planes = brushPlanes(brush);
    for (let i = 0; i < brush.faces.length; i++) {
      const plane = planes[i]!;
      let winding: Winding | null = faceWinding(brush, i);
      // A face in the block's side belongs to the block it looks into.
      for (let s = 0; s < 6 && winding; s++) winding = clipBehind(winding, sides[s]!, !samePlane(sides[s]!, plane));
      if (!winding) continue;
      const { index, along } = indexOf(plane);
      const key = `${index} ${along} ${brush.role}`;
      const before = onPlane.get(key) ?? [];
      let parts: Winding[] = [winding];
      for (const other of before) {
        if (!boxesOverlap(brushBounds(brush), brushBounds(other.brush), -1)) continue;
        parts = parts.flatMap((part) =>
          overlaps(part, other.winding, plane) ? subtractWinding(part, other.winding, plane.normal) : [part],
        );
      }
      before.push({ brush, winding, bounds: brushBounds(brush) });
      onPlane.set(key, before);
      if (brush.faces[i]!.show === 'unseen') continue;
      for (const part of parts)
        sift(tree, tree.root, part, index, along, (cell, w) => pieces.push({ brush, face: i, winding: w, cell }));
    }
  }
  return pieces;
}

function overlaps(a: Winding, b: Winding, plane: Plane): boolean {
  const shared = intersectWindings(a, b, plane.normal);
  return shared !== null && windingArea(shared) > 0.05;
}

/** Sends a polygon down the tree and gives out what arrives in empty leaves. */
function sift(
  tree: Tree,
  at: number,
  w: Winding,
  plane: number,
  along: boolean,
  give: (cell: number, w: Winding) => void,
): void {
  if (at < 0) {
    const cell = tree.leafCell[-1 - at]!;
    if (cell >= 0) give(cell, w);
    return;
  }
  const node = tree.nodes[at]!;
  if (node.plane === plane) return sift(tree, along ? node.front : node.back, w, plane, along, give);
  const { front, back } = splitWinding(w, tree.planes[node.plane]!);
  if (front) sift(tree, node.front, front, plane, along, give);
  if (back) sift(tree, node.back, back, plane, along, give);
  // Within tolerance of a node's plane without being in it: it belongs to the side it looks into.
  if (!front && !back) {
    const n = tree.planes[node.plane]!.normal;
    const m = tree.planes[plane]!.normal;
    const same = n[0] * m[0] + n[1] * m[1] + n[2] * m[2] > 0 === along;
    sift(tree, same ? node.front : node.back, w, plane, along, give);
  }
}
