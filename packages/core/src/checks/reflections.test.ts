import { addRoom, openDoorway, paintFaces, placeEntity } from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import type { MaterialFacts } from '../surface/index.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { fixFinding, fixLabels, runChecks, type Finding } from './index.ts';

const materials = (name: string): MaterialFacts => ({
  name,
  width: 512,
  height: 512,
  texelsPerCm: 2,
  solidity: 'solid',
  roughness: name === 'dark-water' ? 0.08 : 0.8,
});
const rooms = (): MapDocument => {
  let doc = addRoom(emptyMap('m'), roomSpec(rectangle(0, 0, 600, 600), { ceiling: 300 }), DRESS, 'a');
  doc = addRoom(doc, roomSpec(rectangle(616, 0, 1600, 600), { ceiling: 300 }), DRESS, 'b');
  doc = openDoorway(doc, 'a', 'b', { width: 120, height: 210, sill: 0 }, 'o');
  return placeEntity(placeEntity(doc, 'spawn', [100, 100, 0], 0, 's'), 'pointLight', [300, 300, 250], 0, 'l');
};
const probe = (doc: MapDocument, x: number, y: number, z: number, id: string) =>
  placeEntity(doc, 'reflectionProbe', [x, y, z], 0, id);
const shining = (doc: MapDocument, room: string): MapDocument => {
  const floor = [...doc.brushes.values()].find((b) => b.room?.id === room && b.room.part.kind === 'floor')!;
  return paintFaces(
    doc,
    floor.faces.map((f) => ({ brush: floor.id, face: f.id })),
    'dark-water',
  );
};
const found = (doc: MapDocument): Finding[] =>
  runChecks(doc, { materials }).filter((f) => f.code.startsWith('check.reflection'));

test('a probe too near to a wall, or in it, is told and moved away the shortest way', () => {
  for (const x of [4, 10, -3]) {
    const doc = probe(probe(rooms(), x, 300, 160, 'p'), 900, 300, 160, 'q');
    const [tight] = found(doc);
    expect(tight).toMatchObject({ code: 'check.reflectionTight', severity: 'warning', entities: ['p'] });
    const moved = fixFinding(doc, tight!, { materials });
    expect(found(moved).filter((f) => f.entities?.includes('p'))).toEqual([]);
    expect(Math.abs(moved.entities.get('p')!.at[0] - x)).toBeLessThanOrEqual(24);
  }
  expect(found(probe(probe(rooms(), 16, 300, 160, 'p'), 900, 300, 160, 'q'))).toEqual([]);
});

test('a room with something shiny and no probe is told once, and gets one', () => {
  const doc = shining(rooms(), 'b');
  const [missing, ...more] = found(doc);
  expect(more).toEqual([]);
  expect(missing).toMatchObject({ code: 'check.reflectionMissing', severity: 'info', rooms: ['b'] });
  expect(fixLabels(doc, missing!)).toEqual(['Put one in each room']);
  expect(found(fixFinding(doc, missing!, { materials }))).toEqual([]);
});

test('a doorway with a probe on one side only, or far off on the other, is told', () => {
  const one = probe(rooms(), 500, 300, 160, 'p');
  const [uneven] = found(one);
  expect(uneven).toMatchObject({ code: 'check.reflectionUneven', openings: ['o'] });
  expect(uneven!.text).toContain('none');
  expect(found(fixFinding(one, uneven!, { materials }))).toEqual([]);
  const far = probe(one, 2190, 40, 160, 'q');
  expect(found(far)[0]!.text).toContain('a far one');
  expect(fixLabels(far, found(far)[0]!)).toEqual([]);
  expect(found(probe(one, 740, 300, 160, 'q'))).toEqual([]);
});
