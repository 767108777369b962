import { brushPlanes, faceWinding } from '../../brush/index.ts';
import {
  boxOf,
  buildBvh,
  cross,
  dot,
  eachSwept,
  flipPlane,
  growBox,
  latticeHash,
  normalize,
  SAME_POINT,
  sub,
  tidyWinding,
  windingArea,
  type Box,
  type Vec3,
  type Winding,
} from '../../math/index.ts';
import type { BlockGrid, Surface } from './types.ts';

/** Joined surfaces grow no longer than this (cm), so that one surface stays in sight of few cells. */
const MAX_EXTENT = 1024;

/** The polygons to draw: open pieces of faces joined back together where nothing lies between them. */
export function collectSurfaces(grid: BlockGrid, keep: (cell: number) => boolean): Surface[] {
  const whole: Surface[] = [];
  const loose = new Map<string, Surface[]>();
  const byFace = new Map<
    string,
    {
      pieces: { winding: Winding; cell: number }[];
      make: (winding: Winding, cells: number[]) => Surface;
      full: Winding;
      /** Whether it is seen from within its brush too. */
      twoSided: boolean;
    }
  >();
  grid.blocks.forEach((block, b) => {
    for (const piece of block.pieces) {
      const cell = grid.cellOf[grid.firstCell[b]! + piece.cell]!;
      if (!keep(cell)) continue;
      const key = `${piece.brush.id} ${piece.face}`;
      let entry = byFace.get(key);
      if (!entry) {
        const face = piece.brush.faces[piece.face]!;
        const plane = brushPlanes(piece.brush)[piece.face]!;
        const base = {
          plane,
          material: face.material,
          frame: face.frame,
          sky: face.show === 'sky',
          grain: face.grain ?? 1,
          mirror: face.mirror ?? 0,
          reflection: face.reflection ?? null,
          brush: piece.brush.id,
          brushes: [piece.brush.id],
          face: face.id,
        };
        entry = {
          pieces: [],
          full: faceWinding(piece.brush, piece.face),
          make: (winding, cells) => ({ ...base, winding, cells }),
          twoSided: piece.brush.role === 'liquid',
        };
        byFace.set(key, entry);
      }
      entry.pieces.push({ winding: piece.winding, cell });
    }
  });
  for (const { pieces, make, full, twoSided } of byFace.values()) {
    const area = windingArea(full);
    const seen = pieces.reduce((sum, p) => sum + windingArea(p.winding), 0);
    const cells = [...new Set(pieces.map((p) => p.cell))].sort((a, b) => a - b);
    const surfaces =
      seen >= area * (1 - 1e-6) - 1e-3 ? [make(full, cells)] : joinAll(pieces.map((p) => make(p.winding, [p.cell])));
    for (const s of twoSided ? surfaces.flatMap((s) => [s, turned(s)]) : surfaces) {
      // Faces of different brushes that show the same picture in the same plane go on as one surface.
      const p = s.plane;
      const key = [
        s.material,
        s.sky,
        s.grain,
        s.mirror,
        s.reflection,
        ...p.normal.map((c) => Math.round(c * 1e6)),
        Math.round(p.distance * 100),
        ...[...s.frame.u, ...s.frame.v].map((c) => Math.round(c * 1e5)),
      ].join();
      const list = loose.get(key);
      if (list) list.push(s);
      else loose.set(key, [s]);
    }
  }
  for (const list of loose.values()) whole.push(...(list.length > 1 ? joinAll(list) : list));
  return whole;
}

/** The other side of a surface. */
const turned = (s: Surface): Surface => ({ ...s, winding: s.winding.toReversed(), plane: flipPlane(s.plane) });

