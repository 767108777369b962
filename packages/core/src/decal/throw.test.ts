import fc from 'fast-check';
import {
  addScaled,
  cross,
  dot,
  normalize,
  rotationAbout,
  applyAffine,
  scale,
  sub,
  windingArea,
  type Point2,
  type Vec3,
  type Winding,
} from '../math/index.ts';
import { linearColor } from '../surface/index.ts';
import { oracle } from '../testing/oracle.ts';
import { decalCorners, readyDecal, shareAt } from './throw.ts';
import type { Decal } from './types.ts';

const PLAIN: Decal = {
  material: 'm',
  region: '',
  at: [0, 0, 0],
  across: [100, 0, 0],
  upward: [0, 60, 0],
  through: [0, 0, 40],
  outline: [],
  inks: [],
  tint: '#ffffff',
  opacity: 1,
  order: 0,
  angle: 60,
  fade: 0,
  backs: false,
  targets: 'all',
  brushes: [],
  things: [],
  fine: false,
};
const FACTS = { width: 512, height: 256, regions: [{ name: 'sign', x: 64, y: 32, width: 200, height: 120 }] };
const square = (half: number, at: Vec3 = [0, 0, 0]): Winding => [
  [at[0] - half, at[1] - half, at[2]],
  [at[0] + half, at[1] - half, at[2]],
  [at[0] + half, at[1] + half, at[2]],
  [at[0] - half, at[1] + half, at[2]],
];
const vec = (p: Vec3): [number, number, number] => [p[0], p[1], p[2]];
const UP: Vec3 = [0, 0, 1];
const areaOf = (decal: Decal, polygon: Winding, normal: Vec3): number =>
  readyDecal(decal, FACTS)!
    .on(polygon, normal)
    .reduce((sum, p) => sum + windingArea(p.winding), 0);

/** A decal's box turned by an odd angle and far from the origin, and a polygon in a plane through it that leans little from its surface. */
const thrown = fc
  .record({
    at: fc.tuple(
      fc.integer({ min: -40_000, max: 40_000 }),
      fc.integer({ min: -40_000, max: 40_000 }),
      fc.integer({ min: -9000, max: 9000 }),
    ),
    axis: fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 }), fc.integer({ min: 1, max: 9 })),
    turn: fc.integer({ min: 0, max: 359 }),
    size: fc.tuple(
      fc.integer({ min: 8, max: 300 }),
      fc.integer({ min: 8, max: 300 }),
      fc.integer({ min: 8, max: 200 }),
    ),
    lean: fc.tuple(fc.integer({ min: -55, max: 55 }), fc.integer({ min: 0, max: 359 })),
    off: fc.tuple(
      fc.integer({ min: -60, max: 60 }),
      fc.integer({ min: -60, max: 60 }),
      fc.integer({ min: -30, max: 30 }),
    ),
    half: fc.integer({ min: 10, max: 250 }),
    corners: fc.integer({ min: 3, max: 7 }),
  })
  .map(({ at, axis, turn, size, lean, off, half, corners }) => {
    const m = rotationAbout(normalize(axis), turn, [0, 0, 0]);
    const [across, upward, through] = (
      [
        [size[0], 0, 0],
        [0, size[1], 0],
        [0, 0, size[2]],
      ] as Vec3[]
    ).map((w) => applyAffine(m, w)) as [Vec3, Vec3, Vec3];
    const out = normalize(through);
    const side = normalize(addScaled(scale(across, Math.cos(lean[1]) / size[0]), upward, Math.sin(lean[1]) / size[1]));
    const tilt = rotationAbout(side, lean[0], [0, 0, 0]);
    const normal = normalize(applyAffine(tilt, out));
    const [u, v] = [normalize(cross(side, normal)), side];
    const middle: Vec3 = [at[0] + off[0], at[1] + off[1], at[2] + off[2]];
    const polygon = Array.from({ length: corners }, (_, k): Vec3 => {
      const a = (2 * Math.PI * k) / corners + 0.3;
      return addScaled(addScaled(middle, u, half * Math.cos(a)), v, half * Math.sin(a));
    });
    const round = dot(cross(sub(polygon[1]!, polygon[0]!), sub(polygon[2]!, polygon[1]!)), normal) > 0;
    return {
      decal: { ...PLAIN, at, across, upward, through },
      polygon: round ? polygon : polygon.toReversed(),
      normal,
    };
  });

