import fc from 'fast-check';
import { boxSolid, prismSolid, type Brush, type Solid } from '../../brush/index.ts';
import { applyAffine, areaVector, centroid, dot, normalize, rotationAbout, type Vec3 } from '../../math/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { oracleSolid } from '../../testing/oracle.ts';
import { oneRoom } from '../../testing/rooms.ts';
import { looksTo } from './svg-frame.ts';
import { drawnBrush, drawnBrushes, propOutline, sheetContents, silhouette } from './solids.ts';
import { acrossOf, beyond, planView, sectionView, spanAlong, upOf, type DrawingView } from './view.ts';

const shape = fc.record({
  axis: fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true }))),
  degrees: fc.double({ min: 0, max: 360, noNaN: true }),
  sides: fc.integer({ min: 3, max: 9 }),
  looks: fc.double({ min: 0, max: 360, noNaN: true }),
});

const turnedPrism = (axis: readonly number[], degrees: number, sides: number): Solid => {
  const solid = prismSolid({ min: [-150, -90, -60], max: [150, 90, 60] }, sides);
  const m = rotationAbout(normalize(axis as unknown as Vec3), degrees, [0, 0, 0]);
  return { ...solid, vertices: solid.vertices.map((v) => applyAffine(m, v)) };
};
const dressed = (solid: Solid, more: Partial<Brush> = {}): Brush =>
  ({ ...dressSolid(solid, 'b', 'm', { role: 'structure' }), ...more }) as Brush;
/** How much of a drawing an outline takes up. */
const seenArea = (points: readonly Vec3[], view: DrawingView): number =>
  Math.abs(dot(areaVector(points), view.away)) / 2;
/** The solid as the oracle sees it from a view: across, up, and towards the viewer. */
const asSeen = (solid: Solid, view: DrawingView) =>
  oracleSolid({
    ...solid,
    vertices: solid.vertices.map((p): Vec3 => [acrossOf(view, p), upOf(view, p), -beyond(view, p)]),
  });

