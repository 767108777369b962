import type { Point2, Room } from '@yesca/core';

interface Rectangle {
  readonly min: Point2;
  readonly max: Point2;
}

/**
 * A drawn rectangle held off from the rooms beside it: a side drawn onto (or a little into) a neighbour moves back until one
 * wall's thickness lies between the two, so that they share that wall.
 */
export function keepWalls(
  drawn: Rectangle,
  rooms: Iterable<Room>,
  { wall, floor, ceiling }: { wall: number; floor: number; ceiling: number },
): Rectangle {
  const min: [number, number] = [...drawn.min];
  const max: [number, number] = [...drawn.max];
  for (const room of rooms) {
    if (room.ceiling <= floor || room.floor >= ceiling) continue;
    const gap = Math.max(wall, room.wall);
    room.footprint.forEach((a, i) => {
      const b = room.footprint[(i + 1) % room.footprint.length]!;
      for (const axis of [0, 1] as const) {
        const other = axis === 0 ? 1 : 0;
        if (a[axis] !== b[axis]) continue;
        const overlap =
          Math.min(max[other], Math.max(a[other], b[other])) - Math.max(min[other], Math.min(a[other], b[other]));
        if (overlap <= 0) continue;
        // Footprints run counter-clockwise, so the way an edge runs tells on which side its room lies.
        const roomBelow = axis === 0 ? b[1] > a[1] : b[0] < a[0];
        if (roomBelow && Math.abs(min[axis] - a[axis]) < gap) min[axis] = a[axis] + gap;
        if (!roomBelow && Math.abs(max[axis] - a[axis]) < gap) max[axis] = a[axis] - gap;
      }
    });
  }
  return { min, max };
}
