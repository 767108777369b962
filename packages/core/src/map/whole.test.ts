import fc from 'fast-check';
import type { Brush } from '../brush/index.ts';
import { addCopies, groupPicked, moveToLayer, placeEntity, saveMood, removePicked } from '../edit/index.ts';
import { twoRooms } from '../testing/rooms.ts';
import {
  applyChanges,
  assertChanges,
  assertReadable,
  changesBetween,
  COLLECTIONS,
  followChanges,
  itemsOf,
  letGoOfMissing,
  mapFromData,
  MapFileError,
  parseMap,
  referencesOf,
  specOf,
  withItems,
  writeMap,
  type Collection,
  type Item,
  type MapDocument,
  type Wire,
} from './index.ts';

/** A map in which everything that can name something does. */
function knotted(): MapDocument {
  let doc: MapDocument = {
    ...twoRooms(),
    layers: new Map([['l', { id: 'l', name: 'l', visible: true, locked: false }]]),
  };
  for (const id of ['lift', 'lamp', 'plate']) doc = placeEntity(doc, 'pointLight', [100, 100, 100], 0, id);
  const lamp = { ...doc.entities.get('lamp')!, carrier: { id: 'lift' } };
  doc = { ...doc, entities: new Map(doc.entities).set('lamp', lamp) };
  const [a, b, c] = [...doc.brushes.values()] as [Brush, Brush, Brush];
  const loose = ({ room: _, ...rest }: Brush): Brush => ({ ...rest, owner: { id: 'lift' } });
  const shiny: Brush = { ...loose(a), faces: a.faces.map((f, i) => (i === 0 ? { ...f, reflection: 'plate' } : f)) };
  const brushes = new Map(doc.brushes).set(a.id, shiny).set(b.id, loose(b)).set(c.id, loose(c));
  doc = { ...doc, brushes };
  doc = groupPicked(doc, { brushes: new Set([a.id, b.id]) }, 'inner', 'inner');
  doc = groupPicked(doc, { brushes: new Set([a.id, b.id, c.id]), entities: new Set(['lamp']) }, 'outer', 'outer');
  doc = moveToLayer(doc, { brushes: new Set([c.id]), entities: new Set(['plate']), rooms: new Set(['a']) }, 'l');
  const wire: Wire = {
    id: 'w',
    from: { thing: 'plate', signal: 'pressed' },
    to: { thing: 'lift', action: 'call' },
    delay: 1.5,
  };
  return saveMood({ ...doc, wires: new Map([['w', wire]]) }, 'Dusk', 'm');
}

const codeOf = (run: () => unknown): string | null => {
  try {
    run();
    return null;
  } catch (error) {
    if (error instanceof MapFileError) return error.code;
    throw error;
  }
};

/** A map after some items were taken out and nothing else was done about it. */
const arbitraryLoss = (doc: MapDocument) => {
  const all = COLLECTIONS.flatMap((c) => [...itemsOf(doc, c).keys()].map((id) => [c, id] as const));
  // What others hang on first, so that losses often matter.
  const named = all.filter(([c]) => !['brushes', 'openings', 'wires'].includes(c));
  return fc
    .array(fc.oneof(fc.constantFrom(...named), fc.constantFrom(...all)), { minLength: 1, maxLength: 5 })
    .map((gone) =>
      gone.reduce((d, [c, id]) => withItems(d, { [c]: new Map([...itemsOf(d, c)].filter(([k]) => k !== id)) }), doc),
    );
};

test('everything that names another item does so in the map these tests take apart', () => {
  const doc = knotted();
  for (const collection of COLLECTIONS)
    for (const reference of specOf(collection).references) {
      const named = [...itemsOf(doc, collection).values()].flatMap((item) => reference.of(item));
      // Parameters may name what is gone: those do not count.
      if (reference.of.length > 0)
        expect([collection, reference.to, named.length > 0]).toEqual([collection, reference.to, true]);
    }
  expect(writeMap(parseMap(writeMap(doc)))).toBe(writeMap(doc));
});

test('a map in which something names what is not there is refused by file, by edit and by save alike', () => {
  const doc = knotted();
  let refused = 0;
  fc.assert(
    fc.property(arbitraryLoss(doc), (lost) => {
      const byFile = codeOf(() => mapFromData(JSON.parse(writeMap(lost))));
      expect(codeOf(() => assertReadable(doc, lost))).toBe(byFile);
      expect(codeOf(() => assertChanges(changesBetween(doc, lost), referencesOf(doc)))).toBe(byFile);
      if (byFile) refused++;
    }),
    { numRuns: 200 },
  );
  expect(refused).toBeGreaterThan(50);
});

