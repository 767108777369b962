import { boxSolid, wedgeSolid, type Solid } from '../brush/index.ts';
import { modelOf } from '../entity/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { add, applyAffine, dot, length, normalize, rotationAbout, sub, translation, type Vec3 } from '../math/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { boxProp } from '../testing/props.ts';
import { addBrushes } from './brushes.ts';
import { EditError } from './errors.ts';
import { findFaces, type FaceRef } from './faces.ts';
import { scatterProps, strewProps, type Dab } from './scatter.ts';

const bush = boxProp('bush', [-5, -5, 0], [5, 5, 20], { collision: 'none' });
const lookup = (name: string) => (name === 'bush' ? bush : undefined);

const on = (solid: Solid, tilt = 0): { doc: MapDocument; refs: FaceRef[] } => {
  const brush = transformBrush(
    dressSolid(solid, 'b', 'm', { role: 'detail' }),
    rotationAbout([1, 0.4, 0], tilt, [0, 0, 0]),
    true,
  );
  const doc = addBrushes(emptyMap('m'), [brush]);
  const all = findFaces(
    doc,
    brush.faces.map((f) => ({ brush: 'b', face: f.id })),
  );
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
  for (const {
    at: [x, y],
  } of all)
    expect(x > -200 && x < 0 && y > -200 && y < 200).toBe(false);
  expect(all.filter((e) => e.at[0] > 0).length).toBeGreaterThan(100);
});

test('stays inside a triangle, and does not lean on a slope unless it is to', () => {
  const { doc } = on(wedgeSolid({ min: [0, 0, 0], max: [300, 300, 150] }, 'north'));
  const slope = findFaces(
    doc,
    doc.brushes.get('b')!.faces.map((f) => ({ brush: 'b', face: f.id })),
  ).find((f) => f.plane.normal[2] > 0.5 && f.plane.normal[2] < 0.99)!;
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
  const least = Number(
    /spacing of (\d+)/.exec(
      (() => {
        try {
          ask({ spacing: 10 })();
        } catch (e) {
          return (e as Error).message;
        }
        return '';
      })(),
    )![1],
  );
  expect(things(ask({ spacing: least })().doc).length).toBeLessThanOrEqual(5000);
});

