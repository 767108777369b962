import fc from 'fast-check';
import { boxSolid } from '../brush/index.ts';
import { buildLevel } from '../compile/index.ts';
import { entityKind, modelOf, propPose, transformEntity, type Entity } from '../entity/index.ts';
import {
  aroundIn,
  bodiesOf,
  movingCarrier,
  propBounds,
  propCorners,
  ridersOf,
  type MapDocument,
} from '../map/index.ts';
import {
  applyAffine,
  composeAffine,
  distance,
  isEmptyBox,
  rotationAbout,
  translation,
  type Affine,
  type Vec3,
} from '../math/index.ts';
import { beginWorld, movedParts, newPerson, order, worldOfLevel, worldOfMap } from '../play/index.ts';
import { dressSolid } from '../surface/index.ts';
import { oneRoom } from '../testing/rooms.ts';
import { play, STILL } from '../testing/playing.ts';
import { boxProp } from '../testing/props.ts';
import { addBrushes, movePicked } from './brushes.ts';
import { duplicatePicked } from './copies.ts';
import { doorOfBrushes } from './doors.ts';
import { placeEntity } from './entities.ts';
import { joinThings, separateParts, stillShows } from './leaves.ts';
import { freeParts, giveParts, thingOfBrushes } from './owning.ts';
import { placeProps, type PropWish } from './props.ts';
import { rideOn } from './wires.ts';

const LEAF = boxProp('leaf', [-50, -3, 0], [50, 3, 200]);
const props = (name: string) => (name === 'leaf' ? LEAF : undefined);
const placed = (doc: MapDocument, ...wishes: Omit<PropWish, 'model'>[]) => {
  const out = placeProps(
    doc,
    wishes.map((w) => ({ model: 'leaf', ...w })),
    props,
  );
  return { doc: out.doc, ids: out.made.entities };
};
/** Two leaves side by side in a room, as one door. */
function door() {
  const { doc, ids } = placed(oneRoom(), { at: [150, 200, 0] }, { at: [250, 200, 0] });
  return { ...doorOfBrushes(doc, { props: ids }, { each: true }), ids };
}
const flawsOf = (doc: MapDocument, id: string) => {
  const e = doc.entities.get(id)!;
  return entityKind(e.kind)!
    .flaws(e, aroundIn(doc))
    .map((f) => f.code);
};

test('a door of props has a leaf of each that moves with it, and the same in its level', () => {
  const { doc, door: id, ids } = door();
  expect(flawsOf(doc, id)).toEqual([]);
  const world = worldOfMap(doc, props);
  expect(world.bodies.map((b) => [b.part, b.solids.length])).toEqual([
    [0, 1],
    [1, 1],
  ]);
  ids.forEach((prop, k) => expect(world.bodies[k]!.bounds).toEqual(propBounds(doc.entities.get(prop)!)));
  const { state } = play(world, order(world, beginWorld(world, []), id, 'open'), 3);
  // They slide apart by their own width.
  expect(
    movedParts(world, state).map(({ part, pose }) => [part, ...applyAffine(pose, [0, 0, 0]).map(Math.round)]),
  ).toEqual([
    [0, -100, 0, 0],
    [1, 100, 0, 0],
  ]);
  expect([0, 1].map((part) => stillShows(doc, id, part))).toEqual([0, 0]);

  const { level } = buildLevel(placeEntity(doc, 'spawn', [60, 60, 0], 0, 's'), 'sketch', {}, { props, direct: true });
  const built = worldOfLevel(level);
  expect(built.bodies.map((b) => [b.part, b.bounds, b.solids.length])).toEqual(
    world.bodies.map((b) => [b.part, b.bounds, b.solids.length]),
  );
  expect(level.meta.colliders.some((c) => c.startsWith('prop '))).toBe(false);
});

test('what rides on a leaf of a prop moves with that leaf', () => {
  const { doc, door: id, ids } = door();
  const { doc: more, ids: handles } = placed(doc, { at: [250, 204, 90], scale: 0.05 });
  const riding = rideOn(more, handles, ids[1]!);
  const world = worldOfMap(riding, props);
  expect(world.bodies.map((b) => [b.part, b.solids.length])).toEqual([
    [0, 1],
    [1, 2],
  ]);
  const on = movingCarrier(riding.entities.get(handles[0]!)!, (e) => riding.entities.get(e));
  expect(on).toEqual({ id, part: 1 });
  expect(movingCarrier(riding.entities.get(id)!, (e) => riding.entities.get(e))).toBeUndefined();
  const { level } = buildLevel(
    placeEntity(riding, 'spawn', [60, 60, 0], 0, 's'),
    'sketch',
    {},
    { props, direct: true },
  );
  expect(level.meta.colliders.some((c) => c.startsWith('prop '))).toBe(false);
  expect(level.meta.bodies.map((b) => b.solids.length)).toEqual([1, 2]);
});

test('a closed leaf of a prop holds back, an open one lets through', () => {
  const { doc, door: id } = door();
  const world = worldOfMap(doc, props);
  const walk = (begun: ReturnType<typeof beginWorld>) =>
    play(world, begun, 2, () => ({ ...STILL, forward: 1, yaw: 90 })).state.people[0]!.body.at[1];
  const person = newPerson([150, 100, 0.1], 90);
  expect(walk(beginWorld(world, [person]))).toBeLessThan(197);
  const { state } = play(world, order(world, beginWorld(world, []), id, 'open'), 2);
  expect(walk({ ...state, people: [person] })).toBeGreaterThan(220);
});

