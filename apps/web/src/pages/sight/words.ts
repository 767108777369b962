import { inRoom, type MapDocument, type Vec3 } from '@yesca/core';

/** A figure as it is written on the page. */
export const number = (n: number): string => Math.round(n).toLocaleString('en');

/** The name of the room that a place is in. */
export const roomNameAt = (rooms: MapDocument['rooms'], at: Vec3): string | undefined =>
  [...rooms.values()].find((room) => inRoom(room, at))?.name;
