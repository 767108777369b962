import { boxSolid } from '../brush/index.ts';
import { addBrushes, changeEntity, placeDecals, placeProps } from '../edit/index.ts';
import { decalOf } from '../entity/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { length, type Vec3 } from '../math/index.ts';
import { dressSolid, type MaterialFacts } from '../surface/index.ts';
import { crateAlone as props } from '../testing/props.ts';
import { decalOnNothing, missingDecal } from './decals.ts';

const materials = (name: string): MaterialFacts | undefined =>
  name === 'gone' ? undefined : { name, width: 128, height: 128, texelsPerCm: 2, solidity: 'solid' };
const wall = dressSolid(boxSolid({ min: [100, -200, 0], max: [116, 200, 300] }), 'wall', 'brick');
const at = (p: Vec3, doc: MapDocument = addBrushes(emptyMap('m'), [wall]), params = {}) => {
  const out = placeDecals(doc, [{ material: 'paint', at: p, normal: [-1, 0, 0] }], materials);
  const id = out.made.entities[0]!;
  return { id, doc: changeEntity(out.doc, id, { params }) };
};
const found = (doc: MapDocument) => decalOnNothing.find(doc, { materials, props }).map((f) => f.entities);

test('a decal that falls on nothing is told; one that reaches a wall is not, nor where no materials are known', () => {
  expect(found(at([100, 0, 100]).doc)).toEqual([]);
  const { doc, id } = at([60, 0, 100]);
  expect(found(doc)).toEqual([[id]]);
  expect(decalOnNothing.find(doc, { props })).toEqual([]);
  expect(decalOnNothing.find(doc, { materials, props })[0]!.text).toMatch(
    /^Paint falls on nothing: .* Let it reach further/,
  );
});

test('reaching further it is as deep as it takes, and no deeper than twice that; what nothing is near to stays', () => {
  const { doc, id } = at([20, 0, 100]);
  const finding = decalOnNothing.find(doc, { materials, props })[0]!;
  const fix = decalOnNothing.fixes![0]!;
  expect([fix.label, fix.offered!(doc, finding)]).toEqual(['Reach further', true]);
  const fixed = fix.apply(doc, finding, { materials, props });
  const deep = length(decalOf(fixed.entities.get(id)!)!.through);
  // Half of it lies before the place: 80 cm to the wall need a box of 160.
  expect(deep).toBeGreaterThan(160);
  expect(deep).toBeLessThanOrEqual(320);
  expect(found(fixed)).toEqual([]);
  const alone = at([20, 0, 100], emptyMap('empty'));
  const told = decalOnNothing.find(alone.doc, { materials, props })[0]!;
  expect(fix.offered!(alone.doc, told)).toBe(false);
  expect(fix.apply(alone.doc, told, { materials, props })).toBe(alone.doc);
  expect(decalOnNothing.fixes![1]!.apply(alone.doc, told, { materials }).entities.size).toBe(0);
});

test('a prop counts as something to fall on, unless it is for brushes, or for others', () => {
  const crate = placeProps(emptyMap('m'), [{ model: 'crate', at: [0, 0, 0] }], props);
  // The crate's west face lies at −32.
  expect(found(at([-32, 0, 30], crate.doc).doc)).toEqual([]);
  expect(found(at([-32, 0, 30], crate.doc, { targets: 'brushes' }).doc)).toHaveLength(1);
  expect(found(at([-32, 0, 30], crate.doc, { targets: 'chosen', things: ['x'] }).doc)).toHaveLength(1);
  expect(found(at([-32, 0, 30], crate.doc, { targets: 'chosen', things: crate.made.entities }).doc)).toEqual([]);
});

test('a picture that nobody has is told by name, and not as one that falls on nothing', () => {
  const { doc, id } = at([0, 0, 0], undefined, { material: 'gone' });
  expect(found(doc)).toEqual([]);
  const [missing] = missingDecal.find(doc, { materials });
  expect([missing!.entities, missing!.text]).toEqual([
    [id],
    'A decal shows gone, which is not in Stock. Import its pack, or choose another in Particulars.',
  ]);
  expect(missingDecal.find(doc, {})).toEqual([]);
  expect(missingDecal.find(at([0, 0, 0]).doc, { materials })).toEqual([]);
});
