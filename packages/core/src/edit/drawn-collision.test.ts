import fc from 'fast-check';
import { boxSolid, solidVolume, type Brush } from '../brush/index.ts';
import { modelOf, propPose } from '../entity/index.ts';
import { emptyMap, propBrushes, propSolids, type MapDocument } from '../map/index.ts';
import { applyAffine, boxOf, length, rotationAbout, sub, type Vec3 } from '../math/index.ts';
import { drawnSolids, growProp, movePivot, type PropFacts } from '../prop/index.ts';
import { dressSolid, transformBrush } from '../surface/index.ts';
import { CRATE } from '../testing/props.ts';
import { addBrushes } from './brushes.ts';
import { drawnCollision } from './drawn-collision.ts';
import { placeProps } from './props.ts';

const lookup = (facts: PropFacts) => (name: string) => (name === facts.name ? facts : undefined);
const block = (id: string, min: Vec3, max: Vec3): Brush =>
  dressSolid(boxSolid({ min, max }), id, 'oak-plank', { role: 'clip' });

function map(brushes: readonly Brush[], place: { at: Vec3; turn?: number; up?: Vec3; scale?: number }) {
  const { doc, made } = placeProps(
    addBrushes(emptyMap('yard'), brushes),
    [{ model: 'crate', ...place }],
    lookup(CRATE),
  );
  const thing = made.entities![0]!;
  return { doc, thing, picked: { brushes: new Set(brushes.map((b) => b.id)), entities: new Set([thing]) } };
}
/** What a prop of the map holds back with, by facts. */
const held = (doc: MapDocument, facts: PropFacts): Vec3[][] =>
  propBrushes(doc, lookup(facts))
    .filter((b) => !b.stops?.every((s) => s === 'sight'))
    .map((b) => [...b.vertices]);

test('what was drawn about a prop is what it collides as there, however it is turned, leant and grown', () => {
  const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  fc.assert(
    fc.property(
      fc.tuple(c(-20_000, 20_000), c(-500, 500), c(-50, 300)),
      c(0, 360),
      fc.tuple(c(-1, 1), c(-1, 1), fc.constant(0.7)),
      c(0.2, 3),
      c(0, 360),
      (at, turn, up, scale, lean) => {
        const near = (dx: number): Vec3 => [at[0] + dx, at[1], at[2]];
        const bodies = [
          block('a', near(-20), [at[0] + 10, at[1] + 30, at[2] + 40]),
          block('b', near(15), [at[0] + 40, at[1] + 12, at[2] + 9]),
        ];
        const brushes = [bodies[0]!, transformBrush(bodies[1]!, rotationAbout([0.3, 0.5, 1], lean, at), true)!];
        const { doc, picked } = map(brushes, { at, turn, up, scale });
        const { model, corners } = drawnCollision(doc, picked);
        expect(model).toBe('crate');
        const facts: PropFacts = { ...CRATE, collision: 'drawn', drawn: drawnSolids(corners) };
        const now = held(doc, facts);
        expect(now).toHaveLength(2);
        brushes.forEach((b, k) => {
          for (const v of b.vertices) expect(Math.min(...now[k]!.map((p) => length(sub(p, v))))).toBeLessThan(0.01);
        });
      },
    ),
    { numRuns: 40 },
  );
});

test('it goes along when the prop is made larger or its pivot is put elsewhere, and its shadow stays that of what is seen', () => {
  const { doc, thing, picked } = map([block('a', [0, 0, 0], [20, 30, 40])], { at: [0, 0, 0] });
  const drawn: PropFacts = { ...CRATE, collision: 'drawn', drawn: drawnSolids(drawnCollision(doc, picked).corners) };
  expect(solidVolume(growProp(drawn, 2).drawn![0]!)).toBeCloseTo(8 * 20 * 30 * 40, 3);
  expect(boxOf(movePivot(drawn, [5, 0, -5]).drawn![0]!.vertices)).toEqual({ min: [-5, 0, 5], max: [15, 30, 45] });
  const brushes = propBrushes(doc, lookup(drawn));
  const shading = brushes.filter((b) => b.shadow !== false);
  const pose = propPose(modelOf(doc.entities.get(thing)!)!, [0, 0, 0], 0);
  expect(shading).toHaveLength(1);
  expect(boxOf(shading[0]!.vertices)).toEqual(boxOf(CRATE.hulls[0]!.vertices.map((v) => applyAffine(pose, v))));
  // Of a prop for which nothing was drawn its parts are taken.
  expect(propSolids(CRATE, 'drawn')).toEqual(CRATE.hulls);
});

test('nothing, several props, brushes alone, and too many brushes are refused with what to do', () => {
  const one = block('a', [0, 0, 0], [20, 30, 40]);
  const { doc, thing, picked } = map([one], { at: [0, 0, 0] });
  const code = (given: Parameters<typeof drawnCollision>[1], of = doc): unknown => {
    try {
      return drawnCollision(of, given);
    } catch (error) {
      return (error as { code: string }).code;
    }
  };
  expect(code({ brushes: new Set(), entities: new Set([thing]) })).toBe('prop.drawnNothing');
  expect(code({ brushes: picked.brushes, entities: new Set() })).toBe('prop.drawnNothing');
  const two = placeProps(doc, [{ model: 'crate', at: [90, 0, 0] }], lookup(CRATE));
  const both = new Set([thing, two.made.entities![0]!]);
  expect(code({ brushes: picked.brushes, entities: both }, two.doc)).toBe('prop.drawnNothing');
  const many = Array.from({ length: 65 }, (_, k) => block(`m${k}`, [k * 10, 0, 0], [k * 10 + 5, 5, 5]));
  const full = map(many, { at: [0, 0, 0] });
  expect(code(full.picked, full.doc)).toBe('prop.drawnMany');
  expect(() => drawnSolids([[[0, 0, 0], [1, 0, 0], [0, 1, 0], [1, 1, 0]]])).toThrow(/plane/); // prettier-ignore
});
