import RAPIER from '@dimforge/rapier3d-compat';
import { asBrushes, strewnBoxes } from './scenes.ts';
import {
  makeCollision,
  startPlayer,
  stepPlayer,
  sweepPlanes,
  TIME_STEP,
  brushBounds,
  type Box,
  type PlayerInput,
} from '@yesca/core';
import { rapierWalker } from './rapier-walker.ts';
import { best, note } from './table.ts';

export async function player(): Promise<void> {
  await RAPIER.init();
  const count = 5_000;
  const side = 12_000;
  const boxes = [
    { min: [0, 0, -16], max: [side, side, 0] } as Box,
    ...strewnBoxes(count - 1).map((b, i): Box => {
      const [x, y] = [((i * 7919) % 997) / 997, ((i * 104729) % 1009) / 1009];
      return {
        min: [x * side, y * side, 0],
        max: [x * side + b.max[0] - b.min[0], y * side + b.max[1] - b.min[1], 20 + (i % 9) * 20],
      };
    }),
  ];
  const brushes = asBrushes(boxes);
  const planes = brushes.map(sweepPlanes);
  const first = planes.reduce((list, p) => [...list, list.at(-1)! + p.length / 4], [0]);
  const collision = makeCollision({
    colliderBounds: Float64Array.from(brushes.flatMap((b) => [...brushBounds(b).min, ...brushBounds(b).max])),
    colliderFirst: Uint32Array.from(first),
    colliderPlane: Float64Array.from(planes.flat()),
  });
  const steps = 2_000;
  const input = (i: number): PlayerInput => ({
    forward: 1,
    right: 0,
    jump: i % 200 < 4,
    crouch: false,
    yaw: (i / 90) * 60,
    pitch: 0,
  });
  const ours = best(() => {
    let s = startPlayer([side / 2, side / 2, 200], 0);
    for (let i = 0; i < steps; i++) s = stepPlayer(collision, s, input(i), TIME_STEP);
  });
  const world = new RAPIER.World({ x: 0, y: 0, z: -14 });
  world.timestep = TIME_STEP;
  for (const b of boxes) {
    const half = [0, 1, 2].map((k) => (b.max[k]! - b.min[k]!) / 200) as [number, number, number];
    const middle = [0, 1, 2].map((k) => (b.max[k]! + b.min[k]!) / 200) as [number, number, number];
    world.createCollider(RAPIER.ColliderDesc.cuboid(...half).setTranslation(...middle));
  }
  const start = [side / 200, side / 200, 2.9] as const;
  const { body, walk } = rapierWalker(RAPIER, world, start, false);
  world.step();
  const peer = best(() => {
    const [x, y, z] = start;
    body.setTranslation({ x, y, z }, true);
    walk(steps, (i) => input(i).yaw);
  }, 2);
  note(
    `${steps.toLocaleString('en')} player steps among ${count.toLocaleString('en')} brushes`,
    ours,
    peer,
    '≥ 20 ×',
    'rapier controller and world step',
  );
}
