import { useEditor } from '../../state/editor.ts';
import { NOTHING, selectOnly } from '../../state/selection.ts';
import { pickable, useHidden } from '../../state/shown.ts';
import { aimDecals, turnPatches } from '../../commands/decals.ts';
import {
  hideSelection,
  isolateSelection,
  selectAllFaces,
  selectFacing,
  selectSimilar,
  selectWalls,
} from '../../commands/shaping.ts';
import { nudge } from '../../commands/grid.ts';
import { doorwayOfSelection } from '../../commands/doorways.ts';
import type { Command } from '../command.ts';

const editor = () => useEditor.getState();

/** Takes what is not selected instead of what is. */
function invertSelection(): void {
  const { doc, selection, select } = editor();
  const free = pickable(doc);
  select(
    selectOnly([
      ...[...free.rooms.keys()].filter((id) => !selection.rooms.has(id)).map((id) => ({ type: 'room', id }) as const),
      ...[...free.brushes.values()]
        .filter((b) => !b.room && !selection.brushes.has(b.id))
        .map((b) => ({ type: 'brush', id: b.id }) as const),
      ...[...free.entities.keys()]
        .filter((id) => !selection.entities.has(id))
        .map((id) => ({ type: 'entity', id }) as const),
    ]),
  );
}

/** What is picked, and by what. */
export const SELECT_COMMANDS: readonly Command[] = [
  {
    id: 'edit.all',
    group: 'Select',
    label: 'Select everything',
    keys: 'mod+a',
    run: () => {
      editor().select(NOTHING);
      invertSelection();
    },
  },
  {
    id: 'select.invert',
    group: 'Select',
    label: 'Select what is not selected',
    keys: 'mod+shift+a',
    run: invertSelection,
  },
  {
    id: 'select.material',
    group: 'Select',
    label: 'Select brushes of the same material',
    run: () => selectSimilar('material'),
  },
  { id: 'select.role', group: 'Select', label: 'Select brushes of the same role', run: () => selectSimilar('role') },
  {
    id: 'select.kind',
    group: 'Select',
    label: 'Select the same kind of solid or thing',
    run: () => selectSimilar('kind'),
  },
  { id: 'select.size', group: 'Select', label: 'Select brushes of the same size', run: () => selectSimilar('size') },
  { id: 'select.layer', group: 'Select', label: 'Select what is on the same layer', run: () => selectSimilar('layer') },
  { id: 'select.walls', group: 'Select', label: 'Select the walls of this room', run: selectWalls },
  { id: 'select.faces', group: 'Select', label: 'Select all faces of the selection', run: selectAllFaces },
  { id: 'select.up', group: 'Select', label: 'Select faces that look up', run: () => selectFacing([0, 0, 1]) },
  { id: 'select.down', group: 'Select', label: 'Select faces that look down', run: () => selectFacing([0, 0, -1]) },
  { id: 'select.hide', group: 'Select', label: 'Hide the selection', keys: 'h', run: hideSelection },
  { id: 'select.isolate', group: 'Select', label: 'Hide everything else', keys: 'alt+h', run: isolateSelection },
  {
    id: 'select.show',
    group: 'Select',
    label: 'Show everything again',
    keys: 'shift+h',
    run: () => useHidden.getState().showAll(),
  },

  {
    id: 'edit.doorway',
    group: 'Edit',
    label: 'Open a doorway between two rooms',
    keys: 'mod+o',
    run: doorwayOfSelection,
  },
  { id: 'edit.decalTargets', group: 'Edit', label: 'Let decals fall on the rest of the selection', run: aimDecals },
  {
    id: 'edit.patch',
    group: 'Edit',
    label: 'Turn decals into patches, or patches into decals',
    keys: 'alt+j',
    run: turnPatches,
  },
  { id: 'nudge.left', group: 'Edit', label: 'Nudge left', keys: 'left', run: () => nudge(-1, 0) },
  { id: 'nudge.right', group: 'Edit', label: 'Nudge right', keys: 'right', run: () => nudge(1, 0) },
  { id: 'nudge.up', group: 'Edit', label: 'Nudge up in the drawing', keys: 'up', run: () => nudge(0, 1) },
  { id: 'nudge.down', group: 'Edit', label: 'Nudge down in the drawing', keys: 'down', run: () => nudge(0, -1) },
  { id: 'nudge.rise', group: 'Edit', label: 'Nudge higher', keys: 'alt+up', run: () => nudge(0, 0, 1) },
  { id: 'nudge.sink', group: 'Edit', label: 'Nudge lower', keys: 'alt+down', run: () => nudge(0, 0, -1) },
];
