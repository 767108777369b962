import { DRAWN_ROLES, brushBounds, brushPlanes, faceWinding, type Brush } from '../../brush/index.ts';
import {
  boxesOverlap,
  clipBehind,
  flipPlane,
  intersectWindings,
  samePlane,
  splitWinding,
  subtractWinding,
  windingArea,
  type Box,
  type Plane,
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
  const planes: Plane[] = [];
  const table = new Map<string, number[]>();
  const nodes: { plane: number; front: number; back: number }[] = [];
  const leaves: (Polyhedron | null)[] = [];

  const indexOf = (plane: Plane): { index: number; along: boolean } => {
    const n = plane.normal;
    const along = n[0] > 1e-9 || (Math.abs(n[0]) <= 1e-9 && (n[1] > 1e-9 || (Math.abs(n[1]) <= 1e-9 && n[2] > 0)));
    const facing = along ? plane : flipPlane(plane);
    // Neighbouring keys are searched too: two almost equal planes may round to different sides.
    const at = Math.round(facing.distance);
    for (let k = at - 1; k <= at + 1; k++)
      for (const i of table.get(keyOf(facing, k)) ?? []) if (samePlane(planes[i]!, facing)) return { index: i, along };
    planes.push(facing);
    const key = keyOf(facing, at);
    const list = table.get(key);
    if (list) list.push(planes.length - 1);
    else table.set(key, [planes.length - 1]);
    return { index: planes.length - 1, along };
  };

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
    if (brush.role !== 'structure' && brush.role !== 'hint') continue;
    const shape = clipToBox(brushPolyhedron(brush, indexOf), box);
    if (shape) fragments.push({ shape, solid: brush.role === 'structure' });
  }
  const root = divide(boxPolyhedron(box), fragments);
  const hints = fragments.filter((f) => !f.solid).flatMap((f) => f.shape.faces.filter((face) => face.plane >= 0));
  const { leafCell, ...space } = mergeLeaves(leaves, planes, hints);
  const tree = { planes, nodes, root, leafCell };
  return { box, ...tree, ...space, pieces: openPieces(box, brushes, tree, indexOf) };
}

const keyOf = (p: Plane, distance: number): string =>
  `${Math.round(p.normal[0] * 1000)},${Math.round(p.normal[1] * 1000)},${Math.round(p.normal[2] * 1000)},${distance}`;

type IndexOf = (plane: Plane) => { index: number; along: boolean };

function brushPolyhedron(brush: Brush, indexOf: IndexOf): Polyhedron {
  const planes = brushPlanes(brush);
  return makePolyhedron(
    brush.faces.map((_, i): PolyFace => {
      const { index, along } = indexOf(planes[i]!);
      return { winding: faceWinding(brush, i), plane: index, along, open: true };
    }),
  );
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

/** At most this many planes are weighed at a node; in crowded regions an even sample finds nearly as good a one. */
const WEIGHED = 24;

/** The plane to divide a region by: hints first, then few splits, even halves, axis planes; −1 when nothing is left. */
function chooseSplit(region: Polyhedron, fragments: readonly Fragment[], planes: readonly Plane[]): number {
  const counts = new Map<number, number>();
  let hint = -1;
  for (const f of fragments)
    for (const face of f.shape.faces) {
      if (!face.open) continue;
      if (!f.solid && hint < 0) hint = face.plane;
      counts.set(face.plane, (counts.get(face.plane) ?? 0) + 1);
    }
  if (hint >= 0) return hint;
  if (counts.size <= 1) return counts.size ? counts.keys().next().value! : -1;
  const candidates = [...counts.keys()];
  const stride = Math.max(1, Math.floor(candidates.length / WEIGHED));
  let best = -1;
  let bestCost = Infinity;
  for (let i = 0; i < candidates.length; i += stride) {
    const index = candidates[i]!;
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
      counts.get(index)! * 2 +
      (axial ? 0 : 6) +
      (sideOfPlane(region, plane) === 0 ? 0 : -100);
    if (cost < bestCost) [best, bestCost] = [index, cost];
  }
  return best;
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
