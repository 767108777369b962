import fc from 'fast-check';
import { boxSolid, brushPlanes, partKey, prismSolid } from '../../brush/index.ts';
import { addBrushes, addRoom, placeEntity, removePicked } from '../../edit/index.ts';
import { dressSolid, transformBrush } from '../../surface/index.ts';
import {
  add,
  applyAffine,
  areaVector,
  distance,
  dot,
  normalize,
  rotation,
  scale,
  signedDistance,
  sub,
  windingArea,
  windingCentroid,
  type Vec3,
} from '../../math/index.ts';
import { emptyMap } from '../../map/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec, twoRooms } from '../../testing/rooms.ts';
import { locate } from './grid.ts';
import { buildStructure } from './structure.ts';
import type { BlockCache } from './grid.ts';
import type { Structure } from './types.ts';

const seed = (at: Vec3) => [{ id: 's', at }];
const build = (doc: ReturnType<typeof oneRoom>, at: Vec3 = [100, 100, 0]) =>
  buildStructure(doc.brushes.values(), seed(at));
const inside = (s: Structure) => s.cells.filter((c) => c.inside);
const area = (s: Structure) => s.surfaces.reduce((a, x) => a + windingArea(x.winding), 0);

describe('the hand-counted maps', () => {
  test('what touches floor, ceiling or a wall, or is a hair within, stands in the room; what is deeper does not', () => {
    const doc = oneRoom();
    const room = { min: [32, 32, 0], max: [544, 416, 272] } as const;
    for (const axis of [0, 1, 2] as const)
      for (const end of ['min', 'max'] as const)
        for (const [deep, found] of [
          [0, true],
          [0.3, true],
          [2, false],
        ] as const) {
          const at = [200, 200, 100].map((c, k) =>
            k === axis ? room[end][k]! + (end === 'max' ? deep : -deep) : c,
          ) as unknown as Vec3;
          expect(build(doc, at).misplaced).toHaveLength(found ? 0 : 1);
        }
  });

  test('one room: one cell, no portal, six faces of its inside', () => {
    const s = build(oneRoom());
    expect(s.leak).toBeNull();
    expect(inside(s)).toHaveLength(1);
    expect(inside(s)[0]!.bounds).toEqual({ min: [32, 32, 0], max: [544, 416, 272] });
    expect(s.surfaces).toHaveLength(6);
    expect(area(s)).toBeCloseTo(2 * (512 * 384 + 512 * 272 + 384 * 272), 3);
  });

  test('two rooms and a doorway: three cells, two portals, twenty faces', () => {
    const s = build(twoRooms());
    expect(s.leak).toBeNull();
    expect(inside(s)).toHaveLength(3);
    const portals = s.portals.filter((p) => s.cells[p.a]!.inside && s.cells[p.b]!.inside);
    expect(portals.map((p) => windingArea(p.winding))).toEqual([112 * 208, 112 * 208]);
    // Each room: floor, ceiling, three whole walls and one wall in three pieces; the doorway: floor, head, two jambs.
    expect(s.surfaces).toHaveLength(8 + 8 + 4);
    const room = (w: number) => 2 * (w * 384 + w * 272 + 384 * 272) - 112 * 208;
    expect(area(s)).toBeCloseTo(room(512) + room(384) + 2 * 16 * (112 + 208), 2);
  });
});

