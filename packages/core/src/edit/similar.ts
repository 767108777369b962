import { brushBounds, brushPlanes, type Brush } from '../brush/index.ts';
import { boxSize, dot } from '../math/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { FaceRef } from './faces.ts';
import { sideOf } from './room-parts.ts';

export type Likeness = 'material' | 'role' | 'kind' | 'size' | 'layer';

/** How many faces of which numbers of corners: what kind of solid a brush is, whatever its size. */
const form = (b: Brush): string =>
  b.faces
    .map((f) => f.loop.length)
    .sort((x, y) => x - y)
    .join(' ');
const size = (b: Brush): string =>
  boxSize(brushBounds(b))
    .map((s) => Math.round(s * 10))
    .sort((x, y) => x - y)
    .join(' ');
const materials = (b: Brush): Set<string> => new Set(b.faces.map((f) => f.material));

/** All brushes like the given ones in one respect; size counts turned ones too. */
export function similarBrushes(doc: MapDocument, ids: ReadonlySet<string>, by: Likeness): Set<string> {
  const models = [...ids].flatMap((id) => doc.brushes.get(id) ?? []);
  const key = (b: Brush): string[] =>
    by === 'material'
      ? [...materials(b)]
      : [by === 'role' ? b.role : by === 'kind' ? form(b) : by === 'layer' ? (b.layer ?? '') : `${form(b)} ${size(b)}`];
  const wanted = new Set(models.flatMap(key));
  return new Set([...doc.brushes.values()].filter((b) => key(b).some((k) => wanted.has(k))).map((b) => b.id));
}

/** All things of the same kinds as the given ones. */
export function similarEntities(doc: MapDocument, ids: ReadonlySet<string>): Set<string> {
  const kinds = new Set([...ids].flatMap((id) => doc.entities.get(id)?.kind ?? []));
  return new Set([...doc.entities.values()].filter((e) => kinds.has(e.kind)).map((e) => e.id));
}

/** The brushes that make the walls of a room. */
export const wallsOf = (doc: MapDocument, room: string): Set<string> =>
  new Set(
    [...doc.brushes.values()].filter((b) => b.room?.id === room && b.room.part.side !== undefined).map((b) => b.id),
  );

/** Faces of some brushes that look one way: up, down, or the way a given face looks. */
export function facesFacing(
  doc: MapDocument,
  ids: Iterable<string>,
  way: readonly [number, number, number],
): FaceRef[] {
  return [...ids].flatMap((id) => {
    const brush = doc.brushes.get(id);
    if (!brush) return [];
    const planes = brushPlanes(brush);
    return brush.faces.flatMap((f, i) => (dot(planes[i]!.normal, way) > 0.99 ? [{ brush: id, face: f.id }] : []));
  });
}

/** The faces of a room's walls that look into it; brushes that are no wall of a room give none. */
export function facesIntoRoom(doc: MapDocument, ids: Iterable<string>): FaceRef[] {
  return [...ids].flatMap((id) => {
    const brush = doc.brushes.get(id);
    const room = brush?.room && doc.rooms.get(brush.room.id);
    const index = brush?.room?.part.side;
    if (!brush || !room || index === undefined || !room.footprint[index]) return [];
    const side = sideOf(room, index);
    const planes = brushPlanes(brush);
    return brush.faces.flatMap((f, i) => {
      const { normal, distance } = planes[i]!;
      const inward = normal[0] * side.out[0] + normal[1] * side.out[1] < -1 + 1e-6;
      const flush = Math.abs(normal[0] * side.start[0] + normal[1] * side.start[1] - distance) < 0.5;
      return inward && flush ? [{ brush: id, face: f.id }] : [];
    });
  });
}
