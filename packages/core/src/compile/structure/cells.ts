import {
  flipPlane,
  intersectWindings,
  ON_PLANE,
  planeFromLoop,
  signedDistance,
  windingArea,
  type Box,
  type Plane,
  type Winding,
} from '../../math/index.ts';
import { flatHull, makePolyhedron, type PolyFace, type Polyhedron } from './polyhedron.ts';

/**
 * Nothing gets out through portals smaller than this (cm²): a hundredth of the smallest possible hole between grid corners. What
 * is seen may still be seen through them.
 */
export const MIN_PORTAL = 0.01;
/** Under this (cm²) a portal is the rounding of an edge, as is what is thinner than the tolerance it is found with (cm). */
const NO_PORTAL = 1e-4;
const THINNEST = 1e-4;

export interface CellLink {
  readonly a: number;
  readonly b: number;
  /** Counter-clockwise seen from `b`: it looks from `a` into `b`. */
  readonly winding: Winding;
  readonly plane: Plane;
}

/** The bounds of two polygons in one plane overlap. */
const near = (a: Box, b: Box): boolean =>
  a.min[0] <= b.max[0] + ON_PLANE &&
  b.min[0] <= a.max[0] + ON_PLANE &&
  a.min[1] <= b.max[1] + ON_PLANE &&
  b.min[1] <= a.max[1] + ON_PLANE &&
  a.min[2] <= b.max[2] + ON_PLANE &&
  b.min[2] <= a.max[2] + ON_PLANE;

interface Side {
  readonly owner: number;
  readonly winding: Winding;
  readonly bounds: Box;
}

/** Where faces of one plane that look opposite ways meet. `out` faces look along the plane, `inn` faces against it. */
export function matchSides(
  out: readonly Side[],
  inn: readonly Side[],
  plane: Plane,
  give: (link: CellLink) => void,
): void {
  for (const a of out)
    for (const b of inn) {
      if (a.owner === b.owner || !near(a.bounds, b.bounds)) continue;
      const winding = intersectWindings(a.winding, b.winding.toReversed(), plane.normal, THINNEST);
      if (winding && windingArea(winding) > NO_PORTAL) give({ a: a.owner, b: b.owner, winding, plane });
    }
}

export const sideFace = (owner: number, winding: Winding): Side => ({
  owner,
  winding,
  bounds: makePolyhedron([{ winding } as PolyFace]).bounds,
});

/**
 * Joins empty leaves into convex cells, and links the cells. `leaves` holds null for solid leaves. Across the faces of `hints`
 * nothing is joined: they were put there to divide.
 */
export function mergeLeaves(
  leaves: readonly (Polyhedron | null)[],
  planes: readonly Plane[],
  hints: readonly PolyFace[],
) {
  const raw = linkLeaves(leaves, planes);
  const joined = joinConvex(leaves, planes, raw, hintedBy(planes, hints));
  return {
    cells: joined.shapes,
    leafCell: joined.numbers,
    links: joinLinks(raw, joined.numbers),
    leaves,
    leafLinks: raw,
  };
}

/**
 * Joins convex pieces across what links them as long as the union stays convex, largest opening first; never across those
 * that are `barred`. Gives the joined shapes and each piece's number among them, −1 for those that are null.
 */
export function joinConvex(
  pieces: readonly (Polyhedron | null)[],
  planes: readonly Plane[],
  links: readonly CellLink[],
  isBarred: (link: CellLink) => boolean,
): { shapes: Polyhedron[]; numbers: number[] } {
  const shape: (Polyhedron | null)[] = [...pieces];
  const parent = pieces.map((_, i) => i);
  const find = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  /** Pieces each must never be joined with. */
  const barred = new Map<number, Set<number>>();
  const bar = (a: number, b: number) => barred.get(a)?.add(b) ?? barred.set(a, new Set([b]));
  const bySize: { link: CellLink; area: number; tried: string }[] = [];
  for (const link of links) {
    if (isBarred(link)) {
      bar(link.a, link.b);
      bar(link.b, link.a);
    }
    bySize.push({ link, area: windingArea(link.winding), tried: '' });
  }
  bySize.sort((p, q) => q.area - p.area);
  /** How many joins each has been through: two that did not fit need not be tried again while they are the same. */
  const age = pieces.map(() => 0);
  for (let merged = true; merged;) {
    merged = false;
    for (const entry of bySize) {
      const a = find(entry.link.a);
      const b = find(entry.link.b);
      if (a === b || barred.get(a)?.has(b)) continue;
      const now = `${a} ${age[a]!} ${b} ${age[b]!}`;
      if (now === entry.tried) continue;
      entry.tried = now;
      const union = joinIfConvex(shape[a]!, shape[b]!, entry.link.plane, planes);
      if (!union) continue;
      parent[b] = a;
      shape[a] = union;
      age[a]!++;
      for (const other of barred.get(b) ?? []) {
        bar(a, other);
        bar(other, a);
      }
      merged = true;
    }
  }
  const number = new Map<number, number>();
  const shapes: Polyhedron[] = [];
  const numbers = pieces.map((piece, i) => {
    if (!piece) return -1;
    const top = find(i);
    if (!number.has(top)) number.set(top, shapes.push(shape[top]!) - 1);
    return number.get(top)!;
  });
  return { shapes, numbers };
}

