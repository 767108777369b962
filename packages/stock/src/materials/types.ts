import type { MaterialFacts, Substance } from '@yesca/core';

/** The pictures of a material. `thumb` is the small one of the library. */
export const PICTURES = ['albedo', 'normal', 'roughness', 'thumb'] as const;
export type Picture = (typeof PICTURES)[number];

/** Materials with this tag are decals: each of their regions is one, or all of a picture without any. */
export const DECAL_TAG = 'decal';

/** What the library shows of a material besides what laying it needs. Its pictures are asked for by name. */
export interface Material extends MaterialFacts {
  readonly label: string;
  readonly tags: readonly string[];
  readonly substance: Substance;
  /** Mean colour of what is there, in sRGB, `#rrggbb`. */
  readonly average: string;
  /** Mean roughness, 0 (mirror) to 1 (chalk). */
  readonly roughness: number;
  /** Light given off, nits. Absent: none. */
  readonly glow?: number;
  /** The pack it came with. */
  readonly pack: string;
  /** Names the content of its pictures, for their addresses. Absent: they never change. */
  readonly content?: string;
  /** Pictures that it came without. */
  readonly lacks?: readonly Picture[];
}
