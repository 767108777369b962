import { cosSin, cross, dot, hypot, scale, type Vec3 } from '../math/index.ts';
import { newSweep, sweepBox, type Collision, type Sweep } from './collide.ts';
import { PLAYER, SKIN } from './constants.ts';

/** What a player wants in one step. Angles in degrees: yaw counter-clockwise from east, pitch upward. */
export interface PlayerInput {
  /** −1 to 1, forward and to the right. */
  readonly forward: number;
  readonly right: number;
  readonly jump: boolean;
  readonly crouch: boolean;
  /** Opens, pulls, picks up what one looks at. */
  readonly use?: boolean;
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
  /** The use key was down in the last step. */
  readonly useHeld: boolean;
  /** Which moving body carries the feet, −1 for none. */
  readonly standsOn: number;
}

/** What a player is in. */
export interface Medium {
  /** How high the water stands round the body, cm above the feet; 0 for none. */
  readonly water: number;
  /** The eyes are under water. */
  readonly under: boolean;
  readonly ladder: boolean;
}

export const IN_AIR: Medium = { water: 0, under: false, ladder: false };

export const startPlayer = (at: Vec3, yaw: number): PlayerState => ({
  at,
  velocity: [0, 0, 0],
  yaw,
  pitch: 0,
  onGround: false,
  crouching: false,
  jumpHeld: false,
  useHeld: false,
  standsOn: -1,
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
export function stepPlayer(
  c: Collision,
  s: PlayerState,
  given: PlayerInput,
  dt: number,
  medium: Medium = IN_AIR,
): PlayerState {
  const start = pushedOut(c, s.at, s.crouching);
  const swims = medium.water >= PLAYER.swimsFrom;
  // Under water one goes down with the key for crouching, and stays as long as one is.
  const crouching = (given.crouch && !swims) || (s.crouching && !fits(c, start, false));
  if (medium.ladder && climbs(s, given)) return climb(c, start, crouching, given, dt);
  if (swims) return swim(c, s, start, crouching, given, dt, medium);
  // Wading slows down, the deeper the more.
  const wade = medium.water > 0 ? 1 - 0.4 * Math.min(1, medium.water / PLAYER.swimsFrom) : 1;
  const input = wade === 1 ? given : { ...given, forward: given.forward * wade, right: given.right * wade };
  let [vx, vy] = s.velocity;
  let vz = s.velocity[2];
  // What is under the feet decides, not which way one moves: walking up a ramp is walking.
  let ground = s.onGround ? (groundUnder(c, start, crouching, NEAR) ?? wedged(c, start, crouching, dt)) : null;
  const before = hypot(vx, vy);
  if (ground) {
    const kept = before > 0 ? Math.max(0, before - Math.max(before, 100) * PLAYER.friction * dt) / before : 0;
    vx *= kept;
    vy *= kept;
    vz = 0;
  }
  const [cos, sin] = cosSin(input.yaw);
  const wishX = cos * input.forward + sin * input.right;
  const wishY = sin * input.forward - cos * input.right;
  const wish = hypot(wishX, wishY);
  if (wish > 0) {
    const top = (crouching ? PLAYER.crouchSpeed : PLAYER.walkSpeed) * Math.min(1, wish);
    const along = (vx * wishX + vy * wishY) / wish;
    const most = Math.max(top, hypot(vx, vy));
    const gain = Math.min(
      Math.max(0, top - along),
      (ground ? PLAYER.groundAcceleration : PLAYER.airAcceleration) * top * dt,
    );
    vx += (wishX / wish) * gain;
    vy += (wishY / wish) * gain;
    // A wall takes the part of the speed that runs into it; wishing on must not add up to more than walking along it.
    const speed = hypot(vx, vy);
    if (speed > most) [vx, vy] = [(vx * most) / speed, (vy * most) / speed];
  }
  if (input.jump && !s.jumpHeld && ground) {
    vz = Math.sqrt(2 * PLAYER.gravity * PLAYER.jump);
    ground = null;
  }
  let at: Vec3;
  let velocity: Vec3;
  if (ground) {
    let moved = walk(c, start, crouching, [vx, vy], ground, dt);
    if (moved.blocked) {
      const stepped = stepUp(c, start, crouching, [vx, vy], dt);
      if (stepped && horizontal(stepped.at, start) > horizontal(moved.at, start) + 1e-4) moved = stepped;
    }
    ({ at, velocity } = moved);
    // Follow stairs and slopes down instead of flying off them; a hair further than a step, so that whole steps count.
    ground = groundUnder(c, at, crouching, PLAYER.step + 4 * SKIN) ?? wedged(c, at, crouching, dt);
    if (ground) at = [at[0], at[1], at[2] - ground.below];
  } else {
    // Half of the fall before the move and half after: the height of a jump does not depend on the step.
    const fall = PLAYER.gravity * dt;
    ({ at, velocity } = slide(c, start, crouching, [vx, vy, vz - fall / 2], dt));
    velocity = [velocity[0], velocity[1], velocity[2] - fall / 2];
    ground = groundUnder(c, at, crouching, NEAR);
    // Still rising off the floor is not landing.
    if (ground && velocity[0] * ground.normal[0] + velocity[1] * ground.normal[1] + velocity[2] * ground.normal[2] > 1)
      ground = null;
    ground ??= velocity[2] <= 0 && horizontal(at, start) < HELD ? wedged(c, at, crouching, dt) : null;
    if (ground) velocity = [velocity[0], velocity[1], 0];
  }
  return {
    at,
    velocity,
    yaw: input.yaw,
    pitch: Math.max(-89, Math.min(89, input.pitch)),
    onGround: ground !== null,
    crouching,
    jumpHeld: input.jump,
    useHeld: input.use ?? false,
    standsOn: ground?.body ?? -1,
  };
}

/** What stays of a state whatever one does. */
const looking = (input: PlayerInput, crouching: boolean) => ({
  yaw: input.yaw,
  pitch: Math.max(-89, Math.min(89, input.pitch)),
  crouching,
  jumpHeld: input.jump,
  useHeld: input.use ?? false,
  standsOn: -1,
});

/** Who looks further down than this (degrees) goes down a ladder. */
const LOOKS_DOWN = -20;

/** Whether somebody at a ladder holds on to it: not who jumps off, or walks away from its foot. */
function climbs(s: PlayerState, input: PlayerInput): boolean {
  if (input.jump) return !s.jumpHeld && !s.onGround;
  const up = input.forward * (input.pitch < LOOKS_DOWN ? -1 : 1);
  return !s.onGround || up > 0;
}

/** Up and down a ladder, by where one looks and which way one goes; a jump pushes off it. */
function climb(c: Collision, start: Vec3, crouching: boolean, input: PlayerInput, dt: number): PlayerState {
  const [cos, sin] = cosSin(input.yaw);
  const kept = looking(input, crouching);
  if (input.jump) {
    const off: Vec3 = [-cos * 220, -sin * 220, 160];
    return { ...kept, at: start, velocity: off, onGround: false };
  }
  const up = input.forward * (input.pitch < LOOKS_DOWN ? -1 : 1);
  // Forward as well, so that one steps off where the ladder ends.
  const plan = input.forward * 90;
  const side = input.right * 100;
  const velocity: Vec3 = [cos * plan + sin * side, sin * plan - cos * side, up * PLAYER.climbSpeed];
  const { at } = slide(c, start, crouching, velocity, dt);
  const ground = up < 0 ? groundUnder(c, at, crouching, NEAR) : null;
  return { ...kept, at, velocity, onGround: ground !== null, standsOn: ground?.body ?? -1 };
}

/** How fast water takes on one's speed, and gives it back, each second. */
const WATER_DRAG = 5;

/** How far (cm) the feet rise when one gets out over an edge. */
const OUT_OF_WATER = PLAYER.swimsFrom + PLAYER.step + 20;

/** Through water where one looks; up with the key for jumping, down with that for crouching. At the surface a jump gets one out. */
function swim(
  c: Collision,
  s: PlayerState,
  start: Vec3,
  crouching: boolean,
  input: PlayerInput,
  dt: number,
  { under, water }: Medium,
): PlayerState {
  const [cos, sin] = cosSin(input.yaw);
  const [level, rise] = cosSin(Math.max(-89, Math.min(89, input.pitch)));
  const v = PLAYER.swimSpeed;
  // At the surface nobody swims out of the water by looking up.
  const climbs = input.forward * rise;
  const up = (under || climbs < 0 ? climbs : 0) * v + (input.jump ? v : 0) - (input.crouch ? v : 0);
  const wish: Vec3 = [
    (cos * level * input.forward + sin * input.right) * v,
    (sin * level * input.forward - cos * input.right) * v,
    up || (under ? -12 : (PLAYER.swimsFrom + 16 - water) * -1.5),
  ];
  // The water holds who is faster the more: stepped from the end of the step, which is never too far however long it is.
  const k = (WATER_DRAG * dt) / (1 + WATER_DRAG * dt);
  let velocity: Vec3 = [
    s.velocity[0] + (wish[0] - s.velocity[0]) * k,
    s.velocity[1] + (wish[1] - s.velocity[1]) * k,
    s.velocity[2] + (wish[2] - s.velocity[2]) * k,
  ];
  if (input.jump && !under) {
    // Against an edge one pulls oneself up; in the open one only bobs.
    const edge = input.forward > 0 && move(c, start, crouching, cos * 4, sin * 4, 0).fraction < 1;
    velocity = [velocity[0], velocity[1], Math.sqrt(2 * PLAYER.gravity * (edge ? OUT_OF_WATER : PLAYER.jump / 3))];
  }
  const moved = slide(c, start, crouching, velocity, dt);
  const ground = groundUnder(c, moved.at, crouching, NEAR);
  return {
    ...looking(input, crouching),
    at: moved.at,
    velocity: moved.velocity,
    onGround: ground !== null,
    standsOn: ground?.body ?? -1,
  };
}

/** Ground this near below the feet (cm) carries. */
const NEAR = 0.5;

const horizontal = (a: Vec3, b: Vec3): number => hypot(a[0] - b[0], a[1] - b[1]);

interface Ground {
  readonly normal: Vec3;
  /** How far below the feet, cm, less the skin. */
  readonly below: number;
  /** The moving body whose floor it is, −1 for what stands still. */
  readonly body: number;
}

/** The floor to stand on within reach below the feet, if any. */
function groundUnder(c: Collision, at: Vec3, crouching: boolean, reach: number): Ground | null {
  const down = move(c, at, crouching, 0, 0, -reach);
  if (down.stuck || down.floorFraction === 1) return null;
  // Something steep may touch as well, a hair sooner: it leans against the feet, the floor carries them.
  if ((down.floorFraction - down.fraction) * reach > 4 * SKIN) return null;
  return { normal: [down.floorX, down.floorY, down.floorZ], below: down.fraction * reach, body: down.floorBody };
}

/** Who falls less than this (cm) in a step is held. */
const HELD = 0.01;

/**
 * Between steep faces that hold the body although none of them is a floor, one stands as on one: else gravity would press
 * into the cleft for good. Null where falling gets on.
 */
function wedged(c: Collision, at: Vec3, crouching: boolean, dt: number): Ground | null {
  const fallen = slide(c, at, crouching, [0, 0, -PLAYER.gravity * dt * 4], dt);
  const d = hypot(fallen.at[0] - at[0], fallen.at[1] - at[1], fallen.at[2] - at[2]);
  return d < HELD ? { normal: [0, 0, 1], below: 0, body: -1 } : null;
}

/** How often pushing out of solids is tried before giving up for this step. */
const PUSHES = 16;

/** Out of one solid after another, each the shortest way; null when that ends in no free place. */
export function pushedFree(c: Collision, at: Vec3, crouching: boolean): Vec3 | null {
  let p = at;
  for (let i = 0; i < PUSHES; i++) {
    const hit = move(c, p, crouching, 0, 0, 0);
    if (!hit.stuck) return p;
    const by = hit.depth + SKIN;
    p = [p[0] + hit.nx * by, p[1] + hit.ny * by, p[2] + hit.nz * by];
  }
  return null;
}

/** A place that lies in no solid, or as little as can be. */
function pushedOut(c: Collision, at: Vec3, crouching: boolean): Vec3 {
  const free = pushedFree(c, at, crouching);
  if (free) return free;
  // Between solids that lean on each other the shortest ways lead to and fro: take the nearest free place round about.
  for (let r = SKIN; r <= 8; r *= 2)
    for (const [x, y, z] of ROUND) {
      const q: Vec3 = [at[0] + x * r, at[1] + y * r, at[2] + z * r];
      if (fits(c, q, crouching)) return q;
    }
  return at;
}

/** The 26 directions of the neighbours in a cube. */
const ROUND: readonly Vec3[] = [-1, 0, 1].flatMap((x) =>
  [-1, 0, 1].flatMap((y) => [1, 0, -1].flatMap((z): Vec3[] => (x || y || z ? [[x, y, z]] : []))),
);

interface Moved {
  readonly at: Vec3;
  readonly velocity: Vec3;
  readonly blocked: boolean;
}

/** The way along a floor in a direction of the plan, as long as that. */
function alongFloor([x, y]: readonly [number, number], n: Vec3): Vec3 {
  const z = -(x * n[0] + y * n[1]) / n[2];
  const speed = hypot(x, y);
  const k = speed > 0 ? speed / hypot(x, y, z) : 0;
  return [x * k, y * k, z * k];
}

/** Takes away what of a movement on the plan runs into a wall with outward normal `n`. */
function offWall(v: readonly [number, number], n: Vec3): [number, number] {
  const flat = hypot(n[0], n[1]);
  if (flat < 1e-9) return [v[0], v[1]];
  const [nx, ny] = [n[0] / flat, n[1] / flat];
  const into = v[0] * nx + v[1] * ny;
  return into < 0 ? [v[0] - nx * into, v[1] - ny * into] : [v[0], v[1]];
}

/**
 * Walks for a time at the speed of `plan` along the floor, whatever its slope. Walls, and slopes too steep to stand on, turn
 * the way aside; floors that rise or fall turn it up and down.
 */
function walk(
  c: Collision,
  start: Vec3,
  crouching: boolean,
  plan: readonly [number, number],
  ground: Ground,
  time: number,
): Moved {
  let at = start;
  let flat: readonly [number, number] = plan;
  let floor = ground.normal;
  let way = alongFloor(flat, floor);
  let left = time;
  let blocked = false;
  const walls: Vec3[] = [];
  const floors: Vec3[] = [floor];
  for (let bump = 0; bump < 6 && left > 1e-9; bump++) {
    const hit = move(c, at, crouching, way[0] * left, way[1] * left, way[2] * left);
    const f = hit.fraction;
    at = [at[0] + way[0] * left * f, at[1] + way[1] * left * f, at[2] + way[2] * left * f];
    if (f === 1) break;
    left *= 1 - f;
    const n: Vec3 = [hit.nx, hit.ny, hit.nz];
    if (n[2] >= PLAYER.floorNormal) {
      floor = n;
      floors.push(n);
    } else {
      blocked = true;
      walls.push(n);
      flat = offWall(flat, n);
      // In a corner of two walls there is no way on.
      if (walls.some((w) => w !== n && flat[0] * w[0] + flat[1] * w[1] < -1e-6 * hypot(...flat))) flat = [0, 0];
    }
    way = alongFloor(flat, floor);
    const other = floors.find((m) => m !== floor && dot(way, m) < -1e-6);
    // In the valley between two floors the way follows the valley.
    if (other) way = alongCrease(way, floor, other);
  }
  return { at, velocity: [flat[0], flat[1], 0], blocked };
}

/** What of a movement runs along the line in which two planes meet. */
function alongCrease(v: Vec3, n: Vec3, m: Vec3): Vec3 {
  const crease = cross(n, m);
  const l2 = dot(crease, crease);
  return l2 > 1e-9 ? scale(crease, dot(v, crease) / l2) : [0, 0, 0];
}

/** What a body that is moved by something else gets of a way, sliding along what it meets. */
export const carriedBy = (c: Collision, at: Vec3, crouching: boolean, by: Vec3): Vec3 =>
  slide(c, at, crouching, by, 1).at;

/** Flies for a time, sliding along whatever is met: at most four surfaces, and along the crease of two. */
function slide(c: Collision, start: Vec3, crouching: boolean, velocity: Vec3, time: number): Moved {
  let at = start;
  let v = velocity;
  let left = time;
  let blocked = false;
  const met: Vec3[] = [];
  for (let bump = 0; bump < 4 && left > 1e-9; bump++) {
    const hit = move(c, at, crouching, v[0] * left, v[1] * left, v[2] * left);
    const f = hit.fraction;
    at = [at[0] + v[0] * left * f, at[1] + v[1] * left * f, at[2] + v[2] * left * f];
    if (f === 1) break;
    left *= 1 - f;
    const n: Vec3 = [hit.nx, hit.ny, hit.nz];
    if (n[2] < PLAYER.floorNormal) blocked = true;
    met.push(n);
    const into = dot(v, n);
    v = [v[0] - n[0] * into, v[1] - n[1] * into, v[2] - n[2] * into];
    const other = met.find((m) => m !== n && dot(v, m) < -1e-6);
    if (other) {
      if (met.length > 2) return { at, velocity: [0, 0, 0], blocked };
      v = alongCrease(v, n, other);
    }
  }
  return { at, velocity: v, blocked };
}

/** Up by a step, forward, and down again; null when that ends on nothing to stand on. */
function stepUp(
  c: Collision,
  at: Vec3,
  crouching: boolean,
  plan: readonly [number, number],
  time: number,
): Moved | null {
  const up = move(c, at, crouching, 0, 0, PLAYER.step + 2 * SKIN);
  if (up.stuck) return null;
  const rise = (PLAYER.step + 2 * SKIN) * up.fraction;
  const level: Ground = { normal: [0, 0, 1], below: 0, body: -1 };
  const forward = walk(c, [at[0], at[1], at[2] + rise], crouching, plan, level, time);
  const ground = groundUnder(c, forward.at, crouching, rise);
  if (!ground) return null;
  return { ...forward, at: [forward.at[0], forward.at[1], forward.at[2] - ground.below] };
}
