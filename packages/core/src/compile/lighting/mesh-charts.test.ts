import fc from 'fast-check';
import { boxSolid } from '../../brush/index.ts';
import {
  addScaled,
  applyAffine,
  cross,
  dot,
  length,
  normalize,
  rotationAbout,
  sub,
  type Vec3,
} from '../../math/index.ts';
import type { PropMesh } from '../../prop/index.ts';
import { layOutMesh, type MeshCharts } from './mesh-charts.ts';

/** Triangles as a mesh: each with corners of its own, that look as `wayAt` says or as the triangle does. */
function meshOf(triangles: readonly (readonly [Vec3, Vec3, Vec3])[], wayAt?: (p: Vec3) => Vec3): PropMesh {
  const [places, normals]: [number[], number[]] = [[], []];
  for (const [a, b, c] of triangles)
    for (const p of [a, b, c]) {
      places.push(...p);
      normals.push(...(wayAt?.(p) ?? normalize(cross(sub(b, a), sub(c, a)))));
    }
  const index = Uint32Array.from({ length: places.length / 3 }, (_, k) => k);
  return { places: Float32Array.from(places), normals: Float32Array.from(normals), index };
}
type Triangle = [Vec3, Vec3, Vec3];
const quad = (a: Vec3, b: Vec3, c: Vec3, d: Vec3): Triangle[] => [
  [a, b, c],
  [a, c, d],
];
const crate = (size: Vec3, turn = 0): Triangle[] => {
  const { vertices, loops } = boxSolid({ min: [0, 0, 0], max: size });
  const m = rotationAbout(normalize([1, 2, 3]), turn, [0, 0, 0]);
  return loops.flatMap((loop) => {
    const [a, b, c, d] = loop.map((i) => applyAffine(m, vertices[i]!)) as [Vec3, Vec3, Vec3, Vec3];
    return quad(a, b, c, d);
  });
};
/** A ball of so many rings. */
const ball = (r: number, rings: number): Triangle[] => {
  const at = (i: number, j: number): Vec3 => {
    const [theta, phi] = [(Math.PI * i) / rings, (Math.PI * j) / rings];
    return [r * Math.sin(theta) * Math.cos(phi), r * Math.sin(theta) * Math.sin(phi), r * Math.cos(theta)];
  };
  return Array.from(
    { length: rings * rings * 2 },
    (_, k) => [Math.floor(k / rings / 2), k % (rings * 2)] as const,
  ).flatMap(([i, j]) => quad(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)));
};
/** A ramp that turns twice round a post: it lies over itself. */
const spiral = (): Triangle[] =>
  Array.from({ length: 48 }, (_, k) => k).flatMap((k) => {
    const at = (n: number, r: number): Vec3 => {
      const turn = (n * Math.PI) / 12;
      return [r * Math.cos(turn), r * Math.sin(turn), n * 4];
    };
    return quad(at(k, 40), at(k, 100), at(k + 1, 100), at(k + 1, 40));
  });

const vec = (list: Float32Array, k: number): Vec3 => [list[k * 3]!, list[k * 3 + 1]!, list[k * 3 + 2]!];
/** What filtering reads of a picture of three numbers a luxel. */
function read({ width }: MeshCharts, list: Float32Array, u: number, v: number): Vec3 {
  const [x, y] = [u - 0.5, v - 0.5];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [a, b] = [x - i, y - j];
  let sum: Vec3 = [0, 0, 0];
  for (const [di, dj, part] of [
    [0, 0, (1 - a) * (1 - b)],
    [1, 0, a * (1 - b)],
    [0, 1, (1 - a) * b],
    [1, 1, a * b],
  ] as const)
    if (part > 1e-6) sum = addScaled(sum, vec(list, (j + dj) * width + i + di), part);
  return sum;
}

const areaAt = ({ places, index }: PropMesh, t: number): number => {
  const [a, b, c] = [0, 1, 2].map((k) => vec(places, index[t + k]!)) as Triangle;
  return length(cross(sub(b, a), sub(c, a))) / 2;
};