test('what a face shows is as large as another kernel finds what of it lies in the box, and none of it lies outside', async () => {
  const THIN = 0.05;
  const { Manifold } = await oracle();
  fc.assert(
    fc.property(thrown, ({ decal, polygon, normal }) => {
      const pieces = readyDecal(decal, FACTS)!.on(polygon, normal);
      // The kernel counts in single precision: about the decal's middle.
      const about = (p: Vec3): Vec3 => sub(p, decal.at);
      const slab = Manifold.hull(
        [-THIN / 2, THIN / 2].flatMap((d) => polygon.map((p) => vec(addScaled(about(p), normal, d)))),
      );
      const box = Manifold.hull(decalCorners({ ...decal, at: [0, 0, 0] }).map(vec));
      const truth = slab.intersect(box).volume() / THIN;
      const area = pieces.reduce((sum, p) => sum + windingArea(p.winding), 0);
      expect(Math.abs(area - truth)).toBeLessThan(1 + truth * 0.01);
      for (const { winding } of pieces)
        for (const p of winding) {
          for (const way of [decal.across, decal.upward, decal.through])
            expect(Math.abs(dot(about(p), way)) / dot(way, way)).toBeLessThan(0.5 + 1e-4);
          expect(Math.abs(dot(sub(p, polygon[0]!), normal))).toBeLessThan(1e-3);
        }
    }),
    { numRuns: 120 },
  );
});

test('its picture lies in the region that was asked for, upright, from edge to edge', () => {
  const ready = readyDecal({ ...PLAIN, region: 'sign' }, FACTS)!;
  const [piece] = ready.on(square(200), UP);
  const at = (x: number, y: number) => piece!.texels[piece!.winding.findIndex((p) => p[0] === x && p[1] === y)];
  expect([at(-50, 30), at(50, 30), at(50, -30), at(-50, -30)]).toEqual([
    [64, 32],
    [264, 32],
    [264, 152],
    [64, 152],
  ]);
  // A region that is not there is the whole picture.
  const whole = readyDecal({ ...PLAIN, region: 'none' }, FACTS)!.on(square(200), UP)[0]!;
  expect([Math.max(...whole.texels.map((t) => t[0])), Math.max(...whole.texels.map((t) => t[1]))]).toEqual([512, 256]);
});

test('faces that look aside are left out by the angle limit, faded before it; backs are asked for', () => {
  const aside = (degrees: number, more: Partial<Decal> = {}): number => shareAt({ ...PLAIN, ...more }, degrees);
  expect([aside(0, { angle: 0 }), aside(1, { angle: 0 })]).toEqual([1, 0]);
  expect([aside(60), aside(61)]).toEqual([1, 0]);
  expect(aside(45, { fade: 30 })).toBeCloseTo(0.5, 9);
  expect(aside(20, { fade: 30 })).toBe(1);
  expect([aside(120, { angle: 180 }), aside(120, { angle: 180, backs: true })]).toEqual([0, 1]);
  // At right angles there is no picture, only its smear.
  expect(aside(90, { angle: 180, backs: true })).toBe(0);
  const wall = square(200).map((p): Vec3 => [p[0], 0, p[1]]);
  expect(readyDecal({ ...PLAIN, angle: 180, backs: true }, FACTS)!.on(wall, [0, -1, 0])).toEqual([]);
  expect(readyDecal({ ...PLAIN, fade: 40, angle: 40, opacity: 0.5 }, FACTS)!.on(square(200), UP)[0]!.inks[0]![3]).toBe(
    0.5,
  );
});

