import type { Role } from '@yesca/core';
import { keptStore } from './kept.ts';

/** How the Eye shows surfaces: as clay, textured, textured with the texels' grid, or coloured by density. */
export type EyeMode = 'clay' | 'textured' | 'texels' | 'density';

/** How the map is shown. */
export interface Display {
  readonly eyeMode: EyeMode;
  /** The Eye walks with the player's body instead of flying. */
  readonly walking: boolean;
  /** Roles and kinds of entity that are left out of the drawings. */
  readonly hiddenRoles: readonly Role[];
  readonly hideThings: boolean;
  /** The player's figure and the guides for step and jump, in Section and Eye. */
  readonly figure: boolean;
  readonly crouching: boolean;
  /** Whether all lights show how far they reach, or the selected ones only. */
  readonly reaches: boolean;
}

export const useDisplay = keptStore<Display>(
  'display',
  {
    eyeMode: 'textured',
    walking: false,
    hiddenRoles: [],
    hideThings: false,
    figure: false,
    crouching: false,
    reaches: false,
  },
  ['eyeMode', 'figure', 'reaches'],
);