describe('surfaces', () => {
  test('meet without cracks: every corner that lies on an edge is a corner of that edge’s polygon', () => {
    const doc = addBrushes(twoRooms(), [
      dressSolid(boxSolid({ min: [100, 100, 0], max: [140, 180, 40] }), 'step', 'slate', { role: 'structure' }),
      transformBrush(
        dressSolid(prismSolid({ min: [200, 200, 0], max: [280, 280, 120] }, 7), 'post', 'oak', { role: 'structure' }),
        rotation(2, 20, [240, 240, 0]),
        true,
      ),
    ]);
    const s = build(doc);
    const corners = s.surfaces.flatMap((x) => x.winding);
    for (const { winding } of s.surfaces)
      winding.forEach((a, i) => {
        const b = winding[(i + 1) % winding.length]!;
        const d = sub(b, a);
        for (const p of corners) {
          const t = dot(sub(p, a), d) / dot(d, d);
          if (t <= 1e-3 || t >= 1 - 1e-3) continue;
          expect(distance(p, add(a, scale(d, t)))).toBeGreaterThan(0.02);
        }
      });
  });

  test('in a closed room sum to nothing: the vector areas of a closed surface cancel', () => {
    const doc = addBrushes(twoRooms(), [
      dressSolid(prismSolid({ min: [200, 200, -8], max: [280, 280, 120] }, 9), 'post', 'oak', { role: 'structure' }),
    ]);
    const s = build(doc);
    const sum = s.surfaces.reduce((v, x) => add(v, scale(x.plane.normal, windingArea(x.winding))), [0, 0, 0] as Vec3);
    for (const c of sum) expect(Math.abs(c)).toBeLessThan(0.5);
  });

  test('what one solid hides of another is not drawn, and no two lie over one another', () => {
    const block = (id: string, x: number) =>
      dressSolid(boxSolid({ min: [x, 100, 0], max: [x + 64, 164, 64] }), id, 'slate');
    const doc = addBrushes(oneRoom(), [block('m', 100), block('n', 132)]);
    const s = build(doc);
    const room = 2 * (512 * 384 + 512 * 272 + 384 * 272);
    const union = 2 * (96 + 64) * 64;
    expect(area(s)).toBeCloseTo(room + union, 2);
  });

  test('face where their brush’s face does, and are filed in the cells they touch', () => {
    const s = build(twoRooms());
    for (const x of s.surfaces) {
      const middle = windingCentroid(x.winding);
      expect(dot(normalize(areaVector(x.winding)), x.plane.normal)).toBeGreaterThan(0.999);
      const cell = locate(s.blocks, add(middle, scale(x.plane.normal, 0.5)));
      expect(x.cells).toContain(cell);
    }
  });

  test('detail is drawn but cuts no cell and seals nothing', () => {
    const doc = addBrushes(oneRoom(), [
      dressSolid(boxSolid({ min: [100, 32, 0], max: [116, 416, 272] }), 'screen', 'oak', { role: 'detail' }),
    ]);
    const s = build(doc, [60, 60, 0]);
    expect(inside(s)).toHaveLength(1);
    expect(s.surfaces.filter((x) => x.brush === 'screen')).toHaveLength(2);
  });

  test('a liquid is seen from both sides, where it meets air alone', () => {
    const pool = dressSolid(boxSolid({ min: [32, 32, 0], max: [544, 416, 80] }), 'pool', 'water', { role: 'liquid' });
    const drawn = build(addBrushes(oneRoom(), [pool]), [100, 100, 120]).surfaces.filter((x) => x.brush === 'pool');
    expect(drawn.map((x) => x.plane.normal[2])).toEqual(expect.arrayContaining([1, -1]));
    expect(drawn).toHaveLength(2);
    for (const x of drawn) {
      expect(windingArea(x.winding)).toBeCloseTo(512 * 384, 3);
      expect(dot(normalize(areaVector(x.winding)), x.plane.normal)).toBeGreaterThan(0.999);
    }
  });

  test('a hint divides space without being drawn', () => {
    const doc = addBrushes(oneRoom(), [
      dressSolid(boxSolid({ min: [200, 32, 0], max: [216, 416, 272] }), 'hint', 'oak', { role: 'hint' }),
    ]);
    const s = build(doc);
    expect(s.surfaces).toHaveLength(6);
    // The room is 32 … 544 wide: before the hint, within it, behind it. No cell reaches through one of its sides.
    const cellAt = (x: number) => locate(s.blocks, [x, 200, 100]);
    expect(new Set([100, 208, 300].map(cellAt)).size).toBe(3);
    for (const side of [200, 216])
      expect(inside(s).some((c) => c.bounds.min[0] < side - 1 && c.bounds.max[0] > side + 1)).toBe(false);
  });

  test('a hint divides at any angle, and no cell reaches through one that ends in the room', () => {
    for (const degrees of [27, 45, 133]) {
      const middle: Vec3 = [288, 224, 100];
      const slab = dressSolid(boxSolid({ min: [280, -400, -10], max: [296, 900, 300] }), 'hint', 'oak', {
        role: 'hint',
      });
      const m = rotation(2, degrees, middle);
      const s = build(addBrushes(oneRoom(), [transformBrush(slab, m, true)]));
      const across = applyAffine(rotation(2, degrees, [0, 0, 0]), [1, 0, 0]);
      const cells = [-60, 0, 60].map((k) => locate(s.blocks, add(middle, scale(across, k))));
      expect(new Set(cells).size).toBe(3);
      expect(s.surfaces.some((x) => x.brush === 'hint')).toBe(false);
    }
    const short = dressSolid(boxSolid({ min: [280, -400, -10], max: [296, 200, 300] }), 'hint', 'oak', {
      role: 'hint',
    });
    const s = build(addBrushes(oneRoom(), [short]));
    expect(inside(s).some((c) => c.bounds.min[0] < 279 && c.bounds.max[0] > 297 && c.bounds.min[1] < 199)).toBe(false);
  });
});

