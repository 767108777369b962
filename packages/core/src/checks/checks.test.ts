import { boxSolid } from '../brush/index.ts';
import { addBrushes, placeEntity } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import type { Box } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { fixLabel, fixProblem, runChecks, type CheckContext } from './index.ts';

const box = (id: string, b: Box, material = 'limewash') => dressSolid(boxSolid(b), id, material, { role: 'detail' });
const lit = (): MapDocument =>
  placeEntity(placeEntity(oneRoom(), 'spawn', [100, 100, 0], 0, 's'), 'pointLight', [100, 100, 200], 0, 'l');
const rules = (doc: MapDocument, context: CheckContext = {}) => runChecks(doc, context).map((p) => p.rule);

/** Every fix of a problem makes it go away and brings no new one. */
function expectFixed(doc: MapDocument, context: CheckContext = {}): MapDocument {
  const [problem] = runChecks(doc, context);
  expect(fixLabel(problem!)).not.toBeNull();
  const fixed = fixProblem(doc, problem!);
  expect(runChecks(fixed, context)).toEqual([]);
  return fixed;
}

test('a lit room with a spawn has no problems', () => {
  expect(runChecks(lit())).toEqual([]);
});

test('an empty map lacks a spawn; a room without light says so', () => {
  expect(rules(emptyMap('t'))).toEqual(['check.noSpawn']);
  expect(rules(oneRoom())).toEqual(['check.noSpawn', 'check.noLight']);
});

test('a spawn inside a solid is found and put on top of it', () => {
  const doc = addBrushes(lit(), [box('crate', { min: [64, 64, 0], max: [160, 160, 80] })]);
  expect(rules(doc)).toEqual(['check.spawnPlace']);
  expect(expectFixed(doc).entities.get('s')!.at).toEqual([100, 100, 80]);
});

test('a spawn in the void is found and removed', () => {
  const context: CheckContext = { placeOf: (p) => (p[0] < 0 ? 'void' : 'open') };
  const doc = placeEntity(lit(), 'spawn', [-500, 0, 0], 0, 'lost');
  expect(rules(doc, context)).toEqual(['check.spawnPlace']);
  expect(expectFixed(doc, context).entities.has('lost')).toBe(false);
});

test('a brush too small to see is found and removed', () => {
  const doc = addBrushes(lit(), [box('crumb', { min: [200, 200, 10], max: [201, 201, 11] })]);
  expect(rules(doc)).toEqual(['check.tinyBrush']);
  expectFixed(doc);
});

test('corners between centimetres are found and moved onto them', () => {
  const doc = addBrushes(lit(), [box('odd', { min: [200, 200, 0.25], max: [264, 264, 63.5] })]);
  expect(rules(doc)).toEqual(['check.offGrid']);
  expectFixed(doc);
});

test('faces with different looks in one plane are found, unless hidden or alike', () => {
  const one = box('one', { min: [200, 200, 0], max: [264, 264, 64] });
  const overlapping = addBrushes(lit(), [one, box('two', { min: [230, 200, 0], max: [300, 264, 64] }, 'slate')]);
  expect(new Set(rules(overlapping))).toEqual(new Set(['check.coplanar']));
  // Top, south and north, and the floor side that nobody can see from above counts too without a structure.
  expect(rules(overlapping)).toHaveLength(4);
  const alike = addBrushes(lit(), [one, box('two', { min: [230, 200, 0], max: [300, 264, 64] })]);
  expect(rules(alike)).toEqual([]);
  const beside = addBrushes(lit(), [one, box('two', { min: [264, 200, 0], max: [300, 264, 64] }, 'slate')]);
  expect(rules(beside)).toEqual([]);
  let fixed = overlapping;
  for (let problem = runChecks(fixed)[0]; problem; problem = runChecks(fixed)[0]) fixed = fixProblem(fixed, problem);
  expect(runChecks(fixed)).toEqual([]);
});
