import { call } from '@yesca/core';
import { useEditor } from '../../state/editor.ts';
import { pickedIds } from '../../state/selection.ts';
import { openDialog } from '../../state/dialogs.ts';
import { collideAsDrawn } from '../../commands/drawn-collision.ts';
import { runCopiedCommands } from '../../commands/scripts.ts';
import {
  groupSelection,
  mirrorSelection,
  nothingPicked,
  replaceFromClipboard,
  turnSelection,
  ungroupSelection,
} from '../../commands/shaping.ts';
import { angleStep } from '../../state/work.ts';
import type { Command } from '../command.ts';

const editor = () => useEditor.getState();
const picked = () => pickedIds(editor().selection);

/** What is done to all kinds of things. */
export const EDIT_COMMANDS: readonly Command[] = [
  { id: 'edit.undo', group: 'Edit', label: 'Undo', keys: 'mod+z', run: () => editor().undoOne() },
  { id: 'edit.redo', group: 'Edit', label: 'Redo', keys: 'mod+shift+z', run: () => editor().redoOne() },
  {
    id: 'edit.delete',
    group: 'Edit',
    label: 'Delete',
    keys: 'delete, backspace',
    run: () => {
      if (!nothingPicked()) editor().run(call('pick.remove', { picked: picked() }));
    },
  },
  {
    id: 'edit.duplicate',
    group: 'Edit',
    label: 'Duplicate',
    keys: 'mod+d',
    run: () => {
      if (nothingPicked()) return;
      const { grid } = editor().doc.settings;
      editor().run(call('pick.duplicate', { picked: picked(), by: [grid, -grid, 0] }));
    },
  },
  { id: 'edit.turnLeft', group: 'Edit', label: 'Turn a quarter left', keys: 'mod+left', run: () => turnSelection(90) },
  {
    id: 'edit.turnRight',
    group: 'Edit',
    label: 'Turn a quarter right',
    keys: 'mod+right',
    run: () => turnSelection(-90),
  },
  {
    id: 'edit.turnStepLeft',
    group: 'Edit',
    label: 'Turn by the angle step, left',
    keys: 'mod+shift+left',
    run: () => turnSelection(angleStep()),
  },
  {
    id: 'edit.turnStepRight',
    group: 'Edit',
    label: 'Turn by the angle step, right',
    keys: 'mod+shift+right',
    run: () => turnSelection(-angleStep()),
  },
  {
    id: 'edit.tiltX',
    group: 'Edit',
    label: 'Tilt a quarter about east',
    keys: 'mod+up',
    run: () => turnSelection(90, 0),
  },
  {
    id: 'edit.tiltY',
    group: 'Edit',
    label: 'Tilt a quarter about north',
    keys: 'mod+down',
    run: () => turnSelection(90, 1),
  },
  { id: 'edit.mirrorX', group: 'Edit', label: 'Mirror east to west', keys: 'mod+m', run: () => mirrorSelection(0) },
  {
    id: 'edit.mirrorY',
    group: 'Edit',
    label: 'Mirror north to south',
    keys: 'mod+shift+m',
    run: () => mirrorSelection(1),
  },
  { id: 'edit.mirrorZ', group: 'Edit', label: 'Mirror upside down', keys: 'mod+alt+m', run: () => mirrorSelection(2) },
  { id: 'edit.group', group: 'Edit', label: 'Group', keys: 'mod+g', run: groupSelection },
  { id: 'edit.ungroup', group: 'Edit', label: 'Ungroup', keys: 'mod+shift+g', run: ungroupSelection },
  {
    id: 'edit.keepAssembly',
    group: 'Edit',
    label: 'Keep the selection in Stock as an assembly',
    keys: 'mod+alt+g',
    run: () => openDialog('keepAssembly'),
  },
  {
    id: 'prop.collideDrawn',
    group: 'Edit',
    label: 'Let the selected prop collide as the selected brushes',
    run: () => void collideAsDrawn(),
  },
  {
    id: 'edit.copyCommands',
    group: 'Edit',
    label: 'Copy as commands: the last steps',
    run: () => openDialog('copyCommands'),
  },
  { id: 'edit.runCommands', group: 'Edit', label: 'Run copied commands', run: () => void runCopiedCommands() },
  {
    id: 'edit.replace',
    group: 'Edit',
    label: 'Replace with what was copied, fitted',
    keys: 'mod+alt+v',
    run: () => void replaceFromClipboard(),
  },
];
