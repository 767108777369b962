import type { Decal } from '@yesca/core';

/** A decal of 40 × 20 cm that is thrown east, 60 cm through the origin. */
export const plainDecal = (more: Partial<Decal> = {}): Decal => ({
  material: 'm',
  region: '',
  at: [0, 0, 0],
  across: [0, -40, 0],
  upward: [0, 0, 20],
  through: [-60, 0, 0],
  outline: [],
  inks: [],
  tint: '#ffffff',
  opacity: 1,
  order: 0,
  angle: 60,
  fade: 0,
  backs: false,
  targets: 'all',
  brushes: [],
  things: [],
  fine: false,
  ...more,
});