/** Places all over a mesh, with where each lies in its picture. */
function* samples(mesh: PropMesh, { corners }: MeshCharts): Generator<{ p: Vec3; u: number; v: number; t: number }> {
  const parts = [[0.6, 0.2], [0.2, 0.6], [0.15, 0.15], [1, 0], [0, 1], [0, 0], [0.5, 0.5]] as const; // prettier-ignore
  for (let t = 0; t < mesh.index.length; t += 3)
    if (areaAt(mesh, t) > 1e-6)
      for (const [a, b] of parts) {
        const shares = [a, b, 1 - a - b];
        const p = shares.reduce<Vec3>(
          (sum, s, k) => addScaled(sum, vec(mesh.places, mesh.index[t + k]!), s),
          [0, 0, 0],
        );
        const [u, v] = [0, 1].map((c) => shares.reduce((sum, s, k) => sum + s * corners[(t + k) * 2 + c]!, 0)) as [
          number,
          number,
        ];
        yield { p, u, v, t };
      }
}
/** How far what is read at places of a mesh is from those places at most. */
function farthest(mesh: PropMesh, charts: MeshCharts): number {
  let far = 0;
  for (const { p, u, v } of samples(mesh, charts)) {
    const q = read(charts, charts.places, u, v);
    far = Math.max(far, length(sub(p, q)));
    if (!(far < Infinity)) throw new Error('a luxel that was read lies nowhere');
  }
  return far;
}

test('what is read at a place of a crate, however it is turned, is what lies there: the mesh lies in the picture once, and seams read their own side', () => {
  fc.assert(
    fc.property(
      fc.tuple(fc.integer({ min: 10, max: 200 }), fc.integer({ min: 10, max: 200 }), fc.integer({ min: 10, max: 90 })),
      fc.integer({ min: 0, max: 359 }),
      fc.integer({ min: 3, max: 16 }),
      (size, turn, luxel) => {
        const mesh = meshOf(crate(size, turn));
        const charts = layOutMesh(mesh, luxel, 20_000)!;
        // Beside an edge the place nearest on the side itself is read: off by less than a luxel and a half.
        expect(farthest(mesh, charts)).toBeLessThan(luxel * 1.5);
        for (const { u, v, t } of samples(mesh, charts)) {
          const way = read(charts, charts.normals, u, v);
          expect(length(sub(way, vec(mesh.normals, mesh.index[t]!)))).toBeLessThan(1e-4);
        }
      },
    ),
    { numRuns: 20 },
  );
});

test('six sides of a crate lie each in a rectangle of its own, and little is left between', () => {
  const mesh = meshOf(crate([80, 80, 80]));
  const { width, height, normals } = layOutMesh(mesh, 8, 20_000)!;
  const used = Array.from({ length: width * height }, (_, k) => length(vec(normals, k)) > 0).filter(Boolean).length;
  // 80 cm are ten luxels, and one more so that both ends have their own.
  expect(used).toBe(6 * 11 * 11);
  expect(width * height).toBeLessThan(used * 1.4);
});

test('on a ball what is read lies near, faces out, and leans as the ball does', () => {
  const mesh = meshOf(ball(60, 16), (p) => normalize(p));
  const charts = layOutMesh(mesh, 4, 20_000)!;
  expect(farthest(mesh, charts)).toBeLessThan(6);
  for (const { p, u, v } of samples(mesh, charts))
    expect(dot(normalize(read(charts, charts.normals, u, v)), normalize(p))).toBeGreaterThan(0.99);
});

test('a ramp that turns over itself is laid out without one turn on the other', () => {
  const mesh = meshOf(spiral());
  const charts = layOutMesh(mesh, 5, 20_000)!;
  expect(farthest(mesh, charts)).toBeLessThan(8);
});

test('too many luxels become larger ones; what is all splinters is not laid out, nor what has no area', () => {
  const mesh = meshOf(crate([400, 300, 200]));
  const fine = layOutMesh(mesh, 4, 1e6)!;
  const coarse = layOutMesh(mesh, 4, 8000)!;
  expect(fine.width * fine.height).toBeGreaterThan(30_000);
  expect(coarse.width * coarse.height).toBeLessThanOrEqual(12_000);
  expect(farthest(mesh, coarse)).toBeLessThan(25);
  // What is very large takes luxels as large as they have to be.
  const tower = meshOf(crate([20_000, 15_000, 40_000]));
  const far = layOutMesh(tower, 1, 8000)!;
  expect(far.width * far.height).toBeLessThanOrEqual(12_000);
  expect(far.width * far.height).toBeGreaterThan(3000);
  expect(farthest(tower, far)).toBeLessThan(1500);
  const splinters = meshOf(
    Array.from({ length: 900 }, (_, k): Triangle => [
      [k * 9, 0, 0],
      [k * 9 + 1, 0, 0],
      [k * 9, 1, 0],
    ]),
  );
  expect(layOutMesh(splinters, 4, 1000)).toBeNull();
  expect(layOutMesh(meshOf([[[0, 0, 0], [5, 0, 0], [9, 0, 0]]]), 4, 1000)).toBeNull(); // prettier-ignore
  expect(
    layOutMesh({ places: new Float32Array(0), normals: new Float32Array(0), index: new Uint32Array(0) }, 4, 1000),
  ).toBeNull();
});
