import fc from 'fast-check';
import {
  beyond,
  drawnBrush,
  drawnBrushes,
  addBrushes,
  addRoom,
  boxSolid,
  dressSolid,
  emptyMap,
  placeEntity,
  brushPlanes,
  spikeSolid,
  type Box,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { sheetView, slid, snapPoint, snapTo, toScreen, toWorld, zoomAt, type SheetFrame } from './projection.ts';
import { hitSheet, insidePolygon } from './sheet-geometry.ts';
import { sheetPaths } from './sheet-paths.ts';

const FRAME: SheetFrame = {
  centre: [100, 50, 130],
  zoom: 0.5,
  cutHeight: 110,
  level: 0,
  section: { at: [0, 64], looks: 90 },
};
const plan = sheetView('plan', FRAME, 800, 600);
const section = sheetView('section', FRAME, 800, 400);
const box = (id: string, b: Box) => dressSolid(boxSolid(b), id, 'm', { role: 'detail' });

describe('projection', () => {
  test('there and back again gives the same point', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -999, max: 999, noNaN: true }),
        fc.double({ min: -999, max: 999, noNaN: true }),
        (x, y) => {
          for (const view of [plan, section]) {
            const p = toWorld(view, x, y, [7, 7, 7]);
            const [sx, sy] = toScreen(view, p);
            expect(sx).toBeCloseTo(x, 6);
            expect(sy).toBeCloseTo(y, 6);
            expect(p[view.d]).toBe(7);
          }
        },
      ),
    );
  });

  test('plan and section share east: a point has the same place across in both', () => {
    expect(toScreen(plan, [300, 0, 0])[0]).toBe(toScreen(section, [300, 999, 50])[0]);
    expect(toScreen(plan, [0, 100, 0])[1]).toBeLessThan(toScreen(plan, [0, 0, 0])[1]);
    expect(toScreen(section, [0, 0, 100])[1]).toBeLessThan(toScreen(section, [0, 0, 0])[1]);
  });

  test('a section can look any way: what it looks at is beyond, and right is to the right', () => {
    for (const looks of [0, 90, 180, 270, 30, 215]) {
      const view = sheetView('section', { ...FRAME, section: { at: [100, 50], looks, depth: 300 } }, 800, 400);
      const r = (looks * Math.PI) / 180;
      const ahead = (far: number, aside = 0): Vec3 => [
        100 + Math.cos(r) * far + Math.sin(r) * aside,
        50 + Math.sin(r) * far - Math.cos(r) * aside,
        0,
      ];
      expect(beyond(view, ahead(200))).toBeCloseTo(199.5, 6);
      expect(beyond(view, ahead(-200))).toBeLessThan(0);
      expect(toScreen(view, ahead(0, 100))[0]).toBeGreaterThan(toScreen(view, ahead(0))[0]);
      expect(view.square).toBe(looks % 90 === 0);
      const p = toWorld(view, 333, 111, [100, 50, 0]);
      expect(beyond(view, p)).toBeCloseTo(-0.5, 6);
      const [x, y] = toScreen(view, p);
      expect([x, y].map((c) => Math.round(c * 1e6) / 1e6)).toEqual([333, 111]);
    }
  });

  test('a section draws no further than its depth', () => {
    const view = sheetView('section', { ...FRAME, section: { at: [0, 0], looks: 90, depth: 100 } }, 800, 400);
    const near = box('near', { min: [0, 50, 0], max: [50, 90, 90] });
    const far = box('far', { min: [0, 150, 0], max: [50, 190, 90] });
    expect(drawnBrushes([near, far], view).faces.map((f) => f.drawn.brush.id)).toEqual(['near']);
  });

  test('sliding moves what was under one pixel to another', () => {
    for (const view of [plan, section]) {
      const p = toWorld(view, 100, 100, view.centre);
      expect(toScreen({ ...view, centre: slid(view, 30, -20) }, p).map(Math.round)).toEqual([130, 80]);
    }
  });

  test('zooming keeps the point under the pointer', () => {
    for (const view of [plan, section]) {
      const before = toWorld(view, 123, 321, view.centre);
      const { zoom, centre } = zoomAt(view, 123, 321, 1.7);
      const after = toWorld({ ...view, zoom, centre }, 123, 321, view.centre);
      expect(after[view.h]).toBeCloseTo(before[view.h], 9);
      expect(after[view.v]).toBeCloseTo(before[view.v], 9);
    }
    expect(zoomAt(plan, 0, 0, 1e9).zoom).toBe(16);
    expect(zoomAt(plan, 0, 0, 1e-9).zoom).toBe(0.02);
  });

  test('what lies below a plan’s cut and north of a section’s is beyond', () => {
    expect(beyond(plan, [0, 0, 0])).toBeGreaterThan(0);
    expect(beyond(plan, [0, 0, 300])).toBeLessThan(0);
    expect(beyond(section, [0, 200, 0])).toBeGreaterThan(0);
    expect(beyond(section, [0, 0, 0])).toBeLessThan(0);
  });

  test('snapping goes to the nearest grid point, or leaves it', () => {
    expect(snapTo(23, 16)).toBe(16);
    expect(snapTo(-25, 16)).toBe(-32);
    expect(snapPoint([7, 9, 24], 16)).toEqual([0, 16, 32]);
    expect(snapPoint([7.3, 9, 24], null)).toEqual([7.3, 9, 24]);
  });
});

