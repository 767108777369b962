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
