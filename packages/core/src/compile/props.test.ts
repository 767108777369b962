import fc from 'fast-check';
import { boxSolid } from '../brush/index.ts';
import {
  openDoorway,
  addRoom,
  changeEntity,
  changeSettings,
  placeEntity,
  placeProps,
  thingOfBrushes,
  addBrushes,
} from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import { modelOf, propPose } from '../entity/index.ts';
import { applyAffine, type Vec3 } from '../math/index.ts';
import { makeCollision, PLAYER, startPlayer, stepPlayer, TIME_STEP, worldOfLevel, worldOfMap } from '../play/index.ts';
import { dressSolid } from '../surface/index.ts';
import { boxProp, crateAlone as props } from '../testing/props.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { buildLevel, type BuildResult } from './build.ts';
import {
  brightness,
  fileProps,
  levelCell,
  levelSees,
  lightPlace,
  luxAt,
  markVisibleProps,
  readLevel,
} from './level/index.ts';
import { locate } from './structure/index.ts';

const hall = (): MapDocument =>
  changeSettings(
    placeEntity(addRoom(emptyMap('hall'), roomSpec(rectangle(0, 0, 800, 800)), DRESS), 'spawn', [60, 400, 0], 0, 's'),
    { ambientLux: 0, skyNits: 0 },
  );
const withCrate = (doc: MapDocument, more: object = {}) =>
  placeProps(doc, [{ model: 'crate', at: [400, 400, 0], ...more }], props);

/** Where somebody stops who walks east from far off. */
function stopsAt(level: BuildResult['level'], y: number): number {
  const collision = makeCollision(level);
  let s = startPlayer([100, y, 0.1], 0);
  for (let i = 0; i < 600; i++)
    s = stepPlayer(collision, s, { forward: 1, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 }, TIME_STEP);
  return s.at[0];
}

test('a player stops exactly at the face of a crate, and at the edge of one that is turned', () => {
  const straight = buildLevel(withCrate(hall()).doc, 'sketch', {}, { props, direct: true }).level;
  const half = PLAYER.halfWidth;
  expect(stopsAt(straight, 400)).toBeCloseTo(400 - 32 - half, 1);
  // Turned by 45° its edge comes first, and twice as large it reaches twice as far. It is met a little beside: nobody slides round it.
  const turned = buildLevel(withCrate(hall(), { turn: 45, scale: 2 }).doc, 'sketch', {}, { props, direct: true }).level;
  expect(stopsAt(turned, 400)).toBeCloseTo(400 - 64 * Math.SQRT2 - half, 0);
  // What it does not stop walks through to the far wall.
  const { doc, made } = withCrate(hall());
  const none = changeEntity(doc, made.entities[0]!, { params: { collides: 'none' } });
  expect(stopsAt(buildLevel(none, 'sketch', {}, { props, direct: true }).level, 400)).toBeCloseTo(800 - half, 1);
});

test('the level file says what holds people back, and a map that is walked without a build says the same', () => {
  const { doc } = withCrate(hall(), { turn: 30 });
  const level = readLevel(buildLevel(doc, 'sketch', {}, { props, direct: true }).bytes);
  expect(level.meta.colliders.filter((id) => id.startsWith('prop '))).toHaveLength(1);
  const [built, drawn] = [worldOfLevel(level), worldOfMap(doc, props)];
  for (const world of [built, drawn]) {
    let s = startPlayer([100, 400, 0.1], 0);
    for (let i = 0; i < 300; i++)
      s = stepPlayer(world.still, s, { forward: 1, right: 0, jump: false, crouch: false, yaw: 0, pitch: 0 }, TIME_STEP);
    expect(s.at[0]).toBeLessThan(400);
  }
});

