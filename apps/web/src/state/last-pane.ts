import type { Vec3 } from '@yesca/core';

/**
 * Which pane had the pointer last, where in the world, and which way the surface there looks if it is the Eye: arrows, framing and *camera
 * to pointer* mean that one.
 */
export const lastPane: { kind: 'plan' | 'section' | 'eye'; at: Vec3 | null; normal?: Vec3 } = {
  kind: 'plan',
  at: null,
};

/** Which pane is worked in. */
export const paneInUse = (): 'plan' | 'section' | 'eye' => lastPane.kind;
