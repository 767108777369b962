import { boxSolid, brushBounds } from '../brush/index.ts';
import { modelOf } from '../entity/index.ts';
import { emptyMap, filledBox, ridersOf, type MapDocument } from '../map/index.ts';
import { boxSize, type Vec3 } from '../math/index.ts';
import { dressSolid } from '../surface/index.ts';
import { crateAlone as props } from '../testing/props.ts';
import { addWire } from './wires.ts';
import { assemblyOf, placeAssembly } from './assemblies.ts';
import { addBrushes } from './brushes.ts';
import { doorOfBrushes } from './doors.ts';
import { changeSettings, placeEntity } from './entities.ts';
import { placeProps } from './props.ts';

const filledOf = ({ brushes, entities }: MapDocument) =>
  filledBox({ brushes: brushes.values(), things: entities.values() });
const block = (id: string, min: Vec3, max: Vec3) => dressSolid(boxSolid({ min, max }), id, 'slate', { role: 'detail' });

/** A gate of two crates between posts, with a zone that is wired to it: far from the origin and off the middle of the grid. */
function gate(): { doc: MapDocument; text: string } {
  const posts = addBrushes(emptyMap('m'), [
    block('left', [8000, 4000, 64], [8016, 4016, 256]),
    block('right', [8176, 4000, 64], [8192, 4016, 256]),
    block('else', [0, 0, 0], [64, 64, 64]),
  ]);
  const crates = [8048, 8112].map((x) => ({ model: 'crate', at: [x, 4008, 64] as Vec3 }));
  const { doc: filled, made } = placeProps(posts, crates, props);
  const { doc, door } = doorOfBrushes(filled, { props: made.entities }, { each: true });
  const watched = placeEntity(doc, 'zone', [8096, 4008, 64], 0, 'zone');
  const wired = addWire(watched, { from: { thing: 'zone', signal: 'entered' }, to: { thing: door, action: 'open' } });
  const picked = { brushes: new Set(['left', 'right']), entities: new Set([door, 'zone']) };
  return { doc: wired, text: assemblyOf(wired, picked) };
}

test('what is picked is kept with all that belongs to it, and stands with its foot on the place, on the grid as it was', () => {
  const { text } = gate();
  const target = changeSettings(emptyMap('t'), { grid: 16 });
  const { doc, picked } = placeAssembly(target, { text, name: 'Gate', at: [160, -320, 0] });
  expect([picked.brushes.size, picked.entities.size]).toEqual([2, 4]);
  const box = filledOf(doc);
  expect(box.min[2]).toBe(0);
  expect(Math.abs((box.min[0] + box.max[0]) / 2 - 160)).toBeLessThanOrEqual(8);
  expect(Math.abs((box.min[1] + box.max[1]) / 2 + 320)).toBeLessThanOrEqual(32);
  for (const b of doc.brushes.values())
    for (const v of b.vertices) expect([v[0] % 16, v[1] % 16].map((r) => Math.abs(r))).toEqual([0, 0]);
  // Leaves ride on the copied door, the wire leads from the copied zone to it, and all of it is one group.
  const door = [...doc.entities.values()].find((e) => e.kind === 'door')!;
  expect(ridersOf(doc, door.id).map((e) => modelOf(e)!.name)).toEqual(['crate', 'crate']);
  const [wire] = doc.wires.values();
  expect(wire!.to.thing).toBe(door.id);
  expect(doc.entities.get(wire!.from.thing)!.kind).toBe('zone');
  expect([...doc.groups.values()].map((g) => g.name)).toEqual(['Gate']);
});

test('turned it is turned about where it stands, as often as one likes', () => {
  const { text } = gate();
  const sizes = [0, 90, 180, 270].map((turn) => {
    const { doc } = placeAssembly(emptyMap('t'), { text, name: 'Gate', at: [0, 0, 32], turn });
    const box = filledOf(doc);
    expect(box.min[2]).toBeCloseTo(32, 9);
    return boxSize(box).map(Math.round);
  });
  expect(sizes[0]).toEqual(sizes[2]);
  expect([sizes[1]![1], sizes[1]![0], sizes[1]![2]]).toEqual(sizes[0]);
  const twice = placeAssembly(placeAssembly(emptyMap('t'), { text, name: 'Gate', at: [0, 0, 0] }).doc, {
    text,
    name: 'Gate',
    at: [0, 500, 0],
  });
  expect(twice.doc.brushes.size).toBe(4);
  expect(twice.doc.groups.size).toBe(2);
});

test('a single brush needs no group, and nothing at all is refused', () => {
  const { doc } = gate();
  const one = assemblyOf(doc, { brushes: new Set(['left']) });
  const placed = placeAssembly(emptyMap('t'), { text: one, name: 'Post', at: [0, 0, 0] });
  expect(placed.doc.groups.size).toBe(0);
  expect(brushBounds([...placed.doc.brushes.values()][0]!).min[2]).toBe(0);
  expect(() => assemblyOf(doc, { brushes: new Set(), entities: new Set() })).toThrow('Select the brushes and things');
  const nothing = JSON.stringify({ ...JSON.parse(one), brushes: [], entities: [] });
  expect(() => placeAssembly(emptyMap('t'), { text: nothing, name: 'Post', at: [0, 0, 0] })).toThrow('Post is empty');
  expect(() => placeAssembly(emptyMap('t'), { text: 'x', name: 'Post', at: [0, 0, 0] })).toThrow(
    'does not hold brushes',
  );
});
