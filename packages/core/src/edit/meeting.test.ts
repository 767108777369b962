import { brushBounds, brushPlanes, brushVolume, extrude, intersectBrushes } from '../brush/index.ts';
import { buildStructure } from '../compile/index.ts';
import { fixLabels, fixFinding, runChecks } from '../checks/index.ts';
import { emptyMap, type MapDocument, type Point2 } from '../map/index.ts';
import { boxesOverlap, convexParts, hashRandom, mirror, rotation, type Vec3 } from '../math/index.ts';
import { DRESS_CARRIED, dressSolid } from '../surface/index.ts';
import { DRESS, oneRoom, rectangle, roomSpec, twoRooms } from '../testing/rooms.ts';
import { alignPicked, distributePicked } from './arranging.ts';
import { contentsOf, joinedRooms, withAlong } from './along.ts';
import { movePicked, removePicked, transformPicked } from './brushes.ts';
import { placeEntity } from './entities.ts';
import { EditError } from './errors.ts';
import { addShape, groupPicked } from './groups.ts';
import { openDoorway, openWall } from './openings.ts';
import { overlapOf } from './room-clearance.ts';
import { addRoom, changeRoom, releaseBrushes } from './rooms.ts';
import { bridgeOpening, meetAgain } from './waiting.ts';
import { waitingOpenings } from './remake.ts';

const B = { rooms: new Set(['b']) };
const structureOf = (doc: MapDocument, ...at: Vec3[]) =>
  buildStructure(
    doc.brushes.values(),
    at.map((p, i) => ({ id: `s${i}`, at: p })),
  );
/** Whether one can get from one place to another without passing a wall, and from neither into the void. */
const joined = (doc: MapDocument, a: Vec3, b: Vec3): boolean => {
  const walled = buildStructure(doc.brushes.values(), [{ id: 's', at: a }]);
  return (
    walled.leak === null &&
    structureOf(doc, a, b).cells.filter((c) => c.inside).length === walled.cells.filter((c) => c.inside).length
  );
};
const BY_ROOMS = ['check.openingWaiting', 'check.openingBlocked', 'check.roomsOverlap'];
const rulesOf = (doc: MapDocument) =>
  runChecks(doc)
    .map((p) => p.code)
    .filter((r) => BY_ROOMS.includes(r));
const problem = (doc: MapDocument, rule: string) => runChecks(doc).find((p) => p.code === rule)!;

