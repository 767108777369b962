import fc from 'fast-check';
import { boxOf, outlineArea, type Box, type Point2 } from '../math/index.ts';
import { oracleVolume } from '../testing/oracle.ts';
import { archCurve, spandrels } from './arch.ts';
import { nearestValue } from '../params/index.ts';
import { polygonSolids, SHAPE_KINDS, shapeSolids, shapeSpec, type ShapeKind, type ShapeValue } from './shapes.ts';
import { domeSolid } from './round.ts';
import { findFlaw, solidVolume } from './solid.ts';

const BOX: Box = { min: [-96, 32, 0], max: [160, 224, 128] };
const L: Point2[] = [[-96, 32], [160, 32], [160, 96], [0, 96], [0, 224], [-96, 224]]; // prettier-ignore
const make = (kind: ShapeKind, params: Record<string, ShapeValue> = {}, box = BOX) =>
  shapeSolids({ kind, box, params, outline: L });
const volume = (
  solids: readonly {
    vertices: readonly (readonly [number, number, number])[];
    loops: readonly (readonly number[])[];
  }[],
) => solids.reduce((v, s) => v + solidVolume(s), 0);
const size = [256, 192, 128] as const;
const all = size[0] * size[1] * size[2];

describe('every shape', () => {
  test.each(SHAPE_KINDS)('%s is made of valid brushes and touches all six sides of its box', async (kind) => {
    const solids = make(kind);
    for (const s of solids) expect(findFlaw(s)).toBeNull();
    expect(boxOf(solids.flatMap((s) => s.vertices))).toEqual(BOX);
    for (const s of solids) expect(Math.abs((await oracleVolume(s)) / solidVolume(s) - 1)).toBeLessThan(1e-5);
  });

  test('lies along any axis with the same volume turned', () => {
    for (const kind of ['cylinder', 'cone', 'pipe', 'spike', 'prism'] as const) {
      const upright = volume(make(kind, {}, { min: [0, 0, 0], max: [192, 128, 256] }));
      expect(volume(make(kind, { axis: 'east' }, { min: [0, 0, 0], max: [256, 192, 128] }))).toBeCloseTo(upright, 3);
      expect(volume(make(kind, { axis: 'north' }, { min: [0, 0, 0], max: [128, 256, 192] }))).toBeCloseTo(upright, 3);
    }
  });

  test('stays valid and inside its box for any numbers its limits allow, or says what to change', () => {
    const kind = fc.constantFrom(...SHAPE_KINDS);
    fc.assert(
      fc.property(kind, fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })), (k, parts) => {
        const params = Object.fromEntries(
          Object.entries(shapeSpec(k).params).map(([key, p]) => {
            const t = parts.next().value;
            if (p.type === 'switch') return [key, t < 0.5];
            if (p.type === 'choice') return [key, p.choices[Math.floor(t * 0.999 * p.choices.length)]!];
            if (p.type !== 'number') throw new Error(`A shape has no use for ${p.type}`);
            return [key, nearestValue(p, p.min + (Math.min(p.max, 64) - p.min) * t)];
          }),
        );
        let solids;
        try {
          solids = make(k, params);
        } catch (error) {
          expect((error as { code: string }).code).toMatch(/^brush\./);
          return;
        }
        for (const s of solids) expect(findFlaw(s)).toBeNull();
        const box = boxOf(solids.flatMap((s) => s.vertices));
        for (const i of [0, 1, 2] as const) {
          expect(box.min[i]).toBeGreaterThanOrEqual(BOX.min[i] - 1e-6);
          expect(box.max[i]).toBeLessThanOrEqual(BOX.max[i] + 1e-6);
        }
      }),
      { numRuns: 400 },
    );
  });

  test.each<[ShapeKind, Record<string, ShapeValue>, string]>([
    ['cylinder', { sides: 2 }, 'brush.sides'],
    ['cylinder', { sides: 7.5 }, 'brush.sides'],
    ['cone', { top: 1 }, 'brush.coneTop'],
    ['dome', { rings: 0 }, 'brush.rings'],
    ['dome', { thickness: 500 }, 'brush.thickness'],
    ['arch', { segments: 1 }, 'brush.segments'],
    ['arch', { thickness: 200 }, 'brush.thickness'],
    ['arch', { rise: 126 }, 'brush.rise'],
    ['pipe', { thickness: 100 }, 'brush.thickness'],
    ['pipe', { angle: 2 }, 'brush.angle'],
    ['pipe', { angle: NaN }, 'brush.angle'],
    ['stair', { steps: 0 }, 'brush.steps'],
    ['turningStair', { angle: 720 }, 'brush.angle'],
    ['turningStair', { steps: 1, angle: 180 }, 'brush.steps'],
    ['turningStair', { innerRadius: 4000 }, 'brush.radius'],
  ])('%s with %j is refused', (kind, params, code) => {
    expect(() => make(kind, params)).toThrow(expect.objectContaining({ code }));
  });
});