/** Tells whether a face of a hint lies in a link's opening. The links' planes are those of the table. */
export function hintedBy(planes: readonly Plane[], hints: readonly PolyFace[]): (link: CellLink) => boolean {
  const onPlane = new Map<Plane, PolyFace[]>();
  for (const face of hints) {
    const list = onPlane.get(planes[face.plane]!);
    if (list) list.push(face);
    else onPlane.set(planes[face.plane]!, [face]);
  }
  return ({ plane, winding }) =>
    (onPlane.get(plane) ?? []).some((face) => {
      const shared = intersectWindings(winding, face.along ? face.winding : face.winding.toReversed(), plane.normal);
      return shared !== null && windingArea(shared) > MIN_PORTAL;
    });
}

function linkLeaves(leaves: readonly (Polyhedron | null)[], planes: readonly Plane[]): CellLink[] {
  const out = new Map<number, Side[]>();
  const inn = new Map<number, Side[]>();
  leaves.forEach((leaf, owner) => {
    for (const face of leaf?.faces ?? []) {
      if (face.plane < 0) continue;
      const lists = face.along ? out : inn;
      const list = lists.get(face.plane);
      const side = sideFace(owner, face.winding);
      if (list) list.push(side);
      else lists.set(face.plane, [side]);
    }
  });
  const links: CellLink[] = [];
  for (const [plane, sides] of out) matchSides(sides, inn.get(plane) ?? [], planes[plane]!, (link) => links.push(link));
  return links;
}

/**
 * Two convex pieces on either side of a plane have a convex union exactly when each lies behind all the other's
 * remaining faces.
 */
function joinIfConvex(a: Polyhedron, b: Polyhedron, shared: Plane, planes: readonly Plane[]): Polyhedron | null {
  const isShared = (f: PolyFace) => f.winding.every((p) => Math.abs(signedDistance(shared, p)) <= ON_PLANE);
  const restA = a.faces.filter((f) => !isShared(f));
  const restB = b.faces.filter((f) => !isShared(f));
  const behind = (faces: readonly PolyFace[], other: Polyhedron) =>
    faces.every((f) => {
      const plane = facePlane(f, planes);
      return plane === null || other.faces.every((g) => g.winding.every((p) => signedDistance(plane, p) <= ON_PLANE));
    });
  if (!behind(restA, b) || !behind(restB, a)) return null;
  return makePolyhedron(joinFaces([...restA, ...restB], planes));
}

function facePlane(f: PolyFace, planes: readonly Plane[]): Plane | null {
  if (f.plane < 0) return planeFromLoop(f.winding);
  return f.along ? planes[f.plane]! : flipPlane(planes[f.plane]!);
}

/** Faces of a union that lie in one plane become one face. */
function joinFaces(faces: readonly PolyFace[], planes: readonly Plane[]): PolyFace[] {
  const groups = new Map<string, PolyFace[]>();
  for (const f of faces) {
    const plane = facePlane(f, planes);
    const key =
      f.plane >= 0
        ? `${f.plane} ${f.along}`
        : `side ${plane?.normal.map((c) => Math.round(c * 100)).join()} ${Math.round((plane?.distance ?? 0) * 50)}`;
    groups.set(key, [...(groups.get(key) ?? []), f]);
  }
  return [...groups.values()].map((group) => {
    if (group.length === 1) return group[0]!;
    const plane = facePlane(group[0]!, planes);
    return plane
      ? {
          ...group[0]!,
          winding: flatHull(
            group.flatMap((f) => f.winding),
            plane.normal,
          ),
        }
      : group[0]!;
  });
}

/** Links between cells: those inside a cell go, those between the same two cells in one plane become one (it is convex). */
export function joinLinks(raw: readonly CellLink[], leafCell: readonly number[]): CellLink[] {
  const groups = new Map<string, CellLink[]>();
  for (const link of raw) {
    const a = leafCell[link.a]!;
    const b = leafCell[link.b]!;
    if (a === b) continue;
    const turned: CellLink =
      a < b ? { ...link, a, b } : { a: b, b: a, plane: flipPlane(link.plane), winding: link.winding.toReversed() };
    const key = `${turned.a} ${turned.b}`;
    const list = groups.get(key);
    if (list) list.push(turned);
    else groups.set(key, [turned]);
  }
  return [...groups.values()].map((list) =>
    list.length === 1
      ? list[0]!
      : {
          ...list[0]!,
          winding: flatHull(
            list.flatMap((l) => l.winding),
            list[0]!.plane.normal,
          ),
        },
  );
}