test('what is seen of a solid, its cut and its faces beyond, covers what an exact kernel’s shadow of it covers', async () => {
  await fc.assert(
    fc.asyncProperty(
      shape,
      fc.double({ min: -230, max: 230, noNaN: true }),
      async ({ axis, degrees, sides, looks }, at) => {
        fc.pre(Math.hypot(...axis) > 0.1);
        const solid = turnedPrism(axis, degrees, sides);
        for (const view of [planView(at), sectionView({ at: [at, 0], looks })]) {
          // Corners as near to the cut as points are one are on it.
          if (solid.vertices.some((p) => Math.abs(beyond(view, p)) < 0.02)) continue;
          const seen = await asSeen(solid, view);
          // The kernel leaves out slivers of faces that are all but edge on.
          const near = (ours: number, kernels: number) => expect(Math.abs(ours / kernels - 1)).toBeLessThan(0.005);
          const whole = seenArea(silhouette(dressed(solid), view), view);
          near(whole, seen.project().area());
          const behind = seen.trimByPlane([0, 0, -1], 0);
          const { where, outlines, below } = drawnBrush(dressed(solid), view);
          const covered = [...outlines, ...(below ?? [])].reduce((a, o) => a + seenArea(o.points, view), 0);
          if (where === 'cut') near(covered, behind.project().area());
          else expect(covered / whole).toBeCloseTo(1, 4);
          expect(where).toBe(behind.isEmpty() ? 'before' : seen.trimByPlane([0, 0, 1], 0).isEmpty() ? 'beyond' : 'cut');
          for (const o of [...outlines, ...(below ?? [])]) {
            expect(o.depth).toBeCloseTo(o.face < 0 ? 0 : beyond(view, centroid(o.points)), 6);
            if (where === 'cut') for (const p of o.points) expect(beyond(view, p)).toBeGreaterThan(-1e-5);
          }
          expect(propOutline(dressed(solid), view)!.where).toBe(where);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a section looks ahead of its line: what is there is beyond, what is to the right is to the right', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 360, noNaN: true }),
      fc.double({ min: -900, max: 900, noNaN: true }),
      fc.double({ min: -900, max: 900, noNaN: true }),
      (looks, far, aside) => {
        const r = (looks * Math.PI) / 180;
        const at = [700, -300] as const;
        const p: Vec3 = [
          at[0] + Math.cos(r) * far + Math.sin(r) * aside,
          at[1] + Math.sin(r) * far - Math.cos(r) * aside,
          40,
        ];
        const view = sectionView({ at, looks });
        expect(beyond(view, p)).toBeCloseTo(far - 0.5, 6);
        expect(acrossOf(view, p) - acrossOf(view, [...at, 0])).toBeCloseTo(aside, 6);
        const box = { min: [0, 0, 0], max: [10, 20, 30] } as const;
        const corners = [0, 10].flatMap((x) => [0, 20].map((y) => dot([x, y, 0], view.right)));
        expect(spanAlong(box, view.right)[0]).toBeCloseTo(Math.min(...corners), 9);
        expect(spanAlong(box, view.right)[1]).toBeCloseTo(Math.max(...corners), 9);
      },
    ),
  );
  expect([0, 90, 180, 270, 360, -90, 45].map(looksTo)).toEqual([
    'looking east',
    'looking north',
    'looking west',
    'looking south',
    'looking east',
    'looking south',
    'looking to 45°',
  ]);
});

const at = (id: string, min: Vec3, max: Vec3, more: Partial<Brush> = {}): Brush => ({
  ...dressSolid(boxSolid({ min, max }), id, 'm', { role: 'structure' }),
  ...more,
});
const lists = {
  make: (): Vec3[][] => [],
  trace: (path: Vec3[][], points: readonly Vec3[]) => void path.push([...points]),
};

test('faces come from afar to near, together where they look alike, and what seals but is not built is only hinted at', () => {
  const view = planView(100);
  const low = at('low', [0, 0, 0], [10, 10, 20]);
  const beside = at('beside', [50, 0, 0], [60, 10, 20]);
  const detail = at('detail', [90, 0, 0], [99, 10, 20], { role: 'detail' });
  const higher = at('higher', [0, 50, 0], [10, 60, 60]);
  const { faces } = sheetContents([higher, low, detail, beside], view, lists);
  expect(faces.map((f) => [f.role, Math.round(f.depth * 10) / 10, f.path.length])).toEqual([
    ['structure', 80.5, 1],
    ['detail', 80.5, 1],
    ['structure', 80.5, 1],
    ['structure', 40.5, 1],
  ]);
  expect(sheetContents([higher, low, beside, detail], view, lists).faces.map((f) => f.path.length)).toEqual([2, 1, 1]);
  expect(drawnBrushes([higher, low], view).faces.map((f) => f.drawn.brush.id)).toEqual(['low', 'higher']);
  // What is before the cut is drawn broken, but for the ceilings of rooms.
  const roof = at('roof', [0, 0, 200], [10, 10, 220]);
  expect(sheetContents([roof], view, lists).before).toHaveLength(1);
  const room = [...oneRoom().brushes.values()];
  expect(sheetContents(room, view, lists).before).toEqual([]);
  const open = { ...low, faces: low.faces.map((f) => ({ ...f, show: 'sky' as const })) };
  const through = planView(10);
  expect(sheetContents([open], through, lists)).toMatchObject({ cut: [], before: [expect.any(Array)] });
  expect(sheetContents([low, detail], through, lists).cut.map((c) => [c.role, c.path.length])).toEqual([
    ['structure', 1],
    ['detail', 1],
  ]);
  // No farther than a section reaches.
  const section = (depth: number) => sectionView({ at: [-100, 0], looks: 0, depth });
  expect([99, 101].map((d) => sheetContents([low], section(d), lists).faces.length)).toEqual([0, 1]);
  expect([99, 101].map((d) => propOutline(low, section(d))?.where)).toEqual([undefined, 'beyond']);
});
