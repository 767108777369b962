import { PLAYER, type Vec3 } from '@yesca/core';
import { useInks } from '../../panes/inks.ts';

/** How wide a place somebody takes, cm. */
export const PERSON_WIDTH = PLAYER.halfWidth * 2 + 30;

const HEAD = 22;
const { standing: TALL } = PLAYER;

/** Parts of a figure as tall as the player: a capsule each, from its middle, cm. */
const PARTS: readonly (readonly [at: Vec3, radius: number, long: number])[] = [
  [[0, 0, TALL - HEAD / 2], HEAD / 2, 2],
  [[0, 0, TALL * 0.66], 16, TALL * 0.2],
  [[-8, 0, TALL * 0.25], 8, TALL * 0.36],
  [[8, 0, TALL * 0.25], 8, TALL * 0.36],
  [[-21, 0, TALL * 0.62], 5, TALL * 0.3],
  [[21, 0, TALL * 0.62], 5, TALL * 0.3],
];

/** Somebody as tall as the player, to see sizes by. */
export function Person({ at }: { at: Vec3 }) {
  const inks = useInks();
  return (
    <group position={[at[0], at[1], at[2]]}>
      <hemisphereLight args={['#ffffff', '#8a7c64', 5]} position={[0, 0, 1]} />
      {PARTS.map(([place, radius, long], k) => (
        <mesh key={k} position={[place[0], place[1], place[2]]} rotation={[Math.PI / 2, 0, 0]}>
          <capsuleGeometry args={[radius, long, 4, 16]} />
          <meshLambertMaterial color={inks.soft} />
        </mesh>
      ))}
    </group>
  );
}