test('parts hold brushes and props; props fill what has no brushes', () => {
  const { doc, ids } = placed(oneRoom(), { at: [150, 200, 0] });
  const plank = dressSolid(boxSolid({ min: [100, 190, 0], max: [200, 210, 10] }), 'plank', 'oak-plank', {
    role: 'detail',
  });
  const lift = thingOfBrushes(addBrushes(doc, [plank]), 'lift', { brushes: ['plank'], props: ids }, 'm');
  expect(aroundIn(lift).parts('m')).toEqual([{ min: [100, 190, 0], max: [200, 210, 10] }]);
  expect(bodiesOf(lift)).toHaveLength(1);
  const bare = freeParts(lift, { brushes: ['plank'] });
  expect(aroundIn(bare).parts('m')).toEqual([propBounds(bare.entities.get(ids[0]!)!)]);
  const alone = freeParts(bare, { props: ids });
  expect(aroundIn(alone).parts('m').every(isEmptyBox)).toBe(true);
  expect(flawsOf(alone, 'm')).toContain('noCar');
  expect(() => giveParts(alone, 'm', 64, { props: ids })).toThrow('from 1 to 64');
  expect(() => thingOfBrushes(doc, 'zone', { props: ids })).toThrow('made of brushes');
  expect(() => giveParts(alone, 'm', 0, {})).toThrow('Select the brushes or props');
});

test('what rides goes along when its carrier is moved or copied', () => {
  const { doc, door: id, ids } = door();
  const lit = rideOn(placeEntity(doc, 'pointLight', [150, 200, 150], 0, 'lamp'), ['lamp'], ids[0]!);
  expect(
    ridersOf(lit, id)
      .map((e) => e.id)
      .sort(),
  ).toEqual([...ids, 'lamp'].sort());
  const moved = movePicked(lit, { entities: new Set([id]) }, [0, 64, 0]);
  for (const other of [id, ...ids, 'lamp'])
    expect(moved.entities.get(other)!.at[1]).toBe(lit.entities.get(other)!.at[1] + 64);
  const copied = duplicatePicked(lit, { entities: new Set([id]) }, [0, 0, 300]);
  const copies = [...copied.picked.entities].map((e) => copied.doc.entities.get(e)!);
  const copiedDoor = copies.find((e) => e.kind === 'door')!;
  expect(copies).toHaveLength(4);
  expect(ridersOf(copied.doc, copiedDoor.id)).toHaveLength(3);
  expect(
    copies
      .flatMap((e) => (modelOf(e) ? [e.carrier] : []))
      .map((c) => [c!.id, c!.part ?? 0])
      .sort(),
  ).toEqual([
    [copiedDoor.id, 0],
    [copiedDoor.id, 1],
  ]);
});

test('leaves of props keep their own when doors are separated and joined again', () => {
  const { doc, door: id, ids } = door();
  const { doc: apart, things } = separateParts(doc, id);
  expect(things).toHaveLength(2);
  expect(ids.map((p) => apart.entities.get(p)!.carrier)).toEqual(things.map((t) => ({ id: t })));
  for (const t of things) expect(flawsOf(apart, t)).toEqual([]);
  const joined = joinThings(apart, [things[1]!, things[0]!]);
  expect(ids.map((p) => joined.entities.get(p)!.carrier)).toEqual([{ id: things[1], part: 1 }, { id: things[1] }]);
  expect(flawsOf(joined, things[1]!)).toEqual([]);
  // One that rode on the other rides on itself in no way.
  const riding = joinThings(rideOn(apart, [things[1]!], things[0]!), [things[1]!, things[0]!]);
  expect(riding.entities.get(things[1]!)!.carrier).toBeUndefined();
});

test('a prop that is turned about any line stands where each of its corners is turned to', () => {
  const unit = fc
    .tuple(...([0, 1, 2] as const).map(() => fc.double({ min: -1, max: 1, noNaN: true })))
    .filter((v) => Math.hypot(...v) > 0.1) as unknown as fc.Arbitrary<Vec3>;
  const angle = fc.double({ min: -720, max: 720, noNaN: true });
  fc.assert(
    fc.property(unit, angle, unit, angle, fc.double({ min: 0.1, max: 4, noNaN: true }), (up, turn, axis, by, scale) => {
      const prop: Entity = {
        id: 'p',
        kind: 'prop',
        at: [30_000, -200, 40],
        turn,
        params: { model: 'leaf', up, scale, size: [-50, -3, 0, 50, 3, 200] },
      };
      const m: Affine = composeAffine(translation([5, 6, -700]), rotationAbout(axis, by, [29_000, 0, 10]));
      const moved = transformEntity(prop, m);
      const [was, is] = [prop, moved].map((e) => propCorners(e)) as [Vec3[], Vec3[]];
      was.forEach((corner, k) => expect(distance(applyAffine(m, corner), is[k]!)).toBeLessThan(1e-3));
      expect(propPose(modelOf(moved)!, moved.at, moved.turn)).toHaveLength(12);
    }),
  );
});
