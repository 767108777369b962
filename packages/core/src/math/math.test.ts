import fc from 'fast-check';
import {
  applyAffine,
  cosSin,
  determinant,
  IDENTITY,
  invertAffine,
  mirror,
  rotation,
  scaling,
  translation,
  type Affine,
} from './affine.ts';
import {
  boxCenter,
  boxContains,
  boxesOverlap,
  boxOf,
  boxSize,
  growBox,
  isEmptyBox,
  uniteBoxes,
  type Box,
} from './box.ts';
import { buildBvh } from './bvh.ts';
import { contentHash, hashRandom } from './hash.ts';
import { crossesItself, type Point2 } from './outline.ts';
import {
  flipPlane,
  planeFromLoop,
  planeFromPoints,
  samePlane,
  signedDistance,
  snapNormal,
  type Plane,
} from './plane.ts';
import {
  centroid,
  cross,
  distance,
  dominantAxis,
  dot,
  length,
  lerp,
  normalize,
  sameVec,
  sub,
  type Vec3,
} from './vec3.ts';
import {
  clipBehind,
  intersectWindings,
  planeSquare,
  splitWinding,
  subtractWinding,
  tidyWinding,
  windingArea,
  windingCentroid,
  type Winding,
} from './winding.ts';

const coordinate = fc.integer({ min: -1000, max: 1000 });
const point = fc.tuple(coordinate, coordinate, coordinate);
const UP: Vec3 = [0, 0, 1];
const square = (x: number, y: number, size: number): Winding => [
  [x, y, 0],
  [x + size, y, 0],
  [x + size, y + size, 0],
  [x, y + size, 0],
];

describe('vectors', () => {
  test('the cross product is square to both and as long as their parallelogram is large', () => {
    fc.assert(
      fc.property(point, point, (a, b) => {
        const c = cross(a, b);
        expect(dot(c, a)).toBe(0);
        expect(dot(c, b)).toBe(0);
        // Lagrange: |a×b|² = |a|²|b|² − (a·b)², exact in whole numbers of this size up to rounding.
        expect(dot(c, c)).toBeCloseTo(dot(a, a) * dot(b, b) - dot(a, b) ** 2, -3);
      }),
    );
  });
  test('lengths, means, axes', () => {
    expect(length([2, 3, 6])).toBe(7);
    expect(distance([1, 1, 1], [3, 4, 7])).toBe(7);
    expect(lerp([0, 0, 0], [10, 20, 40], 0.25)).toEqual([2.5, 5, 10]);
    expect(
      centroid([
        [0, 0, 0],
        [3, 0, 0],
        [0, 6, 9],
      ]),
    ).toEqual([1, 2, 3]);
    expect([dominantAxis([5, 1, 1]), dominantAxis([1, -5, 1]), dominantAxis([1, 1, 1])]).toEqual([0, 1, 2]);
    expect(normalize([0, 0, 0])).toEqual([0, 0, 0]);
    expect(sameVec([1, 2, 3], [1, 2, 3.01], 0.02)).toBe(true);
    expect(sameVec([1, 2, 3], [1, 2, 3.01])).toBe(false);
  });
});

describe('planes', () => {
  test('through three points hold them, and face the side from which they turn counter-clockwise', () => {
    fc.assert(
      fc.property(point, point, point, (a, b, c) => {
        const plane = planeFromPoints(a, b, c);
        if (!plane) return expect(length(cross(sub(b, a), sub(c, a)))).toBeLessThan(1e-6);
        for (const p of [a, b, c]) expect(Math.abs(signedDistance(plane, p))).toBeLessThan(1e-6);
        expect(dot(plane.normal, cross(sub(b, a), sub(c, a)))).toBeGreaterThan(0);
      }),
    );
  });
  test('parallel to the axes are exact', () => {
    expect(planeFromLoop(square(3, 5, 7).map(([x, y]): Vec3 => [x, y, 0.1]))).toEqual({
      normal: [0, 0, 1],
      distance: 0.1,
    });
    expect(snapNormal([1e-9, 0, 1])).toEqual([0, 0, 1]);
    // As far off as four times what tells directions apart, whichever way round: what is farther off is meant so.
    for (let k = 0; k < 360; k += 7) {
      const leaning = (tilt: number): Vec3 => {
        const [c, s] = [Math.cos(k) * Math.sin(tilt), Math.sin(k) * Math.sin(tilt)];
        const parts = [c, s, (k % 2 ? 1 : -1) * Math.cos(tilt)];
        return [parts[k % 3]!, parts[(k + 1) % 3]!, parts[(k + 2) % 3]!];
      };
      expect([...snapNormal(leaning(3.9e-6))].map(Math.abs).sort()).toEqual([0, 0, 1]);
      expect(snapNormal(leaning(4.1e-6))).toEqual(leaning(4.1e-6));
    }
    expect(
      planeFromLoop([
        [0, 0, 0],
        [1, 0, 0],
        [2, 0, 0],
      ]),
    ).toBeNull();
  });
  test('know themselves and their other side', () => {
    const plane: Plane = { normal: [0.6, 0, 0.8], distance: 10 };
    expect(samePlane(plane, { normal: [0.6, 0, 0.8], distance: 10.001 })).toBe(true);
    expect(samePlane(plane, flipPlane(plane))).toBe(false);
    expect(signedDistance(flipPlane(plane), [0, 0, 0])).toBe(10);
  });
});

