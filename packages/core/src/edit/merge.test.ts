import { applyChanges, changesBetween, isNoChange, mapFromData, writeMap, type MapDocument } from '../map/index.ts';
import { hashRandom } from '../math/index.ts';
import { twoRooms } from '../testing/rooms.ts';
import { buildStructure } from '../compile/index.ts';
import { removePicked } from './brushes.ts';
import { changeEntity, changeSettings, placeEntity, renameMap } from './entities.ts';
import { mergeMaps } from './merge.ts';
import { openDoorway } from './openings.ts';
import { remakeAround } from './remake.ts';
import { changeRoom } from './rooms.ts';

/** As it comes from the server: equal, and no object shared. */
const sent = (doc: MapDocument): MapDocument => mapFromData(JSON.parse(writeMap(doc)) as unknown);
const many = Array.from({ length: 40 }).reduce<MapDocument>(
  (d, _, i) => placeEntity(d, 'pointLight', [i * 5, 50, 90], 0, `light${i}`),
  twoRooms(),
);
const move = (doc: MapDocument, i: number, z: number) => changeEntity(doc, `light${i}`, { at: [i * 5, 50, z] });
const heights = (doc: MapDocument) => Array.from({ length: 40 }, (_, i) => doc.entities.get(`light${i}`)?.at[2]);
const ceiling = (doc: MapDocument, id: string, z: number) => changeRoom(doc, id, { ceiling: z });

describe('two who began with one map', () => {
  test.each([1, 2, 3, 4, 5, 6, 7, 8])('what only one changed is taken, what both did is asked (%i)', (seed) => {
    let [mine, theirs] = [many, sent(many)];
    const by = Array.from({ length: 40 }, (_, i) => Math.floor(hashRandom(seed, i) * 4));
    by.forEach((who, i) => {
      if (who & 1) mine = move(mine, i, 100);
      if (who & 2) theirs = move(theirs, i, 200);
    });
    const { doc, conflicts, dropped } = mergeMaps(many, mine, theirs);
    expect(heights(doc)).toEqual(by.map((who) => [90, 100, 200, 200][who]));
    expect(conflicts.map((c) => c.key).sort()).toEqual(
      by.flatMap((who, i) => (who === 3 ? [`entities light${i}`] : [])).sort(),
    );
    expect(dropped).toEqual([]);
    const kept = mergeMaps(many, mine, theirs, new Map(conflicts.map((c) => [c.key, 'mine'])));
    expect(heights(kept.doc)).toEqual(by.map((who) => [90, 100, 200, 100][who]));
    expect(writeMap(sent(doc))).toBe(writeMap(doc));
  });

  test('the same change of both is no conflict, and an untouched side gives the other', () => {
    const mine = move(many, 3, 40);
    expect(mergeMaps(many, mine, sent(mine)).conflicts).toEqual([]);
    expect(writeMap(mergeMaps(many, mine, sent(many)).doc)).toBe(writeMap(mine));
    expect(writeMap(mergeMaps(many, many, sent(mine)).doc)).toBe(writeMap(mine));
  });

  test('a room and its brushes come from one of them, whole', () => {
    const base = twoRooms();
    const [mine, theirs] = [ceiling(base, 'a', 300), sent(ceiling(base, 'a', 420))];
    const [own, other] = [mergeMaps(base, mine, theirs, new Map([['room a', 'mine']])), mergeMaps(base, mine, theirs)];
    expect(own.conflicts.map((c) => c.key)).toContain('room a');
    const room = (d: MapDocument) => [
      d.rooms.get('a'),
      [...d.brushes.values()].filter((b) => b.room?.id === 'a').sort((p, q) => (p.id < q.id ? -1 : 1)),
    ];
    expect(room(own.doc)).toEqual(room(mine));
    expect(room(other.doc)).toEqual(room(theirs));
  });

  test('one who removed what the other changed is told so', () => {
    const mine = removePicked(many, { entities: new Set(['light5']) });
    const { conflicts, doc } = mergeMaps(many, mine, sent(move(many, 5, 10)));
    expect(conflicts).toEqual([
      expect.objectContaining({ key: 'entities light5', mine: 'removed', theirs: 'changed' }),
    ]);
    expect(doc.entities.has('light5')).toBe(true);
  });

  test('an opening into a room that is gone is left out, and named', () => {
    const base = removePicked(twoRooms(), { openings: new Set(['door']) });
    const mine = openDoorway(base, 'a', 'b', { width: 100, height: 200, sill: 0 }, 'mine');
    const { doc, dropped } = mergeMaps(
      base,
      mine,
      sent(removePicked(base, { rooms: new Set(['b']) })),
      new Map([['room a', 'mine']]),
    );
    expect([dropped, doc.openings.size]).toEqual([['mine'], 0]);
    expect(writeMap(sent(doc))).toBe(writeMap(doc));
  });

  test('rooms of one beside rooms of the other share walls, and keep sealed', () => {
    const base = removePicked(twoRooms(), { openings: new Set(['door']) });
    const mine = openDoorway(ceiling(base, 'a', 420), 'a', 'b', { width: 100, height: 200, sill: 0 }, 'mine');
    const { doc } = mergeMaps(base, mine, sent(ceiling(base, 'b', 350)), new Map([['room a', 'mine']]));
    const all = [...doc.rooms.keys()];
    expect(writeMap(remakeAround(doc, all))).toBe(writeMap(doc));
    expect(buildStructure(doc.brushes.values(), [{ id: 's', at: [100, 100, 10] }]).leak).toBeNull();
  });

  test('settings are merged one by one, the name too', () => {
    const mine = renameMap(changeSettings(many, { grid: 8, ambientLux: 2 }), 'Mine');
    const theirs = sent(renameMap(changeSettings(many, { grid: 4, texelsPerCm: 3 }), 'Theirs'));
    const { doc, conflicts } = mergeMaps(many, mine, theirs);
    expect(doc.settings).toMatchObject({ grid: 4, ambientLux: 2, texelsPerCm: 3 });
    expect([doc.name, conflicts.map((c) => c.key)]).toEqual(['Theirs', ['settings', 'name']]);
    // What one alone changed is that one's, whichever would be taken where both did.
    const named = (m: string, t: string, choice: 'mine' | 'theirs') => {
      const merged = mergeMaps(many, renameMap(many, m), sent(renameMap(many, t)), new Map([['name', choice]]));
      return [merged.doc.name, merged.conflicts.length];
    };
    for (const choice of ['mine', 'theirs'] as const) {
      expect(named('Mine', many.name, choice)).toEqual(['Mine', 0]);
      expect(named(many.name, 'Theirs', choice)).toEqual(['Theirs', 0]);
      expect(named('Both', 'Both', choice)).toEqual(['Both', 0]);
      expect(named('Mine', 'Theirs', choice)).toEqual([choice === 'mine' ? 'Mine' : 'Theirs', 1]);
    }
  });
});

test('what leads from one document to another leads there, as text too', () => {
  let after = move(removePicked(many, { entities: new Set(['light7']) }), 2, 5);
  after = renameMap(changeSettings(ceiling(after, 'b', 350), { grid: 8 }), 'other');
  const changes = changesBetween(many, after);
  expect(writeMap(applyChanges(many, changes))).toBe(writeMap(after));
  expect(writeMap(applyChanges(sent(many), JSON.parse(JSON.stringify(changes)) as typeof changes))).toBe(
    writeMap(after),
  );
  expect(isNoChange(changesBetween(after, after))).toBe(true);
  expect(isNoChange(changes)).toBe(false);
});
