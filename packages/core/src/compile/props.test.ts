import { boxSolid } from '../brush/index.ts';
import {
  addRoom,
  changeEntity,
  changeSettings,
  placeEntity,
  placeProps,
  thingOfBrushes,
  addBrushes,
} from '../edit/index.ts';
import { emptyMap, type MapDocument } from '../map/index.ts';
import type { Vec3 } from '../math/index.ts';
import { makeCollision, PLAYER, startPlayer, stepPlayer, TIME_STEP, worldOfLevel, worldOfMap } from '../play/index.ts';
import { dressSolid } from '../surface/index.ts';
import { crateAlone as props } from '../testing/props.ts';
import { DRESS, rectangle, roomSpec } from '../testing/rooms.ts';
import { buildLevel, type BuildResult } from './build.ts';
import { brightness, lightPlace, luxAt, readLevel } from './level/index.ts';

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
  const moving = thingOfBrushes(addBrushes(doc, [raft]), 'mover', new Set(['raft']), 'm');
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