describe('leaks', () => {
  const holed = () => {
    const doc = oneRoom();
    const wall = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === 'wall:1:0')!;
    const without = removePicked(doc, { brushes: new Set([wall.id]) });
    // The east wall again, with a window of 64 × 64 in it.
    const piece = (id: string, y0: number, y1: number, z0: number, z1: number) =>
      dressSolid(boxSolid({ min: [544, y0, z0], max: [560, y1, z1] }), id, 'lime');
    return addBrushes(without, [
      piece('p1', 16, 200, -16, 288),
      piece('p2', 264, 432, -16, 288),
      piece('p3', 200, 264, -16, 100),
      piece('p4', 200, 264, 164, 288),
    ]);
  };

  test('the trail leads from the entity to the hole and one step out; the hole is outlined and its brushes named', () => {
    const s = build(holed());
    expect(s.leak).not.toBeNull();
    const { trail, hole, beside, entity } = s.leak!;
    expect(entity).toBe('s');
    expect(trail[0]).toEqual([100, 100, 0]);
    expect(windingArea(hole)).toBeCloseTo(64 * 64, 6);
    const middle = windingCentroid(hole);
    expect(middle[1]).toBe(232);
    expect(middle[2]).toBe(132);
    expect(trail.at(-2)).toEqual(middle);
    expect(trail.at(-1)![0]).toBeGreaterThan(560);
    expect([...beside].sort()).toEqual(expect.arrayContaining(['p1', 'p2', 'p3', 'p4']));
  });

  test('several holes are told as several, each with its own trail and outline', () => {
    const doc = holed();
    // Another window, of 48 × 48, in the west wall.
    const wall = [...doc.brushes.values()].find((b) => b.room && partKey(b.room.part) === 'wall:3:0')!;
    const piece = (id: string, y0: number, y1: number, z0: number, z1: number) =>
      dressSolid(boxSolid({ min: [16, y0, z0], max: [32, y1, z1] }), id, 'lime');
    const twice = addBrushes(removePicked(doc, { brushes: new Set([wall.id]) }), [
      piece('q1', 16, 300, -16, 288),
      piece('q2', 348, 432, -16, 288),
      piece('q3', 300, 348, -16, 60),
      piece('q4', 300, 348, 108, 288),
    ]);
    const { leak, leaks } = build(twice);
    expect(leaks).toHaveLength(2);
    expect(leaks[0]).toBe(leak);
    // An outline that rays find cuts the corners a little.
    const areas = leaks.map((l) => windingArea(l.hole)).sort((a, b) => a - b);
    expect(Math.abs(areas[0]! / (48 * 48) - 1)).toBeLessThan(0.05);
    expect(Math.abs(areas[1]! / (64 * 64) - 1)).toBeLessThan(0.05);
    expect(new Set(leaks.map((l) => Math.sign(l.trail.at(-1)![0] - 288)))).toEqual(new Set([-1, 1]));
    // One hole is one, on whichever of its wall's sides its outline is taken.
    expect(build(holed()).leaks).toHaveLength(1);
  });

  test('also where block borders cross the room and its mouth', () => {
    const doc = addRoom(emptyMap('t'), roomSpec(rectangle(-256, -192, 512, 384)), DRESS, 'r');
    const gone = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === 'wall:1:0')!;
    const s = buildStructure(removePicked(doc, { brushes: new Set([gone.id]) }).brushes.values(), [
      { id: 'lamp', at: [0, 0, 208] },
    ]);
    expect(Math.abs(s.leak!.trail.at(-2)![0] - 256)).toBeLessThanOrEqual(16.1);
    expect(s.leak!.trail.at(-1)![0]).toBeGreaterThan(300);
    expect(windingArea(s.leak!.hole)).toBeGreaterThan(384 * 272 * 0.85);
  });

  test('a whole wall that is missing is the hole, although the room runs on into the void as one piece', () => {
    for (const [part, at] of [
      ['wall:0:0', [1, 32]],
      ['wall:1:0', [0, 544]],
      ['ceiling:0', [2, 272]],
    ] as const) {
      const doc = oneRoom();
      const gone = [...doc.brushes.values()].find((b) => partKey(b.room!.part) === part)!;
      const s = build(removePicked(doc, { brushes: new Set([gone.id]) }));
      const [axis, place] = at;
      const area = [384 * 272, 512 * 272, 512 * 384][axis]!;
      // Mitred neighbours and a way that leaves at a slant put the mouth up to a few hands beyond the inner edge.
      expect(Math.abs(s.leak!.trail.at(-2)![axis] - place)).toBeLessThanOrEqual(40);
      // The outline joins what 32 rays meet, so it cuts the corners a little.
      expect(windingArea(s.leak!.hole)).toBeGreaterThan(area * 0.85);
      expect(windingArea(s.leak!.hole)).toBeLessThan(area * 1.4);
      expect(s.leak!.trail[0]).toEqual([100, 100, 0]);
    }
  });

  test('every step of the trail is clear of solids', () => {
    const s = build(holed());
    s.leak!.trail.slice(1).forEach((b, i) => {
      const a = s.leak!.trail[i]!;
      for (let t = 0.05; t < 1; t += 0.05) {
        const p: Vec3 = [
          a[0] + (b[0] - a[0]) * t,
          a[1] + (b[1] - a[1]) * t,
          a[2] + (b[2] - a[2]) * t + (i === 0 ? 0.01 : 0),
        ];
        expect(locate(s.blocks, p)).not.toBe('solid');
      }
    });
  });

  test('a thing in a solid or in the void is told apart from a leak', () => {
    const s = buildStructure(oneRoom().brushes.values(), [
      { id: 'in', at: [100, 100, 0] },
      { id: 'wall', at: [36, 24, 100] },
      { id: 'out', at: [900, 900, 900] },
    ]);
    expect(s.leak).toBeNull();
    expect(s.misplaced).toEqual([
      { id: 'wall', where: 'solid' },
      { id: 'out', where: 'void' },
    ]);
  });
});

