import fc from 'fast-check';
import {
  determinant,
  dot,
  length,
  ON_PLANE,
  rotation,
  scaling,
  signedDistance,
  sub,
  translation,
  windingArea,
  type Affine,
  type Plane,
  type Vec3,
} from '../math/index.ts';
import { dressSolid, transformBrush, worldFrame } from '../surface/index.ts';
import { oracleSolid, oracleVolume } from '../testing/oracle.ts';
import { boxSolid, prismSolid, wedgeSolid } from './primitives.ts';
import {
  brushBounds,
  brushContains,
  brushPlanes,
  brushVolume,
  findFlaw,
  isTranslation,
  solidOf,
  solidVolume,
} from './solid.ts';
import { hullOf, hullVolume } from './hull.ts';
import { splitBrush } from './split.ts';
import type { Brush, Solid } from './types.ts';

const BOX = { min: [-32, 16, 0], max: [96, 80, 272] } as const;
const cap = () => ({ material: 'cut', frame: worldFrame([0, 0, 1]) });
const coordinate = fc.integer({ min: -400, max: 400 });
const points = (min: number, max: number) =>
  fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: min, maxLength: max });

/** A random convex brush: the hull of points on a one-centimetre grid, when they enclose something. */
const convex = points(5, 18).map((p): Solid | null => {
  try {
    const solid = hullOf(p);
    return findFlaw(solid) ? null : solid;
  } catch {
    return null;
  }
});

describe('primitives', () => {
  test('a box has the volume of its sides and faces outward', () => {
    const solid = boxSolid(BOX);
    expect(solidVolume(solid)).toBe(128 * 64 * 272);
    expect(findFlaw(solid)).toBeNull();
  });

  test.each(['north', 'south', 'east', 'west'] as const)('a wedge that rises %s is half of its box', async (rises) => {
    const solid = wedgeSolid(BOX, rises);
    expect(findFlaw(solid)).toBeNull();
    expect(solidVolume(solid)).toBe((128 * 64 * 272) / 2);
    expect(await oracleVolume(solid)).toBeCloseTo(solidVolume(solid), 0);
    const slope = brushPlanes(dressSolid(solid, 'w', 'm')).find((p) => p.normal[2] > 0)!;
    const uphill = { north: [0, -1], south: [0, 1], east: [-1, 0], west: [1, 0] }[rises];
    expect([Math.sign(slope.normal[0]) + 0, Math.sign(slope.normal[1]) + 0]).toEqual(uphill);
  });

  test.each([3, 4, 6, 8, 12, 33])(
    'a prism of %i sides touches its box and has the area of its outline',
    async (sides) => {
      const solid = prismSolid({ min: [0, 0, 0], max: [200, 200, 100] }, sides);
      expect(findFlaw(solid)).toBeNull();
      const brush = dressSolid(solid, 'p', 'm');
      expect(brushBounds(brush)).toEqual({ min: [0, 0, 0], max: [200, 200, 100] });
      // The formula of a regular polygon holds before it is stretched to its box: compare with the oracle instead.
      expect(Math.abs((await oracleVolume(solid)) / solidVolume(solid) - 1)).toBeLessThan(1e-6);
      if (sides % 4 === 0) {
        const apothem = 100;
        expect(solidVolume(solid)).toBeCloseTo(100 * sides * apothem ** 2 * Math.tan(Math.PI / sides), 3);
      }
    },
  );

  test('sizes of nothing, inside out or not finite are refused with a code', () => {
    expect(() => boxSolid({ min: [0, 0, 0], max: [0, 10, 10] })).toThrow(
      expect.objectContaining({ code: 'brush.tooSmall' }),
    );
    expect(() => boxSolid({ min: [0, 0, 0], max: [-10, 10, 10] })).toThrow(
      expect.objectContaining({ code: 'brush.tooSmall' }),
    );
    expect(() => boxSolid({ min: [0, 0, 0], max: [NaN, 10, 10] })).toThrow(
      expect.objectContaining({ code: 'brush.notFinite' }),
    );
    expect(() => boxSolid({ min: [0, 0, 0], max: [1e6, 10, 10] })).toThrow(
      expect.objectContaining({ code: 'brush.outOfWorld' }),
    );
    expect(() => prismSolid(BOX, 2)).toThrow(expect.objectContaining({ code: 'brush.sides' }));
  });
});

