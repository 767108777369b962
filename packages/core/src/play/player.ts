import type { Vec3 } from '../math/index.ts';
import { newSweep, sweepBox, type Collision, type Sweep } from './collide.ts';
import { PLAYER } from './constants.ts';

/** What a player wants in one step. Angles in degrees: yaw counter-clockwise from east, pitch upward. */
export interface PlayerInput {
  /** −1 to 1, forward and to the right. */
  readonly forward: number;
  readonly right: number;
  readonly jump: boolean;
  readonly crouch: boolean;
  readonly yaw: number;
  readonly pitch: number;
}

export interface PlayerState {
  /** Between the feet, cm. */
  readonly at: Vec3;
  /** cm/s. */
  readonly velocity: Vec3;
  readonly yaw: number;
  readonly pitch: number;
  readonly onGround: boolean;
  readonly crouching: boolean;
  /** The jump key was down in the last step: holding it does not jump again. */
  readonly jumpHeld: boolean;
}

export const startPlayer = (at: Vec3, yaw: number): PlayerState => ({
  at,
  velocity: [0, 0, 0],
  yaw,
  pitch: 0,
  onGround: false,
  crouching: false,
  jumpHeld: false,
});

export const playerHeight = (crouching: boolean): number => (crouching ? PLAYER.crouching : PLAYER.standing);
export const eyeOf = (s: PlayerState): Vec3 => [
  s.at[0],
  s.at[1],
  s.at[2] + (s.crouching ? PLAYER.eyeCrouching : PLAYER.eyeStanding),
];

const sweep: Sweep = newSweep();
const W = PLAYER.halfWidth;

/** Sweeps the player's box from a place of its feet. */
function move(c: Collision, at: Vec3, crouching: boolean, dx: number, dy: number, dz: number): Sweep {
  const h = playerHeight(crouching) / 2;
  return sweepBox(c, [at[0], at[1], at[2] + h], W, W, h, dx, dy, dz, sweep);
}

/** Whether a player fits somewhere. */
export const fits = (c: Collision, at: Vec3, crouching: boolean): boolean => !move(c, at, crouching, 0, 0, 0).stuck;

/** One step of the simulation: the same state, input and level always give the same next state. */
export function stepPlayer(c: Collision, s: PlayerState, input: PlayerInput, dt: number): PlayerState {
  const crouching = input.crouch || (s.crouching && !fits(c, s.at, false));
  let onGround = s.onGround && s.velocity[2] <= 1 && standsOn(c, s.at, crouching);
  let [vx, vy, vz] = s.velocity;
  if (onGround) {
    const speed = Math.hypot(vx, vy);
    const kept = speed > 0 ? Math.max(0, speed - Math.max(speed, 100) * PLAYER.friction * dt) / speed : 0;
    vx *= kept;
    vy *= kept;
    vz = 0;
  }
  const yaw = (input.yaw * Math.PI) / 180;
  const wishX = Math.cos(yaw) * input.forward + Math.sin(yaw) * input.right;
  const wishY = Math.sin(yaw) * input.forward - Math.cos(yaw) * input.right;
  const wish = Math.hypot(wishX, wishY);
  if (wish > 0) {
    const top = (crouching ? PLAYER.crouchSpeed : PLAYER.walkSpeed) * Math.min(1, wish);
    const along = (vx * wishX + vy * wishY) / wish;
    const gain = Math.min(
      Math.max(0, top - along),
      (onGround ? PLAYER.groundAcceleration : PLAYER.airAcceleration) * top * dt,
    );
    vx += (wishX / wish) * gain;
    vy += (wishY / wish) * gain;
  }
  let jumped = false;
  if (input.jump && !s.jumpHeld && onGround) {
    vz = Math.sqrt(2 * PLAYER.gravity * PLAYER.jump);
    onGround = false;
    jumped = true;
  }
  const fall = onGround ? 0 : PLAYER.gravity * dt;
  // Half of the fall before the move and half after: the height of a jump does not depend on the step.
  const moved = slide(c, s.at, crouching, [vx, vy, vz - fall / 2], dt);
  let at = moved.at;
  let velocity: Vec3 = moved.velocity;
  if (onGround && moved.blocked) {
    const stepped = stepUp(c, s.at, crouching, [vx, vy, 0], dt);
    if (stepped && horizontal(stepped.at, s.at) > horizontal(at, s.at) + 1e-4) ({ at, velocity } = stepped);
  }
  if (onGround && !jumped) {
    // Follow stairs and slopes down instead of flying off them.
    const down = move(c, at, crouching, 0, 0, -PLAYER.step);
    if (!down.stuck && down.fraction < 1 && down.nz >= PLAYER.floorNormal)
      at = [at[0], at[1], at[2] - PLAYER.step * down.fraction];
    else if (!standsOn(c, at, crouching)) onGround = false;
  } else {
    velocity = [velocity[0], velocity[1], velocity[2] - fall / 2];
    onGround = velocity[2] <= 1 && standsOn(c, at, crouching);
    if (onGround) velocity = [velocity[0], velocity[1], 0];
  }
  return {
    at,
    velocity,
    yaw: input.yaw,
    pitch: Math.max(-89, Math.min(89, input.pitch)),
    onGround,
    crouching,
    jumpHeld: input.jump,
  };
}

