import type { Region, Solidity, Substance } from '@yesca/core';
import type { Pattern } from '../noise.ts';

/** Red, green, blue in sRGB, 0 to 255. */
export type Rgb = readonly [number, number, number];

/** One point of a material: its colour, and how high (0 to 1), how rough (0 to 1) and how solid (0 to 1) it is there. */
export interface Texel {
  readonly color: Rgb;
  /** Absent: as bright as it is. */
  readonly height?: number;
  /** Absent: the recipe's. */
  readonly rough?: number;
  /** Of what is seen through, 0 to 1. Absent: as glass is. */
  readonly opacity?: number;
}

/** How one material is made. */
export interface Recipe {
  readonly name: string;
  readonly label: string;
  readonly tags: readonly string[];
  readonly substance: Substance;
  /** How rough it is all over, 0 (mirror) to 1 (chalk). */
  readonly rough: number;
  /** How deep its relief is: 0 flat, 1 as of stones with wide joints. */
  readonly relief: number;
  /** Pixels; 512 × 512 when left out. */
  readonly size?: readonly [number, number];
  readonly solidity?: Solidity;
  readonly regions?: readonly Region[];
  /** Light given off, nits. */
  readonly glow?: number;
  readonly tool?: 'placeholder' | 'sky' | 'unseen';
  /** The point of the unit square, without seams. */
  readonly paint?: (p: Pattern, u: number, v: number) => Rgb | Texel;
  /** Or a drawing (SVG elements in pixels); what it leaves free is not there. */
  readonly draw?: (p: Pattern) => string;
  /** Parts of grain (0 to 1) laid over a drawing, so that it does not look flat. */
  readonly grain?: number;
}
