import fc from 'fast-check';
import { createHash } from 'node:crypto';
import { boxSolid } from '../../brush/index.ts';
import { addBrushes, placeEntity, removePicked, transformPicked } from '../../edit/index.ts';
import type { KeptResults } from '../../jobs/index.ts';
import { boxOf, buildBvh, eachSwept, rotation, translation, type Box, type Vec3 } from '../../math/index.ts';
import type { MapDocument } from '../../map/index.ts';
import { dressSolid } from '../../surface/index.ts';
import { twoRooms } from '../../testing/rooms.ts';
import { buildLevel } from '../build.ts';
import type { KeptDirect } from './direct-job.ts';

/** Two rooms with a doorway; crates, a turned board, lamps, a spot and a sun that looks in from above one of them. */
function scene(): MapDocument {
  const crate = (id: string, at: Vec3, size = 48) =>
    dressSolid(boxSolid({ min: at, max: [at[0] + size, at[1] + size, at[2] + size] }), id, 'oak-plank', {
      role: 'detail',
    });
  const crates = [
    crate('c1', [60, 60, 0]),
    crate('c2', [250, 200, 0]),
    crate('c3', [700, 100, 0]),
    crate('board', [800, 100, 60]),
  ];
  let doc = addBrushes(twoRooms(), crates);
  doc = turned('board', 31)(doc);
  doc = placeEntity(doc, 'spawn', [192, 40, 0], 0, 'spawn');
  doc = placeEntity(doc, 'pointLight', [100, 160, 200], 0, 'lamp');
  doc = placeEntity(doc, 'pointLight', [740, 80, 150], 0, 'lamp2');
  doc = placeEntity(doc, 'spotLight', [300, 100, 220], 0, 'spot');
  return placeEntity(doc, 'sun', [700, 160, 240], 200, 'sun');
}

function store() {
  const results = new Map<string, unknown>();
  const told = { found: 0, made: 0 };
  const kept: KeptResults = {
    hash: (text) => createHash('sha256').update(text).digest('hex'),
    get: (name) => {
      const known = results.get(name);
      if (known !== undefined) told.found++;
      return known;
    },
    put: (name, result) => {
      told.made++;
      results.set(name, structuredClone(result));
    },
  };
  return { kept, told };
}

type Edit = (doc: MapDocument) => MapDocument;
const moved =
  (brush: string, by: Vec3): Edit =>
  (doc) =>
    doc.brushes.has(brush) ? transformPicked(doc, { brushes: new Set([brush]) }, translation(by)) : doc;
const turned =
  (brush: string, degrees: number): Edit =>
  (doc) =>
    doc.brushes.has(brush)
      ? transformPicked(doc, { brushes: new Set([brush]) }, rotation(2, degrees, [300, 150, 0]))
      : doc;
const lampMoved =
  (lamp: string, by: Vec3): Edit =>
  (doc) =>
    transformPicked(doc, { entities: new Set([lamp]) }, translation(by));
/** Made once: what has no id of its own is given one at random. */
const SCENE = scene();
const place = (most: number) => fc.integer({ min: -most, max: most });
const edit: fc.Arbitrary<Edit> = fc.oneof(
  fc
    .tuple(fc.constantFrom('c1', 'c2', 'c3', 'board'), place(120), place(90), place(60))
    .map(([b, ...by]) => moved(b, by)),
  fc.tuple(fc.constantFrom('c1', 'board'), place(90)).map(([b, d]) => turned(b, d)),
  fc
    .tuple(fc.constantFrom('lamp', 'lamp2', 'spot', 'sun'), place(60), place(60), place(30))
    .map(([l, ...by]) => lampMoved(l, by)),
  fc.constantFrom('c1', 'c2', 'c3').map(
    (b): Edit =>
      (doc) =>
        doc.brushes.has(b) ? removePicked(doc, { brushes: new Set([b]) }) : doc,
  ),
  fc
    .integer({ min: 0, max: 9 })
    .map((lux): Edit => (doc) => ({ ...doc, settings: { ...doc.settings, ambientLux: lux } })),
);