describe('light', () => {
  const lit = changeEntity(placeEntity(hall(), 'pointLight', [400, 400, 200], 0, 'l'), 'l', {
    params: { candela: 500, color: '#ffffff' },
  });
  const lux = (doc: MapDocument, p: Vec3): number => {
    const { level } = buildLevel(doc, 'review', {}, { props, direct: true, probes: false });
    return brightness(luxAt(level.meta.pages, level.lightTexels, lightPlace(level, level.surfaceMaterial.keys(), p)!));
  };

  test('falls beside a crate as if it were not there, and not into its shadow, whose edge lies where geometry says', () => {
    const doc = withCrate(lit).doc;
    // From 200 up, past a corner 64 up and 32 away, to the floor: 32 · 200 / 136 = 47 cm away.
    expect(lux(doc, [400 + 40, 400, 0])).toBe(0);
    expect(lux(doc, [400 + 72, 400, 0]) / lux(lit, [400 + 72, 400, 0])).toBeCloseTo(1, 2);
    const { made } = withCrate(lit);
    const clear = changeEntity(doc, [...doc.entities.keys()].at(-1)!, { params: { shades: false } });
    expect(made.entities).toHaveLength(1);
    expect(lux(clear, [400 + 40, 400, 0]) / lux(lit, [400 + 40, 400, 0])).toBeCloseTo(1, 2);
  });

  test('goes past what nobody has', () => {
    const doc = withCrate(lit).doc;
    const { level } = buildLevel(doc, 'sketch', {}, { direct: true, probes: false });
    const at = lightPlace(level, level.surfaceMaterial.keys(), [440, 400, 0])!;
    expect(brightness(luxAt(level.meta.pages, level.lightTexels, at))).toBeGreaterThan(1);
  });
});

test('what rides on a mover collides as part of it, and nowhere else', () => {
  const { doc, made } = withCrate(hall());
  const raft = dressSolid(boxSolid({ min: [340, 340, 0], max: [460, 460, 8] }), 'raft', 'oak-plank', {
    role: 'detail',
  });
  const moving = thingOfBrushes(addBrushes(doc, [raft]), 'mover', { brushes: ['raft'] }, 'm');
  const [id] = made.entities as [string];
  const riding = {
    ...moving,
    entities: new Map(moving.entities).set(id, { ...moving.entities.get(id)!, carrier: { id: 'm' } }),
  };
  const { level } = buildLevel(riding, 'sketch', {}, { props, direct: true });
  expect(level.meta.colliders.filter((c) => c.startsWith('prop '))).toEqual([]);
  expect(level.meta.bodies.find((b) => b.thing === 'm')!.solids).toHaveLength(2);
  expect(worldOfMap(riding, props).bodies.find((b) => b.part === 0)!.solids).toHaveLength(2);
});

