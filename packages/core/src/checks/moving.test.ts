import { block, scene } from '../testing/playing.ts';
import { twoRooms } from '../testing/rooms.ts';
import { changeEntity, changeOpening, doorInOpening, placeEntity, transformPicked } from '../edit/index.ts';
import { buildStructure, placesOf } from '../compile/index.ts';
import { stillBrushes, type MapDocument } from '../map/index.ts';
import { rotation, type Vec3 } from '../math/index.ts';
import { bodyIn } from '../play/index.ts';
import { fixFinding, runChecks, type Finding } from './index.ts';

const turning = (angle: number, hinge: Vec3 = [0, -60, 0]) => ({
  leaves: [{ moves: 'turns', travel: [0, 0, 0], hinge, axis: [0, 0, 1], angle }],
  away: false,
});
const leaf = block('leaf', [-4, -60, 0], [4, 60, 200], { id: 'd' });
const found = (doc: MapDocument, more = {}): Finding[] => runChecks(doc, { body: bodyIn(doc), ...more });
const codes = (doc: MapDocument, more = {}) => found(doc, more).map((f) => f.code);
const wanted = (doc: MapDocument, code: string, more = {}) => codes(doc, more).includes(code);

describe('a door', () => {
  test('that runs into a pillar on its way is told, wherever it stands and however it is turned', () => {
    const pillar = block('pillar', [-70, -20, 0], [-50, 20, 200]);
    for (const [angle, runs] of [
      [90, true],
      [-90, false],
      [20, false],
    ] as const)
      for (const turn of [0, 27]) {
        const doc = scene([leaf, pillar], [['door', 'd', [0, 0, 0], turning(angle)]]);
        const all = { brushes: new Set(doc.brushes.keys()), entities: new Set(['d']) };
        const moved = transformPicked(doc, all, rotation(2, turn, [20_000, -9000, 0]));
        expect([angle, turn, wanted(moved, 'check.runsInto')]).toEqual([angle, turn, runs]);
      }
  });

  test('that slides into its wall, or stands in its opening, is as it should be', () => {
    for (const leaves of ['one', 'two', 'upDown'] as const) {
      const made = doorInOpening(twoRooms(), 'door', { leaves, thickness: 6, material: 'oak-plank' });
      expect(codes(made.doc).filter((c) => /runsInto|cannotSeal|thing|coplanar|buried/.test(c))).toEqual([]);
    }
  });

  test('whose hinge lies off its leaf, or that has an empty leaf, says so', () => {
    const flaws = (params: object, brushes = [leaf]) =>
      found(scene(brushes, [['door', 'd', [0, 0, 0], params as never]])).map((f) => f.id.split(' ')[0]! + ' ' + f.text);
    expect(flaws(turning(90, [0, -150, 0])).some((t) => t.includes('hinge of leaf'))).toBe(true);
    expect(flaws(turning(90)).some((t) => t.includes('hinge'))).toBe(false);
    expect(flaws(turning(90), []).some((t) => t.includes('has no brushes'))).toBe(true);
  });

  test('of structure is told that it seals nothing, and made detail', () => {
    const { doc, brushes } = doorInOpening(twoRooms(), 'door', { leaves: 'one', thickness: 6, material: 'm' });
    const b = { ...doc.brushes.get(brushes[0]!)!, role: 'structure' as const };
    const wrong = { ...doc, brushes: new Map(doc.brushes).set(b.id, b) };
    const finding = found(wrong).find((f) => f.code === 'check.cannotSeal')!;
    const fixed = fixFinding(wrong, finding);
    expect(fixed.brushes.get(b.id)!.role).toBe('detail');
    expect(wanted(fixed, 'check.cannotSeal')).toBe(false);
  });
});

test('a spawn in the way of what moves is told, one beside it is not', () => {
  const doc = (x: number) =>
    scene(
      [leaf],
      [
        ['door', 'd', [0, 0, 0], turning(90)],
        ['spawn', 's', [x, 0, 0]],
      ],
    );
  expect(wanted(doc(-50), 'check.spawnInTheWay')).toBe(true);
  expect(wanted(doc(60), 'check.spawnInTheWay')).toBe(false);
});

test('a lift that stops where nobody can stand on it is told', () => {
  const car = block('car', [-60, -60, 0], [60, 60, 10], { id: 'l' });
  const doc = (ceiling: number) =>
    scene(
      [car, block('ceiling', [-300, -300, ceiling], [300, 300, ceiling + 20])],
      [['lift', 'l', [0, 0, 0], { stops: [{ name: '', at: [0, 0, 200] }] }]],
    );
  expect(wanted(doc(380), 'check.lowCarrier')).toBe(true);
  expect(wanted(doc(390), 'check.lowCarrier')).toBe(false);
});