describe('an opening that loses its wall', () => {
  const apart = movePicked(twoRooms(), B, [320, 0, 0]);

  test('stays, waits, and works again when the rooms meet', () => {
    expect([...apart.openings.keys()]).toEqual(['door']);
    expect(waitingOpenings(apart)).toHaveLength(1);
    expect(structureOf(apart, [100, 100, 10], [1000, 100, 10]).leak).toBeNull();
    expect(joined(apart, [100, 100, 10], [1000, 100, 10])).toBe(false);
    const back = movePicked(apart, B, [-320, 0, 0]);
    expect(waitingOpenings(back)).toEqual([]);
    expect(joined(back, [100, 100, 10], [700, 100, 10])).toBe(true);
    expect(back.openings.get('door')).toEqual(twoRooms().openings.get('door'));
  });

  test('is listed with fixes, each of which makes it an opening again or takes it away', () => {
    expect(rulesOf(apart)).toEqual(['check.openingWaiting']);
    const p = problem(apart, 'check.openingWaiting');
    expect(fixLabels(apart, p)).toEqual([
      'Move the neighbour along',
      'Bridge with a passage',
      'Fit it into the wall',
      'Remove it',
    ]);
    for (const label of ['Move the neighbour along', 'Bridge with a passage', 'Remove it']) {
      const fixed = fixFinding(apart, p, {}, label);
      expect(rulesOf(fixed)).toEqual([]);
    }
    const moved = meetAgain(apart, 'door');
    expect(joined(moved, [100, 100, 10], [700, 100, 10])).toBe(true);
    const bridged = bridgeOpening(apart, 'door');
    expect(joined(bridged, [100, 100, 10], [1200, 300, 10])).toBe(true);
    expect(bridged.rooms.size).toBe(3);
  });

  test('meets again no farther along the wall than the opening asks for, from either side', () => {
    // The opening is in the middle of the east wall of the first: from 168 to 280.
    for (const [by, wanted] of [
      [500, [168, 552]],
      [-500, [-104, 280]],
      [30, [62, 446]],
    ] as const) {
      const met = meetAgain(movePicked(twoRooms(), B, [320, by, 0]), 'door');
      expect(waitingOpenings(met)).toEqual([]);
      const [x, y] = [0, 1].map((axis) => met.rooms.get('b')!.footprint.map((p) => p[axis]!)) as [number[], number[]];
      expect([Math.min(...y), Math.max(...y)]).toEqual(wanted);
      expect(Math.min(...x)).toBe(560);
    }
  });

  test('is bridged by a passage that looks like its room, though only the faces that are seen were painted', () => {
    const upper = (doc: MapDocument, room: string) => {
      const floor = [...doc.brushes.values()].find((b) => b.room?.id === room && b.room.part.kind === 'floor')!;
      return { floor, face: brushPlanes(floor).findIndex((plane) => plane.normal[2] === 1) };
    };
    const { floor, face } = upper(apart, 'a');
    const faces = floor.faces.map((f, i) => (i === face ? { ...f, material: 'slate' } : f));
    const painted = { ...apart, brushes: new Map(apart.brushes).set(floor.id, { ...floor, faces }) };
    const bridged = bridgeOpening(painted, 'door');
    const passage = [...bridged.rooms.keys()].find((id) => !apart.rooms.has(id))!;
    const made = upper(bridged, passage);
    expect(made.floor.faces[made.face]!.material).toBe('slate');
  });

  test('comes back over a turn of both rooms, far from the origin', () => {
    const both = { rooms: new Set(['a', 'b']) };
    const turned = transformPicked(
      movePicked(twoRooms(), both, [30_000, -20_000, 96]),
      both,
      rotation(2, 27, [30_000, -20_000, 0]),
    );
    expect(waitingOpenings(turned)).toEqual([]);
    const pulled = movePicked(turned, B, [
      Math.cos((27 * Math.PI) / 180) * 200,
      Math.sin((27 * Math.PI) / 180) * 200,
      0,
    ]);
    expect(waitingOpenings(pulled)).toHaveLength(1);
    expect(waitingOpenings(meetAgain(pulled, 'door'))).toEqual([]);
    expect(waitingOpenings(bridgeOpening(pulled, 'door'))).toEqual([]);
  });

  test('waits when its wall becomes too short or too low, and never refuses the change', () => {
    const low = changeRoom(twoRooms(), 'b', { ceiling: 150 });
    expect(waitingOpenings(low)).toHaveLength(1);
    expect(structureOf(low, [100, 100, 10], [700, 100, 10]).leak).toBeNull();
    expect(waitingOpenings(changeRoom(low, 'b', { ceiling: 272 }))).toEqual([]);
    const fixed = fixFinding(low, problem(low, 'check.openingWaiting'), {}, 'Fit it into the wall');
    expect(fixed.openings.get('door')!.height).toBe(150);
    const niche = changeRoom(twoRooms(), 'a', {
      footprint: [
        [32, 32],
        [544, 32],
        [544, 150],
        [300, 150],
        [300, 416],
        [32, 416],
      ],
    });
    expect(niche.openings.size).toBe(1);
  });

  test('with no way across says so in words', () => {
    const aside = movePicked(apart, B, [0, 900, 0]);
    expect(() => bridgeOpening(aside, 'door')).toThrow(expect.objectContaining({ code: 'opening.noBridge' }));
    expect(waitingOpenings(meetAgain(aside, 'door'))).toEqual([]);
    const turned = transformPicked(apart, B, rotation(2, 30, [1100, 200, 0]));
    expect(() => meetAgain(turned, 'door')).toThrow(expect.objectContaining({ code: 'opening.notFacing' }));
  });
});

