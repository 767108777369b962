import { boxCenter, isEmptyBox, sub, type Box, type Vec3 } from '../math/index.ts';
import type { Around } from './kind.ts';
import type { Entity } from './types.ts';

/** What a part of a thing fills where it was drawn; null when it has no brushes. */
export function partBox(around: Around, { id }: Pick<Entity, 'id'>, part = 0): Box | null {
  const box = around.parts(id)[part];
  return box && !isEmptyBox(box) ? box : null;
}

/** The middle of a part from its thing, where its handles are; the thing's own place while it has no brushes. */
export function middleOfPart(around: Around, thing: Pick<Entity, 'id' | 'at'>, part = 0): Vec3 {
  const box = partBox(around, thing, part);
  return box ? sub(boxCenter(box), thing.at) : [0, 0, 0];
}
