import { brushPlanes, faceWinding, type Brush, type Dresser, type Face, type Solid } from '../brush/index.ts';
import { dot, planeFromLoop, samePlane, SAME_DISTANCE, windingArea, type Plane } from '../math/index.ts';
import { naturalFrame } from './frame.ts';

/** How much of a brush shows each material, largest first. */
function mainMaterial(brush: Brush): string {
  const areas = new Map<string, number>();
  brush.faces.forEach((f, i) =>
    areas.set(f.material, (areas.get(f.material) ?? 0) + windingArea(faceWinding(brush, i))),
  );
  return [...areas].reduce((best, entry) => (entry[1] > best[1] ? entry : best))[0];
}

/** A cut face: the material that the brush shows most, laid naturally. */
export const dressCap = (plane: Plane, brush: Brush): Pick<Face, 'material' | 'frame'> => ({
  material: mainMaterial(brush),
  frame: naturalFrame(plane),
});

/** Nearly the same plane, for faces that were computed again from others. */
const together = (a: Plane, b: Plane): boolean =>
  samePlane(a, b) || (dot(a.normal, b.normal) > 1 - 1e-9 && Math.abs(a.distance - b.distance) < SAME_DISTANCE * 5);

/**
 * Dresses a solid like the brushes it was made of: each face takes material, frame, flags and, if free, the id of the face
 * that lay in its plane (the largest of several), else the material of the face that looks most the same way.
 */
export function dressLike(solid: Solid, sources: readonly Brush[]): Brush {
  const first = sources[0]!;
  const known = sources.flatMap((brush) =>
    brush.faces.map((face, i) => ({
      brush,
      face,
      plane: brushPlanes(brush)[i]!,
      area: windingArea(faceWinding(brush, i)),
    })),
  );
  const taken = new Set<number>();
  let nextId = Math.max(...first.faces.map((f) => f.id)) + 1;
  const faces = solid.loops.map((loop): Face => {
    const plane = planeFromLoop(loop.map((k) => solid.vertices[k]!))!;
    const here = known.filter((k) => together(k.plane, plane));
    const match = here.length
      ? here.reduce((a, b) => (b.area > a.area ? b : a))
      : known.reduce((a, b) => (dot(b.plane.normal, plane.normal) > dot(a.plane.normal, plane.normal) ? b : a));
    const { loop: _, id: old, ...dress } = match.face;
    const free = match.brush === first && !taken.has(old);
    const id = free ? old : nextId++;
    taken.add(id);
    const parallel = dot(match.plane.normal, plane.normal) > 1 - 1e-9;
    const { show, ...plain } = dress;
    // A flag such as Sky belongs to the plane it was set on.
    const flags = here.length && show ? { show } : {};
    return { ...plain, ...flags, id, loop, frame: parallel ? dress.frame : naturalFrame(plane) };
  });
  return { ...first, vertices: solid.vertices, faces };
}

/** The usual dressing of geometry operations. */
export const DRESS_CARRIED: Dresser = { cap: dressCap, like: dressLike };