describe('a brush of props', () => {
  const FAR: Vec3 = [40_000, -30_000, 500];
  const ground = (tilt = 0) => {
    const { doc } = on(boxSolid({ min: [-600, -400, 0], max: [600, 400, 40] }), tilt);
    const brushes = new Map([...doc.brushes].map(([id, b]) => [id, transformBrush(b, translation(FAR), true)]));
    const turn = rotationAbout([1, 0.4, 0], tilt, [0, 0, 0]);
    const place = (x: number, y: number): Dab => ({
      at: add(FAR, applyAffine(turn, [x, y, 40])),
      normal: applyAffine(turn, [0, 0, 1]),
    });
    return { doc: { ...doc, brushes }, place };
  };
  const how = { models: ['bush'], spacing: 40, seed: 5, radius: 150, aligned: true };

  test.each([0, 33])(
    'strews within its radius, none nearer than the spacing, as full as hardly another fits (tilted by %i°)',
    (tilt) => {
      const { doc, place } = ground(tilt);
      const dabs = [place(-200, 0), place(-100, 40)];
      const all = things(strewProps(doc, { ...how, dabs }, lookup).doc);
      // Two discs of 150 that overlap, as full as random throws make them (Tanemura), borders counted in.
      expect(all.length).toBeGreaterThan(0.5 * ((Math.PI * 150 ** 2) / 40 ** 2));
      expect(all.length).toBeLessThan(2.4 * ((Math.PI * 150 ** 2) / 40 ** 2) * 0.8);
      all.forEach((e, i) => {
        expect(Math.min(...dabs.map((d) => length(sub(e.at, d.at))))).toBeLessThanOrEqual(150 + 1e-6);
        expect(Math.abs(dot(sub(e.at, dabs[0]!.at), dabs[0]!.normal))).toBeLessThan(1e-3);
        for (const other of all.slice(i + 1)) expect(length(sub(e.at, other.at))).toBeGreaterThanOrEqual(40 - 1e-4);
      });
    },
  );

  test('strews the beginning of a longer stroke the same way, goes on beside what stands there, and in its group', () => {
    const { doc, place } = ground();
    const dabs = [-300, -150, 0, 150, 300].map((x) => place(x, 0));
    const places = (d: MapDocument) => things(d).map((e) => e.at.join(' '));
    const short = strewProps(doc, { ...how, dabs: dabs.slice(0, 2) }, lookup).doc;
    const long = strewProps(doc, { ...how, dabs }, lookup).doc;
    expect(places(long)).toEqual(expect.arrayContaining(places(short)));
    const again = strewProps(short, { ...how, seed: 99, dabs }, lookup);
    const all = things(again.doc);
    expect(all.length).toBe(things(short).length + again.placed);
    for (const [i, e] of all.entries())
      for (const other of all.slice(i + 1)) expect(length(sub(e.at, other.at))).toBeGreaterThanOrEqual(40 - 1e-4);
    expect(new Set(all.map((e) => e.group)).size).toBe(1);
    expect(again.doc.groups.size).toBe(1);
    // Where it is full no other one finds room.
    expect(strewProps(again.doc, { ...how, seed: 3, dabs }, lookup).placed).toBeLessThan(5);
  });

  test('grown place by place a stroke strews what it would at once, whatever else is strewn meanwhile', () => {
    const { doc, place } = ground();
    const dabs = [-300, -150, 0, 150, 300, 280, 10].map((x, k) => place(x, k * 20));
    // A map that is the same but was never strewn on.
    const afresh = (of: readonly Dab[], more: object = {}) =>
      things(strewProps({ ...doc }, { ...how, ...more, dabs: of }, lookup).doc).map((e) => [
        e.at,
        e.turn,
        e.params.scale,
      ]);
    const goingOn = (of: readonly Dab[], more: object = {}) =>
      things(strewProps(doc, { ...how, ...more, dabs: of }, lookup).doc).map((e) => [e.at, e.turn, e.params.scale]);
    for (let n = 1; n <= dabs.length; n++) expect(goingOn(dabs.slice(0, n))).toEqual(afresh(dabs.slice(0, n)));
    const other = [dabs[0]!, dabs[3]!, dabs[1]!];
    expect(goingOn(other)).toEqual(afresh(other));
    expect(goingOn(dabs.slice(0, 2))).toEqual(afresh(dabs.slice(0, 2)));
    expect(goingOn(dabs, { spacing: 55 })).toEqual(afresh(dabs, { spacing: 55 }));
    expect(goingOn(dabs, { seed: 8, density: 0.4 })).toEqual(afresh(dabs, { seed: 8, density: 0.4 }));
    // One that broke off, after some were thrown, is not gone on with, nor one with props that have become others.
    const some = { ...how, models: ['bush', 'nobody'] };
    const told = (name: string) => (name === 'nobody' && !known ? undefined : bush);
    let known = false;
    expect(() => strewProps(doc, { ...some, dabs }, told)).toThrow('nobody');
    known = true;
    const feet = (of: MapDocument) => things(strewProps(of, { ...some, dabs }, told).doc).map((e) => e.at);
    expect(feet(doc)).toEqual(feet({ ...doc }));
    strewProps(doc, { ...some, dabs: dabs.slice(0, 2) }, told);
    known = false;
    expect(() => strewProps(doc, { ...some, dabs }, told)).toThrow('nobody');
    known = true;
    expect(feet(doc)).toEqual(feet({ ...doc }));
    const sunk = () => boxProp('bush', [-5, -5, -30], [5, 5, 20]);
    expect(things(strewProps(doc, { ...some, dabs }, sunk).doc)[0]!.at[2]).not.toBe(feet(doc)[0]![2]);
    expect(goingOn(dabs)).toEqual(afresh(dabs));
  });

  test('each place of a stroke is strewn in its own way', () => {
    const { doc, place } = ground();
    const [near, far] = [place(-400, 0), place(400, 0)];
    const all = things(strewProps(doc, { ...how, dabs: [near, far] }, lookup).doc).map((e) => e.at);
    const around = (dab: Dab) =>
      all.filter((p) => length(sub(p, dab.at)) < 300).map((p) => sub(p, dab.at).map(Math.round).join(' '));
    expect(around(near).length).toBeGreaterThan(3);
    expect(around(near)).not.toEqual(around(far));
  });

  test('takes less of the room the less dense it is, and no wall beside the floor', () => {
    const { doc, place } = ground();
    const counts = [0.1, 0.4, 1].map(
      (density) => strewProps(doc, { ...how, density, dabs: [place(0, 0)] }, lookup).placed,
    );
    expect(counts[0]).toBeGreaterThan(0);
    expect(counts[0]!).toBeLessThan(counts[1]!);
    expect(counts[1]!).toBeLessThan(counts[2]!);
    const wall = transformBrush(
      dressSolid(boxSolid({ min: [60, -400, 40], max: [80, 400, 400] }), 'wall', 'm', { role: 'detail' }),
      translation(FAR),
      true,
    );
    const beside = strewProps(addBrushes(doc, [wall]), { ...how, dabs: [place(0, 0)] }, lookup).doc;
    for (const e of things(beside)) {
      expect(e.at[2]).toBeCloseTo(FAR[2] + 40, 3);
      expect(e.at[0] > FAR[0] + 60 && e.at[0] < FAR[0] + 80).toBe(false);
    }
  });

  test('refuses what it cannot do', () => {
    const { doc, place } = ground();
    const strew = (more: object) => () => strewProps(doc, { ...how, dabs: [place(0, 0)], ...more }, lookup);
    expect(strew({ dabs: [] })).toThrow('Drag over the surfaces');
    expect(strew({ radius: 0 })).toThrow('1 cm to 100 m');
    expect(strew({ radius: 0.9 })).toThrow('1 cm to 100 m');
    expect(strew({ radius: 10_001 })).toThrow('1 cm to 100 m');
    for (const radius of [1, 10_000]) expect(strew({ radius })).not.toThrow();
    expect(strew({ radius: NaN })).toThrow('1 cm to 100 m');
    expect(strew({ density: 0 })).toThrow('above 0');
    expect(strew({ spacing: 0 })).toThrow('at least 1 cm');
    expect(strew({ models: ['tree'] })).toThrow('no prop called tree');
    expect(strewProps(emptyMap('m'), { ...how, dabs: [place(0, 0)] }, lookup).placed).toBe(0);
  });
});
