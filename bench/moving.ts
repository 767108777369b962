import RAPIER from '@dimforge/rapier3d-compat';
import {
  beginWorld,
  boxSolid,
  dressSolid,
  emptyMap,
  newPerson,
  stepWorld,
  TIME_STEP,
  worldOfMap,
  type Brush,
  type Entity,
  type PlayerInput,
  type Vec3,
} from '@yesca/core';
import { rapierWalker } from './rapier-walker.ts';
import { best } from './table.ts';

/** Platforms that go up and down, and doors that wait: in rows, far enough apart to be walked between. */
const PLATFORMS = 500;
const WAITING = 1_500;
const placeOf = (k: number): Vec3 => [(k % 25) * 260 - 3250, Math.floor(k / 25) * 260 - 2600, 40];
const TRAVEL = 160;
const PERIOD = 2;

const block = (id: string, min: Vec3, max: Vec3, owner?: string): Brush => ({
  ...dressSolid(boxSolid({ min, max }), id, 'm'),
  ...(owner ? { owner: { id: owner } } : {}),
});

/** One player among 500 platforms that move and 1,500 things that wait, ours and the peer's, in ms a step. */
export async function measureMoving(): Promise<{ ours: number; peer: number }> {
  const brushes = new Map<string, Brush>([['floor', block('floor', [-9000, -9000, -20], [9000, 9000, 0])]]);
  const entities = new Map<string, Entity>();
  for (let k = 0; k < PLATFORMS; k++) {
    const [x, y, z] = placeOf(k);
    const track = [{ at: PERIOD / 2, move: [0, 0, TRAVEL] as Vec3, turn: [0, 0, 0] as Vec3 }];
    entities.set(`m${k}`, { id: `m${k}`, kind: 'mover', at: [x, y, z], turn: 0, params: { track } });
    brushes.set(`b${k}`, block(`b${k}`, [x - 50, y - 50, z], [x + 50, y + 50, z + 20], `m${k}`));
  }
  for (let k = 0; k < WAITING; k++)
    entities.set(`d${k}`, {
      id: `d${k}`,
      kind: 'door',
      at: [(k % 50) * 100, 8000, Math.floor(k / 50) * 100],
      turn: 0,
      params: {},
    });
  const world = worldOfMap({ ...emptyMap('moving'), brushes, entities });
  const steps = 240;
  const input = (i: number): PlayerInput => ({
    forward: 1,
    right: 0,
    jump: i % 120 < 4,
    crouch: false,
    yaw: i / 2,
    pitch: 0,
  });
  const ours = best(() => {
    let state = beginWorld(world, [newPerson([-3120, -2470, 0.1], 0)]);
    for (let i = 0; i < steps; i++) state = stepWorld(world, state, [input(i)], TIME_STEP).state;
  });
  await RAPIER.init();
  const peerWorld = new RAPIER.World({ x: 0, y: 0, z: -14 });
  peerWorld.timestep = TIME_STEP;
  peerWorld.createCollider(RAPIER.ColliderDesc.cuboid(90, 90, 0.1).setTranslation(0, 0, -0.1));
  const platforms = Array.from({ length: PLATFORMS }, (_, k) => {
    const [x, y, z] = placeOf(k).map((c) => c / 100) as [number, number, number];
    const body = peerWorld.createRigidBody(RAPIER.RigidBodyDesc.kinematicPositionBased().setTranslation(x, y, z + 0.1));
    peerWorld.createCollider(RAPIER.ColliderDesc.cuboid(0.5, 0.5, 0.1), body);
    return { body, x, y, z: z + 0.1 };
  });
  const { walk } = rapierWalker(RAPIER, peerWorld, [-31.2, -24.7, 0.9], true);
  const lift = (i: number): void => {
    const share = Math.abs(((i * TIME_STEP) % PERIOD) / (PERIOD / 2) - 1);
    const up = (TRAVEL / 100) * (1 - share * share * (3 - 2 * share));
    for (const p of platforms) p.body.setNextKinematicTranslation({ x: p.x, y: p.y, z: p.z + up });
  };
  const peer = best(() => walk(steps, (i) => input(i).yaw, lift));
  return { ours: ours / steps, peer: peer / steps };
}