describe('openings cut every wall in their way', () => {
  const windowed = openWall(oneRoom(), 'a', 1, { width: 96, height: 80, sill: 96, kind: 'window' }, 'w');

  test('a window drawn before the room behind it looks into that room', () => {
    const doc = addRoom(windowed, roomSpec(rectangle(560, 32, 384, 384)), DRESS, 'b');
    expect(joined(doc, [100, 224, 100], [800, 224, 100])).toBe(true);
    expect(rulesOf(doc)).toEqual([]);
  });

  test('also an arch, at any gap, with the room behind turned', () => {
    const arched = openWall(oneRoom(), 'a', 1, { width: 96, height: 120, sill: 40, kind: 'arch' }, 'w');
    for (const [gap, turn] of [
      [4, 0],
      [16, 0],
      [28, 0],
      [60, 8],
    ] as const) {
      const alone = addRoom(arched, roomSpec(rectangle(544 + gap, 32, 384, 384)), DRESS, 'b');
      const doc = transformPicked(alone, B, rotation(2, turn, [736, 224, 0]));
      if (turn === 0) expect(joined(doc, [100, 224, 100], [800, 224, 100])).toBe(true);
      expect(rulesOf(doc)).toEqual([]);
    }
  });

  test('one that cannot be cut says so, with a fix', () => {
    const low = addRoom(windowed, roomSpec(rectangle(560, 32, 384, 384), { ceiling: 140 }), DRESS, 'b');
    expect(rulesOf(low)).toEqual(['check.openingBlocked']);
    const two = addRoom(windowed, roomSpec(rectangle(900, 32, 384, 384)), DRESS, 'b');
    const byHand = releaseBrushes(
      two,
      [...two.brushes.values()].filter((b) => b.room?.id === 'b').map((b) => b.id),
    );
    const back = movePicked(byHand, B, [-340, 0, 0]);
    expect(rulesOf(back)).toEqual(['check.openingBlocked']);
    expect(joined(back, [100, 224, 100], [800, 224, 100])).toBe(false);
    const fixed = fixFinding(back, problem(back, 'check.openingBlocked'));
    expect(rulesOf(fixed)).toEqual([]);
    expect(joined(fixed, [100, 224, 100], [800, 224, 100])).toBe(true);
  });
});

describe('rooms that overlap', () => {
  test('are named, and moved out of each other with what stands in them', () => {
    const doc = placeEntity(
      addRoom(oneRoom(), roomSpec(rectangle(400, 32, 384, 384)), DRESS, 'b'),
      'pointLight',
      [700, 200, 200],
      0,
      'lamp',
    );
    expect(rulesOf(doc)).toContain('check.roomsOverlap');
    const p = problem(doc, 'check.roomsOverlap');
    expect(p.text).toContain('5.53 m²');
    const fixed = fixFinding(doc, p);
    expect(rulesOf(fixed)).toEqual([]);
    expect(overlapOf(fixed.rooms.get('a')!, fixed.rooms.get('b')!)).toBe(0);
    expect(fixed.entities.get('lamp')!.at[0] - fixed.rooms.get('b')!.footprint[0]![0]).toBe(300);
  });

  test('touching, stacked or diagonal ones are not', () => {
    expect(rulesOf(twoRooms())).toEqual([]);
    expect(
      rulesOf(addRoom(oneRoom(), roomSpec(rectangle(32, 32, 200, 200), { floor: 288, ceiling: 500 }), DRESS)),
    ).toEqual([]);
    expect(rulesOf(addRoom(oneRoom(), roomSpec(rectangle(552, 424, 200, 200)), DRESS))).toEqual([]);
  });
});