describe('how a brush is drawn', () => {
  test('cut where the cut passes, beyond below it, before above it', () => {
    const where = (min: number, max: number) =>
      drawnBrush(box(`b${min}`, { min: [0, 0, min], max: [50, 50, max] }), plan).where;
    expect(where(0, 200)).toBe('cut');
    expect(where(0, 80)).toBe('beyond');
    expect(where(150, 200)).toBe('before');
  });

  test('the outline of a cut is the outline of the solid there', () => {
    const { outlines } = drawnBrush(box('c', { min: [10, 20, 0], max: [60, 40, 200] }), plan);
    expect(outlines).toHaveLength(1);
    const xs = outlines[0]!.points.map((p) => p[0]);
    const ys = outlines[0]!.points.map((p) => p[1]);
    expect([Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]).toEqual([10, 60, 20, 40]);
  });

  test('only faces turned to the viewer show beyond, farthest first', () => {
    const doc = addBrushes(emptyMap('t'), [
      box('low', { min: [0, 0, 0], max: [50, 50, 10] }),
      box('high', { min: [0, 0, 10], max: [50, 50, 90] }),
    ]);
    const { faces } = drawnBrushes(doc.brushes.values(), plan);
    expect(faces.map((f) => f.drawn.brush.id)).toEqual(['low', 'high']);
    expect(faces.every((f) => f.points.every((p) => p[2] === 10 || p[2] === 90))).toBe(true);
  });

  test('paths hold while the paper slides and zooms, and are made anew for another cut or other brushes', () => {
    let made = 0;
    /** A path that remembers how many loops it has: jsdom draws nothing. */
    class Loops {
      count = 0;
      moveTo() {
        made++;
        this.count++;
      }
      addPath(other: Loops) {
        this.count += other.count;
      }
      lineTo() {}
      closePath() {}
    }
    Object.assign(globalThis, { Path2D: Loops });
    const chunks = [
      [
        box('low', { min: [0, 0, 0], max: [50, 50, 10] }),
        box('higher', { min: [0, 0, 10], max: [50, 50, 90] }),
        box('cut', { min: [200, 0, 0], max: [250, 50, 400] }),
      ],
      [
        box('beside', { min: [100, 0, 0], max: [150, 50, 10] }),
        box('above', { min: [300, 0, 300], max: [350, 50, 400] }),
        box('cut too', { min: [400, 0, 0], max: [450, 50, 400] }),
      ],
    ];
    const loops = (p: Path2D) => (p as unknown as Loops).count;
    const paths = sheetPaths(chunks, plan);
    // As if it were one list: what looks alike is one path.
    expect(paths.faces.map((f) => loops(f.path))).toEqual([2, 1]);
    expect(paths.faces[0]!.depth).toBeGreaterThan(paths.faces[1]!.depth);
    expect(paths.cut.map((c) => [c.role, loops(c.path)])).toEqual([['detail', 2]]);
    expect(loops(paths.before)).toBe(1);
    const oneByOne = sheetPaths([chunks.flat()], plan);
    expect(oneByOne.faces.map((f) => [f.role, f.depth, loops(f.path)])).toEqual(
      paths.faces.map((f) => [f.role, f.depth, loops(f.path)]),
    );
    expect(sheetPaths(chunks, { ...plan, zoom: 3, centre: [900, 0, 0] })).toBe(paths);
    expect(sheetPaths(chunks, { ...plan, cut: plan.cut - 10 })).not.toBe(paths);
    const traced = made;
    expect(sheetPaths([chunks[0]!, [...chunks[1]!]], plan)).not.toBe(paths);
    // Of the chunk that stayed nothing is traced anew.
    expect(made - traced).toBe(3);
  });
});

