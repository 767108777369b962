import fc from 'fast-check';
import { boxSolid, brushVolume, hullOf, stopsPlayers, type Solid } from '../brush/index.ts';
import { changeEntity, placeProps, propOnSurface, replaceProps } from '../edit/index.ts';
import { modelOf, propPose, propTurn, transformEntity } from '../entity/index.ts';
import { applyAffine, composeAffine, dot, length, normalize, rotation, sub, type Vec3 } from '../math/index.ts';
import type { PropFacts } from '../prop/index.ts';
import { emptyMap, litPlaces, propBrushes, propOfBrush, propSize, propSolids, type MapDocument } from './index.ts';

const facts = (name: string, hulls: readonly Solid[], more: Partial<PropFacts> = {}): PropFacts => {
  const all = hulls.flatMap((h) => h.vertices);
  const edge = (of: (...n: number[]) => number) =>
    [0, 1, 2].map((k) => of(...all.map((p) => p[k]!))) as unknown as Vec3;
  return {
    name,
    label: name,
    bounds: { min: edge(Math.min), max: edge(Math.max) },
    triangles: 12,
    collision: 'hulls',
    hulls,
    substance: 'wood',
    lights: [],
    ...more,
  };
};
const crate = facts('crate', [boxSolid({ min: [-32, -32, 0], max: [32, 32, 64] })], { collision: 'box' });
const column = facts('column', [
  boxSolid({ min: [-20, -20, 0], max: [20, 20, 10] }),
  boxSolid({ min: [-14, -14, 10], max: [14, 14, 200] }),
]);
const lamp = facts('lamp', [boxSolid({ min: [-6, -6, 0], max: [6, 6, 30] })], {
  lights: [{ at: [0, 10, 40], candela: 70, kelvin: 2300 }],
});
const known = new Map([crate, column, lamp].map((p) => [p.name, p]));
const lookup = (name: string) => known.get(name);

const place = (model: string, more: object = {}): { doc: MapDocument; id: string } => {
  const { doc, made } = placeProps(emptyMap('m'), [{ model, at: [100, 50, 8], ...more }], lookup);
  return { doc, id: made.entities[0]! };
};

test('stands as large, as turned and as leant as it is told to, and keeps its volume but for its scale', () => {
  const unit = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -1, max: 1, noNaN: true })));
  fc.assert(
    fc.property(
      unit,
      fc.double({ min: -400, max: 400, noNaN: true }),
      fc.double({ min: 0.1, max: 8, noNaN: true }),
      (way, turn, scale) => {
        const up = way as unknown as Vec3;
        fc.pre(length(up) > 1e-3);
        const { doc } = place('column', { turn, up, scale });
        const brushes = propBrushes(doc, lookup);
        const whole = column.hulls.length;
        expect(brushes).toHaveLength(whole);
        const volume = brushes.reduce((sum, b) => sum + brushVolume(b), 0);
        const own = 40 * 40 * 10 + 28 * 28 * 190;
        expect(volume / (own * scale ** 3)).toBeCloseTo(1, 6);
        // Its upright points where it was told to, and its foot is where it stands.
        const pose = propPose(modelOf([...doc.entities.values()][0]!)!, [100, 50, 8], turn);
        const top = sub(applyAffine(pose, [0, 0, 1]), applyAffine(pose, [0, 0, 0]));
        expect(dot(normalize(top), normalize(up))).toBeCloseTo(1, 9);
        expect(length(top)).toBeCloseTo(scale, 9);
        for (const b of brushes)
          for (const v of b.vertices) expect(length(sub(v, [100, 50, 8]))).toBeLessThan(scale * 205);
      },
    ),
    { numRuns: 60 },
  );
});

test('turned with what it stands among it turns the same way', () => {
  const up: Vec3 = [0.3, -0.2, 0.8];
  for (const by of [17, 90, 233]) {
    const m = rotation(2, by, [40, -30, 0]);
    const { doc, id } = place('crate', { turn: 25, up });
    const turned = transformEntity(doc.entities.get(id)!, m);
    const [a, b] = [
      propPose(modelOf(turned)!, turned.at, turned.turn),
      composeAffine(
        m,
        composeAffine(rotation(2, 0, [0, 0, 0]), propPose(modelOf(doc.entities.get(id)!)!, [100, 50, 8], 25)),
      ),
    ];
    for (const p of [
      [10, 0, 0],
      [0, 10, 0],
      [3, 4, 50],
    ] as Vec3[]) {
      const [q, r] = [applyAffine(a, p), applyAffine(b, p)];
      expect(length(sub(q, r))).toBeLessThan(1e-6);
    }
  }
});

test('collides as it is told to, holds nothing back as nothing, and shades all the same', () => {
  const { doc, id } = place('column');
  const as = (collides: string, shades = true) =>
    propBrushes(changeEntity(doc, id, { params: { collides, shades } }), lookup);
  expect(as('own').map((b) => [stopsPlayers(b), b.shadow])).toEqual([
    [true, undefined],
    [true, undefined],
  ]);
  expect(as('none').filter(stopsPlayers)).toEqual([]);
  expect(as('none').map((b) => b.stops)).toEqual([['sight'], ['sight']]);
  expect(as('none', false)).toEqual([]);
  const box = as('box').filter(stopsPlayers);
  expect(box).toHaveLength(1);
  expect(brushVolume(box[0]!)).toBeCloseTo(40 * 40 * 200, 3);
  const hull = as('hull', false);
  expect(hull).toHaveLength(1);
  const corners = column.hulls.flatMap((h) => h.vertices);
  expect(brushVolume(hull[0]!)).toBeCloseTo(brushVolume({ ...hull[0]!, ...dressed(hullOf(corners)) }), 3);
  for (const b of [...as('own'), ...hull]) {
    expect(propOfBrush(b)).toBe(id);
    expect(b.faces.every((f) => f.show === 'unseen')).toBe(true);
  }
});