test('keys that lie nowhere and prices that nobody can pay are told, until pickups give them', () => {
  const door = ['door', 'd', [0, 0, 0], { key: 'tide key', price: 5 }] as const;
  const bare = scene([leaf], [door]);
  expect(codes(bare).filter((c) => c === 'check.cannotBeHad')).toHaveLength(2);
  const pickups = (amount: number, again: number) =>
    scene(
      [leaf],
      [
        door,
        ['pickup', 'k', [200, 0, 0], { what: 'key', named: 'tide key' }],
        ['pickup', 't', [300, 0, 0], { what: 'tokens', amount, again }],
      ],
    );
  expect(codes(pickups(4, 0)).filter((c) => c === 'check.cannotBeHad')).toHaveLength(1);
  expect(wanted(pickups(5, 0), 'check.cannotBeHad')).toBe(false);
  for (const [doc, said] of [
    [bare, 'costs 5 tokens, and none lie in the map'],
    [pickups(1, 0), 'costs 5 tokens, and only one lies in the map'],
    [pickups(4, 0), 'costs 5 tokens, and only 4 lie in the map'],
  ] as const)
    expect(runChecks(doc).filter((f) => f.code === 'check.cannotBeHad' && f.text.includes(said))).toHaveLength(1);
  expect(wanted(pickups(1, 10), 'check.cannotBeHad')).toBe(false);
});

test('a zone out in the void is told, one in a room is not', () => {
  const rooms = twoRooms();
  const zoneAt = (x: number): MapDocument => {
    const doc = placeEntity(rooms, 'zone', [x, 200, 0], 0, 'z');
    const region = { ...block('r', [x - 40, 160, 10], [x + 40, 240, 150], { id: 'z' }), role: 'zone' as const };
    return { ...doc, brushes: new Map(doc.brushes).set('r', region) };
  };
  for (const [x, out] of [
    [200, false],
    [-900, true],
  ] as const) {
    const doc = zoneAt(x);
    const placeOf = placesOf(buildStructure(stillBrushes(doc), [{ id: 's', at: [100, 200, 50] }]));
    expect(wanted(doc, 'check.unreachable', { placeOf })).toBe(out);
  }
});

test('spawns that stand in each other, and sets with holes, are told', () => {
  const spawns = (...params: Record<string, unknown>[]) =>
    scene(
      [],
      params.map((p, k) => ['spawn', `s${k}`, [k * 100, 0, 0], p] as const),
    );
  expect(
    wanted(
      scene(
        [],
        [
          ['spawn', 'a', [0, 0, 0]],
          ['spawn', 'b', [30, 30, 0]],
        ],
      ),
      'check.crowdedSpawns',
    ),
  ).toBe(true);
  expect(
    wanted(
      scene(
        [],
        [
          ['spawn', 'a', [0, 0, 0]],
          ['spawn', 'b', [0, 50, 0]],
          ['spawn', 'c', [0, 0, 300]],
        ],
      ),
      'check.crowdedSpawns',
    ),
  ).toBe(false);
  const sets = (...params: Record<string, unknown>[]) =>
    found(spawns(...params))
      .filter((f) => f.code === 'check.spawnSets')
      .map((f) => f.id.split(' ')[1]);
  expect(sets({}, {})).toEqual([]);
  expect(sets({ for: 'team', team: 'Millers' }, { for: 'team', team: '' })).toEqual(['unnamed', 'team']);
  expect(sets({ for: 'team', team: 'Millers' }, { for: 'team', team: 'Salters' })).toEqual([]);
  expect(sets({ for: 'together', number: 1 }, { for: 'together', number: 4 })).toEqual(['together']);
  expect(sets({ for: 'together', number: 1 }, { for: 'together', number: 2 })).toEqual([]);
});

test('a door whose opening was moved or widened leaves a gap, and is cut anew', () => {
  for (const leaves of ['one', 'two', 'upDown'] as const) {
    const made = doorInOpening(twoRooms(), 'door', { leaves, thickness: 6, material: 'oak-plank' });
    expect(wanted(made.doc, 'check.leavesGap')).toBe(false);
    const all = { rooms: new Set(['a', 'b']), entities: new Set([made.door]) };
    const turned = transformPicked(made.doc, all, rotation(2, leaves === 'two' ? 27 : 0, [500, 300, 0]));
    expect(wanted(turned, 'check.leavesGap')).toBe(false);
    const named = changeEntity(turned, made.door, { name: 'Gate', params: { price: 4 } });
    for (const change of [{ at: 140 }, { width: 150 }, { height: 230 }]) {
      const moved = changeOpening(named, 'door', change);
      const finding = found(moved).find((f) => f.code === 'check.leavesGap')!;
      expect(finding.text).toMatch(/^Gate leaves \d+ cm of its opening open/);
      const fixed = fixFinding(moved, finding);
      expect(wanted(fixed, 'check.leavesGap')).toBe(false);
      expect(fixed.entities.size).toBe(moved.entities.size);
      expect(fixed.entities.get(made.door)).toMatchObject({ name: 'Gate', params: { price: 4 } });
      expect([...fixed.brushes.values()].filter((b) => b.owner?.id === made.door)).toHaveLength(
        leaves === 'one' ? 1 : 2,
      );
    }
  }
});