test('a move is what keeps every direction: nothing that turns, shears, mirrors or scales by the least', () => {
  const by: Affine = [1, 0, 0, 5, 0, 1, 0, -7, 0, 0, 1, 9];
  expect(isTranslation(by)).toBe(true);
  for (const k of [0, 1, 2, 4, 5, 6, 8, 9, 10])
    for (const off of [1e-9, -1])
      expect(isTranslation(by.map((x, i) => (i === k ? x + off : x)) as unknown as Affine)).toBe(false);
});

describe('validity', () => {
  const box = boxSolid(BOX);
  test('what is too far away is told how far it may be: as far as that is fine', () => {
    const reaching = (x: number) =>
      findFlaw({ ...box, vertices: box.vertices.map((v) => (v[0] > 0 ? [x, v[1], v[2]] : v)) });
    const metres = Number(/more than (\d+) m from/.exec(reaching(1e7)!.message)![1]);
    expect(reaching(metres * 100)).toBeNull();
    expect(reaching(metres * 100 + 1)?.code).toBe('brush.outOfWorld');
  });
  test('an open surface is found', () => {
    expect(findFlaw({ ...box, loops: box.loops.slice(1) })?.code).toBe('brush.notClosed');
  });
  test('a corner pushed in makes it not convex or not planar', () => {
    const vertices = box.vertices.map((v, i): Vec3 => (i === 6 ? [20, 40, 100] : v));
    expect(findFlaw({ ...box, vertices })?.code).toMatch(/brush\.(notConvex|notPlanar)/);
  });
  test('a face turned round is found', () => {
    const loops = box.loops.map((l, i) => (i === 0 ? [...l].reverse() : l));
    expect(findFlaw({ ...box, loops })?.code).toBe('brush.notClosed');
  });
  test('a brush turned inside out is not convex', () => {
    expect(findFlaw({ ...box, loops: box.loops.map((l) => [...l].reverse()) })?.code).toBe('brush.notConvex');
  });
  test('corners that are no numbers or name nothing are found', () => {
    expect(findFlaw({ ...box, vertices: box.vertices.map((v, i): Vec3 => (i === 0 ? [NaN, 0, 0] : v)) })?.code).toBe(
      'brush.notFinite',
    );
    expect(findFlaw({ ...box, loops: [[0, 1, 99], ...box.loops.slice(1)] })?.code).toBe('brush.badLoop');
  });
});