test.each<ShapeKind>(['dome', 'arch', 'pipe'])('what is said of how thick a hollow %s may be is so', (kind) => {
  const refusal = (thickness: number): string | null => {
    try {
      make(kind, { thickness });
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  };
  const most = Number(/less than ([\d.]+) cm here/.exec(refusal(5000)!)![1]);
  expect(refusal(0.5)).toBeNull();
  expect(refusal(most - 0.5)).toBeNull();
  expect(refusal(most)).toContain(`less than ${most} cm`);
  expect(refusal(0.4)).toContain('0.5 cm or more');
});

describe('volumes in closed form', () => {
  test('a cone is a third and a frustum its rule of the prism on the same base', () => {
    const base = volume(make('cylinder'));
    expect(volume(make('cone'))).toBeCloseTo(base / 3, 3);
    const t = 0.5;
    expect(volume(make('cone', { top: t }))).toBeCloseTo((base * (1 + t + t * t)) / 3, 3);
    expect(volume(make('spike'))).toBeCloseTo(all / 3, 6);
  });

  test('a finer and finer cylinder, dome and pipe come to the round ones', () => {
    const [a, b, h] = [size[0] / 2, size[1] / 2, size[2]];
    expect(volume(make('cylinder', { sides: 64 })) / (Math.PI * a * b * h)).toBeCloseTo(1, 2);
    expect(volume(make('dome', { sides: 64, rings: 16 })) / ((2 / 3) * Math.PI * a * b * h)).toBeCloseTo(1, 1);
    const t = 16;
    expect(volume(make('pipe', { sides: 64, thickness: t })) / (Math.PI * (a * b - (a - t) * (b - t)) * h)).toBeCloseTo(
      1,
      2,
    );
  });

  test('a dome of one ring is a pyramid over its base, and of most the finest', () => {
    const [a, b, h] = [200, 160, 120];
    const box = { min: [0, 0, 0], max: [a, b, h] } as const;
    // A third of base and height; the base of four sides is the rhomb or the rectangle in the box.
    const pyramid = solidVolume(domeSolid(box, 4, 1));
    expect([(a * b * h) / 3, (a * b * h) / 6].some((v) => Math.abs(pyramid - v) < 1e-6 * v)).toBe(true);
    expect(findFlaw(domeSolid(box, 12, 16))).toBeNull();
    for (const rings of [17, 1.5])
      expect(() => domeSolid(box, 12, rings)).toThrow(expect.objectContaining({ code: 'brush.rings' }));
  });

  test('a hollow dome is the dome less the hollow', () => {
    const solid = volume(make('dome'));
    const k = 1 - 32 / 96;
    expect(volume(make('dome', { thickness: 32 }))).toBeCloseTo(solid * (1 - k ** 3), 2);
  });

  test('a quarter of a ring has a quarter of its volume', () => {
    const box: Box = { min: [0, 0, 0], max: [256, 256, 100] };
    const quarter = volume(make('pipe', { sides: 8, angle: 90, thickness: 32 }, box));
    // Eight chords of a quarter circle, outside less inside.
    const sector = (r: number) => 8 * 0.5 * r * r * Math.sin(Math.PI / 16);
    expect(quarter).toBeCloseTo(100 * (sector(256) - sector(224)), 3);
  });

  test('an arch with its wall is the box less the opening, and the ring alone the space between two curves', () => {
    const wall = make('arch', { segments: 12, thickness: 32, rise: 64 });
    const curve = archCurve(96, 64, 12);
    const under = curve.slice(1).reduce((s, b, i) => s + ((b[0] - curve[i]![0]) * (b[1] + curve[i]![1])) / 2, 0);
    const opening = under + 192 * 32;
    expect(volume(wall)).toBeCloseTo(all - opening * 192, 3);
    const outer = archCurve(128, 96, 12);
    const over = outer.slice(1).reduce((s, b, i) => s + ((b[0] - outer[i]![0]) * (b[1] + outer[i]![1])) / 2, 0);
    const ring = make('arch', { segments: 12, thickness: 32, rise: 64, wall: false });
    expect(volume(ring)).toBeCloseTo((over - under + 2 * 32 * 32) * 192, 3);
  });

  test('a straight stair is the sum of its steps, solid or as treads', () => {
    const n = 8;
    expect(volume(make('stair', { steps: n }))).toBeCloseTo((all * (n + 1)) / (2 * n), 6);
    expect(volume(make('stair', { steps: n, solid: false, tread: 8 }))).toBeCloseTo(size[0] * size[1] * 8, 6);
  });

  test('a turning stair rises by equal steps and turns the way it says', () => {
    const box: Box = { min: [0, 0, 0], max: [200, 200, 160] };
    for (const turns of ['left', 'right'] as const) {
      const steps = make('turningStair', { steps: 10, angle: 90, innerRadius: 50, turns, rises: 'north' }, box);
      expect(steps.map((s) => Math.max(...s.vertices.map((v) => v[2])))).toEqual([
        16, 32, 48, 64, 80, 96, 112, 128, 144, 160,
      ]);
      const mean = (s: (typeof steps)[number], i: 0 | 1) =>
        s.vertices.reduce((sum, v) => sum + v[i], 0) / s.vertices.length;
      // It starts to the north and ends to the west (left) or east (right).
      expect(mean(steps[1]!, 1)).toBeGreaterThan(mean(steps[0]!, 1));
      const east = mean(steps[9]!, 0) - mean(steps[8]!, 0);
      expect(Math.sign(east)).toBe(turns === 'left' ? -1 : 1);
      const sector = (r: number) => 0.5 * r * r * Math.sin(Math.PI / 20);
      expect(volume(steps)).toBeCloseTo(((sector(200) - sector(50)) * 160 * 55) / 10, 2);
    }
  });

  test('a concave outline is split into convex parts of the same volume', () => {
    const parts = make('polygon');
    expect(parts.length).toBe(2);
    expect(volume(parts)).toBe((256 * 64 + 96 * 128) * 128);
  });

  test('above an arch of any number of segments the rectangle is filled to its corners', () => {
    for (const segments of [2, 3, 5, 8, 9])
      for (const [half, rise, top] of [
        [60, 60, 60],
        [60, 30, 30],
        [48, 48, 80],
      ] as const) {
        const pieces = spandrels(archCurve(half, rise, segments), top);
        expect(pieces).toHaveLength(segments);
        const area = pieces.reduce((sum, p) => sum + Math.abs(outlineArea(p)), 0);
        // Under the chords of half an ellipse lie as many triangles about its middle.
        const under = (segments / 2) * half * rise * Math.sin(Math.PI / segments);
        expect(area).toBeCloseTo(2 * half * top - under, 6);
      }
  });

  test('any triangle stands as a prism of its area, whichever way round its corners were clicked', () => {
    const corner = fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 }));
    fc.assert(
      fc.property(corner, corner, corner, (a, b, c) => {
        const area = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2;
        fc.pre(area > 100);
        const solids = polygonSolids([a, b, c], 10, 60);
        expect(solids).toHaveLength(1);
        expect(volume(solids) / (area * 50)).toBeCloseTo(1, 9);
      }),
    );
  });

  test('an outline that crosses itself or encloses nothing is refused', () => {
    for (const outline of [
      [
        [0, 0],
        [100, 100],
        [100, 0],
        [0, 100],
      ],
      [
        [0, 0],
        [100, 0],
      ],
    ] as Point2[][])
      expect(() => shapeSolids({ kind: 'polygon', box: BOX, params: {}, outline })).toThrow(
        expect.objectContaining({ code: 'brush.outline' }),
      );
  });
});