describe('hits', () => {
  const doc = (): MapDocument => {
    const room = addRoom(
      emptyMap('t'),
      {
        footprint: [
          [0, 0],
          [400, 0],
          [400, 300],
          [0, 300],
        ],
        floor: 0,
        ceiling: 272,
        wall: 16,
      },
      { floor: 'f', wall: 'w', ceiling: 'c' },
      'room',
    );
    const crates = addBrushes(room, [
      box('crate', { min: [100, 100, 0], max: [160, 160, 60] }),
      box('lid', { min: [110, 110, 60], max: [150, 150, 70] }),
    ]);
    return placeEntity(crates, 'spawn', [130, 130, 70], 0, 'spawn');
  };
  const at = (p: Vec3) => hitSheet(doc(), plan, p).map((h) => h.thing.id);

  test('come front to back: the symbol, then what is seen first, then what lies under it', () => {
    expect(at([130, 130, 0]).slice(0, 4)).toEqual(['spawn', 'lid', 'crate', 'room']);
    expect(at([105, 155, 0])[0]).toBe('crate');
  });
  test('a wall stands for its room first, then for itself', () => {
    const shown = doc();
    const hits = hitSheet(shown, plan, [-8, 150, 0]);
    expect(hits[0]!.thing).toEqual({ type: 'room', id: 'room' });
    expect(hits[1]!.thing.type).toBe('brush');
    // In the cut it is the side nearest to the pointer: eight centimetres into a wall of sixteen, the one that was met.
    const faceAt = (x: number) => {
      const hit = hitSheet(shown, plan, [x, 150, 0]).find((h) => h.thing.type === 'brush')!;
      return brushPlanes(shown.brushes.get(hit.thing.id)!)[hit.face]!.normal;
    };
    expect(faceAt(-2)).toEqual([1, 0, 0]);
    expect(faceAt(-14)).toEqual([-1, 0, 0]);
  });
  test('what is seen below the cut of a brush is picked and drawn too', () => {
    const pyramid = dressSolid(spikeSolid({ min: [0, 0, 0], max: [200, 200, 400] }), 'pyramid', 'm');
    const map = addBrushes(emptyMap('t'), [pyramid]);
    // Cut at 110 its square is about 145 wide; at its foot only the slopes below the cut are seen.
    const hit = hitSheet(map, plan, [6, 100, 0])[0]!;
    expect(hit.thing.id).toBe('pyramid');
    expect(brushPlanes(pyramid)[hit.face]!.normal[0]).toBeLessThan(0);
    expect(drawnBrushes([pyramid], plan).faces).toHaveLength(4);
  });
  test('a seen face is named, so that it can be painted', () => {
    const map = doc();
    const floor = hitSheet(map, plan, [300, 250, 0]).find((h) => h.thing.type === 'brush')!;
    const brush = map.brushes.get(floor.thing.id);
    // On the Plan one sees what looks up.
    expect(brushPlanes(brush!)[floor.face]!.normal).toEqual([0, 0, 1]);
  });
  test('outside everything there is nothing', () => expect(at([900, 900, 0])).toEqual([]));
  test('a point is inside a polygon or not', () => {
    const triangle: Vec3[] = [
      [0, 0, 0],
      [10, 0, 0],
      [0, 10, 0],
    ];
    expect(insidePolygon(triangle, plan, [2, 2, 0])).toBe(true);
    expect(insidePolygon(triangle, plan, [8, 8, 0])).toBe(false);
  });
});