describe('affine maps', () => {
  const maps: Affine[] = [
    translation([1, 2, 3]),
    rotation(0, 30, [4, 5, 6]),
    rotation(1, -75, [0, 9, 0]),
    rotation(2, 200, [7, 7, 7]),
    scaling([2, -3, 0.5], [1, 1, 1]),
    mirror(1, 12),
  ];
  test('are undone by their inverse', () => {
    for (const m of maps)
      fc.assert(
        fc.property(point, (p) => {
          const back = applyAffine(invertAffine(m)!, applyAffine(m, p));
          expect(distance(back, p)).toBeLessThan(1e-8);
        }),
        { numRuns: 20 },
      );
    expect(invertAffine(scaling([1, 1, 0], [0, 0, 0]))).toBeNull();
    expect(applyAffine(IDENTITY, [1, 2, 3])).toEqual([1, 2, 3]);
  });
  test('change volumes by their determinant', () => {
    expect(maps.map((m) => Math.round(determinant(m) * 1e9) / 1e9)).toEqual([1, 1, 1, 1, -3, -1]);
  });
  test('quarter turns are exact, and turn the way a right hand does', () => {
    expect(cosSin(90)).toEqual([0, 1]);
    expect(cosSin(-90)).toEqual([0, -1]);
    expect(applyAffine(rotation(2, 90, [0, 0, 0]), [5, 0, 0])).toEqual([0, 5, 0]);
    expect(applyAffine(rotation(0, 90, [0, 0, 0]), [0, 5, 0])).toEqual([0, 0, 5]);
    expect(applyAffine(rotation(1, 90, [0, 0, 0]), [0, 0, 5])).toEqual([5, 0, 0]);
  });
});

describe('boxes', () => {
  const box: Box = { min: [0, 0, 0], max: [10, 20, 30] };
  test('hold, meet, grow and unite', () => {
    expect(
      boxOf([
        [1, 5, 2],
        [4, -3, 9],
      ]),
    ).toEqual({ min: [1, -3, 2], max: [4, 5, 9] });
    expect(isEmptyBox(boxOf([]))).toBe(true);
    expect(boxContains(box, [10, 20, 30])).toBe(true);
    expect(boxContains(box, [10.1, 0, 0])).toBe(false);
    const touching: Box = { min: [10, 0, 0], max: [20, 20, 30] };
    expect(boxesOverlap(box, touching)).toBe(false);
    expect(boxesOverlap(box, touching, -0.1)).toBe(true);
    expect(uniteBoxes([box, touching])).toEqual({ min: [0, 0, 0], max: [20, 20, 30] });
    expect(growBox(box, 1)).toEqual({ min: [-1, -1, -1], max: [11, 21, 31] });
    expect([boxSize(box), boxCenter(box)]).toEqual([
      [10, 20, 30],
      [5, 10, 15],
    ]);
  });
});

