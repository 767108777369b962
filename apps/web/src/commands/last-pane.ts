import type { Vec3 } from '@yesca/core';

/** Which pane had the pointer last, and where in the world: arrows, framing and *camera to pointer* mean that one. */
export const lastPane: { kind: 'plan' | 'section' | 'eye'; at: Vec3 | null } = { kind: 'plan', at: null };
