import { boxSolid, brushBounds, brushVolume } from '../brush/index.ts';
import { dressSolid } from '../surface/index.ts';
import { contentsOf } from './along.ts';
import { rideOn } from './wires.ts';
import { inOpening } from './room-parts.ts';
import { buildLevel, levelCell, levelSees } from '../compile/index.ts';
import { entityKind, movedBox } from '../entity/index.ts';
import { aroundIn, emptyMap, parseMap, partsOf, writeMap, type MapDocument } from '../map/index.ts';
import { boxCenter, rotation, uniteBoxes, type Vec3 } from '../math/index.ts';
import {
  beginWorld,
  newPerson,
  order,
  placedIn,
  stepWorld,
  TIME_STEP,
  worldOfLevel,
  worldOfMap,
} from '../play/index.ts';
import { oneRoom, rectangle, roomSpec, DRESS, twoRooms } from '../testing/rooms.ts';
import { freeParts, thingOfBrushes } from './owning.ts';
import { partsLeft } from './parts.ts';
import { doorInOpening, doorOfBrushes } from './doors.ts';
import { addRoom } from './rooms.ts';
import { changeOpening, openDoorway, openWall } from './openings.ts';
import { gateInOpening } from './gates.ts';
import { duplicatePicked } from './copies.ts';
import { addBrushes, movePicked, removePicked, transformPicked } from './brushes.ts';
import { changeEntity, placeEntity } from './entities.ts';

const wish = { leaves: 'one', thickness: 6, material: 'oak-plank' } as const;
const lit = (doc: MapDocument) =>
  placeEntity(placeEntity(doc, 'spawn', [100, 224, 0], 0, 's'), 'pointLight', [200, 200, 200], 0, 'l');

test('a door in an opening fills it, in the middle of the wall', () => {
  for (const leaves of ['one', 'two', 'upDown'] as const)
    for (const kind of ['door', 'arch'] as const) {
      const opened = changeOpening(twoRooms(), 'door', { kind, rise: 40 });
      const made = doorInOpening(opened, 'door', { ...wish, leaves });
      const brushes = made.brushes.map((id) => made.doc.brushes.get(id)!);
      expect(brushes).toHaveLength(leaves === 'one' ? 1 : 2);
      const box = uniteBoxes(brushes.map(brushBounds));
      // The wall stands between 544 and 560.
      expect([box.min[0], box.max[0]]).toEqual([549, 555]);
      expect(box.max[1] - box.min[1]).toBeCloseTo(112, 9);
      expect([box.min[2], box.max[2]]).toEqual([0, 208]);
      // Half an ellipse of eight pieces in place of the rectangle of its curve.
      const curve = kind === 'arch' ? 112 * 40 - (56 * 40 * 8 * Math.sin(Math.PI / 8)) / 2 : 0;
      expect(brushes.reduce((sum, b) => sum + brushVolume(b), 0)).toBeCloseTo(6 * (112 * 208 - curve), 4);
      expect(made.doc.entities.get(made.door)!.at).toEqual([552, boxCenter(box)[1], 0]);
      expect(partsOf(made.doc, made.door)).toHaveLength(brushes.length);
      expect(entityKind('door')!.flaws(made.doc.entities.get(made.door)!, aroundIn(made.doc))).toEqual([]);
      expect(parseMap(writeMap(made.doc)).entities.get(made.door)).toEqual(made.doc.entities.get(made.door));
    }
});

test('doors stand in the middle, and gates reach from side to side, of walls as deep as rooms stand apart', () => {
  for (const gap of [8, 16, 27]) {
    const rooms = addRoom(oneRoom(), roomSpec(rectangle(544 + gap, 32, 384, 384)), DRESS, 'b');
    const doc = openDoorway(rooms, 'a', 'b', { width: 112, height: 208, sill: 0 }, 'door');
    const door = doorInOpening(doc, 'door', wish);
    const { min, max } = brushBounds(door.doc.brushes.get(door.brushes[0]!)!);
    expect([min[0], max[0]].map((x) => x - 544)).toEqual([gap / 2 - 3, gap / 2 + 3]);
    const made = gateInOpening(doc, 'door');
    const gate = brushBounds(made.doc.brushes.get(made.gate)!);
    expect([gate.min[0], gate.max[0]].map((x) => x - 544)).toEqual([0, gap]);
  }
});

