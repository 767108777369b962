import { CLOTH } from './cloth.ts';
import { CUT_OUTS } from './cut-outs.ts';
import { DECALS } from './decals.ts';
import { GROUND } from './ground.ts';
import { METAL } from './metal.ts';
import { PLASTER } from './plaster.ts';
import { ROOF } from './roof.ts';
import { SHEETS } from './sheets.ts';
import { STONE } from './stone.ts';
import { TOOLS } from './tools.ts';
import { WOOD } from './wood.ts';
import type { Recipe } from './types.ts';

export type { Recipe } from './types.ts';

export const RECIPES: readonly Recipe[] = [
  ...PLASTER,
  ...STONE,
  ...WOOD,
  ...METAL,
  ...ROOF,
  ...GROUND,
  ...CLOTH,
  ...SHEETS,
  ...CUT_OUTS,
  ...TOOLS,
  ...DECALS,
];
