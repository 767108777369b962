import { sideOf, type MapDocument, type Point2, type Room, type Vec3 } from '@yesca/core';
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

/** A room's outline with corners moved on the ground. */
export const movedOutline = ({ footprint }: Room, corners: ReadonlySet<number>, by: Vec3): Point2[] =>
  footprint.map((p, i): Point2 => (corners.has(i) ? [p[0] + by[0], p[1] + by[1]] : p));

/** A room's outline with a new corner in a side, moved away from the side's middle. */
export function bentSide({ footprint }: Room, side: number, by: Vec3): Point2[] {
  const [a, b] = [footprint[side]!, footprint[(side + 1) % footprint.length]!];
  const corner: Point2 = [(a[0] + b[0]) / 2 + by[0], (a[1] + b[1]) / 2 + by[1]];
  return footprint.toSpliced(side + 1, 0, corner);
}
