import { changeRoom, sideOf, type MapDocument, type Point2, type Room, type Vec3 } from '@yesca/core';
import type { Selection } from '../state/selection.ts';
import type { Handle } from './reshape.ts';

/** The one room whose outline Reshape shapes: it stays a room. Null while brushes are to be shaped by hand. */
export const roomToShape = (doc: MapDocument, s: Selection): Room | null =>
  s.rooms.size === 1 && s.brushes.size === 0 ? (doc.rooms.get([...s.rooms][0]!) ?? null) : null;

/** The corners of a room's outline, and its sides, which slide along their normals. */
export function outlineHandles(room: Room): Omit<Handle, 'chosen'>[] {
  const { floor, footprint, id } = room;
  return footprint.flatMap((p, i): Omit<Handle, 'chosen'>[] => {
    const side = sideOf(room, i);
    const next = (i + 1) % footprint.length;
    const middle: Vec3 = [(side.start[0] + side.end[0]) / 2, (side.start[1] + side.end[1]) / 2, floor];
    return [
      { at: [p[0], p[1], floor], kind: 'vertex', brush: id, corners: [i], outline: true },
      { at: middle, kind: 'edge', brush: id, corners: [i, next], outline: true, normal: [side.out[0], side.out[1], 0] },
    ];
  });
}

/** Moves corners of a room's outline on the ground; a corner that comes to lie on the line of its neighbours goes. */
export const moveOutline = (doc: MapDocument, id: string, corners: ReadonlySet<number>, by: Vec3): MapDocument => {
  const footprint = doc.rooms.get(id)!.footprint.map((p, i): Point2 => (corners.has(i) ? [p[0] + by[0], p[1] + by[1]] : p)); // prettier-ignore
  return changeRoom(doc, id, { footprint });
};

/** Puts a new corner into a side of a room's outline, moved away from the side's middle. */
export function bendSide(doc: MapDocument, id: string, side: number, by: Vec3): MapDocument {
  const { footprint } = doc.rooms.get(id)!;
  const [a, b] = [footprint[side]!, footprint[(side + 1) % footprint.length]!];
  const corner: Point2 = [(a[0] + b[0]) / 2 + by[0], (a[1] + b[1]) / 2 + by[1]];
  return changeRoom(doc, id, { footprint: footprint.toSpliced(side + 1, 0, corner) });
}
