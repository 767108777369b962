import type { Vec3 } from '../math/index.ts';
import { PLAYER } from './constants.ts';
import { startPlayer, type PlayerState } from './player.ts';

/** Health that everybody begins with. */
export const HEALTH = 100;

/** A player in a world: the body, and what it carries. */
export interface Person {
  readonly body: PlayerState;
  /** 0 to 100. */
  readonly health: number;
  readonly tokens: number;
  readonly oil: number;
  readonly armour: number;
  /** For how long it can still be under water, s. */
  readonly breath: number;
  readonly keys: readonly string[];
  /** In which step it was last put somewhere; −1 for never. */
  readonly putIn: number;
  /** Where it begins again. */
  readonly begins: { readonly at: Vec3; readonly yaw: number };
}

export const newPerson = (at: Vec3, yaw: number): Person => ({
  body: startPlayer(at, yaw),
  health: HEALTH,
  tokens: 0,
  oil: 0,
  armour: 0,
  breath: PLAYER.breath,
  keys: [],
  putIn: -1,
  begins: { at, yaw },
});

/** Somebody's breath after a while under water, or in the air. Without it health goes. */
export function breathing(person: Person, under: boolean, dt: number): Person {
  if (!under) return person.breath === PLAYER.breath ? person : { ...person, breath: PLAYER.breath };
  const breath = Math.max(0, person.breath - dt);
  return breath > 0
    ? { ...person, breath }
    : { ...person, breath, health: Math.max(0, person.health - PLAYER.drowning * dt) };
}

/** Somebody harmed; armour takes half of it while there is some. Below zero heals. */
export function harmed(person: Person, by: number): Person {
  if (by <= 0) return { ...person, health: Math.min(HEALTH, person.health - by) };
  const taken = Math.min(person.armour, by / 2);
  return { ...person, armour: person.armour - taken, health: Math.max(0, person.health - (by - taken)) };
}

/** Somebody who was given something; null when it is of no use to them. */
export function given(person: Person, what: string, amount: number, named: string): Person | null {
  switch (what) {
    case 'bandage':
      return person.health >= HEALTH ? null : { ...person, health: Math.min(HEALTH, person.health + amount) };
    case 'armour':
      return person.armour >= HEALTH ? null : { ...person, armour: Math.min(HEALTH, person.armour + amount) };
    case 'oil':
      return { ...person, oil: person.oil + amount };
    case 'tokens':
      return { ...person, tokens: person.tokens + amount };
    case 'key':
      return person.keys.includes(named) ? null : { ...person, keys: [...person.keys, named] };
    default:
      return null;
  }
}