test('its front is that of the wall, whichever way that runs', () => {
  const room = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 600, 600)), DRESS, 'a');
  for (let side = 0; side < 4; side++) {
    const doc = openWall(room, 'a', side, { width: 100, height: 200, sill: 0 }, 'o');
    const made = doorInOpening(doc, 'o', wish);
    // Walls 0 and 2 run along x: who goes through them goes along y.
    expect(made.doc.entities.get(made.door)!.turn % 180).toBe(side % 2 === 0 ? 90 : 0);
  }
  for (const [max, turn] of [
    [[400, 306, 200], 90],
    [[306, 400, 200], 0],
  ] as const) {
    const leaf = dressSolid(boxSolid({ min: [300, 300, 0], max }), 'leaf', 'm');
    const { doc, door } = doorOfBrushes(addBrushes(room, [leaf]), { brushes: ['leaf'] }, { each: false });
    expect(doc.entities.get(door)!.turn).toBe(turn);
  }
});

test('two leaves slide apart into the wall, up and down leaves up and down, each clear of the opening', () => {
  for (const leaves of ['one', 'two', 'upDown'] as const) {
    const { doc, door, brushes } = doorInOpening(twoRooms(), 'door', { ...wish, leaves });
    const whole = uniteBoxes(brushes.map((id) => brushBounds(doc.brushes.get(id)!)));
    const { behaviour } = entityKind('door')!;
    const e = doc.entities.get(door)!;
    const open = { ...behaviour!.begin(e, aroundIn(doc)), open: 1 };
    behaviour!.poses!(e, open, aroundIn(doc)).forEach((pose, k) => {
      const box = movedBox(pose, brushBounds(doc.brushes.get(brushes[k]!)!));
      const axis = leaves === 'upDown' ? 2 : 1;
      expect(box.max[axis] <= whole.min[axis] + 1e-6 || box.min[axis] >= whole.max[axis] - 1e-6).toBe(true);
      // Within the thickness of the wall.
      expect([box.min[0], box.max[0]]).toEqual([549, 555]);
    });
  }
});

test('where the wall is too short to slide into, the leaf turns on the jamb, and keeps its distance from it', () => {
  const room = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 200, 200)), DRESS, 'a');
  const doc = openWall(room, 'a', 0, { width: 140, height: 200, sill: 0 }, 'o');
  const made = doorInOpening(doc, 'o', wish);
  const e = made.doc.entities.get(made.door)!;
  const [leaf] = e.params.leaves as unknown as { moves: string; hinge: Vec3 }[];
  expect(leaf!.moves).toBe('turns');
  expect(Math.abs(leaf!.hinge[0])).toBe(70);
});

test('with a zone it opens for who walks up to it, from either side, and lets them through', () => {
  const { doc, door } = doorInOpening(twoRooms(), 'door', { ...wish, zone: true });
  const zone = [...doc.entities.values()].find((e) => e.kind === 'zone')!;
  // As wide and high as the opening, and as far out on both sides of the wall, which is 16 thick.
  const region = [...doc.brushes.values()].find((b) => b.owner?.id === zone.id)!;
  const { min, max } = brushBounds(region);
  expect(brushVolume(region)).toBeCloseTo(112 * 208 * (max[0] - min[0]), 3);
  expect(max[1] - min[1]).toBeCloseTo(112, 9);
  expect(552 - min[0]).toBeCloseTo(max[0] - 552, 9);
  expect([...doc.wires.values()].map((w) => [w.from.thing, w.to.thing])).toEqual([[zone.id, door]]);
  const world = worldOfMap(doc);
  for (const [x, yaw] of [
    [200, 0],
    [850, 180],
  ] as const) {
    let state = beginWorld(world, [newPerson([x, 224, 0.1], yaw)]);
    for (let k = 0; k < 480; k++)
      state = stepWorld(
        world,
        state,
        [{ forward: 1, right: 0, jump: false, crouch: false, yaw, pitch: 0 }],
        TIME_STEP,
      ).state;
    expect(Math.abs(state.people[0]!.body.at[0] - x)).toBeGreaterThan(500);
  }
});