test('an outline cuts its picture out, also a hollow one, whichever way round it runs', () => {
  const corner: Point2[] = [
    [0, 0],
    [1, 0],
    [1, 0.5],
    [0.5, 0.5],
    [0.5, 1],
    [0, 1],
  ];
  for (const outline of [corner, corner.toReversed()])
    expect(areaOf({ ...PLAIN, outline }, square(300), UP)).toBeCloseTo(4500, 6);
  expect(areaOf(PLAIN, square(300), UP)).toBeCloseTo(6000, 6);
});

test('inks run evenly from corner to corner, and belong to the corner they were given to', () => {
  const ink = (opacity: number, color = '#ffffff') => ({ color, opacity });
  const inks = [ink(0, '#ff0000'), ink(1), ink(1), ink(0)];
  const pieces = readyDecal({ ...PLAIN, inks, opacity: 0.8 }, FACTS)!.on(square(300), UP);
  for (const { winding, inks: found } of pieces)
    winding.forEach((p, k) => {
      // Opacity does not change along an upright, whichever way the picture was cut into triangles.
      expect(found[k]![3]).toBeCloseTo(0.8 * (p[0] / 100 + 0.5), 9);
      if (p[0] === -50 && p[1] === -30) expect(found[k]!.slice(0, 3)).toEqual([1, 0, 0]);
    });
  // Each of the four channels is its own.
  const colors = ['#ff0000', '#00ff00', '#4040ff', '#ffff80'];
  const painted = readyDecal({ ...PLAIN, inks: colors.map((c, k) => ink((k + 1) / 5, c)) }, FACTS)!.on(square(300), UP);
  const corners: Point2[] = [[-50, -30], [50, -30], [50, 30], [-50, 30]]; // prettier-ignore
  corners.forEach(([x, y], k) => {
    const here = painted.flatMap(({ winding, inks: own }) =>
      winding.flatMap((p, i) => (Math.hypot(p[0] - x, p[1] - y) < 1e-6 ? [own[i]!] : [])),
    );
    expect(here.length).toBeGreaterThan(0);
    for (const found of here)
      [...linearColor(colors[k]!), (k + 1) / 5].forEach((c, channel) => expect(found[channel]).toBeCloseTo(c, 9));
  });
  // Run the other way round, each corner keeps its own.
  const turned: Point2[] = [[0, 1], [1, 1], [1, 0], [0, 0]]; // prettier-ignore
  const other = readyDecal({ ...PLAIN, outline: turned, inks }, FACTS)!.on(square(300), UP);
  const at = (x: number, y: number) =>
    other.flatMap(({ winding, inks: own }) =>
      winding.flatMap((p, k) => (p[0] === x && p[1] === y ? [own[k]!] : [])),
    )[0]!;
  expect(at(-50, 30)).toEqual([1, 0, 0, 0]);
  expect(at(50, -30)[3]).toBe(1);
});

test('a box or a picture without size shows nothing', () => {
  expect(readyDecal({ ...PLAIN, through: [0, 0, 0] }, FACTS)).toBeNull();
  expect(readyDecal({ ...PLAIN, upward: [2, 0, 0] }, FACTS)).toBeNull();
  expect(areaOf({ ...PLAIN, opacity: 0 }, square(10), UP)).toBe(0);
});

test('a place shows it where it lies in the outline and the box, on a face that looks its way', () => {
  const ready = readyDecal({ ...PLAIN, outline: [[0, 0], [1, 0], [0, 1]] }, FACTS)!; // prettier-ignore
  expect([ready.shows([-40, -20, 0], UP), ready.shows([40, 20, 0], UP)]).toEqual([true, false]);
  expect([ready.shows([-40, -20, 21], UP), ready.shows([-40, -20, 0], [1, 0, 0])]).toEqual([false, false]);
});
