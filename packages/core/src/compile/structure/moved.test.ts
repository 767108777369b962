import fc from 'fast-check';
import { boxSolid, prismSolid } from '../../brush/index.ts';
import { addBrushes, addRoom } from '../../edit/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import {
  applyAffine,
  areaVector,
  composeAffine,
  dot,
  rotation,
  sub,
  translation,
  windingArea,
  type Affine,
  type Vec3,
} from '../../math/index.ts';
import { DRESS, rectangle, roomSpec, twoRooms } from '../../testing/rooms.ts';
import { cellVolume, flatHull } from './polyhedron.ts';
import { buildStructure } from './structure.ts';
import type { Structure } from './types.ts';

const seed = (at: Vec3) => [{ id: 's', at }];
const inside = (s: Structure) => s.cells.filter((c) => c.inside);
const area = (s: Structure) => s.surfaces.reduce((a, x) => a + windingArea(x.winding), 0);

test('a room has six faces however near or far its walls stand from where blocks of space begin', () => {
  // Blocks are 1,024 long: from a hundredth of a millionth of a centimetre to five millimetres beside that, on either side.
  const off = fc
    .tuple(fc.double({ min: -8, max: -0.3, noNaN: true }), fc.boolean())
    .map(([power, under]) => (under ? -1 : 1) * 10 ** power);
  const block = fc.constantFrom(-3072, -1024, 0, 2048);
  fc.assert(
    fc.property(fc.tuple(off, off, off), fc.tuple(off, off, off), fc.tuple(block, block, block), (a, b, from) => {
      const min = from.map((c, k) => c + a[k]!) as unknown as Vec3;
      const max = from.map((c, k) => c + [1024, 512, 1024][k]! + b[k]!) as unknown as Vec3;
      const slabs = [0, 1, 2].flatMap((k) =>
        [0, 1].map((end) => {
          const [low, high] = [min.map((c) => c - 16), max.map((c) => c + 16)];
          if (end) low[k] = max[k]!;
          else high[k] = min[k]!;
          return dressSolid(
            boxSolid({ min: low as unknown as Vec3, max: high as unknown as Vec3 }),
            `w${k}${end}`,
            'stone',
          );
        }),
      );
      const s = buildStructure(slabs, seed([from[0] + 200, from[1] + 200, from[2] + 200]));
      expect(s.leak).toBeNull();
      const [w, d, h] = max.map((c, k) => c - min[k]!) as [number, number, number];
      const wanted = 2 * (w * d + d * h + w * h);
      expect(Math.abs(area(s) / wanted - 1)).toBeLessThan(1e-4);
      expect(new Set(s.surfaces.map((x) => x.brush)).size).toBe(6);
    }),
  );
});

test('rooms have the same surfaces and hold as much wherever they stand and however they are turned, by a hair or far', () => {
  let doc = addRoom(twoRooms(), roomSpec(rectangle(1024, 0, 300, 500)), DRESS, 'c');
  doc = addBrushes(doc, [
    dressSolid(prismSolid({ min: [200, 200, 0], max: [260, 260, 272] }, 9), 'pillar', 'stone'),
    dressSolid(boxSolid({ min: [700, 100, 0], max: [760, 180, 90] }), 'block', 'stone'),
  ]);
  const from: Vec3[] = [
    [100, 100, 40],
    [1100, 200, 40],
  ];
  const look = (m: Affine) => {
    const brushes = [...doc.brushes.values()].map((b) => transformBrush(b, m, true));
    const s = buildStructure(
      brushes,
      from.map((p, k) => ({ id: `s${k}`, at: applyAffine(m, p) })),
    );
    return { leak: s.leak, area: area(s), holds: inside(s).reduce((v, c) => v + cellVolume(c.sides), 0) };
  };
  const still = look(translation([0, 0, 0]));
  expect(still.leak).toBeNull();
  /** As likely a thousandth of a millionth as thousands, either way. */
  const any = (most: number) =>
    fc
      .tuple(fc.double({ min: -9, max: Math.log10(most), noNaN: true }), fc.boolean())
      .map(([power, under]) => (under ? -1 : 1) * 10 ** power);
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 2 }),
      any(360),
      fc.tuple(any(20_000), any(20_000), any(20_000)),
      (axis, degrees, by) => {
        const now = look(composeAffine(translation(by), rotation(axis as 0 | 1 | 2, degrees, [500, -300, 70])));
        expect(now.leak).toBeNull();
        expect(Math.abs(now.area / still.area - 1)).toBeLessThan(1e-4);
        expect(Math.abs(now.holds / still.holds - 1)).toBeLessThan(1e-4);
      },
    ),
  );
});

test('the hull of points in a plane is the rectangle that they fill, however many lie on its border and however it is turned', () => {
  const part = fc.double({ min: 0, max: 1, noNaN: true });
  const angle = fc.double({ min: 0, max: 360, noNaN: true });
  fc.assert(
    fc.property(fc.array(fc.tuple(part, part), { maxLength: 12 }), angle, angle, (more, a, b) => {
      const m = composeAffine(rotation(0, a, [900, 3000, -70]), rotation(2, b, [-5000, 20, 0]));
      const flat = [
        [0, 0],
        [640, 0],
        [640, 480],
        [0, 480],
        ...more.flatMap(([x, y]) => [
          [x * 640, 0],
          [x * 640, 480],
          [0, y * 480],
          [640, y * 480],
          [x * 640, y * 480],
        ]),
      ];
      const points = flat.map(([x, y]): Vec3 => applyAffine(m, [x!, y!, 20]));
      const up = sub(applyAffine(m, [0, 0, 1]), applyAffine(m, [0, 0, 0]));
      for (const list of [points, points.toReversed()]) {
        const hull = flatHull(list, up);
        expect(hull).toHaveLength(4);
        expect(windingArea(hull) / (640 * 480)).toBeCloseTo(1, 7);
        expect(dot(areaVector(hull), up)).toBeGreaterThan(0);
      }
    }),
  );
});