describe('maps of nothing much', () => {
  test('no brush: nothing, and every entity is in the void', () => {
    expect(buildStructure([], seed([0, 0, 0]))).toMatchObject({
      cells: [],
      surfaces: [],
      misplaced: [{ id: 's', where: 'void' }],
    });
  });
  test('one brush and no entity: its six sides, seen from outside', () => {
    const s = buildStructure([dressSolid(boxSolid({ min: [10, 10, 10], max: [74, 74, 74] }), 'b', 'm')], []);
    expect(s.surfaces).toHaveLength(6);
  });
});

describe('space', () => {
  test('a point is solid exactly when a brush holds it, for any pile of turned boxes', () => {
    const boxes = fc.array(
      fc.tuple(
        fc.integer({ min: 20, max: 900 }),
        fc.integer({ min: 20, max: 900 }),
        fc.integer({ min: 16, max: 200 }),
        fc.integer({ min: 0, max: 89 }),
      ),
      { minLength: 1, maxLength: 9 },
    );
    fc.assert(
      fc.property(boxes, (list) => {
        const brushes = list.map(([x, y, size, degrees], i) =>
          transformBrush(
            dressSolid(boxSolid({ min: [x, y, 50], max: [x + size, y + size, 50 + size] }), `b${i}`, 'm'),
            rotation(2, degrees, [x, y, 50]),
            true,
          ),
        );
        const s = buildStructure(brushes, []);
        for (let k = 0; k < 200; k++) {
          const p: Vec3 = [(k * 131.7) % 1000, (k * 77.3) % 1000, 40 + ((k * 37.1) % 230)];
          const depth = brushes.map((b) => Math.max(...brushPlanes(b).map((plane) => signedDistance(plane, p))));
          if (depth.some((d) => Math.abs(d) < 0.05)) continue;
          expect(locate(s.blocks, p) === 'solid').toBe(depth.some((d) => d < 0));
        }
      }),
      { numRuns: 40 },
    );
  });

  test('a room of 200 m is one cell, however many blocks it crosses', () => {
    const doc = addRoom(emptyMap('t'), roomSpec(rectangle(-9000, -8000, 20_000, 16_000), { ceiling: 600 }), DRESS);
    const s = build(placeEntity(doc, 'spawn', [0, 0, 0]), [0, 0, 0]);
    expect(s.leak).toBeNull();
    expect(inside(s)).toHaveLength(1);
    expect(inside(s)[0]!.sides).toHaveLength(6);
  });

  test('a brush that strayed and hints outside change nothing of the inside', () => {
    const far = dressSolid(boxSolid({ min: [40_000, 0, 0], max: [40_020, 20, 20] }), 'far', 'm');
    const hint = dressSolid(boxSolid({ min: [9000, -500, -500], max: [9004, 900, 900] }), 'h', 'm', { role: 'hint' });
    const [plain, more] = [twoRooms(), addBrushes(twoRooms(), [far, hint])].map((doc) => build(doc));
    expect(more!.leak).toBeNull();
    expect(inside(more!).map((c) => c.bounds)).toEqual(inside(plain!).map((c) => c.bounds));
    expect(area(more!)).toBeCloseTo(area(plain!), 3);
  });

  test('a hint divides only the room it lies in', () => {
    const hint = dressSolid(boxSolid({ min: [200, 16, -16], max: [204, 432, 288] }), 'h', 'm', { role: 'hint' });
    // Two rooms and a doorway are three cells; one room is three now, before, within and behind the hint.
    expect(inside(build(addBrushes(twoRooms(), [hint])))).toHaveLength(5);
  });

  test('a large room across many blocks is still one inside without leaks', () => {
    const doc = addRoom(emptyMap('t'), roomSpec(rectangle(-1500, -900, 3000, 2000), { ceiling: 1500 }), DRESS);
    const s = build(placeEntity(doc, 'spawn', [0, 0, 0]), [0, 0, 0]);
    expect(s.leak).toBeNull();
    expect(area(s)).toBeCloseTo(2 * (3000 * 2000 + 3000 * 1500 + 2000 * 1500), 0);
  });

  test('an edit redoes only the blocks it touches and gives what a whole build gives', () => {
    const cache: BlockCache = new Map();
    const doc = addRoom(
      addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 900, 900)), DRESS, 'a'),
      roomSpec(rectangle(3000, 0, 900, 900)),
      DRESS,
      'b',
    );
    const first = buildStructure(doc.brushes.values(), seed([100, 100, 0]), {}, cache);
    const edited = addBrushes(doc, [
      dressSolid(boxSolid({ min: [3100, 100, 0], max: [3200, 200, 100] }), 'crate', 'm'),
    ]);
    const second = buildStructure(edited.brushes.values(), seed([100, 100, 0]), {}, cache);
    const kept = second.blocks.blocks.filter((b) => first.blocks.blocks.includes(b)).length;
    expect(kept).toBeGreaterThan(0);
    expect(second.blocks.blocks.length - kept).toBeLessThanOrEqual(2);
    const whole = buildStructure(edited.brushes.values(), seed([100, 100, 0]));
    expect(JSON.stringify(second)).toBe(JSON.stringify(whole));
  });

  test('along any chain of edits what is kept gives what a whole build gives', () => {
    const place = fc.tuple(
      fc.integer({ min: 0, max: 5 }),
      fc.integer({ min: -1400, max: 1400 }),
      fc.integer({ min: -1400, max: 1400 }),
      fc.integer({ min: 20, max: 700 }),
      fc.constantFrom(0, 17, 45),
      fc.constantFrom('structure' as const, 'detail' as const, 'hint' as const, 'gone' as const),
    );
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 7 }), (edits) => {
        const cache: BlockCache = new Map();
        const room = [...oneRoom().brushes.values()];
        const some = new Map<number, (typeof room)[number]>();
        for (const [which, x, y, size, degrees, role] of edits) {
          some.delete(which);
          if (role !== 'gone') {
            const solid = boxSolid({ min: [x, y, 20], max: [x + size, y + size, 20 + size / 2] });
            const brush = dressSolid(solid, `e${which}`, 'm', { role });
            some.set(which, degrees ? transformBrush(brush, rotation(2, degrees, [x, y, 0]), true) : brush);
          }
          const brushes = [...room, ...some.values()];
          const kept = buildStructure(brushes, seed([60, 60, 10]), {}, cache);
          expect(JSON.stringify(kept)).toBe(JSON.stringify(buildStructure(brushes, seed([60, 60, 10]))));
        }
      }),
      { numRuns: 25 },
    );
  });
});
