import clipping, { type Polygon, type Ring } from 'polygon-clipping';
import type { Point2, Room } from '../map/index.ts';
import { convexParts, outlineArea } from '../math/index.ts';

const asPolygon = (outline: readonly Point2[]): Polygon => [outline.map(([x, y]): [number, number] => [x, y])];
const asOutline = (ring: Ring): Point2[] => ring.slice(0, -1).map(([x, y]): Point2 => [x, y]);

/** The floor of a room without what is sunk into it, in convex parts. */
export function floorWithout(room: Room): Point2[][] {
  const sunk = (room.insets ?? []).filter((i) => i.height < 0);
  if (sunk.length === 0) return convexParts(room.footprint);
  const left = clipping.difference(asPolygon(room.footprint), ...sunk.map((i) => asPolygon(i.footprint)));
  return left.flatMap(([outer, ...holes]) => convexParts(asOutline(outer!), holes.map(asOutline)));
}

/** Area two outlines share, cm². */
export function sharedArea(a: readonly Point2[], b: readonly Point2[]): number {
  return clipping
    .intersection(asPolygon(a), asPolygon(b))
    .reduce((sum, polygon) => polygon.reduce((s, ring) => s + outlineArea(asOutline(ring)), sum), 0);
}