test('what is asked for in vain is refused with a sentence', () => {
  const doc = twoRooms();
  expect(() => doorInOpening(doc, 'nowhere', wish)).toThrow('no longer in the map');
  for (const thickness of [0.9, 16.1, 40, NaN])
    expect(() => doorInOpening(doc, 'door', { ...wish, thickness })).toThrow('1 to 16 cm thick');
  for (const thickness of [1, 16]) expect(() => doorInOpening(doc, 'door', { ...wish, thickness })).not.toThrow();
  expect(() => doorInOpening(doc, 'door', { ...wish, leaves: 'two', remainder: 60 })).toThrow('below 56 cm');
  // As wide or as high as a leaf is: 112 × 208.
  expect(() => doorInOpening(doc, 'door', { ...wish, leaves: 'one', remainder: 112 })).toThrow('below 112 cm');
  expect(() => doorInOpening(doc, 'door', { ...wish, leaves: 'upDown', remainder: 104 })).toThrow('below 104 cm');
  expect(() => doorOfBrushes(doc, { brushes: [] }, { each: false })).toThrow('Select the brushes');
});

test('a door moves with its leaves, its copy has leaves of its own, and what is left without it is told', () => {
  const { doc, door, brushes } = doorInOpening(twoRooms(), 'door', { ...wish, leaves: 'two' });
  const box = (d: MapDocument, id: string) => uniteBoxes(partsOf(d, id).flat().map(brushBounds));
  const moved = movePicked(doc, { entities: new Set([door]) }, [10, 20, 30]);
  expect(box(moved, door).min).toEqual(box(doc, door).min.map((c, i) => c + [10, 20, 30][i]!));
  // All its leaves take it along; one alone does not.
  expect(movePicked(doc, { brushes: new Set(brushes) }, [5, 0, 0]).entities.get(door)!.at[0]).toBe(557);
  expect(movePicked(doc, { brushes: new Set([brushes[0]!]) }, [5, 0, 0]).entities.get(door)!.at[0]).toBe(552);
  const turned = transformPicked(doc, { entities: new Set([door]) }, rotation(2, 90, [552, 224, 0]));
  const [leaf] = turned.entities.get(door)!.params.leaves as unknown as { travel: Vec3 }[];
  expect(leaf!.travel.map(Math.abs)).toEqual([56, 0, 0]);
  const copied = duplicatePicked(doc, { entities: new Set([door]) }, [0, 0, 300]);
  const [copy] = [...copied.picked.entities];
  expect(partsOf(copied.doc, copy!).map((p) => p.length)).toEqual([1, 1]);
  expect(partsOf(copied.doc, door).map((p) => p.length)).toEqual([1, 1]);
  const gone = removePicked(doc, { entities: new Set([door]) });
  expect(partsLeft(doc, gone)).toBe('2 brushes of the door stay and no longer move.');
  expect([...gone.brushes.values()].some((b) => b.owner)).toBe(false);
  const bare = removePicked(doc, { brushes: new Set(brushes) });
  expect(partsLeft(doc, bare)).toBe('The door has no brushes left.');
  // Of a thing of a single brush it is told as well, of what owns none nothing.
  const one = thingOfBrushes(doc, 'mover', { brushes: [brushes[0]!] }, 'one');
  expect(partsLeft(one, removePicked(one, { entities: new Set(['one']) }))).toBe(
    'A brush of the mover stays and no longer moves.',
  );
  const lamp = placeEntity(doc, 'pointLight', [0, 0, 0], 0, 'lamp');
  expect(partsLeft(lamp, removePicked(lamp, { entities: new Set(['lamp']) }))).toBeNull();
  expect(partsOf(freeParts(doc, { brushes: [brushes[0]!] }), door)[0]).toEqual([]);
});

