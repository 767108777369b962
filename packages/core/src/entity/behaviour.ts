import type { Box, Vec3 } from '../math/index.ts';
import type { ParamValue } from '../params/index.ts';
import type { Around } from './kind.ts';
import type { Pose } from './motion.ts';
import type { Hum } from './sounds.ts';

/** What a thing remembers while a map is played: plain data, never changed in place. The same object means that nothing changed. */
export type Memory = Readonly<Record<string, number | string | boolean | readonly number[] | readonly boolean[]>>;

/** Something that happens to a thing in a step. */
export type Happening =
  /** A player pressed use while looking at it, walked into it, came near, is carried by it, or is in its region. */
  | { readonly what: 'used' | 'touched' | 'near' | 'ridden' | 'inside' | 'usedInside'; readonly by: number }
  /** A wire, a person who tries it, or another thing does one of its actions. */
  | { readonly what: 'action'; readonly action: string; readonly value?: ParamValue; readonly by?: number };

/** What a thing can ask and do in a step. */
export interface Moment {
  /** Seconds. */
  readonly dt: number;
  readonly around: Around;
  /** Tells who is wired to it that something happened; the signal's name is one of the kind's. */
  readonly signal: (name: string, by?: number) => void;
  /** Where a player stands: between the feet, cm. */
  readonly feetOf: (player: number) => Vec3;
  /** Whether a player has a key of that name. */
  readonly holds: (player: number, key: string) => boolean;
  /** Takes tokens from a player who has as many; says whether it did. */
  readonly pay: (player: number, tokens: number) => boolean;
  /** Takes from a player's health; below zero gives. */
  readonly harm: (player: number, by: number) => void;
  /** Gives a player something; says whether it was of any use. */
  readonly give: (player: number, what: string, amount: number, named: string) => boolean;
  /** Gives a player a speed, in cm/s. */
  readonly push: (player: number, speed: Vec3) => void;
  /** Lets a player walk at a part of the usual speed in this step. */
  readonly slow: (player: number, part: number) => void;
  /** Whether a player was put where they are in the step before: they did not walk in. */
  readonly arrived: (player: number) => boolean;
  /** Puts a player somewhere else at once. */
  readonly put: (player: number, at: Vec3, turn: number) => void;
  /** Where a player begins again from now on. */
  readonly begins: (player: number, at: Vec3, turn: number) => void;
}

/** How things of a kind behave in play. All of it is pure but for what it does through the moment. */
export interface Behaviour<T> {
  readonly begin: (thing: T, around: Around) => Memory;
  /**
   * What it remembers after a step. Where it gives back what it was given and nothing happened, it is not asked again until something does.
   */
  readonly step: (thing: T, memory: Memory, happenings: readonly Happening[], moment: Moment) => Memory;
  /** Whether it wants to be told of players who are near, and how near (cm, round all its parts). Absent: no. */
  readonly notices?: (thing: T) => number | null;
  /** For what moves: where its parts then are, by number. */
  readonly poses?: (thing: T, memory: Memory, around: Around) => readonly Pose[];
  /** For what moves: places along all it can do, near enough to each other that what lies between is between. By part. */
  readonly way?: (thing: T, around: Around) => readonly (readonly Pose[])[];
  /** What is heard from it all the while; null for nothing. */
  readonly hum?: (thing: T, memory: Memory) => Hum | null;
  /** For what shines and can be switched: how many times its strength it shines with. */
  readonly shine?: (thing: T, memory: Memory) => number;
  /** Whether its parts, or what lies on it, are not there. Absent: always there. */
  readonly gone?: (memory: Memory) => boolean;
  /** For what moves: room beneath its first part, where that was drawn, into which nobody gets and which moves along. */
  readonly beneath?: (thing: T, around: Around) => readonly Box[];
  /** For what moves: the places it comes to rest at besides where it was drawn, each with a pose for every part. */
  readonly ends?: (thing: T, around: Around) => readonly (readonly Pose[])[];
  /** For what moves: a player could not be moved out of the way. What it remembers instead; its parts are then where they were, or it waits. */
  readonly blocked?: (thing: T, before: Memory, after: Memory, player: number, moment: Moment) => Memory;
}