describe('what goes along with a room', () => {
  const furnished = (): MapDocument => {
    let doc = placeEntity(twoRooms(), 'pointLight', [100, 100, 260], 0, 'lamp');
    doc = placeEntity(doc, 'spawn', [700, 100, 0], 0, 'other');
    const column = { kind: 'cylinder', box: { min: [200, 200, 0], max: [232, 232, 272] }, params: {} } as const;
    doc = addShape(doc, column, { material: 'oak' }, { group: 'column', brush: (i) => `c${i}` });
    const pipe = { kind: 'box', box: { min: [300, 100, 0], max: [900, 132, 20] }, params: {} } as const;
    return addShape(doc, pipe, { material: 'oak' }, { group: 'none', brush: () => 'through' });
  };

  test('is what stands in it, not what reaches through its walls or stands next door', () => {
    const inside = contentsOf(furnished(), new Set(['a']));
    expect([...inside.entities]).toEqual(['lamp']);
    expect([...inside.brushes]).toEqual(['c0']);
    expect(contentsOf(furnished(), new Set(['b'])).entities).toEqual(new Set(['other']));
  });

  test('keeps its place in the room when the room is moved, turned and mirrored', () => {
    const doc = furnished();
    const picked = withAlong(doc, { rooms: new Set(['a']) }, { contents: true, neighbours: false });
    const m = rotation(2, 90, [300, 200, 0]);
    const moved = transformPicked(transformPicked(doc, picked, m), picked, mirror(0, 100));
    const still = contentsOf(moved, new Set(['a']));
    expect([...still.entities]).toEqual(['lamp']);
    expect([...still.brushes]).toEqual(['c0']);
    expect(moved.groups.get('column')!.shape!.place).toBeDefined();
  });

  test('is a group as a whole or not at all', () => {
    const doc = groupPicked(furnished(), { brushes: new Set(['c0', 'through']) });
    expect(contentsOf(doc, new Set(['a'])).brushes.size).toBe(0);
  });

  test('are neighbours, and theirs, where asked for', () => {
    const doc = addRoom(furnished(), roomSpec(rectangle(960, 32, 200, 200)), DRESS, 'c');
    const far = addRoom(doc, roomSpec(rectangle(3000, 32, 200, 200)), DRESS, 'd');
    expect([...joinedRooms(far, ['a'])].sort()).toEqual(['a', 'b', 'c']);
    const picked = withAlong(far, { rooms: new Set(['a']) }, { contents: false, neighbours: true });
    const moved = movePicked(far, picked, [0, 160, 0]);
    expect(waitingOpenings(moved)).toEqual([]);
    expect(moved.rooms.get('d')).toBe(far.rooms.get('d'));
  });
});

/** The clear inside of a room, in convex pieces. */
const insideOf = (footprint: readonly Point2[], floor: number, ceiling: number) =>
  convexParts(footprint).map((outline) => dressSolid(extrude(outline, floor, ceiling), 'in', 'm'));

/** The largest volume (cm³) of a wall that stands in a room it does not belong to; rooms that overlap are left out. */
function strayWalls(doc: MapDocument): number {
  let worst = 0;
  for (const room of doc.rooms.values())
    for (const inside of insideOf(room.footprint, room.floor, room.ceiling))
      for (const b of doc.brushes.values()) {
        const other = b.room && !b.room.released && b.room.id !== room.id ? doc.rooms.get(b.room.id) : undefined;
        if (!other || b.room!.part.inset !== undefined || !boxesOverlap(brushBounds(b), brushBounds(inside), 0.05))
          continue;
        if (overlapOf(room, other)) continue;
        const shared = intersectBrushes(b, inside, DRESS_CARRIED.cap);
        if (shared) worst = Math.max(worst, brushVolume(shared));
      }
  return worst;
}

