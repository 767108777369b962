import type { PropRecipe } from '../making.ts';
import { BUILDING } from './building.ts';
import { CONTAINERS } from './containers.ts';
import { FURNITURE } from './furniture.ts';
import { LAMPS } from './lamps.ts';
import { MACHINERY } from './machinery.ts';
import { WATERSIDE } from './waterside.ts';

/** Every prop that ships. */
export const PROP_RECIPES: readonly PropRecipe[] = [
  ...CONTAINERS,
  ...FURNITURE,
  ...MACHINERY,
  ...LAMPS,
  ...WATERSIDE,
  ...BUILDING,
];
