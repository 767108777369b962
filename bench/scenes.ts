import { boxSolid, dressSolid, hashRandom, type Box, type Brush, type Vec3 } from '@yesca/core';

/** Boxes strewn through a cube of 4 m × the cube root of their number, as in a furnished hall. */
export function strewnBoxes(count: number): Box[] {
  const side = 100 * Math.cbrt(count);
  return Array.from({ length: count }, (_, i): Box => {
    const at = (k: number) => hashRandom(i, k) * side;
    const size = (k: number) => 8 + hashRandom(i, k) * 72;
    const [x, y, z] = [at(1), at(2), at(3)];
    return { min: [x, y, z], max: [x + size(4), y + size(5), z + size(6)] };
  });
}

export interface Ray {
  readonly o: Vec3;
  readonly d: Vec3;
  readonly far: number;
}

/** Shadow rays: from anywhere in the scene to anywhere else, unit directions. */
export function strewnRays(count: number, boxes: number): Ray[] {
  const side = 100 * Math.cbrt(boxes);
  return Array.from({ length: count }, (_, i): Ray => {
    const p = (k: number): Vec3 => [hashRandom(i, k, 1) * side, hashRandom(i, k, 2) * side, hashRandom(i, k, 3) * side];
    const [a, b] = [p(11), p(12)];
    const far = Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
    return { o: a, d: [(b[0] - a[0]) / far, (b[1] - a[1]) / far, (b[2] - a[2]) / far], far };
  });
}

/** n² rooms of slabs in a grid: floor, ceiling and four walls each, six boxes a room, doorways left out. */
export function roomSlabs(n: number): Box[] {
  const [R, H, T] = [400, 300, 16];
  const boxes: Box[] = [];
  const add = (min: Vec3, max: Vec3) => boxes.push({ min, max });
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const [x, y] = [i * R, j * R];
      add([x, y, -T], [x + R, y + R, 0]);
      add([x, y, H], [x + R, y + R, H + T]);
      add([x, y, 0], [x + T, y + R, H]);
      add([x + R - T, y, 0], [x + R, y + R, H]);
      add([x, y, 0], [x + R, y + T, H]);
      add([x, y + R - T, 0], [x + R, y + R, H]);
    }
  return boxes;
}

export const asBrushes = (boxes: readonly Box[]): Brush[] =>
  boxes.map((b, i) => dressSolid(boxSolid(b), String(i).padStart(6, '0'), 'stone'));

/**
 * n² rooms with a doorway to each neighbour, ten slabs a room. The doorways of even and odd rows are off to different sides,
 * so that one sees into a few rooms only, however many there are.
 */
export function roomsWithDoors(n: number): Box[] {
  const [R, H, T, D] = [400, 272, 16, 112];
  const boxes: Box[] = [];
  const add = (min: Vec3, max: Vec3) => boxes.push({ min, max });
  /** A wall along an axis (0 east, 1 north), with a doorway at an offset, or none. */
  const wall = (x: number, y: number, axis: 0 | 1, door: number | null) => {
    const part = (from: number, to: number, z0: number, z1: number) =>
      axis === 0 ? add([x + from, y, z0], [x + to, y + T, z1]) : add([x, y + from, z0], [x + T, y + to, z1]);
    if (door === null) return part(0, R, 0, H);
    part(0, door, 0, H);
    part(door + D, R, 0, H);
    part(door, door + D, 208, H);
  };
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const [x, y] = [i * R, j * R];
      add([x, y, -T], [x + R, y + R, 0]);
      add([x, y, H], [x + R, y + R, H + T]);
      wall(x, y, 1, i === 0 ? null : j % 2 ? 40 : 220);
      wall(x, y, 0, j === 0 ? null : i % 2 ? 40 : 220);
    }
  for (let k = 0; k < n; k++) {
    wall(n * R, k * R, 1, null);
    wall(k * R, n * R, 0, null);
  }
  add([n * R, n * R, 0], [n * R + T, n * R + T, H]);
  return boxes;
}