describe('what is drawn from where', () => {
  const PLANK = boxProp('plank', [0, -8, 0], [300, 8, 6], { triangles: 44 });
  const plank = (name: string) => (name === 'plank' ? PLANK : undefined);
  /** Two rooms with a doorway between them, and one that none of them sees. */
  const rooms = (): MapDocument => {
    let doc = addRoom(emptyMap('two'), roomSpec(rectangle(0, 0, 400, 400)), DRESS, 'a');
    doc = addRoom(doc, roomSpec(rectangle(416, 0, 816, 400)), DRESS, 'b');
    doc = openDoorway(doc, 'a', 'b', { width: 96, height: 208, sill: 0 });
    return placeEntity(doc, 'spawn', [60, 60, 0], 0, 's');
  };
  const built = (doc: MapDocument) => buildLevel(doc, 'sketch', {}, { props: plank, direct: true, probes: false });
  const laid = (at: Vec3, more: object = {}) => placeProps(rooms(), [{ model: 'plank', at, ...more }], plank).doc;
  const cellsOf = ({ level }: BuildResult, k = 0): number[] => [
    ...level.propCell.slice(level.propCellFirst[k]!, level.propCellFirst[k + 1]!),
  ];

  test('is every cell that a prop reaches into, whichever its pivot lies in', () => {
    const through = built(laid([200, 200, 40]));
    const [here, there] = [levelCell(through.level, [200, 200, 60]), levelCell(through.level, [480, 200, 60])];
    expect(here).not.toBe(there);
    expect(cellsOf(through)).toEqual(expect.arrayContaining([here, there]));
    // Turned about it reaches nothing but its own room.
    const back = built(laid([350, 200, 40], { turn: 180 }));
    expect(cellsOf(back)).toContain(levelCell(back.level, [200, 200, 60]));
    expect(cellsOf(back)).not.toContain(levelCell(back.level, [480, 200, 60]));
    // From within a wall it reaches out of it.
    expect(cellsOf(built(laid([408, 60, 40])))).toContain(levelCell(through.level, [600, 60, 60]));
  });

  test('holds for each place of it, however it is turned, leant and grown', () => {
    const { structure, level } = built(rooms());
    const c = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(
        c(-100, 900),
        c(-100, 500),
        c(-50, 300),
        c(0, 360),
        c(-1, 1),
        c(-1, 1),
        c(0.2, 2),
        fc.array(fc.tuple(c(0, 1), c(0, 1), c(0, 1)), { minLength: 12, maxLength: 12 }),
        (x, y, z, turn, ux, uy, scale, parts) => {
          const doc = placeProps(
            rooms(),
            [{ model: 'plank', at: [x, y, z], turn, up: [ux, uy, 0.5], scale }],
            plank,
          ).doc;
          const [filed] = fileProps(doc, structure, plank);
          const thing = doc.entities.get(filed!.thing)!;
          const pose = propPose(modelOf(thing)!, thing.at, thing.turn);
          const { min, max } = PLANK.bounds;
          for (const part of parts) {
            const p = applyAffine(
              pose,
              [0, 1, 2].map((a) => min[a]! + (max[a]! - min[a]!) * part[a]!) as unknown as Vec3,
            );
            const cell = locate(structure.blocks, p);
            if (typeof cell === 'number' && structure.cells[cell]!.inside) expect(filed!.cells).toContain(cell);
          }
        },
      ),
    );
    expect(level.propCellFirst).toEqual(Uint32Array.of(0));
  });

  test('counts in the costs of cells, of what is seen from them, and in the report', () => {
    const [bare, full] = [built(rooms()), built(laid([200, 200, 40]))];
    const inside = cellsOf(full);
    for (let cell = 0; cell < full.level.meta.cells; cell++) {
      const more = inside.includes(cell) ? 44 : 0;
      expect(full.level.cellTriangles[cell]! - bare.level.cellTriangles[cell]!).toBe(more);
      const seen = inside.some((c) => levelSees(full.level, cell, c)) ? 44 : 0;
      expect(full.level.cellSeenTriangles[cell]! - bare.level.cellSeenTriangles[cell]!).toBe(seen);
    }
    expect(full.report.props).toEqual({ count: 1, triangles: 44, lit: 8 });
    const marks = new Uint8Array(1);
    for (let cell = 0; cell < full.level.meta.cells; cell++) {
      markVisibleProps(full.level, cell, marks);
      expect(marks[0]).toBe(inside.some((c) => levelSees(full.level, cell, c)) ? 1 : 0);
    }
    // Whoever is nowhere sees all, and in a level without these lists too.
    markVisibleProps(full.level, -2, marks);
    expect(marks[0]).toBe(1);
    marks[0] = 0;
    markVisibleProps({ ...full.level, propCellFirst: undefined }, inside[0]!, marks);
    expect(marks[0]).toBe(1);
  });

  test('is also where what it rides on takes it', () => {
    const at: Vec3 = [100, 100, 40];
    const raft = dressSolid(boxSolid({ min: [90, 90, 20], max: [140, 140, 30] }), 'raft', 'oak-plank', {
      role: 'detail',
    });
    let doc = thingOfBrushes(addBrushes(rooms(), [raft]), 'lift', { brushes: ['raft'] }, 'm');
    doc = changeEntity(doc, 'm', { params: { stops: [{ name: '', at: [420, 0, 0] }] } });
    const { doc: placed, made } = placeProps(doc, [{ model: 'plank', at, scale: 0.2 }], plank);
    const id = made.entities![0]!;
    const riding = (carrier: object) => ({
      ...placed,
      entities: new Map(placed.entities).set(id, { ...placed.entities.get(id)!, ...carrier }),
    });
    const { structure } = built(doc);
    const cells = (carrier: object) => fileProps(riding(carrier), structure, plank)[0]!.cells;
    const there = locate(structure.blocks, [600, 110, 60]);
    expect(cells({})).not.toContain(there);
    expect(cells({ carrier: { id: 'm' } })).toEqual(expect.arrayContaining([...cells({}), there]));
  });
});
