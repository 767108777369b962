import { call, doorwayPlaces, ENTITY_KINDS, idsOf, ownsBrushes, SHAPE_KINDS, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { movedPicked } from '../state/moved.ts';
import { notify } from '../state/notify.ts';
import { NOTHING, pickedIds, selectOnly } from '../state/selection.ts';
import { pickable, useHidden } from '../state/shown.ts';
import { chooseTool, TOOLS } from '../tools/index.ts';
import { openDialog } from '../state/dialogs.ts';
import { snapHere } from '../geometry/snap.ts';
import { lastPane } from '../state/last-pane.ts';
import { aimDecals, turnPatches } from '../commands/decals.ts';
import { collideAsDrawn } from '../commands/drawn-collision.ts';
import { runCopiedCommands } from '../commands/scripts.ts';
import {
  alignSelection,
  distributeSelection,
  giveBackSelection,
  groupSelection,
  hideSelection,
  intersectSelection,
  isolateSelection,
  mergeSelection,
  wrapSelection,
  mirrorSelection,
  nothingPicked,
  raiseSelection,
  repairSelection,
  replaceFromClipboard,
  selectAllFaces,
  selectFacing,
  selectSimilar,
  selectWalls,
  shellSelection,
  snapSelection,
  subtractSelection,
  turnSelection,
  ungroupSelection,
} from '../commands/shaping.ts';
import {
  alignSelected,
  bothSidesSelected,
  copySelected,
  crossSelected,
  fitSelected,
  flowSelected,
  mirrorSelected,
  reflectBeforeSelected,
  nudgeTexture,
  placeSheetHere,
  scatterSelected,
  selectWithMaterial,
} from '../commands/surfaces.ts';
import { followTrail } from '../commands/follow.ts';
import {
  doorOfSelection,
  fillWithGate,
  freeSelection,
  giveSelection,
  joinSelection,
  separateSelection,
  thingOfSelection,
  tryIt,
} from '../commands/doors.ts';
import { buildAndPlay, playFromHere } from '../commands/playing.ts';
import { holdMeter } from '../commands/lights.ts';
import {
  cameraToPointer,
  frameAll,
  goToLeak,
  goToSpawn,
  moveStorey,
  rememberView,
  sectionThroughSelection,
  turnSection,
} from '../commands/viewing.ts';
import { useCamera } from '../state/camera.ts';
import { useCurrent } from '../state/current.ts';
import { toggleCollisions, toggleEyeMode, useDisplay } from '../state/display.ts';
import { pinCamera } from '../state/sight.ts';
import { useLaying } from '../state/laying.ts';
import { toggleDrawer, useLayout } from '../state/layout.ts';
import { useWork, angleStep } from '../state/work.ts';
import { useDrawOptions } from '../tools/draw.ts';
import { usePickOptions } from '../tools/pick.ts';
import { usePlaceOptions } from '../tools/place-options.ts';
import { useReshapeOptions } from '../tools/reshape.ts';
import { useRoomOptions } from '../tools/room.ts';

/** One thing that can be done: found in the palette, shown on the shortcut sheet, bound to a key. */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly group: 'Tools' | 'Edit' | 'Shape' | 'Surface' | 'Select' | 'View';
  /** In react-hotkeys-hook's notation. */
  readonly keys?: string;
  readonly run: () => void;
}

const editor = () => useEditor.getState();
const picked = () => pickedIds(editor().selection);

/** The grid steps of the set that this browser's user prefers, cm. */
export const gridSteps = (): readonly number[] =>
  useWork.getState().gridSet === 'binary' ? [1, 2, 4, 8, 16, 32, 64, 128, 256, 512] : [1, 5, 10, 25, 50, 100];

function changeGrid(by: 1 | -1): void {
  const { grid } = editor().doc.settings;
  const next = by > 0 ? gridSteps().find((g) => g > grid) : gridSteps().findLast((g) => g < grid);
  if (next) setGrid(next);
}

export const setGrid = (grid: number): void => void editor().run(call('map.settings', { settings: { grid } }));

