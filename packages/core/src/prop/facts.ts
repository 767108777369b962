import type { Solid } from '../brush/index.ts';
import { scale, sub, type Box, type Vec3 } from '../math/index.ts';
import type { Substance } from '../surface/index.ts';

/** What a prop can collide as: nothing, its bounds, what holds all of it, several convex parts, or solids that somebody drew for it. */
export const PROP_COLLISIONS = ['none', 'box', 'hull', 'hulls', 'drawn'] as const;
export type PropCollision = (typeof PROP_COLLISIONS)[number];

/** What of a prop holds back, in words. */
export const COLLISION_WORDS: Readonly<Record<PropCollision, string>> = {
  none: 'nothing',
  box: 'its box',
  hull: 'one convex body',
  hulls: 'its convex parts',
  drawn: 'the brushes drawn for it',
};

/** Where a prop shines: from its pivot, cm. */
export interface PropLight {
  readonly at: Vec3;
  readonly candela: number;
  readonly kelvin: number;
}

/** A marked place where another prop can join: two of one name meet, and look against each other. */
export interface PropSocket {
  readonly name: string;
  readonly at: Vec3;
  /** Out of the prop, one long. */
  readonly way: Vec3;
}

/** What is known of a prop without its pictures. Its own space: cm, z up, the pivot at the origin. */
export interface PropFacts {
  /** As maps name it. */
  readonly name: string;
  readonly label: string;
  readonly bounds: Box;
  readonly triangles: number;
  /** What suits it. */
  readonly collision: PropCollision;
  /** Convex parts that hold all of it. */
  readonly hulls: readonly Solid[];
  /** Solids that were drawn for it to collide as; they need not hold all of it. Absent: none. */
  readonly drawn?: readonly Solid[];
  readonly substance: Substance;
  readonly lights: readonly PropLight[];
  /** Absent: none. */
  readonly sockets?: readonly PropSocket[];
}

/** What is known of the props of some names. */
export type PropLookup = (name: string) => PropFacts | undefined;

/** What is known of a prop whose places were all moved by one map; its lamps shine as they did. */
function mapped<F extends PropFacts>(facts: F, map: (v: Vec3) => Vec3): F {
  const solids = (list: readonly Solid[]) =>
    list.map(({ vertices, loops }) => ({ vertices: vertices.map(map), loops }));
  return {
    ...facts,
    bounds: { min: map(facts.bounds.min), max: map(facts.bounds.max) },
    hulls: solids(facts.hulls),
    ...(facts.drawn ? { drawn: solids(facts.drawn) } : {}),
    lights: facts.lights.map((light) => ({ ...light, at: map(light.at) })),
    ...(facts.sockets ? { sockets: facts.sockets.map((s) => ({ ...s, at: map(s.at) })) } : {}),
  };
}

/** What is known of a prop that was made so many times as large about its pivot. */
export const growProp = <F extends PropFacts>(facts: F, by: number): F => mapped(facts, (v) => scale(v, by));

/** What is known of a prop whose pivot was put to another of its places. */
export const movePivot = <F extends PropFacts>(facts: F, to: Vec3): F => mapped(facts, (v) => sub(v, to));