describe('windings', () => {
  test('split by any plane have parts whose areas add up, on their own sides', () => {
    const direction = fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }));
    fc.assert(
      fc.property(direction, fc.integer({ min: -60, max: 160 }), ([x, y], at) => {
        fc.pre(x !== 0 || y !== 0);
        const normal = normalize([x, y, 0]);
        const plane: Plane = { normal, distance: at };
        const whole = square(0, 0, 100);
        const { front, back } = splitWinding(whole, plane);
        expect((front ? windingArea(front) : 0) + (back ? windingArea(back) : 0)).toBeCloseTo(10_000, 0);
        for (const p of front ?? []) expect(signedDistance(plane, p)).toBeGreaterThan(-0.02);
        for (const p of back ?? []) expect(signedDistance(plane, p)).toBeLessThan(0.02);
      }),
    );
  });
  test('that lie in the plane are on neither side', () => {
    expect(splitWinding(square(0, 0, 10), { normal: UP, distance: 0 })).toEqual({ front: null, back: null });
    expect(clipBehind(square(0, 0, 10), { normal: UP, distance: 0 }, true)).toHaveLength(4);
  });
  test('intersect and subtract as areas do', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -150, max: 150 }),
        fc.integer({ min: -150, max: 150 }),
        fc.integer({ min: 5, max: 150 }),
        (x, y, size) => {
          const a = square(0, 0, 100);
          const b = square(x, y, size);
          const overlap =
            Math.max(0, Math.min(100, x + size) - Math.max(0, x)) *
            Math.max(0, Math.min(100, y + size) - Math.max(0, y));
          const shared = intersectWindings(a, b, UP);
          expect(shared ? windingArea(shared) : 0).toBeCloseTo(overlap, 3);
          const rest = subtractWinding(a, b, UP);
          expect(rest.reduce((sum, w) => sum + windingArea(w), 0)).toBeCloseTo(10_000 - overlap, 3);
        },
      ),
    );
  });
  test('know their middle and lose needless corners', () => {
    expect(
      windingCentroid([
        [0, 0, 0],
        [6, 0, 0],
        [6, 3, 0],
        [0, 3, 0],
      ]),
    ).toEqual([3, 1.5, 0]);
    const tidy = tidyWinding([[0, 0, 0], [5, 0, 0], [10, 0, 0], [10, 0, 0.001], [10, 10, 0], [0, 10, 0]]); // prettier-ignore
    expect(tidy).toHaveLength(4);
    expect(
      tidyWinding([
        [0, 0, 0],
        [5, 0, 0],
        [10, 0, 0],
      ]),
    ).toBeNull();
    expect(windingArea(planeSquare({ normal: [0.6, 0, 0.8], distance: 5 }, 10))).toBeCloseTo(400, 6);
  });
});

describe('hashes', () => {
  test('are those that the inventors of FNV-1a publish', () => {
    expect(contentHash('')).toBe('cbf29ce484222325');
    expect(contentHash('a')).toBe('af63dc4c8601ec8c');
    expect(contentHash('foobar')).toBe('85944171f73967e8');
    expect(contentHash('ü')).toBe(contentHash(Uint8Array.from([0xc3, 0xbc])));
  });
  test('give the same even numbers for the same keys', () => {
    const many = Array.from({ length: 4000 }, (_, i) => hashRandom(i, 7));
    expect(hashRandom(12, 7)).toBe(many[12]);
    expect(many.reduce((a, b) => a + b, 0) / 4000).toBeCloseTo(0.5, 1);
    const thirds = [0, 0, 0];
    for (const x of many) thirds[Math.floor(x * 3)]!++;
    for (const n of thirds) expect(Math.abs(n - 4000 / 3)).toBeLessThan(150);
  });
});

describe('the tree of boxes', () => {
  test('holds every box once, within the bounds of all the nodes above it', () => {
    const size = fc.integer({ min: 0, max: 300 });
    fc.assert(
      fc.property(fc.array(fc.tuple(point, size, size, size), { minLength: 1, maxLength: 60 }), (list) => {
        const boxes = list.map(([p, x, y, z]): Box => ({ min: p, max: [p[0] + x, p[1] + y, p[2] + z] }));
        const { bounds, link, order, depth } = buildBvh(boxes);
        const seen: number[] = [];
        let deepest = 0;
        const walk = (i: number, above: number[]) => {
          const path = [...above, i];
          const [at, count] = [link[i * 2]!, link[i * 2 + 1]!];
          if (count === 0) {
            walk(i + 1, path);
            return walk(at, path);
          }
          deepest = Math.max(deepest, path.length);
          for (const item of order.subarray(at, at + count)) {
            seen.push(item);
            for (const n of path)
              for (let k = 0; k < 3; k++) {
                expect(bounds[n * 6 + k]).toBeLessThanOrEqual(boxes[item]!.min[k]!);
                expect(bounds[n * 6 + 3 + k]).toBeGreaterThanOrEqual(boxes[item]!.max[k]!);
              }
          }
        };
        walk(0, []);
        expect(seen.sort((a, b) => a - b)).toEqual([...boxes.keys()]);
        // Those that walk the tree make their stacks as deep.
        expect(depth).toBe(deepest);
      }),
    );
  });
});

test('an outline crosses itself where a corner lies on another side, not where sides only lie in one line', () => {
  const comb: Point2[] = [[0, 0], [4, 0], [4, 1], [2, 1], [2, 3], [4, 3], [4, 4], [0, 4]]; // prettier-ignore
  const touching: Point2[] = [[0, 0], [4, 0], [4, 4], [2, 0], [0, 4]]; // prettier-ignore
  const turn = ([x, y]: Point2): Point2 => [-y, x];
  for (const way of [(p: Point2) => p, turn, (p: Point2) => turn(turn(p))]) {
    expect(crossesItself(comb.map(way))).toBe(false);
    expect(crossesItself(touching.map(way))).toBe(true);
    expect(crossesItself([[0, 0], [4, 4], [4, 0], [0, 4]].map((p) => way(p as unknown as Point2)))).toBe(true); // prettier-ignore
  }
});
