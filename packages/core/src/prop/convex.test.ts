import fc from 'fast-check';
import { boxSolid, hullOf, prismSolid, solidVolume, type Solid } from '../brush/index.ts';
import { applyAffine, dot, normalize, planeFromLoop, rotationAbout, type Vec3, type Winding } from '../math/index.ts';
import { convexHulls, isClosed, meshVolume } from './convex.ts';

const trianglesOf = ({ vertices, loops }: Solid): Winding[] =>
  loops.flatMap((loop) =>
    loop.slice(2).map((c, k): Winding => [vertices[loop[0]!]!, vertices[loop[k + 1]!]!, vertices[c]!]),
  );
const box = (min: Vec3, max: Vec3): Winding[] => trianglesOf(boxSolid({ min, max }));
const volume = (solids: readonly Solid[]): number => solids.reduce((sum, s) => sum + solidVolume(s), 0);

/** How far a point stands out of a solid, cm; less than nothing inside. */
const out = (p: Vec3, { vertices, loops }: Solid): number =>
  Math.max(
    ...loops.map((loop) => {
      const plane = planeFromLoop(loop.map((v) => vertices[v]!))!;
      return dot(plane.normal, p) - plane.distance;
    }),
  );
const holds = (solids: readonly Solid[], triangles: readonly Winding[]): boolean =>
  triangles.every((t) => t.every((p) => solids.some((s) => out(p, s) < 1e-3)));

/** A closed outline of the ground plan drawn up: walls, floor and ceiling of convex pieces of it. */
function drawnUp(
  outline: readonly (readonly [number, number])[],
  pieces: readonly (readonly number[])[],
  high: number,
): Winding[] {
  const at = (k: number, z: number): Vec3 => [outline[k]![0], outline[k]![1], z];
  const walls = outline.flatMap((_, k): Winding[] => {
    const n = (k + 1) % outline.length;
    return [
      [at(k, 0), at(n, 0), at(n, high)],
      [at(k, 0), at(n, high), at(k, high)],
    ];
  });
  const flats = pieces.flatMap((p) =>
    p.slice(2).flatMap((c, k): Winding[] => [
      [at(p[0]!, high), at(p[k + 1]!, high), at(c, high)],
      [at(p[0]!, 0), at(c, 0), at(p[k + 1]!, 0)],
    ]),
  );
  return [...walls, ...flats];
}
const L: Winding[] = drawnUp([[0, 0], [60, 0], [60, 20], [20, 20], [20, 80], [0, 80]], [[0, 1, 2, 3], [0, 3, 4, 5]], 30); // prettier-ignore

test('what is cut apart by planes across the axes comes out exactly: an L in two, a table as its top and legs', () => {
  const parts = convexHulls(L);
  expect(parts).toHaveLength(2);
  expect(volume(parts)).toBeCloseTo((60 * 20 + 20 * 60) * 30, 3);
  const leg = (x: number, y: number) => box([x, y, 0], [x + 8, y + 8, 70]);
  const table = [...box([0, 0, 70], [160, 80, 76]), ...[[4, 4], [148, 4], [148, 68], [4, 68]].flatMap(([x, y]) => leg(x!, y!))]; // prettier-ignore
  const found = convexHulls(table);
  expect(found).toHaveLength(5);
  expect(volume(found)).toBeCloseTo(160 * 80 * 6 + 4 * 8 * 8 * 70, 3);
});

test('a ring is cut into arcs, though no one cut of it saves anything', () => {
  const at = (r: number, k: number, z: number): Vec3 => [
    r * Math.cos((k * Math.PI) / 8),
    r * Math.sin((k * Math.PI) / 8),
    z,
  ];
  const quad = (a: Vec3, b: Vec3, c: Vec3, d: Vec3): Winding[] => [
    [a, b, c],
    [a, c, d],
  ];
  const ring = Array.from({ length: 16 }, (_, k) => [
    ...quad(at(50, k, 0), at(50, k + 1, 0), at(50, k + 1, 20), at(50, k, 20)),
    ...quad(at(40, k + 1, 0), at(40, k, 0), at(40, k, 20), at(40, k + 1, 20)),
    ...quad(at(40, k, 20), at(50, k, 20), at(50, k + 1, 20), at(40, k + 1, 20)),
    ...quad(at(50, k, 0), at(40, k, 0), at(40, k + 1, 0), at(50, k + 1, 0)),
  ]).flat();
  expect(isClosed(ring)).toBe(true);
  const parts = convexHulls(ring);
  expect(parts.length).toBeGreaterThanOrEqual(4);
  expect(holds(parts, ring)).toBe(true);
  // One hull of it would hold 2.8 times as much as it is.
  expect(volume(parts)).toBeLessThan(meshVolume(ring) * 1.6);
});

