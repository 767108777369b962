import { thumbOf } from '@yesca/intake';
import { MATERIALS } from '../materials/index.ts';
import { meshOf } from './mesh.ts';
import type { Piece } from './making.ts';

/** A small picture of a prop in the mean colours of its materials. */
export const thumbOfPieces = (pieces: readonly Piece[]): Promise<Uint8Array> =>
  thumbOf(
    meshOf(pieces).map(({ material, position }) => {
      const { average } = MATERIALS.find((m) => m.name === material)!;
      return { rgb: [1, 3, 5].map((k) => parseInt(average.slice(k, k + 2), 16)), position };
    }),
  );