const dressed = ({ vertices, loops }: Solid) => ({
  vertices,
  faces: loops.map((loop, k) => ({ id: k, loop, material: 'm', frame: { u: [1, 0, 0, 0], v: [0, 1, 0, 0] } as const })),
});

test('a prop nobody has stands as a box of the size it had, which holds people back, and keeps its name', () => {
  const { doc, id } = place('crate', { scale: 2 });
  const [b] = propBrushes(doc, () => undefined);
  expect(brushVolume(b!)).toBeCloseTo(128 ** 3, 3);
  expect([stopsPlayers(b!), b!.shadow]).toEqual([true, false]);
  expect(propSize(doc.entities.get(id)!)).toEqual(crate.bounds);
  expect(modelOf(doc.entities.get(id)!)!.name).toBe('crate');
  expect(() => placeProps(doc, [{ model: 'gone', at: [0, 0, 0] }], lookup)).toThrow(/no prop called gone/);
});

test('one that shines brings its lamp along, turned with it, in one group', () => {
  const { doc } = place('lamp', { turn: 90 });
  const [prop, light] = [...doc.entities.values()];
  expect(light!.kind).toBe('pointLight');
  expect(length(sub(light!.at, [90, 50, 48]))).toBeLessThan(1e-6);
  expect([light!.params.candela, light!.params.kelvin]).toEqual([70, 2300]);
  expect(light!.group).toBe(prop!.group);
  expect(doc.groups.has(prop!.group!)).toBe(true);
});

test('stands clear of the surface it is put on, whichever way that looks, and leans with it when it is to', () => {
  for (const normal of [
    [0, 0, 1],
    [1, 0, 0],
    [0, 0, -1],
    [0.6, 0, 0.8],
    [0.48, -0.6, 0.64],
  ] as Vec3[])
    for (const aligned of [false, true]) {
      const { at, up } = propOnSurface(column.bounds, [10, 20, 30], normal, { turn: 33, scale: 1.5, aligned });
      const pose = propPose(
        { name: '', scale: 1.5, up, collision: null, stops: 'all', shades: true, litAt: null },
        at,
        33,
      );
      const heights = propSolids(column, 'box')[0]!.vertices.map((v) =>
        dot(sub(applyAffine(pose, v), [10, 20, 30]), normal),
      );
      expect(Math.min(...heights)).toBeCloseTo(0, 5);
      if (aligned) expect(Math.max(...heights)).toBeCloseTo(300, 5);
      else expect(applyAffine(propTurn(up, 0, 1), [0, 0, 1])).toEqual([0, 0, 1]);
    }
});

test('another one stands where it stood, with its size; what is no prop stays, and a given name too', () => {
  const { doc, id } = place('crate', { turn: 40 });
  const named = changeEntity(doc, id, { name: 'The heavy one' });
  const next = replaceProps(doc, [id], 'column', lookup);
  const thing = next.entities.get(id)!;
  expect([modelOf(thing)!.name, thing.name, thing.turn]).toEqual(['column', 'column', 40]);
  expect(propSize(thing)).toEqual(column.bounds);
  expect(replaceProps(named, [id], 'column', lookup).entities.get(id)!.name).toBe('The heavy one');
});

test('light is found in the middle of what is small, at the corners of what is large, and inside of it either way', () => {
  const at = (more: object) => {
    const { doc, id } = place('crate', more);
    return litPlaces(doc.entities.get(id)!);
  };
  expect(at({ at: [10, 20, 30] })).toEqual([[10, 20, 30 + 32 + 8]]);
  const large = at({ at: [10, 20, 30], scale: 4 });
  expect(large).toHaveLength(8);
  // A fifth of the way from the corners to the middle, and a little above.
  expect(large[0]!.map(Math.round)).toEqual([10 - 102, 20 - 102, 30 + 26 + 8]);
  expect(large[7]!.map(Math.round)).toEqual([10 + 102, 20 + 102, 30 + 230 + 8]);
  // Turned by a quarter about its upright the corner that was in the east is in the north.
  const [, turned] = at({ at: [0, 0, 0], scale: 4, turn: 90 });
  expect(turned!.map(Math.round)).toEqual([102, 102, 34]);
  const { doc, id } = place('crate', { scale: 4 });
  expect(litPlaces(changeEntity(doc, id, { params: { takes: 'middle' } }).entities.get(id)!)).toHaveLength(1);
});

test('holds back those alone whom it is set to, and shades all the same', () => {
  const { doc, id } = place('column');
  const of = (params: object) => propBrushes(changeEntity(doc, id, { params: params as never }), lookup);
  const players = (params: object) => of(params).filter(stopsPlayers).length;
  const shading = (params: object) =>
    of(params).filter((b) => b.shadow !== false && (b.stops?.includes('sight') ?? true)).length;
  const shots = (params: object) => of(params).filter((b) => b.stops?.includes('shots') ?? true).length;
  expect([players({}), shots({}), shading({})]).toEqual([2, 2, 2]);
  expect([players({ stops: 'people' }), shots({ stops: 'people' }), shading({ stops: 'people' })]).toEqual([2, 0, 2]);
  expect([players({ stops: 'shots' }), shots({ stops: 'shots' }), shading({ stops: 'shots' })]).toEqual([0, 2, 2]);
  // As a box it is met as one, and shades as its parts.
  const box = { collides: 'box', stops: 'shots' };
  expect([players(box), shots(box), shading(box)]).toEqual([0, 1, 2]);
});
