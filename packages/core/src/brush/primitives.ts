import { type Box, boxSize, cosSinOf, MIN_DRAWN, type Point2, type Vec3 } from '../math/index.ts';
import { BrushError } from './errors.ts';
import { assertValid } from './solid.ts';
import type { Solid } from './types.ts';

export function checkExtent(box: Box): void {
  const size = boxSize(box);
  if (!size.every(Number.isFinite))
    throw new BrushError('brush.notFinite', 'A size is not a finite number. Type plain numbers.');
  if (Math.min(...size) < MIN_DRAWN)
    throw new BrushError(
      'brush.tooSmall',
      `A brush must be at least ${MIN_DRAWN} cm in every direction. Drag further or type a size.`,
    );
}

/** An upright prism over a convex outline (counter-clockwise seen from above), from `bottom` to `top`. */
export function extrude(outline: readonly (readonly [number, number])[], bottom: number, top: number): Solid {
  const n = outline.length;
  const vertices: Vec3[] = [
    ...outline.map(([x, y]): Vec3 => [x, y, bottom]),
    ...outline.map(([x, y]): Vec3 => [x, y, top]),
  ];
  const around = Array.from({ length: n }, (_, i) => i);
  const solid: Solid = {
    vertices,
    loops: [
      [...around].reverse(),
      around.map((i) => i + n),
      ...around.map((i) => [i, (i + 1) % n, ((i + 1) % n) + n, i + n]),
    ],
  };
  assertValid(solid);
  return solid;
}

/** The axis-aligned box. */
export function boxSolid(box: Box): Solid {
  checkExtent(box);
  const { min, max } = box;
  return extrude(
    [
      [min[0], min[1]],
      [max[0], min[1]],
      [max[0], max[1]],
      [min[0], max[1]],
    ],
    min[2],
    max[2],
  );
}

export type Heading = 'east' | 'north' | 'west' | 'south';

/** A ramp that fills half of a box and rises towards a heading. */
export function wedgeSolid({ min, max }: Box, rises: Heading): Solid {
  checkExtent({ min, max });
  const [a, b, c] = min;
  const [x, y, z] = max;
  const high: [Vec3, Vec3] =
    rises === 'east'
      ? [
          [x, b, z],
          [x, y, z],
        ]
      : rises === 'west'
        ? [
            [a, y, z],
            [a, b, z],
          ]
        : rises === 'north'
          ? [
              [x, y, z],
              [a, y, z],
            ]
          : [
              [a, b, z],
              [x, b, z],
            ];
  // Corners 0–3 are the base, counter-clockwise from above; 4 and 5 stand over two of them.
  const base: Vec3[] = [
    [a, b, c],
    [x, b, c],
    [x, y, c],
    [a, y, c],
  ];
  const first = { east: 1, north: 2, west: 3, south: 0 }[rises];
  const p = first;
  const q = (first + 1) % 4;
  const r = (first + 2) % 4;
  const s = (first + 3) % 4;
  const solid: Solid = {
    vertices: [...base, ...high],
    loops: [
      [3, 2, 1, 0],
      [p, q, 5, 4],
      [q, r, 5],
      [s, p, 4],
      [r, s, 4, 5],
    ],
  };
  assertValid(solid);
  return solid;
}

/**
 * The corners of a regular polygon stretched so that it touches all four sides of a rectangle (the size typed is the size
 * got), counter-clockwise; one side faces south. Corners on the border or the middle lines are exactly there.
 */
export function ring(sides: number, [ax, ay]: Point2, [bx, by]: Point2): Point2[] {
  if (!Number.isInteger(sides) || sides < 3 || sides > 64)
    throw new BrushError('brush.sides', 'A round shape has 3 to 64 sides. Type a whole number in that range.');
  const unit = Array.from({ length: sides }, (_, i) => {
    const angle = -Math.PI / 2 + ((i - 0.5) * 2 * Math.PI) / sides;
    return cosSinOf(angle);
  });
  const reach = [0, 1].map((axis) => ({
    low: Math.min(...unit.map((u) => u[axis]!)),
    high: Math.max(...unit.map((u) => u[axis]!)),
  }));
  const place = (value: number, axis: 0 | 1, from: number, to: number): number => {
    const { low, high } = reach[axis]!;
    const t = (value - low) / (high - low);
    if (t < 1e-12) return from;
    if (t > 1 - 1e-12) return to;
    if (Math.abs(t - 0.5) < 1e-12) return (from + to) / 2;
    return from + t * (to - from);
  };
  return unit.map(([x, y]): Point2 => [place(x, 0, ax, bx), place(y, 1, ay, by)]);
}

/** An upright prism with `sides` equal angles inscribed in the ellipse of a box; one side faces south. */
export function prismSolid(box: Box, sides: number): Solid {
  checkExtent(box);
  return extrude(ring(sides, [box.min[0], box.min[1]], [box.max[0], box.max[1]]), box.min[2], box.max[2]);
}