test('a room that is moved takes the door in its opening along, and what rides on it is filed where it gets', () => {
  const { doc, door } = doorInOpening(twoRooms(), 'door', wish);
  const inside = contentsOf(doc, new Set(['a']));
  expect([...inside.entities]).toEqual([door]);
  expect([...contentsOf(doc, new Set(['b'])).entities]).toEqual([]);
  const moved = transformPicked(
    doc,
    { rooms: new Set(['a', 'b']), entities: inside.entities },
    rotation(2, 90, [0, 0, 0]),
  );
  const at = moved.entities.get(door)!.at;
  expect(inOpening(moved.openings.get('door')!, moved.rooms, at)).toBe(true);
  // A slab that rides on a lift into a room above.
  let two = addRoom(lit(doc), roomSpec(rectangle(32, 32, 512, 384), { floor: 300, ceiling: 500 }), DRESS, 'up');
  two = thingOfBrushes(addBrushes(two, [slab('car', 250), slab('load', 290)]), 'lift', { brushes: ['car'] }, 'lift');
  two = thingOfBrushes(two, 'mover', { brushes: ['load'] }, 'load-thing');
  two = rideOn(
    changeEntity(two, 'lift', { params: { stops: [{ name: '', at: [0, 0, 330] }] } }),
    ['load-thing'],
    'lift',
  );
  const { level } = buildLevel(placeEntity(two, 'pointLight', [200, 200, 450], 0, 'l2'), 'sketch');
  const body = level.meta.bodies.find((b) => b.thing === 'load-thing')!;
  const cells = [
    ...level.surfaceCell.slice(level.surfaceCellFirst[body.surfaces[0]], level.surfaceCellFirst[body.surfaces[0] + 1]),
  ];
  expect(cells).toContain(levelCell(level, [300, 200, 60]));
  expect(cells).toContain(levelCell(level, [300, 200, 400]));
});

const slab = (id: string, x: number) => ({
  ...dressSolid(
    boxSolid({ min: [x, 180, id === 'car' ? 0 : 20], max: [x + 60, 240, id === 'car' ? 20 : 60] }),
    id,
    'slate',
  ),
  role: 'detail' as const,
});

describe('a level with a door', () => {
  const bare = lit(twoRooms());
  const { doc, door } = doorInOpening(bare, 'door', wish);
  const { level, report } = buildLevel(doc, 'sketch');

  test('is sealed, and cut as if the leaf were not there', () => {
    const without = buildLevel(bare, 'sketch');
    expect(report.sealed).toBe(true);
    expect(report.counts.cells).toBe(without.report.counts.cells);
    expect(report.counts.surfaces).toBe(without.report.counts.surfaces + 6);
    expect(report.messages.filter((m) => m.severity !== 'info')).toEqual(
      without.report.messages.filter((m) => m.severity !== 'info'),
    );
    expect([...level.meta.colliders].sort()).toEqual([...without.level.meta.colliders].sort());
  });

  test('draws the leaf from every cell that sees a cell it can be in', () => {
    const [body] = level.meta.bodies;
    expect(body).toMatchObject({ thing: door, part: 0 });
    const [first, last] = body!.surfaces;
    expect(last - first).toBe(6);
    const world = worldOfMap(doc);
    const begun = order(world, beginWorld(world, []), door, 'open');
    for (let state = begun, k = 0; k < 200; k++) {
      state = stepWorld(world, state, [], TIME_STEP).state;
      const box = placedIn(world, state).bounds[0]!;
      for (let n = 0; n < 40; n++) {
        const p = box.min.map((c, i) => c + (box.max[i]! - c) * ((n * [0.37, 0.61, 0.83][i]!) % 1)) as unknown as Vec3;
        const cell = levelCell(level, p);
        if (cell < 0) continue;
        for (let s = first; s < last; s++)
          expect(level.surfaceCell.slice(level.surfaceCellFirst[s], level.surfaceCellFirst[s + 1])).toContain(cell);
      }
    }
    expect(levelSees(level, levelCell(level, [100, 224, 100]), levelCell(level, [552, 224, 100]))).toBe(true);
  });

  test('plays as the map does, byte for byte', () => {
    const person = newPerson([450, 224, 0.1], 0);
    const go = (world: ReturnType<typeof worldOfMap>) => {
      let state = beginWorld(world, [person]);
      for (let k = 0; k < 600; k++)
        state = stepWorld(
          world,
          state,
          [{ forward: 1, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0, use: k === 60 }],
          TIME_STEP,
        ).state;
      return state;
    };
    const played = go(worldOfLevel(level));
    expect(JSON.stringify(played)).toBe(JSON.stringify(go(worldOfMap(doc))));
    // Stopped by the leaf, then through it into the other room.
    expect(played.people[0]!.body.at[0]).toBeGreaterThan(700);
  });
});
