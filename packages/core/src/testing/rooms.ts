import { addRoom, openDoorway, type RoomDress, type RoomSpec } from '../edit/index.ts';
import { emptyMap, type MapDocument, type Point2 } from '../map/index.ts';

export const DRESS: RoomDress = { floor: 'oak-plank', wall: 'limewash', ceiling: 'slate' };

export const rectangle = (x: number, y: number, w: number, d: number): Point2[] => [
  [x, y],
  [x + w, y],
  [x + w, y + d],
  [x, y + d],
];

export const roomSpec = (footprint: readonly Point2[], more: Partial<RoomSpec> = {}): RoomSpec => ({
  footprint,
  floor: 0,
  ceiling: 272,
  wall: 16,
  ...more,
});

/** One sealed room of 512 × 384 × 272 at the corner of the first octant. */
export const oneRoom = (): MapDocument =>
  addRoom(emptyMap('One room'), roomSpec(rectangle(32, 32, 512, 384)), DRESS, 'a');

/** Two rooms that share a wall 16 cm thick, with a doorway of 112 × 208 in its middle. All within one block. */
export function twoRooms(): MapDocument {
  const doc = addRoom(oneRoom(), roomSpec(rectangle(560, 32, 384, 384)), DRESS, 'b');
  return openDoorway(doc, 'a', 'b', { width: 112, height: 208, sill: 0 }, 'door');
}