describe('hull', () => {
  test('of a box with points inside and on its faces is the box with six faces', () => {
    const solid = hullOf([...boxSolid(BOX).vertices, [0, 40, 100], [32, 48, 0], [-32, 50, 136], [32, 16, 0]]);
    expect(solid.vertices).toHaveLength(8);
    expect(solid.loops).toHaveLength(6);
    expect(solidVolume(solid)).toBe(128 * 64 * 272);
  });

  test('flat points are refused', () => {
    expect(() =>
      hullOf([
        [0, 0, 0],
        [10, 0, 0],
        [0, 10, 0],
        [7, 7, 0],
        [3, 2, 0],
      ]),
    ).toThrow(expect.objectContaining({ code: 'brush.flat' }));
  });

  test('of points no farther apart than a pebble has the volume an independent kernel finds', async () => {
    const { Manifold } = await (await import('../testing/oracle.ts')).oracle();
    const fine = fc.double({ min: 0, max: 2, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(fine, fine, fine), { minLength: 6, maxLength: 30 }), (p) => {
        const hull = Manifold.hull(p as [number, number, number][]);
        const volume = hull.volume();
        hull.delete();
        // Points nearer to each other than a fiftieth of a centimetre are one.
        if (volume > 0.3) expect(Math.abs(hullVolume(p) - volume)).toBeLessThan(0.1 * volume);
      }),
    );
  });

  test('of any points holds them all, is valid, and has the volume an independent kernel finds', async () => {
    const { Manifold } = await (await import('../testing/oracle.ts')).oracle();
    fc.assert(
      fc.property(points(5, 24), (p) => {
        let solid: Solid;
        try {
          solid = hullOf(p);
        } catch {
          return;
        }
        if (findFlaw(solid)?.code === 'brush.tooSmall') return;
        expect(findFlaw(solid)).toBeNull();
        const brush = dressSolid(solid, 'h', 'm');
        for (const plane of brushPlanes(brush))
          for (const q of p) expect(dot(plane.normal, q) - plane.distance).toBeLessThan(0.011);
        const other = Manifold.hull(p.map((q) => [...q] as [number, number, number]));
        expect(Math.abs(solidVolume(solid) / other.volume() - 1)).toBeLessThan(1e-4);
        other.delete();
      }),
      { numRuns: 150 },
    );
  });
});

describe('split', () => {
  const brush = dressSolid(boxSolid(BOX), 'b', 'limewash');

  test('keeps corners, face ids and materials, and dresses only the cut', () => {
    const plane: Plane = { normal: [0, 0, 1], distance: 100 };
    const { front, back } = splitBrush(brush, plane, cap);
    expect(brushVolume(back!)).toBe(128 * 64 * 100);
    expect(brushVolume(front!)).toBe(128 * 64 * 172);
    expect(back!.faces.filter((f) => f.material === 'cut')).toHaveLength(1);
    expect(
      back!.faces
        .filter((f) => f.material === 'limewash')
        .map((f) => f.id)
        .sort(),
    ).toEqual([1, 3, 4, 5, 6]);
  });

  test('a plane that misses leaves the brush as it is', () => {
    expect(splitBrush(brush, { normal: [1, 0, 0], distance: 500 }, cap)).toEqual({ front: null, back: brush });
    expect(splitBrush(brush, { normal: [1, 0, 0], distance: 96 }, cap).back).toBe(brush);
  });

  test('by any plane both halves are valid and their volumes add up', () => {
    const direction = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: -1, max: 1, noNaN: true }),
    );
    fc.assert(
      fc.property(convex, direction, fc.integer({ min: -200, max: 200 }), (solid, n, distance) => {
        fc.pre(solid !== null && length(n) > 0.1);
        const normal: Vec3 = [n[0] / length(n), n[1] / length(n), n[2] / length(n)];
        const whole = dressSolid(solid, 's', 'm');
        const { front, back } = splitBrush(whole, { normal, distance }, cap);
        const parts = [front, back].filter((b) => b !== null);
        for (const p of parts) expect(findFlaw(solidOf(p))).toBeNull();
        const sum = parts.reduce((v, p) => v + brushVolume(p), 0);
        // A corner this near to the plane is taken to lie on it: the halves may overlap or gape by that, as wide as they are.
        const taken = whole.vertices.some((v) => Math.abs(signedDistance({ normal, distance }, v)) <= ON_PLANE);
        const area = whole.faces.reduce((s, f) => s + windingArea(f.loop.map((k) => whole.vertices[k]!)), 0);
        expect(Math.abs(sum - brushVolume(whole))).toBeLessThan(
          brushVolume(whole) * 1e-9 + (taken ? ON_PLANE * area : 0),
        );
      }),
      { numRuns: 300 },
    );
  });

  test('agrees with the independent kernel on a slanted cut', async () => {
    const normal: Vec3 = [0.6, 0, 0.8];
    const { back } = splitBrush(brush, { normal, distance: 90 }, cap);
    const [, behind] = (await oracleSolid(solidOf(brush))).splitByPlane([0.6, 0, 0.8], 90);
    expect(Math.abs(brushVolume(back!) / behind.volume() - 1)).toBeLessThan(1e-5);
  });
});