/** Moves the selection by one grid step in the directions of the drawing that was used last. */
function nudge(h: number, v: number, up = 0): void {
  if (nothingPicked()) return;
  const { grid } = editor().doc.settings;
  const section = lastPane.kind === 'section';
  // Arrows go in the drawing's directions: right is east on the Plan, and wherever a turned Section has it.
  const looks = Math.round(useCamera.getState().section.looks / 90) * 90;
  const right: readonly [number, number] = section
    ? [Math.round(Math.sin((looks * Math.PI) / 180)), -Math.round(Math.cos((looks * Math.PI) / 180))]
    : [1, 0];
  const by: Vec3 = [
    h * right[0] * grid + 0,
    (h * right[1] + (section ? 0 : v)) * grid + 0,
    ((section ? v : 0) + up) * grid,
  ];
  const { doc, selection, run } = editor();
  run(call('pick.move', { picked: idsOf(movedPicked(doc, selection)), by, carry: useWork.getState().carry }));
}

/** Opens a doorway between two picked rooms, or between one and its only neighbour. */
export function doorwayBetween(a: string, b: string): void {
  const room = editor().doc.rooms.get(a);
  const other = editor().doc.rooms.get(b);
  if (!room || !other) return;
  const clear = Math.min(room.ceiling, other.ceiling) - Math.max(room.floor, other.floor);
  const widest = Math.max(0, ...doorwayPlaces(editor().doc, a, b).map((p) => p.to - p.from));
  const size = { width: Math.min(112, widest), height: Math.min(208, clear), sill: 0 };
  editor().run(call('opening.between', { rooms: [a, b], ...size }));
}

function doorwayOfSelection(): void {
  const rooms = [...editor().selection.rooms];
  if (rooms.length === 2) doorwayBetween(rooms[0]!, rooms[1]!);
  else notify('Select two rooms that share a wall, then open the doorway.');
}

/** The next shape to draw. */
function nextShape(): void {
  const { shape } = useDrawOptions.getState();
  chooseTool('draw');
  useDrawOptions.setState({ shape: SHAPE_KINDS[(SHAPE_KINDS.indexOf(shape) + 1) % SHAPE_KINDS.length]! });
}

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

