import type RAPIER from '@dimforge/rapier3d-compat';
import { PLAYER, TIME_STEP } from '@yesca/core';

/** The peer's walker, as large as ours: a body that its character controller moves. Metres; `stepsOnMoving` lets it climb what moves. */
export function rapierWalker(
  rapier: typeof RAPIER,
  world: RAPIER.World,
  at: readonly [number, number, number],
  stepsOnMoving: boolean,
) {
  const body = world.createRigidBody(rapier.RigidBodyDesc.kinematicPositionBased().setTranslation(...at));
  const collider = world.createCollider(
    rapier.ColliderDesc.cuboid(PLAYER.halfWidth / 100, PLAYER.halfWidth / 100, PLAYER.standing / 200),
    body,
  );
  const controller = world.createCharacterController(0.001);
  controller.setUp({ x: 0, y: 0, z: 1 });
  controller.enableAutostep(PLAYER.step / 100, 0.1, stepsOnMoving);
  controller.enableSnapToGround(PLAYER.step / 100);
  /** Walks some steps from where it stands, each after what `before` does and towards what `yaw` says (degrees). */
  const walk = (steps: number, yaw: (i: number) => number, before?: (i: number) => void): void => {
    let fall = 0;
    for (let i = 0; i < steps; i++) {
      before?.(i);
      const way = (yaw(i) * Math.PI) / 180;
      fall = controller.computedGrounded() ? 0 : fall - 14 * TIME_STEP;
      controller.computeColliderMovement(collider, {
        x: Math.cos(way) * 3.6 * TIME_STEP,
        y: Math.sin(way) * 3.6 * TIME_STEP,
        z: fall * TIME_STEP,
      });
      const moved = controller.computedMovement();
      const from = body.translation();
      body.setNextKinematicTranslation({ x: from.x + moved.x, y: from.y + moved.y, z: from.z + moved.z });
      world.step();
    }
  };
  return { body, walk };
}
