import type { Command } from './command.ts';
import { EDIT_COMMANDS } from './list/edit.ts';
import { SELECT_COMMANDS } from './list/select.ts';
import { SHAPE_COMMANDS } from './list/shape.ts';
import { SURFACE_COMMANDS } from './list/surface.ts';
import { TOOLS_COMMANDS } from './list/tools.ts';
import { VIEW_COMMANDS } from './list/view.ts';

/** Everything that can be done in Shape. The palette, the shortcut sheet and the keys are made from this one table. */
export const COMMANDS: readonly Command[] = [
  ...TOOLS_COMMANDS,
  ...EDIT_COMMANDS,
  ...SHAPE_COMMANDS,
  ...SURFACE_COMMANDS,
  ...SELECT_COMMANDS,
  ...VIEW_COMMANDS,
];

export const commandById = (id: string): Command => COMMANDS.find((c) => c.id === id)!;