/** Everything that can be done in Shape. The palette, the shortcut sheet and the keys are made from this one table. */
export const COMMANDS: readonly Command[] = [
  ...TOOLS.map(({ name, label, key }): Command => ({
    id: `tool.${name}`,
    group: 'Tools',
    label,
    keys: key,
    run: () => chooseTool(name),
  })),
  { id: 'tool.shape', group: 'Tools', label: 'Draw: next shape', keys: 'shift+b', run: nextShape },
  {
    id: 'tool.handles',
    group: 'Tools',
    label: 'Reshape: vertices, edges or faces',
    keys: 'shift+e',
    run: () => {
      const order = ['vertices', 'edges', 'faces'] as const;
      useReshapeOptions.setState({ handles: order[(order.indexOf(useReshapeOptions.getState().handles) + 1) % 3]! });
      chooseTool('reshape');
    },
  },
  {
    id: 'tool.resize',
    group: 'Tools',
    label: 'Resize: scale shape or keep slopes',
    keys: 'shift+v',
    run: () => usePickOptions.setState({ resize: usePickOptions.getState().resize === 'scale' ? 'slopes' : 'scale' }),
  },

  {
    id: 'tool.axes',
    group: 'Tools',
    label: 'Transform box: world or own axes',
    keys: 'x',
    run: () => usePickOptions.setState({ axes: usePickOptions.getState().axes === 'world' ? 'own' : 'world' }),
  },
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

  {
    id: 'shape.subtract',
    group: 'Shape',
    label: 'Subtract the selection from what it reaches into',
    keys: 'shift+x',
    run: subtractSelection,
  },
  {
    id: 'shape.intersect',
    group: 'Shape',
    label: 'Intersect: keep what is shared',
    keys: 'shift+i',
    run: intersectSelection,
  },
  {
    id: 'shape.merge',
    group: 'Shape',
    label: 'Merge to one brush, exactly',
    keys: 'shift+m',
    run: () => mergeSelection('union'),
  },
  { id: 'shape.hull', group: 'Shape', label: 'Merge to the hull', keys: 'alt+m', run: () => mergeSelection('hull') },
  {
    id: 'shape.wrap',
    group: 'Shape',
    label: 'Wrap in one clip brush, to run past',
    keys: 'alt+u',
    run: wrapSelection,
  },
  {
    id: 'shape.shell',
    group: 'Shape',
    label: 'Shell inward, as thick as walls',
    keys: 'shift+o',
    run: () => shellSelection(useRoomOptions.getState().wall, 'inside'),
  },
  {
    id: 'shape.shellOut',
    group: 'Shape',
    label: 'Shell outward, as thick as walls',
    keys: 'alt+o',
    run: () => shellSelection(useRoomOptions.getState().wall, 'outside'),
  },
  { id: 'shape.snap', group: 'Shape', label: 'Put corners on the grid', keys: 'alt+x', run: snapSelection },
  { id: 'shape.repair', group: 'Shape', label: 'Repair broken brushes', run: repairSelection },
  {
    id: 'door.make',
    group: 'Shape',
    label: 'Make a door of the selection',
    keys: 'alt+b',
    run: () => doorOfSelection(),
  },
  { id: 'opening.gate', group: 'Shape', label: 'Fill the opening with a gate', run: () => fillWithGate() },
  {
    id: 'door.leaves',
    group: 'Shape',
    label: 'Make a door, each brush or prop a leaf',
    run: () => doorOfSelection(true),
  },
  ...ENTITY_KINDS.filter(ownsBrushes).map((k): Command => ({
    id: `thing.of.${k.kind}`,
    group: 'Shape',
    label: `Turn the selection into a ${k.label.toLowerCase()}`,
    run: () => thingOfSelection(k.kind),
  })),
  { id: 'thing.separate', group: 'Shape', label: 'Separate the leaves: each acts by itself', run: separateSelection },
  { id: 'thing.join', group: 'Shape', label: 'Join the doors: their leaves act together', run: joinSelection },
  { id: 'thing.give', group: 'Shape', label: 'Add brushes and props to the thing', run: giveSelection },
  { id: 'thing.free', group: 'Shape', label: 'Take brushes and props off their thing', run: freeSelection },
  { id: 'thing.try', group: 'View', label: 'Try it: play what is selected', keys: 'a', run: tryIt },
  { id: 'shape.giveBack', group: 'Shape', label: 'Give a released brush back to its room', run: giveBackSelection },
  {
    id: 'shape.raiseFloor',
    group: 'Shape',
    label: 'Raise the floor or footprint',
    keys: 'u',
    run: () => raiseSelection('floor', 1),
  },
  {
    id: 'shape.lowerFloor',
    group: 'Shape',
    label: 'Lower the floor or footprint',
    keys: 'j',
    run: () => raiseSelection('floor', -1),
  },
  {
    id: 'shape.raiseCeiling',
    group: 'Shape',
    label: 'Raise the ceiling',
    keys: 'shift+u',
    run: () => raiseSelection('ceiling', 1),
  },
  {
    id: 'shape.lowerCeiling',
    group: 'Shape',
    label: 'Lower the ceiling',
    keys: 'shift+j',
    run: () => raiseSelection('ceiling', -1),
  },
  ...(['East', 'North', 'Up'] as const).flatMap((name, axis): Command[] => [
    {
      id: `align.low${name}`,
      group: 'Shape',
      label: `Align low ends along ${name.toLowerCase()}`,
      run: () => alignSelection(axis as 0, 'low'),
    },
    {
      id: `align.middle${name}`,
      group: 'Shape',
      label: `Align middles along ${name.toLowerCase()}`,
      run: () => alignSelection(axis as 0, 'middle'),
    },
    {
      id: `align.high${name}`,
      group: 'Shape',
      label: `Align high ends along ${name.toLowerCase()}`,
      run: () => alignSelection(axis as 0, 'high'),
    },
    {
      id: `spread.${name}`,
      group: 'Shape',
      label: `Spread evenly along ${name.toLowerCase()}`,
      run: () => distributeSelection(axis as 0),
    },
  ]),

  { id: 'surface.fit', group: 'Surface', label: 'Fit the picture to the faces', keys: 'o', run: fitSelected },
  {
    id: 'surface.region',
    group: 'Surface',
    label: 'Lay the region that suits best',
    keys: 'shift+a',
    run: () => alignSelected({ do: 'region' }),
  },
  {
    id: 'surface.natural',
    group: 'Surface',
    label: 'Lay at natural size',
    keys: 'n',
    run: () => alignSelected({ do: 'natural' }),
  },
  {
    id: 'surface.world',
    group: 'Surface',
    label: 'Project along the world',
    keys: 'shift+n',
    run: () => alignSelected({ do: 'world' }),
  },
  {
    id: 'surface.face',
    group: 'Surface',
    label: 'Project in the face’s plane',
    keys: 'alt+n',
    run: () => alignSelected({ do: 'face' }),
  },
  ...(['left', 'right', 'top', 'bottom', 'centre'] as const).map((side): Command => ({
    id: `surface.${side}`,
    group: 'Surface',
    label: `Set to edge: ${side}`,
    ...(side === 'centre' ? { keys: 'alt+q' } : {}),
    run: () => alignSelected({ do: 'edge', side }),
  })),
  {
    id: 'surface.turn',
    group: 'Surface',
    label: 'Turn the picture a quarter',
    keys: 'q',
    run: () => alignSelected({ do: 'turn', degrees: 90 }),
  },
  {
    id: 'surface.turnStep',
    group: 'Surface',
    label: 'Turn the picture by the angle step',
    keys: 'shift+q',
    run: () => alignSelected({ do: 'turn', degrees: angleStep() }),
  },
  {
    id: 'surface.flip',
    group: 'Surface',
    label: 'Mirror the picture across',
    keys: 'y',
    run: () => alignSelected({ do: 'flip', way: 'across' }),
  },
  {
    id: 'surface.flipDown',
    group: 'Surface',
    label: 'Mirror the picture upside down',
    keys: 'shift+y',
    run: () => alignSelected({ do: 'flip', way: 'down' }),
  },
  {
    id: 'surface.flow',
    group: 'Surface',
    label: 'Flow from the first face to the others',
    keys: 'w',
    run: flowSelected,
  },
  {
    id: 'surface.copy',
    group: 'Surface',
    label: 'Lay the others as the first face',
    keys: 'shift+w',
    run: copySelected,
  },
  {
    id: 'surface.mirror',
    group: 'Surface',
    label: 'Mirror the first face to those opposite',
    keys: 'alt+w',
    run: mirrorSelected,
  },
  {
    id: 'surface.reflectBefore',
    group: 'Surface',
    label: 'A reflection probe before the selected faces',
    run: reflectBeforeSelected,
  },
  {
    id: 'map.reflectRooms',
    group: 'Edit',
    label: 'A reflection probe in each room',
    run: () => useEditor.getState().run(call('reflection.rooms', {})),
  },
  {
    id: 'surface.both',
    group: 'Surface',
    label: 'Both sides: the far face shows the same picture from behind',
    keys: 'alt+y',
    run: bothSidesSelected,
  },
  {
    id: 'surface.scatter',
    group: 'Surface',
    label: 'Start each face’s picture somewhere else',
    run: () => scatterSelected(false),
  },
  {
    id: 'surface.scatterTurn',
    group: 'Surface',
    label: 'Start and turn each face’s picture by chance',
    run: () => scatterSelected(true),
  },
  {
    id: 'surface.left1',
    group: 'Surface',
    label: 'Nudge the picture left',
    keys: 'shift+left',
    run: () => nudgeTexture(-1, 0),
  },
  {
    id: 'surface.right1',
    group: 'Surface',
    label: 'Nudge the picture right',
    keys: 'shift+right',
    run: () => nudgeTexture(1, 0),
  },
  {
    id: 'surface.up1',
    group: 'Surface',
    label: 'Nudge the picture up',
    keys: 'shift+up',
    run: () => nudgeTexture(0, -1),
  },
  {
    id: 'surface.down1',
    group: 'Surface',
    label: 'Nudge the picture down',
    keys: 'shift+down',
    run: () => nudgeTexture(0, 1),
  },
  {
    id: 'surface.piece',
    group: 'Surface',
    label: 'Faces that hang together as one piece, or each by itself',
    keys: 'shift+d',
    run: () => useLaying.setState({ asPiece: !useLaying.getState().asPiece }),
  },
  {
    id: 'surface.flat',
    group: 'Surface',
    label: 'Flat view of the selected faces',
    keys: 'd',
    run: () => useLayout.setState({ flat: !useLayout.getState().flat }),
  },
  {
    id: 'surface.sheet',
    group: 'Surface',
    label: 'Stand or hang a thin sheet of the active material here',
    keys: 'shift+l',
    run: () => placeSheetHere(usePlaceOptions.getState()),
  },
  { id: 'surface.cross', group: 'Surface', label: 'Double thin sheets crosswise', keys: 'alt+l', run: crossSelected },
  {
    id: 'surface.with',
    group: 'Surface',
    label: 'Select all faces with the active material',
    run: () => selectWithMaterial(),
  },

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

  { id: 'view.frame', group: 'View', label: 'Frame the selection or the map', keys: 'f', run: frameAll },
  { id: 'view.home', group: 'View', label: 'Eye: stand at the spawn', keys: 'home', run: goToSpawn },
  { id: 'view.camera', group: 'View', label: 'Eye: camera to pointer', keys: 'z', run: cameraToPointer },
  {
    id: 'view.sectionFlip',
    group: 'View',
    label: 'Section: look the other way',
    keys: 'alt+s',
    run: () => turnSection(180),
  },
  {
    id: 'view.sectionSelection',
    group: 'View',
    label: 'Section through the selection',
    keys: 'alt+c',
    run: sectionThroughSelection,
  },
  {
    id: 'view.sectionTurn',
    group: 'View',
    label: 'Section: turn a quarter',
    keys: 'alt+d',
    run: () => turnSection(90),
  },
  {
    id: 'view.figure',
    group: 'View',
    label: 'Player figure and guides',
    keys: 'shift+f',
    run: () => useDisplay.setState({ figure: !useDisplay.getState().figure }),
  },
  {
    id: 'view.crouch',
    group: 'View',
    label: 'Player figure crouches',
    run: () => useDisplay.setState({ figure: true, crouching: !useDisplay.getState().crouching }),
  },
  {
    id: 'play.build',
    group: 'View',
    label: 'Build and play, with the preset used last',
    keys: 'mod+b',
    run: buildAndPlay,
  },
  {
    id: 'play.here',
    group: 'View',
    label: 'Play the last build from the pointer',
    keys: 'shift+k',
    run: () => playFromHere(),
  },
  {
    id: 'play.buildHere',
    group: 'View',
    label: 'Build and play from the pointer',
    keys: 'mod+shift+b',
    run: () => playFromHere(true),
  },
  { id: 'view.trail', group: 'View', label: 'Fly along the trail of the leak in the Eye', run: () => followTrail() },
  { id: 'view.leak', group: 'View', label: 'Go to the hole the map leaks through', run: goToLeak },
  {
    id: 'view.reaches',
    group: 'View',
    label: 'Reach of all lights, or of the selected ones',
    keys: 'alt+r',
    run: () => useDisplay.setState({ reaches: !useDisplay.getState().reaches }),
  },
  {
    id: 'view.save',
    group: 'View',
    label: 'Save this view',
    keys: 'mod+shift+s',
    run: () => rememberView(`View ${editor().doc.views.size + 1}`),
  },
  {
    id: 'view.pivot',
    group: 'View',
    label: 'Turn about the middle again',
    run: () => useCurrent.setState({ pivot: null }),
  },
  {
    id: 'view.pivotHere',
    group: 'View',
    label: 'Turn about the pointer',
    keys: 'shift+t',
    run: () => {
      if (lastPane.at) useCurrent.setState({ pivot: snapHere(lastPane.at) });
    },
  },
  {
    id: 'view.things',
    group: 'View',
    label: 'Things shown or hidden',
    run: () => useDisplay.setState({ hideThings: !useDisplay.getState().hideThings }),
  },
  {
    id: 'view.mode',
    group: 'View',
    label: 'Eye: clay or textured',
    keys: 't',
    run: () => toggleEyeMode('clay'),
  },
  {
    id: 'view.texels',
    group: 'View',
    label: 'Eye: grid of texels',
    keys: 'alt+t',
    run: () => toggleEyeMode('texels'),
  },
  {
    id: 'view.lit',
    group: 'View',
    label: 'Eye: the light of the map',
    keys: 's',
    run: () => toggleEyeMode('lit'),
  },
  {
    id: 'view.density',
    group: 'View',
    label: 'Eye: density of textures',
    run: () => toggleEyeMode('density'),
  },
  {
    id: 'view.collisions',
    group: 'View',
    label: 'Eye: what players run into',
    keys: 'alt+p',
    run: toggleCollisions,
  },
  { id: 'view.cells', group: 'View', label: 'Eye: cells of visibility', run: () => toggleEyeMode('cells') },
  {
    id: 'view.seenFromHere',
    group: 'View',
    label: 'Eye: what is seen from here, among its cells',
    run: () => {
      pinCamera();
      if (useDisplay.getState().eyeMode !== 'cells') toggleEyeMode('cells');
    },
  },
  {
    id: 'view.walk',
    group: 'View',
    label: 'Eye: walk or fly',
    keys: 'k',
    run: () => useDisplay.setState({ walking: !useDisplay.getState().walking }),
  },
  {
    id: 'view.snap',
    group: 'View',
    label: 'Snap to grid on or off',
    keys: 'g',
    run: () => useWork.setState({ snap: !useWork.getState().snap }),
  },
  { id: 'view.finer', group: 'View', label: 'Finer grid', keys: 'shift+g', run: () => changeGrid(-1) },
  { id: 'view.coarser', group: 'View', label: 'Coarser grid', keys: 'alt+g', run: () => changeGrid(1) },
  {
    id: 'view.full',
    group: 'View',
    label: 'Fill the centre with one pane, or show all',
    keys: 'mod+enter',
    run: () => useLayout.setState({ full: useLayout.getState().full ? null : lastPane.kind }),
  },
  {
    id: 'view.swapEye',
    group: 'View',
    label: 'Swap the Sheet and the Eye',
    run: () =>
      useLayout.setState({ swapped: { ...useLayout.getState().swapped, eye: !useLayout.getState().swapped.eye } }),
  },
  {
    id: 'view.swapSheet',
    group: 'View',
    label: 'Swap Plan and Section',
    run: () =>
      useLayout.setState({ swapped: { ...useLayout.getState().swapped, sheet: !useLayout.getState().swapped.sheet } }),
  },
  { id: 'view.revisions', group: 'View', label: 'Revisions: compare and restore', run: () => openDialog('revisions') },
  {
    id: 'view.register',
    group: 'View',
    label: 'Register',
    keys: 'shift+r',
    run: () => toggleDrawer('register'),
  },
  {
    id: 'view.stock',
    group: 'View',
    label: 'Stock',
    keys: 'shift+s',
    run: () => toggleDrawer('stock'),
  },
  {
    id: 'view.meter',
    group: 'View',
    label: 'Light meter: stay at the pointer',
    keys: 'alt+k',
    run: holdMeter,
  },
  {
    id: 'view.lights',
    group: 'View',
    label: 'Lights: what each gives',
    keys: 'alt+i',
    run: () => toggleDrawer('lights'),
  },
  {
    id: 'view.particulars',
    group: 'View',
    label: 'Particulars',
    keys: 'shift+p',
    run: () => useLayout.setState({ particulars: !useLayout.getState().particulars }),
  },
  { id: 'view.levelUp', group: 'View', label: 'Storey up', keys: 'pageup', run: () => moveStorey(1) },
  { id: 'view.levelDown', group: 'View', label: 'Storey down', keys: 'pagedown', run: () => moveStorey(-1) },
];

export const commandById = (id: string): Command => COMMANDS.find((c) => c.id === id)!;