const horizontal = (a: Vec3, b: Vec3): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

function standsOn(c: Collision, at: Vec3, crouching: boolean): boolean {
  const down = move(c, at, crouching, 0, 0, -0.5);
  return !down.stuck && down.fraction < 1 && down.nz >= PLAYER.floorNormal;
}

interface Moved {
  readonly at: Vec3;
  readonly velocity: Vec3;
  readonly blocked: boolean;
}

/** Moves for a time, sliding along whatever is met: at most four surfaces, and along the crease of two. */
function slide(c: Collision, start: Vec3, crouching: boolean, velocity: Vec3, time: number): Moved {
  let at = start;
  let [vx, vy, vz] = velocity;
  let left = time;
  let blocked = false;
  const met: Vec3[] = [];
  for (let bump = 0; bump < 4 && left > 1e-9; bump++) {
    const hit = move(c, at, crouching, vx * left, vy * left, vz * left);
    if (hit.stuck) return { at, velocity: [0, 0, 0], blocked: true };
    const f = hit.fraction;
    at = [at[0] + vx * left * f, at[1] + vy * left * f, at[2] + vz * left * f];
    if (f === 1) break;
    left *= 1 - f;
    const n: Vec3 = [hit.nx, hit.ny, hit.nz];
    if (n[2] < PLAYER.floorNormal) blocked = true;
    met.push(n);
    const into = vx * n[0] + vy * n[1] + vz * n[2];
    vx -= n[0] * into;
    vy -= n[1] * into;
    vz -= n[2] * into;
    const other = met.find((m) => m !== n && vx * m[0] + vy * m[1] + vz * m[2] < -1e-6);
    if (other) {
      if (met.length > 2) return { at, velocity: [0, 0, 0], blocked };
      const cx = n[1] * other[2] - n[2] * other[1];
      const cy = n[2] * other[0] - n[0] * other[2];
      const cz = n[0] * other[1] - n[1] * other[0];
      const l2 = cx * cx + cy * cy + cz * cz;
      const k = l2 > 1e-9 ? (vx * cx + vy * cy + vz * cz) / l2 : 0;
      [vx, vy, vz] = [cx * k, cy * k, cz * k];
    }
  }
  return { at, velocity: [vx, vy, vz], blocked };
}

/** Up by a step, forward, and down again; null when that ends on nothing to stand on. */
function stepUp(c: Collision, at: Vec3, crouching: boolean, velocity: Vec3, time: number): Moved | null {
  const up = move(c, at, crouching, 0, 0, PLAYER.step);
  if (up.stuck) return null;
  const rise = PLAYER.step * up.fraction;
  const forward = slide(c, [at[0], at[1], at[2] + rise], crouching, velocity, time);
  const down = move(c, forward.at, crouching, 0, 0, -rise);
  if (down.stuck || (down.fraction < 1 && down.nz < PLAYER.floorNormal)) return null;
  return {
    at: [forward.at[0], forward.at[1], forward.at[2] - rise * down.fraction],
    velocity: forward.velocity,
    blocked: forward.blocked,
  };
}
