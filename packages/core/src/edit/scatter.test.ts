import { boxSolid, wedgeSolid, type Solid } from '../brush/index.ts';
import { modelOf } from '../entity/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { dot, length, normalize, rotationAbout, sub, type Vec3 } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { boxProp } from '../testing/props.ts';
import { addBrushes } from './brushes.ts';
import { EditError } from './errors.ts';
import { findFaces, type FaceRef } from './faces.ts';
import { scatterProps } from './scatter.ts';

const bush = boxProp('bush', [-5, -5, 0], [5, 5, 20], { collision: 'none' });
const lookup = (name: string) => (name === 'bush' ? bush : undefined);

const on = (solid: Solid, tilt = 0): { doc: MapDocument; refs: FaceRef[] } => {
  const brush = transformBrush(
    dressSolid(solid, 'b', 'm', { role: 'detail' }),
    rotationAbout([1, 0.4, 0], tilt, [0, 0, 0]),
    true,
  );
  const doc = addBrushes(emptyMap('m'), [brush]);
  const all = findFaces(doc, brush.faces.map((f) => ({ brush: 'b', face: f.id }))); // prettier-ignore
  const up = rotationAbout([1, 0.4, 0], tilt, [0, 0, 0]);
  const way: Vec3 = [up[2], up[6], up[10]];
  return { doc, refs: all.filter((f) => dot(f.plane.normal, way) > 0.9).map((f) => f.ref) };
};
const things = (doc: MapDocument) => [...doc.entities.values()].filter((e) => modelOf(e));

test.each([0, 17, 64])(
  'stands on the face (tilted by %i°), none nearer than the spacing, until hardly another one fits',
  (tilt) => {
    const { doc, refs } = on(boxSolid({ min: [-300, -200, 0], max: [300, 200, 40] }), tilt);
    const out = scatterProps(doc, refs, { models: ['bush'], spacing: 40, seed: 7, aligned: true }, lookup).doc;
    const all = things(out);
    // Dart throwing fills 0.547 of the plane with discs of half the spacing (Tanemura): 0.547 · 4 / π of the squares, less at borders.
    const squares = (600 * 400) / 40 ** 2;
    expect(all.length / squares).toBeGreaterThan(0.52);
    expect(all.length / squares).toBeLessThan(0.78);
    const [face] = findFaces(doc, refs);
    all.forEach((e, i) => {
      expect(Math.abs(dot(face!.plane.normal, e.at) - face!.plane.distance)).toBeLessThan(1e-4);
      expect(dot(normalize(modelOf(e)!.up), face!.plane.normal)).toBeCloseTo(1, 6);
      for (const other of all.slice(i + 1)) expect(length(sub(e.at, other.at))).toBeGreaterThanOrEqual(40 - 1e-4);
    });
    // All of them are in one group, and the same seed strews them the same way.
    expect(new Set(all.map((e) => e.group)).size).toBe(1);
    const again = scatterProps(doc, refs, { models: ['bush'], spacing: 40, seed: 7, aligned: true }, lookup).doc;
    expect(things(again).map((e) => [e.at, e.turn])).toEqual(all.map((e) => [e.at, e.turn]));
    const other = scatterProps(doc, refs, { models: ['bush'], spacing: 40, seed: 8, aligned: true }, lookup).doc;
    expect(things(other)[0]!.at).not.toEqual(all[0]!.at);
  },
);

test('differs in size by the spread, is turned all ways, and leaves out where a solid stands', () => {
  const { doc, refs } = on(boxSolid({ min: [-400, -400, 0], max: [400, 400, 40] }));
  const rock = dressSolid(boxSolid({ min: [-200, -200, 40], max: [0, 200, 100] }), 'rock', 'm', { role: 'detail' });
  const out = scatterProps(
    addBrushes(doc, [rock]),
    refs,
    { models: ['bush'], spacing: 30, seed: 1, spread: 0.3 },
    lookup,
  ).doc;
  const all = things(out);
  const scales = all.map((e) => modelOf(e)!.scale);
  expect(Math.min(...scales)).toBeGreaterThanOrEqual(0.7);
  expect(Math.max(...scales)).toBeLessThanOrEqual(1.3);
  expect(Math.max(...scales) - Math.min(...scales)).toBeGreaterThan(0.5);
  expect(new Set(all.map((e) => Math.floor(e.turn / 45))).size).toBeGreaterThanOrEqual(8);
  for (const { at: [x, y] } of all) expect(x > -200 && x < 0 && y > -200 && y < 200).toBe(false); // prettier-ignore
  expect(all.filter((e) => e.at[0] > 0).length).toBeGreaterThan(100);
});

test('stays inside a triangle, and does not lean on a slope unless it is to', () => {
  const { doc } = on(wedgeSolid({ min: [0, 0, 0], max: [300, 300, 150] }, 'north'));
  const slope = findFaces(doc, doc.brushes.get('b')!.faces.map((f) => ({ brush: 'b', face: f.id }))).find((f) => f.plane.normal[2] > 0.5 && f.plane.normal[2] < 0.99)!; // prettier-ignore
  const out = scatterProps(doc, [slope.ref], { models: ['bush'], spacing: 50, seed: 2 }, lookup).doc;
  for (const e of things(out)) {
    expect(modelOf(e)!.up).toEqual([0, 0, 1]);
    expect(dot(slope.plane.normal, e.at) - slope.plane.distance).toBeGreaterThan(0);
  }
});

test('says what is wrong, and does nothing then', () => {
  const { doc, refs } = on(boxSolid({ min: [-3000, -3000, 0], max: [3000, 3000, 40] }));
  const ask =
    (more: object, faces: readonly FaceRef[] = refs) =>
    () =>
      scatterProps(doc, faces, { models: ['bush'], spacing: 100, seed: 1, ...more }, lookup);
  for (const [more, code] of [
    [{ models: [] }, 'scatter.none'],
    [{ models: ['tree'] }, 'prop.unknown'],
    [{ spacing: 0 }, 'scatter.spacing'],
    [{ spacing: NaN }, 'scatter.spacing'],
    [{ spread: 1 }, 'scatter.spread'],
    [{ spacing: 10 }, 'scatter.many'],
    [{ spacing: 90_000 }, 'scatter.noRoom'],
  ] as const)
    expect(ask(more)).toThrow(expect.objectContaining({ code }));
  expect(ask({}, [])).toThrow(EditError);
  // With the spacing that it names it is done.
  const least = Number(/spacing of (\d+)/.exec((() => { try { ask({ spacing: 10 })(); } catch (e) { return (e as Error).message; } return ''; })())![1]); // prettier-ignore
  expect(things(ask({ spacing: least })().doc).length).toBeLessThanOrEqual(5000);
});
