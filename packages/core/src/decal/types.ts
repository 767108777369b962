import type { Point2, Vec3 } from '../math/index.ts';

/** On what a decal falls. */
export const DECAL_TARGETS = ['all', 'brushes', 'props', 'chosen'] as const;
export type DecalTargets = (typeof DECAL_TARGETS)[number];

/** What a corner of a decal's outline is tinted by: a colour (sRGB, `#rrggbb`) and how opaque it is, 0 to 1. */
export interface DecalInk {
  readonly color: string;
  readonly opacity: number;
}

/**
 * A picture that is thrown on what lies in a box. The box is spanned by three ways about its middle, each as long as the box is that
 * way: any affine map of them is one of the decal.
 */
export interface Decal {
  /** The material whose picture it is, and which region of it; empty for all of it. */
  readonly material: string;
  readonly region: string;
  /** The middle of the box. */
  readonly at: Vec3;
  /** From the picture's left edge to its right one. */
  readonly across: Vec3;
  /** From its foot to its top. */
  readonly upward: Vec3;
  /** Through the box, against the way it is thrown: out of the surface that it lies on. */
  readonly through: Vec3;
  /** What of the picture is there: a polygon in parts of the picture from its lower left corner. Fewer than three corners: all of it. */
  readonly outline: readonly Point2[];
  /**
   * What the corners of the outline (or of the picture, from the lower left one round by the right) are tinted by. Those left out are as
   * they are.
   */
  readonly inks: readonly DecalInk[];
  /** Colour in sRGB, `#rrggbb`, by which the picture is multiplied. */
  readonly tint: string;
  readonly opacity: number;
  /** What has more lies over what has less. */
  readonly order: number;
  /** Faces that look aside from it by more degrees than this are left out. */
  readonly angle: number;
  /** Within so many degrees of that it fades. */
  readonly fade: number;
  /** Whether it falls on faces that look away from it, as far as the angle goes. */
  readonly backs: boolean;
  readonly targets: DecalTargets;
  /** The brushes and things that are chosen. */
  readonly brushes: readonly string[];
  readonly things: readonly string[];
  /** Left out where little is to be drawn. */
  readonly fine: boolean;
}

/** A part of a face that shows a decal. */
export interface DecalPiece {
  /** Convex, as the face runs. */
  readonly winding: readonly Vec3[];
  /** Which way the face looks. */
  readonly normal: Vec3;
  /** Of each corner the place in the picture, in texels. */
  readonly texels: readonly (readonly [number, number])[];
  /** Of each corner red, green and blue (linear) and opacity, 0 to 1: what the picture is multiplied by. */
  readonly inks: readonly (readonly [number, number, number, number])[];
}
