import { decalOf, type Decal } from '@yesca/core';

/** A decal of 40 × 20 cm that is thrown east, 60 cm through the origin. */
export const plainDecal = (more: Partial<Decal> = {}): Decal => ({
  ...decalOf({ id: 'd', kind: 'decal', at: [0, 0, 0], turn: 0, params: {} })!,
  material: 'm',
  across: [0, -40, 0],
  upward: [0, 0, 20],
  through: [-60, 0, 0],
  ...more,
});