/** Joins polygons of one plane pairwise along whole shared edges while the union stays convex. */
function joinAll(list: Surface[]): Surface[] {
  let all: (Surface | null)[] = list;
  for (let merged = true; merged;) {
    merged = false;
    const before = [...all];
    const edges = new Map<string, { owner: number; edge: number }>();
    const key = (p: Vec3) => `${Math.round(p[0] * 16)},${Math.round(p[1] * 16)},${Math.round(p[2] * 16)}`;
    all.forEach((s, owner) =>
      s?.winding.forEach((p, edge) =>
        edges.set(`${key(p)} ${key(s.winding[(edge + 1) % s.winding.length]!)}`, { owner, edge }),
      ),
    );
    for (let i = 0; i < all.length; i++) {
      const s = all[i];
      if (!s) continue;
      for (let e = 0; e < s.winding.length; e++) {
        const match = edges.get(`${key(s.winding[(e + 1) % s.winding.length]!)} ${key(s.winding[e]!)}`);
        const other = match && match.owner !== i ? all[match.owner] : null;
        // One that was joined in this round has other edges by now: it waits for the next.
        if (!match || !other || other !== before[match.owner]) continue;
        const winding = joinWindings(s.winding, e, other.winding, match.edge, s.plane.normal);
        if (!winding) continue;
        all[i] = {
          ...s,
          winding,
          brushes: [...new Set([...s.brushes, ...other.brushes])].sort(),
          cells: [...new Set([...s.cells, ...other.cells])].sort((a, b) => a - b),
        };
        all[match.owner] = null;
        merged = true;
        break;
      }
    }
    all = all.filter((s) => s !== null);
  }
  return all as Surface[];
}

function joinWindings(a: Winding, i: number, b: Winding, j: number, normal: Vec3): Winding | null {
  const loop = [...a.slice(i + 1), ...a.slice(0, i + 1)];
  const rest = [...b.slice(j + 1), ...b.slice(0, j + 1)].slice(1, -1);
  const joined = tidyWinding([...loop, ...rest]);
  if (!joined) return null;
  const { min, max } = boxOf(joined);
  if (Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]) > MAX_EXTENT) return null;
  for (let k = 0; k < joined.length; k++) {
    const p = joined[(k + joined.length - 1) % joined.length]!;
    const q = joined[k]!;
    const r = joined[(k + 1) % joined.length]!;
    if (dot(cross(normalize(sub(q, p)), normalize(sub(r, q))), normal) < -1e-6) return null;
  }
  return joined;
}

/** Edge (cm) of the cells in which corners are looked up. */
const CORNERS_CELL = 1;

/** Puts the corners of neighbours that lie on an edge into that edge, so that no cracks show between polygons. */
export function closeTJunctions(surfaces: readonly Surface[]): Surface[] {
  const corners = new Map<number, Vec3[]>();
  const all: Vec3[] = [];
  const at = (c: number) => Math.floor(c / CORNERS_CELL);
  // Neighbours of different places may share a number: they are told apart by where they lie.
  // Corners within tolerance of one another become one, so that neighbours share them exactly.
  const canonical = (p: Vec3): Vec3 => {
    for (let x = at(p[0] - SAME_POINT); x <= at(p[0] + SAME_POINT); x++)
      for (let y = at(p[1] - SAME_POINT); y <= at(p[1] + SAME_POINT); y++)
        for (let z = at(p[2] - SAME_POINT); z <= at(p[2] + SAME_POINT); z++)
          for (const q of corners.get(latticeHash(x, y, z)) ?? [])
            if (
              Math.abs(p[0] - q[0]) <= SAME_POINT &&
              Math.abs(p[1] - q[1]) <= SAME_POINT &&
              Math.abs(p[2] - q[2]) <= SAME_POINT
            )
              return q;
    const key = latticeHash(at(p[0]), at(p[1]), at(p[2]));
    const list = corners.get(key);
    if (list) list.push(p);
    else corners.set(key, [p]);
    all.push(p);
    return p;
  };
  const welded = surfaces
    .map((s) => ({ ...s, winding: s.winding.map(canonical).filter((p, i, w) => p !== w[(i + 1) % w.length]) }))
    .filter((s) => s.winding.length >= 3);
  const boxes = all.map((p): Box => ({ min: p, max: p }));
  const tree = buildBvh(boxes);
  const onEdge = (a: Vec3, b: Vec3): Vec3[] => {
    const d = sub(b, a);
    const len2 = dot(d, d);
    const found: { p: Vec3; t: number }[] = [];
    eachSwept(tree, boxes, growBox({ min: a, max: a }, SAME_POINT), d, (item) => {
      const p = all[item]!;
      const t = dot(sub(p, a), d) / len2;
      if (p === a || p === b || t <= 0 || t >= 1) return;
      const off = sub(sub(p, a), [d[0] * t, d[1] * t, d[2] * t]);
      if (dot(off, off) <= SAME_POINT * SAME_POINT) found.push({ p, t });
    });
    return found.sort((p, q) => p.t - q.t).map(({ p }) => p);
  };
  return welded.map((s) => ({
    ...s,
    winding: s.winding.flatMap((a, i) => [a, ...onEdge(a, s.winding[(i + 1) % s.winding.length]!)]),
  }));
}