test('whatever is edited, what is kept of earlier builds gives the very bytes that come without', () => {
  const { kept } = store();
  fc.assert(
    fc.property(fc.array(edit, { minLength: 1, maxLength: 3 }), (edits) => {
      const doc = edits.reduce((d, e) => e(d), SCENE);
      const fresh = buildLevel(doc, 'sketch').bytes;
      expect(Buffer.compare(buildLevel(doc, 'sketch', { kept }).bytes, fresh)).toBe(0);
      expect(Buffer.compare(buildLevel(doc, 'sketch', { kept }).bytes, fresh)).toBe(0);
    }),
    { numRuns: 16 },
  );
});

/** How many times light was found that one light gives one surface. */
const found = (kept: KeptResults): number => (kept.get('direct 32 1 false') as KeptDirect).made;

test('of two solids that are alike either may go, and names of the others stay theirs', () => {
  const { kept } = store();
  const doubled = addBrushes(SCENE, [{ ...SCENE.brushes.get('c1')!, id: 'a-twin' }]);
  for (const doc of [SCENE, doubled, moved('c3', [24, 0, 0])(doubled), moved('c3', [24, 0, 0])(SCENE)])
    expect(Buffer.compare(buildLevel(doc, 'sketch', { kept }).bytes, buildLevel(doc, 'sketch').bytes)).toBe(0);
});

test('a built map built again makes nothing; a crate moved in one room leaves most of the direct light in the other', () => {
  const { kept, told } = store();
  const build = (doc: MapDocument) => buildLevel(doc, 'sketch', { kept }, { direct: true });
  build(SCENE);
  const all = found(kept);
  told.made = 0;
  build(SCENE);
  expect(told.made).toBe(0);
  build(moved('c1', [8, 0, 0])(SCENE));
  expect(found(kept)).toBeGreaterThan(8);
  expect(found(kept)).toBeLessThan(0.6 * all);
});

test('a lamp moved leaves all links as they were, and what the other lights give', () => {
  const { kept, told } = store();
  buildLevel(SCENE, 'sketch', { kept }, { direct: true });
  const direct = told.made;
  const all = found(kept);
  buildLevel(SCENE, 'sketch', { kept });
  expect(told.made - direct).toBeGreaterThan(20);
  told.made = 0;
  const doc = lampMoved('lamp', [16, 0, 0])(SCENE);
  buildLevel(doc, 'sketch', { kept });
  // Direct light and bounces, each as a whole, and the structure, which is flooded from lamps; of direct light what that lamp gives alone.
  expect(told.made).toBe(4);
  expect(found(kept)).toBeLessThan(0.45 * all);
  // A lamp that comes or goes leaves what the others give.
  buildLevel(removePicked(doc, { entities: new Set(['lamp2']) }), 'sketch', { kept });
  expect(found(kept)).toBeLessThan(0.45 * all);
});

test('what a moving box meets on its way is what it meets at one of its places', () => {
  const coordinate = fc.integer({ min: -400, max: 400 });
  const size = fc.integer({ min: 1, max: 120 });
  const box = fc.tuple(coordinate, coordinate, coordinate, size, size, size).map(([x, y, z, w, d, h]): Box =>
    boxOf([
      [x, y, z],
      [x + w, y + d, z + h],
    ]),
  );
  fc.assert(
    fc.property(
      fc.array(box, { maxLength: 30 }),
      box,
      fc.tuple(coordinate, coordinate, fc.constantFrom(0, 0, 250)),
      (boxes, moving, way) => {
        const met = new Set<number>();
        eachSwept(buildBvh(boxes), boxes, moving, way, (item) => met.add(item));
        const steps = 400;
        boxes.forEach((b, i) => {
          const touches = (slack: number) =>
            Array.from({ length: steps + 1 }, (_, k) => k / steps).some((t) =>
              [0, 1, 2].every(
                (c) =>
                  b.min[c]! <= moving.max[c]! + way[c]! * t + slack &&
                  b.max[c]! >= moving.min[c]! + way[c]! * t - slack,
              ),
            );
          if (touches(0)) expect(met.has(i)).toBe(true);
          else if (!touches(1.5)) expect(met.has(i)).toBe(false);
        });
      },
    ),
    { numRuns: 60 },
  );
});
