import { parseMap, partsOf, writeMap, type MapDocument } from '../map/index.ts';
import { rotation, type Vec3 } from '../math/index.ts';
import { beginWorld, movedParts, order, worldOfMap } from '../play/index.ts';
import { play } from '../testing/playing.ts';
import { twoRooms } from '../testing/rooms.ts';
import { transformPicked } from './brushes.ts';
import { doorInOpening } from './doors.ts';
import { changeEntity, placeEntity } from './entities.ts';
import { joinThings, separateParts, setStillShows, stillShows } from './leaves.ts';
import { addWire, rideOn } from './wires.ts';

interface Leaf {
  readonly moves: string;
  readonly travel: Vec3;
  readonly hinge: Vec3;
}
const leavesOf = (doc: MapDocument, id: string) => doc.entities.get(id)!.params.leaves as unknown as readonly Leaf[];

/** A double door of leaves that turn, wired to a zone, that starts a lift; a lamp rides on it. */
function doubleDoor(): { doc: MapDocument; door: string } {
  const made = doorInOpening(twoRooms(), 'door', {
    leaves: 'two',
    moves: 'turns',
    thickness: 6,
    material: 'oak-plank',
  });
  let doc = changeEntity(made.doc, made.door, { name: 'Gate', params: { away: false } });
  doc = placeEntity(placeEntity(doc, 'zone', [100, 100, 0], 0, 'z'), 'lift', [200, 200, 0], 0, 'lift');
  doc = addWire(doc, { from: { thing: 'z', signal: 'entered' }, to: { thing: made.door, action: 'open' }, delay: 1 });
  doc = addWire(doc, { from: { thing: made.door, signal: 'opened' }, to: { thing: 'lift', action: 'next' } });
  doc = rideOn(placeEntity(doc, 'pointLight', [550, 100, 150], 0, 'lamp'), ['lamp'], made.door);
  return { doc, door: made.door };
}
/** Where brushes are after some things were opened, by id. */
function opened(doc: MapDocument, ...things: string[]) {
  const world = worldOfMap(doc);
  const begun = things.reduce((s, id) => order(world, s, id, 'open'), beginWorld(world, []));
  const { state } = play(world, begun, 2);
  return movedParts(world, state).map(({ thing, part, pose }) => ({
    brushes: partsOf(doc, thing)[part]!.map((b) => b.id),
    pose: pose.map((c) => Math.round(c * 1e6) / 1e6),
  }));
}

test('leaves that are separated open each by itself, the same ways, and all by what opened the door', () => {
  const { doc, door } = doubleDoor();
  const before = opened(doc, door);
  const { doc: apart, things } = separateParts(doc, door);
  expect(things).toHaveLength(2);
  expect(things[0]).toBe(door);
  expect(things.map((id) => apart.entities.get(id)!.name)).toEqual(['Gate', 'Gate 2']);
  expect(things.map((id) => partsOf(apart, id).map((p) => p.length))).toEqual([[1], [1]]);
  // One alone moves one leaf; both together move both, to where they went before.
  expect(opened(apart, things[1]!).map((m) => m.brushes)).toEqual([before[1]!.brushes]);
  const both = opened(apart, ...things);
  for (const { brushes, pose } of before)
    expect(both.find((m) => m.brushes.join() === brushes.join())!.pose).toEqual(pose);
  // What led to it leads to both, with its delay; what it led to is led to once.
  const wires = [...apart.wires.values()];
  expect(wires.filter((w) => w.to.action === 'open').map((w) => [w.to.thing, w.delay])).toEqual(
    things.map((id) => [id, 1]),
  );
  expect(wires.filter((w) => w.from.signal === 'opened')).toHaveLength(1);
  expect(apart.entities.get('lamp')!.carrier).toEqual({ id: door });
  expect(parseMap(writeMap(apart)).entities.size).toBe(apart.entities.size);
});

test('doors that are joined again are the door that there was, wherever it stands and however it is turned', () => {
  const { doc, door } = doubleDoor();
  const all = {
    brushes: new Set(doc.brushes.keys()),
    entities: new Set(doc.entities.keys()),
    rooms: new Set<string>(),
  };
  for (const moved of [doc, transformPicked(doc, all, rotation(2, 31, [12_000, -7000, 0]))]) {
    const { doc: apart, things } = separateParts(moved, door);
    const joined = joinThings(apart, things);
    expect([...joined.entities.keys()].sort()).toEqual([...moved.entities.keys()].sort());
    expect(joined.wires.size).toBe(moved.wires.size);
    const [was, is] = [opened(moved, door), opened(joined, door)];
    is.forEach(({ brushes, pose }, k) => {
      expect(brushes).toEqual(was[k]!.brushes);
      pose.forEach((c, i) => expect(c).toBeCloseTo(was[k]!.pose[i]!, 3));
    });
  }
});

test('wires and riders of what was joined go over to the one that stays', () => {
  const { doc, door } = doubleDoor();
  const { doc: apart, things } = separateParts(doc, door);
  const other = things[1]!;
  let wired = addWire(apart, { from: { thing: other, signal: 'closed' }, to: { thing: 'lift', action: 'next' } });
  wired = rideOn(wired, ['lamp'], other);
  const joined = joinThings(wired, things);
  const from = [...joined.wires.values()].map((w) => [w.from.thing, w.to.thing]);
  expect(from.flat()).not.toContain(other);
  expect(joined.entities.get('lamp')!.carrier).toEqual({ id: door, part: 1 });
});

test('what has one part, or is of several kinds, is refused with what to do', () => {
  const { doc, door } = doubleDoor();
  expect(() => separateParts(doc, 'lift')).toThrow(expect.objectContaining({ code: 'parts.single' }));
  expect(() => separateParts(doc, 'nobody')).toThrow(expect.objectContaining({ code: 'parts.unknown' }));
  expect(() => joinThings(doc, [door])).toThrow(expect.objectContaining({ code: 'parts.join' }));
  expect(() => joinThings(doc, [door, 'lift'])).toThrow(expect.objectContaining({ code: 'parts.join' }));
});

test('a leaf slides by its size less what still shows, along the way it goes, however it is turned', () => {
  const made = doorInOpening(twoRooms(), 'door', { leaves: 'one', moves: 'slides', thickness: 6, material: 'slate' });
  const turned = transformPicked(
    made.doc,
    { brushes: new Set(made.brushes), entities: new Set([made.door]) },
    rotation(2, 27, [3000, 500, 0]),
  );
  for (const doc of [made.doc, turned]) {
    expect(stillShows(doc, made.door, 0)).toBeCloseTo(0, 2);
    const shown = setStillShows(doc, made.door, 0, 12);
    expect(stillShows(shown, made.door, 0)).toBeCloseTo(12, 3);
    const [a, b] = [leavesOf(doc, made.door)[0]!.travel, leavesOf(shown, made.door)[0]!.travel];
    expect(Math.hypot(...a) - Math.hypot(...b)).toBeCloseTo(12, 2);
    expect(Math.abs(a[0] * b[1] - a[1] * b[0])).toBeLessThan(1e-2);
    expect(stillShows(setStillShows(shown, made.door, 0, 0), made.door, 0)).toBeCloseTo(0, 3);
    for (const wrong of [112.5, 500, -0.1, NaN])
      expect(() => setStillShows(doc, made.door, 0, wrong)).toThrow(
        expect.objectContaining({ code: 'door.remainder' }),
      );
  }
  expect(stillShows(made.doc, made.door, 3)).toBeNull();
  expect(() => setStillShows(made.doc, made.door, 3, 5)).toThrow(expect.objectContaining({ code: 'door.slides' }));
});
