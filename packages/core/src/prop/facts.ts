import type { Solid } from '../brush/index.ts';
import type { Box, Vec3 } from '../math/index.ts';
import type { Substance } from '../surface/index.ts';

/** What a prop can collide as: nothing, its bounds, what holds all of it, or several convex parts. */
export const PROP_COLLISIONS = ['none', 'box', 'hull', 'hulls'] as const;
export type PropCollision = (typeof PROP_COLLISIONS)[number];

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