test('after random room commands no wall of one room stands in another, and what was sealed stays sealed', () => {
  let checked = 0;
  for (let seed = 0; seed < 40; seed++) {
    let n = 0;
    const roll = (): number => hashRandom(seed, 77, n++);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(roll() * list.length)]!;
    const some = (from: number, to: number): number => from + Math.floor((roll() * (to - from)) / 4) * 4;
    let doc = addRoom(emptyMap('t'), roomSpec(rectangle(0, 0, 320, 256)), DRESS, 'r0');
    for (let step = 0; step < 12; step++) {
      const id = pick([...doc.rooms.keys()]);
      const room = doc.rooms.get(id)!;
      const [x, y] = room.footprint[Math.floor(roll() * room.footprint.length)]!;
      try {
        doc = pick<() => MapDocument>([
          () =>
            addRoom(
              doc,
              roomSpec(rectangle(x + some(-300, 300), y + some(-300, 300), some(80, 300), some(80, 300)), {
                wall: pick([4, 16, 24]),
                floor: pick([0, 0, 32, 280]),
                ceiling: pick([300, 560]),
              }),
              DRESS,
            ),
          () => movePicked(doc, { rooms: new Set([id]) }, [some(-64, 64), some(-64, 64), pick([0, 0, 8])]),
          () =>
            transformPicked(doc, { rooms: new Set([id]) }, rotation(2, pick([30, 90, 27, roll() * 360]), [x, y, 0])),
          () => transformPicked(doc, { rooms: new Set([id]) }, mirror(pick([0, 1]), x + some(-40, 40))),
          () =>
            changeRoom(doc, id, {
              footprint: room.footprint.map(([px, py], i) =>
                i === 1 ? [px + some(-60, 60), py + some(-60, 60)] : [px, py],
              ),
            }),
          () => openDoorway(doc, id, pick([...doc.rooms.keys()]), { width: 64, height: 120, sill: 0 }),
          () => (doc.rooms.size > 4 ? removePicked(doc, { rooms: new Set([id]) }) : doc),
        ])();
      } catch (error) {
        if (!(error instanceof EditError)) throw error;
        continue;
      }
      const stray = strayWalls(doc);
      if (stray > 1) throw new Error(`seed ${seed} step ${step}: ${stray} cm³ of a wall stand in another room`);
    }
    const rooms = [...doc.rooms.values()];
    if (rooms.some((a, i) => rooms.slice(i + 1).some((b) => overlapOf(a, b)))) continue;
    checked++;
    const seeds = rooms.map((r, i): { id: string; at: Vec3 } => {
      const [o] = convexParts(r.footprint);
      const at = o!.reduce<Vec3>((s, p) => [s[0] + p[0] / o!.length, s[1] + p[1] / o!.length, r.floor + 20], [0, 0, 0]);
      return { id: `s${i}`, at };
    });
    const { leak } = buildStructure(doc.brushes.values(), seeds);
    if (leak) throw new Error(`seed ${seed} leaks at ${JSON.stringify(leak.trail.at(-1))}`);
  }
  expect(checked).toBeGreaterThan(5);
});

test('rooms that are lined up or spread take along what stands in them, once, unless it is picked itself', () => {
  let doc = emptyMap('t');
  [0, 1000, 3000].forEach((x, i) => {
    doc = addRoom(doc, roomSpec(rectangle(x, i * 40, 400, 300)), DRESS, `r${i}`);
    doc = placeEntity(doc, 'pointLight', [x + 100, i * 40 + 50, 100], 0, `in${i}`);
  });
  const rooms = { rooms: new Set(['r0', 'r1', 'r2']) };
  const place = (d: MapDocument, i: number) => {
    const [x, y] = d.rooms.get(`r${i}`)!.footprint[0]!;
    const at = d.entities.get(`in${i}`)!.at;
    return [at[0] - x, at[1] - y];
  };
  for (const out of [alignPicked(doc, rooms, 1, 'low', true, true), distributePicked(doc, rooms, 0, true, true)]) {
    expect([0, 1, 2].map((i) => place(out, i))).toEqual([
      [100, 50],
      [100, 50],
      [100, 50],
    ]);
    expect(out.rooms).not.toEqual(doc.rooms);
  }
  expect(place(alignPicked(doc, rooms, 1, 'low'), 2)).toEqual([100, 130]);
});