describe('transform', () => {
  test('grid points stay exact through moves and quarter turns, there and back', () => {
    const brush = dressSolid(wedgeSolid(BOX, 'east'), 'w', 'm');
    const turn = (d: number) => rotation(2, d, [32, 48, 0]);
    let b = brush;
    for (const m of [translation([16, -32, 8]), turn(90), turn(180), turn(90), translation([-16, 32, -8])])
      b = transformBrush(b, m, true);
    expect(b.vertices).toEqual(brush.vertices);
  });

  test('what is known of a brush moves with it: its planes and bounds are those of its corners', () => {
    const way = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -5000, max: 5000, noNaN: true })));
    fc.assert(
      fc.property(way, fc.boolean(), (by, wedge) => {
        const brush = dressSolid(wedge ? wedgeSolid(BOX, 'east') : boxSolid(BOX), 'b', 'm');
        // So that it is known already.
        expect([brushPlanes(brush).length, brushBounds(brush).min]).toEqual([wedge ? 5 : 6, BOX.min]);
        const moved = transformBrush(brush, translation(by as unknown as Vec3), true);
        brushPlanes(moved).forEach((plane, face) => {
          for (const k of moved.faces[face]!.loop)
            expect(Math.abs(signedDistance(plane, moved.vertices[k]!))).toBeLessThan(1e-6);
        });
        const { min, max } = brushBounds(moved);
        for (const axis of [0, 1, 2] as const) {
          const along = moved.vertices.map((v) => v[axis]);
          expect([min[axis], max[axis]]).toEqual([Math.min(...along), Math.max(...along)]);
        }
      }),
    );
  });

  test('a mirrored brush is still valid and as large', () => {
    /** How much a volume may differ with where loops begin: a face's triangles stay as near to its plane as its corners. */
    const slack = (brush: Brush) =>
      brushPlanes(brush).reduce((sum, plane, i) => {
        const face = brush.faces[i]!.loop.map((k) => brush.vertices[k]!);
        return sum + 2 * windingArea(face) * Math.max(...face.map((p) => Math.abs(signedDistance(plane, p))));
      }, 0);
    /** Four corners of one face, a hair out of plane: their volume depends on where the mirrored loop begins. */
    const warped: Solid = { vertices: [[-312, 248, -305], [-395, -400, -113], [-397, -150, 6], [0, 0, 0], [-321, -3, -362]], loops: [[3, 1, 4], [3, 0, 2], [1, 2, 0, 4], [0, 3, 4], [1, 3, 2]] }; // prettier-ignore
    fc.assert(
      fc.property(convex, (solid) => {
        fc.pre(solid !== null);
        const m = scaling([-1, 1, 1], [0, 0, 0]);
        expect(determinant(m)).toBe(-1);
        const brush = dressSolid(solid, 's', 'm');
        const mirrored = transformBrush(brush, m, true);
        expect(findFlaw(solidOf(mirrored))).toBeNull();
        expect(Math.abs(brushVolume(mirrored) - solidVolume(solid))).toBeLessThan(5e-7 + slack(brush));
      }),
      { numRuns: 50, examples: [[warped]] },
    );
  });

  test('contains what is inside and not what is outside', () => {
    const brush = dressSolid(wedgeSolid({ min: [0, 0, 0], max: [100, 100, 100] }, 'east'), 'w', 'm');
    expect(brushContains(brush, [90, 50, 50])).toBe(true);
    expect(brushContains(brush, [10, 50, 50])).toBe(false);
    expect(length(sub([1, 2, 2], [0, 0, 0]))).toBe(3);
  });
});
