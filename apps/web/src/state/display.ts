import type { Role } from '@yesca/core';
import { keptStore } from './kept.ts';

/** How surfaces are shown: as clay, textured, textured with the texels' grid, or coloured by density. */
export type SurfaceView = 'clay' | 'textured' | 'texels' | 'density';

/** How the Eye shows them: also with the light of the map, or with its cells. */
export type EyeMode = SurfaceView | 'lit' | 'cells';

/** How surfaces themselves are shown in a mode of the Eye: under light that is not there yet textured, under cells as clay. */
export const surfaceView = (mode: EyeMode): SurfaceView =>
  mode === 'lit' ? 'textured' : mode === 'cells' ? 'clay' : mode;

/** How the map is shown. */
export interface Display {
  readonly eyeMode: EyeMode;
  /** Whether the Eye shows what players run into, over the picture. */
  readonly collisions: boolean;
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
    collisions: false,
    walking: false,
    hiddenRoles: [],
    hideThings: false,
    figure: false,
    crouching: false,
    reaches: false,
  },
  ['eyeMode', 'figure', 'reaches'],
);

/** Lets the Eye show what players run into, or no longer. */
export const toggleCollisions = (): void => useDisplay.setState({ collisions: !useDisplay.getState().collisions });

/** Lets the Eye show surfaces in some way, or textured when it does already. */
export const toggleEyeMode = (mode: EyeMode): void =>
  useDisplay.setState({ eyeMode: useDisplay.getState().eyeMode === mode ? 'textured' : mode });
