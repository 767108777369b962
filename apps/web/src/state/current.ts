import type { Vec3 } from '@yesca/core';
import { keptStore } from './kept.ts';
import { useWork } from './work.ts';

/** What is in hand. */
export interface Current {
  /** The name of the tool. */
  readonly tool: string;
  readonly material: string;
  /** The point that turns go round; the middle of the selection while there is none. */
  readonly pivot: Vec3 | null;
  /** The preset that was built last, and the spawn that play begins at (the first when null). */
  readonly preset: 'sketch' | 'review' | 'final';
  readonly playSpawn: string | null;
}

export const useCurrent = keptStore<Current>(
  'current',
  { tool: 'pick', material: 'limewash', pivot: null, preset: 'sketch', playSpawn: null },
  ['material', 'preset'],
);

/** What fresh faces of cuts show: the active material, or (undefined) what their brush shows. */
export const freshMaterial = (): string | undefined =>
  useWork.getState().caps === 'active' ? useCurrent.getState().material : undefined;
