import {
  composeAffine,
  cross,
  dot,
  length,
  normalize,
  rotation,
  rotationAbout,
  scaling,
  arcTangent2,
  translation,
  type Affine,
  type Vec3,
} from '../math/index.ts';
import type { PropCollision, PropFacts } from '../prop/index.ts';
import type { Billboard } from './billboard.ts';

/** Whom a prop holds back: all, people and not what flies, or the other way round. */
export const PROP_STOPS = ['all', 'people', 'shots'] as const;
export type PropStops = (typeof PROP_STOPS)[number];

/** The prop that a thing is. */
export interface Model {
  /** As the library calls it; empty for none. */
  readonly name: string;
  readonly scale: number;
  /** Where its upright points. */
  readonly up: Vec3;
  /** Null for what suits it. */
  readonly collision: PropCollision | null;
  /** Whom it holds back. */
  readonly stops: PropStops;
  /** Whether it casts a shadow. */
  readonly shades: boolean;
  /** Where the light is found that it is seen by; null as its size asks for. */
  readonly litAt: 'middle' | 'corners' | 'vertices' | 'chart' | null;
  /** What is known of it, of what is none of the props in Stock. */
  readonly own?: PropFacts;
  /** The picture that stands there in place of a model. */
  readonly picture?: Billboard;
}

const UPRIGHT: Vec3 = [0, 0, 1];

/** How a prop stands round its own place: larger, turned about its upright (degrees), and that leant the shortest way to where it points. */
export function propTurn(up: Vec3, turn: number, scale: number): Affine {
  const grown = composeAffine(rotation(2, turn, [0, 0, 0]), scaling([scale, scale, scale], [0, 0, 0]));
  if (length(up) < 1e-9) return grown;
  const way = normalize(up);
  const axis = cross(UPRIGHT, way);
  const sine = length(axis);
  if (sine < 1e-9) return way[2] > 0 ? grown : composeAffine(rotation(0, 180, [0, 0, 0]), grown);
  const lean = (arcTangent2(sine, dot(UPRIGHT, way)) * 180) / Math.PI;
  return composeAffine(rotationAbout(axis, lean, [0, 0, 0]), grown);
}

/** Where a prop's own space lies in the map. */
export const propPose = ({ scale, up }: Model, at: Vec3, turn: number): Affine =>
  composeAffine(translation(at), propTurn(up, turn, scale));
