import type { Solid } from '../brush/index.ts';
import { scale, type Box, type Vec3 } from '../math/index.ts';
import type { Substance } from '../surface/index.ts';

/** What a prop can collide as: nothing, its bounds, what holds all of it, or several convex parts. */
export const PROP_COLLISIONS = ['none', 'box', 'hull', 'hulls'] as const;
export type PropCollision = (typeof PROP_COLLISIONS)[number];

/** What of a prop holds back, in words. */
export const COLLISION_WORDS: Readonly<Record<PropCollision, string>> = {
  none: 'nothing',
  box: 'its box',
  hull: 'one convex body',
  hulls: 'its convex parts',
};

/** Where a prop shines: from its pivot, cm. */
export interface PropLight {
  readonly at: Vec3;
  readonly candela: number;
  readonly kelvin: number;
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
  readonly substance: Substance;
  readonly lights: readonly PropLight[];
}

/** What is known of the props of some names. */
export type PropLookup = (name: string) => PropFacts | undefined;

/** What is known of a prop that was made so many times as large about its pivot. Its lamps shine as they did. */
export function growProp<F extends PropFacts>(facts: F, by: number): F {
  const grown = (v: Vec3): Vec3 => scale(v, by);
  return {
    ...facts,
    bounds: { min: grown(facts.bounds.min), max: grown(facts.bounds.max) },
    hulls: facts.hulls.map(({ vertices, loops }) => ({ vertices: vertices.map(grown), loops })),
    lights: facts.lights.map((light) => ({ ...light, at: grown(light.at) })),
  };
}