test('what lies within another part needs none of its own', () => {
  const nested = [...box([0, 0, 0], [60, 60, 60]), ...box([10, 10, 10], [50, 50, 50])];
  expect(convexHulls(nested)).toHaveLength(1);
  const twice = [
    ...box([0, 0, 0], [60, 60, 60]),
    ...box([0, 0, 0], [60, 60, 60]).map((t) => t.map((p): Vec3 => [p[0], p[1], p[2] + 0.005])),
  ];
  expect(convexHulls(twice)).toHaveLength(1);
  // A chest with a lid that stands out a little is one body, unless it is to be cut however little that saves.
  const chest = [...box([0, 0, 0], [60, 40, 30]), ...box([-2, -2, 30], [62, 42, 36])];
  expect([convexHulls(chest).length, convexHulls(chest, { simple: 0 }).length]).toEqual([1, 2]);
});

test('what is convex stays whole; cuts are given up where they save little, and at the most parts', () => {
  expect(convexHulls(box([0, 0, 0], [50, 30, 20]))).toHaveLength(1);
  expect(convexHulls(trianglesOf(prismSolid({ min: [0, 0, 0], max: [50, 50, 90] }, 12)))).toHaveLength(1);
  expect(convexHulls(L, { least: 0.9 })).toHaveLength(1);
  expect(convexHulls(L, { most: 1 })).toHaveLength(1);
  expect(convexHulls([])).toEqual([]);
});

test('whatever is given, each of its corners is held, by no more than the one hull of all of it', () => {
  const blob = fc.record({
    seeds: fc.array(
      fc.tuple(
        fc.integer({ min: -80, max: 80 }),
        fc.integer({ min: -80, max: 80 }),
        fc.integer({ min: 0, max: 160 }),
        fc.integer({ min: 6, max: 40 }),
        fc.integer({ min: 3, max: 9 }),
      ),
      { minLength: 1, maxLength: 4 },
    ),
    axis: fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.integer({ min: 1, max: 9 })),
    turn: fc.integer({ min: 0, max: 359 }),
  });
  fc.assert(
    fc.property(blob, ({ seeds, axis, turn }) => {
      const m = rotationAbout(normalize(axis), turn, [0, 0, 0]);
      const triangles = seeds.flatMap(([x, y, z, r, sides]) =>
        trianglesOf(prismSolid({ min: [x - r, y - r, z], max: [x + r, y + r, z + r * 1.5] }, sides)).map((t) =>
          t.map((p) => applyAffine(m, p)),
        ),
      );
      const parts = convexHulls(triangles);
      expect(parts.length).toBeLessThanOrEqual(12);
      expect(holds(parts, triangles)).toBe(true);
      // What bounds a part with many corners has fewer faces, and holds a little more.
      expect(volume(parts)).toBeLessThan(solidVolume(hullOf(triangles.flat())) * 1.15 + 200);
    }),
    { numRuns: 4 },
  );
});

test('a sheet, a rod and a point are as thick as a solid has to be', () => {
  const sheet: Winding[] = [[[0, 0, 0], [40, 0, 30], [40, 50, 30]], [[0, 0, 0], [40, 50, 30], [0, 50, 0]]]; // prettier-ignore
  const [thick] = convexHulls(sheet);
  expect(solidVolume(thick!)).toBeCloseTo(50 * 50 * 1, 1);
  const rod: Winding[] = [[[0, 0, 0], [50, 50, 50], [25, 25, 25]]]; // prettier-ignore
  expect(holds(convexHulls(rod), rod)).toBe(true);
  const point: Winding[] = [[[5, 5, 5], [5, 5, 5], [5, 5, 5]]]; // prettier-ignore
  expect(volume(convexHulls(point))).toBeCloseTo(1, 3);
});

test('the volume of a closed mesh is told, and whether it is closed; inside out it is less than nothing', () => {
  expect(isClosed(L)).toBe(true);
  expect(meshVolume(L)).toBeCloseTo(72_000, 3);
  expect(meshVolume(L.map((t) => t.toReversed()))).toBeCloseTo(-72_000, 3);
  expect(isClosed(L.slice(1))).toBe(false);
  expect(isClosed([])).toBe(false);
});