test('letting go makes it whole, touches nothing else, and finds nothing the second time', () => {
  const doc = knotted();
  fc.assert(
    fc.property(arbitraryLoss(doc), (lost) => {
      const whole = letGoOfMissing(lost);
      expect(codeOf(() => mapFromData(JSON.parse(writeMap(whole))))).toBeNull();
      expect(letGoOfMissing(whole)).toBe(whole);
      for (const collection of COLLECTIONS)
        for (const [id, item] of itemsOf(lost, collection)) {
          const broken = specOf(collection).references.some((r) =>
            r.of(item).some((n) => !itemsOf(whole, r.to).has(n)),
          );
          if (!broken) expect(itemsOf(whole, collection).get(id)).toBe(item);
        }
    }),
    { numRuns: 200 },
  );
});

test('what is known of names follows changes', () => {
  const doc = knotted();
  fc.assert(
    fc.property(arbitraryLoss(doc), (lost) => {
      const whole = letGoOfMissing(lost);
      const changes = changesBetween(doc, whole);
      const known = referencesOf(doc);
      assertChanges(changes, known);
      followChanges(known, changes);
      const sorted = (r: typeof known) => COLLECTIONS.map((c) => [...r[c]].sort());
      expect(sorted(known)).toEqual(sorted(referencesOf(whole)));
      expect(writeMap(applyChanges(doc, changes))).toBe(writeMap(whole));
    }),
    { numRuns: 100 },
  );
});

test.each<[Collection, string]>([
  ['entities', 'carrier'],
  ['groups', 'parent'],
])('%s that hang on themselves are refused, and opened', (collection, key) => {
  let doc = knotted();
  const [a, b] = [...itemsOf(doc, collection).values()] as [Item, Item];
  const held = (id: string) => (key === 'carrier' ? { id } : id);
  const ring = new Map(itemsOf(doc, collection))
    .set(a.id, { ...a, [key]: held(b.id) } as Item)
    .set(b.id, { ...b, [key]: held(a.id) } as Item);
  const before = doc;
  doc = withItems(doc, { [collection]: ring });
  expect(codeOf(() => assertReadable(before, doc))).toBe('map.cycle');
  expect(codeOf(() => mapFromData(JSON.parse(writeMap(doc))))).toBe('map.cycle');
  expect(codeOf(() => assertChanges(changesBetween(before, doc), referencesOf(before)))).toBe('map.cycle');
  expect(codeOf(() => parseMap(writeMap(letGoOfMissing(doc))))).toBeNull();
  // One link is enough to let go of.
  const links = [...itemsOf(letGoOfMissing(doc), collection).values()].filter(
    (item) => key in item && ring.get(item.id) === item,
  );
  expect(links.length).toBeGreaterThanOrEqual(1);
});

test('removing what others hang on leaves them, and takes its wires', () => {
  const doc = knotted();
  const out = removePicked(doc, { entities: new Set(['lift']) });
  expect(out.entities.get('lamp')).not.toHaveProperty('carrier');
  expect(out.brushes.size).toBe(doc.brushes.size);
  expect([...out.brushes.values()].filter((b) => b.owner)).toEqual([]);
  expect(out.wires.size).toBe(0);
  assertReadable(doc, out);
});

test('copies name copies; what was not copied they name as it was, in a map that has it', () => {
  const doc = knotted();
  const all = { brushes: doc.brushes.keys(), entities: ['lift', 'lamp', 'plate'], groups: new Set(doc.groups.keys()) };
  const { doc: out, picked } = addCopies(doc, doc, all);
  assertReadable(doc, out);
  const copies = [...picked.entities].map((id) => out.entities.get(id)!);
  const [lift, lamp, plate] = copies;
  expect(lamp!.carrier).toEqual({ id: lift!.id });
  const wire = [...out.wires.values()].find((w) => w.id !== 'w')!;
  expect([wire.from.thing, wire.to.thing, wire.delay]).toEqual([plate!.id, lift!.id, 1.5]);
  const owners = [...picked.brushes].flatMap((id) => out.brushes.get(id)!.owner?.id ?? []);
  expect(owners).toEqual([lift!.id, lift!.id, lift!.id]);
  const alone = addCopies(doc, doc, { brushes: [], entities: ['lamp'], groups: new Set() });
  const [copy] = [...alone.picked.entities];
  expect(alone.doc.entities.get(copy!)!.carrier).toEqual({ id: 'lift' });
  expect(alone.doc.wires.size).toBe(1);
  const elsewhere = addCopies({ ...doc, entities: new Map() }, doc, {
    brushes: [],
    entities: ['lamp'],
    groups: new Set(),
  });
  expect([...elsewhere.doc.entities.values()][0]).not.toHaveProperty('carrier');
});
