/** How a player is built and moves: cm, seconds. The editor's guides and checks use the same numbers. */
export const PLAYER = {
  /** Half the width of the box that stands for the player. */
  halfWidth: 20,
  standing: 176,
  crouching: 112,
  eyeStanding: 164,
  eyeCrouching: 100,
  /** The highest ledge walked up without jumping. */
  step: 40,
  /** How high the feet rise in a jump. */
  jump: 60,
  walkSpeed: 360,
  crouchSpeed: 150,
  groundAcceleration: 10,
  airAcceleration: 1.5,
  friction: 8,
  climbSpeed: 180,
  swimSpeed: 230,
  /** Water up to here (cm above the feet) carries: one swims. */
  swimsFrom: 112,
  /** How long one can be under water, seconds, and what it then takes from health each second. */
  breath: 15,
  drowning: 12,
  gravity: 1400,
  /** The steepest floor that can be stood on, as the upward part of its normal (45°). */
  floorNormal: Math.SQRT1_2 - 1e-9,
} as const;

/** The simulation's fixed time step, seconds. */
export const TIME_STEP = 1 / 120;

/** A mover stops this far (cm) from what it meets, so that it never starts its next step inside. */
export const SKIN = 0.03;

/** A hit is one that comes nearer than this (cm): half the skin, so that gliding along a wall, a skin away, never is one. */
export const TOUCH = SKIN / 2;
