import { keptStore } from './kept.ts';

/** How textures are laid. */
export interface Laying {
  /** Faces that hang together are laid as one sheet. */
  readonly asPiece: boolean;
  /** Where a flow round a column is cut. */
  readonly seam: 'far' | 'left' | 'right';
  /** A flow that closes is stretched to whole repeats. */
  readonly closeFlow: boolean;
  /** How often Fit repeats the picture. */
  readonly repeats: readonly [number, number];
  /** How far the picture's nudges go, texels. */
  readonly texelStep: number;
  /** Nudges of the picture go by texels or by the grid. */
  readonly nudgeBy: 'texels' | 'grid';
}

export const useLaying = keptStore<Laying>(
  'laying',
  { asPiece: false, seam: 'far', closeFlow: false, repeats: [1, 1], texelStep: 8, nudgeBy: 'texels' },
  [],
);
