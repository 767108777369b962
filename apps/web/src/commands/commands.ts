import {
  brushBounds,
  doorwayPlaces,
  firstSpawn,
  duplicatePicked,
  movePicked,
  openDoorway,
  removePicked,
  rotation,
  transformPicked,
  mirror,
  pickedBounds,
  boxCenter,
  type Vec3,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
import { asPicked, isEmptySelection, NOTHING, selectOnly } from '../state/selection.ts';
import { useEyeRequest, useView } from '../state/view.ts';
import { chooseTool } from '../tools/index.ts';

/** One thing that can be done: found in the palette, shown on the shortcut sheet, bound to a key. */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly group: 'Tools' | 'Edit' | 'View' | 'Map' | 'Go';
  /** In react-hotkeys-hook's notation. */
  readonly keys?: string;
  readonly run: () => void;
}

const editor = () => useEditor.getState();
const view = () => useView.getState();
const picked = () => asPicked(editor().selection);
const nothingPicked = () => isEmptySelection(editor().selection);

export const GRID_STEPS = [1, 2, 4, 8, 16, 32, 64, 128, 256, 512];

function changeGrid(by: 1 | -1): void {
  const { grid } = editor().doc.settings;
  const next = by > 0 ? GRID_STEPS.find((g) => g > grid) : GRID_STEPS.findLast((g) => g < grid);
  if (next) setGrid(next);
}

export const setGrid = (grid: number): void =>
  void editor().run('Grid', (doc) => ({ ...doc, settings: { ...doc.settings, grid } }));

/** Moves the selection by one grid step in the directions of the drawing that was used last. */
function nudge(h: number, v: number, up = 0): void {
  if (nothingPicked()) return;
  const { grid } = editor().doc.settings;
  const section = lastPane.kind === 'section';
  const by: Vec3 = [h * grid, section ? 0 : v * grid, ((section ? v : 0) + up) * grid];
  editor().run('Nudge', (doc) => movePicked(doc, picked(), by, view().carry));
}

/** Which drawing had the pointer last. */
export const lastPane: { kind: 'plan' | 'section' | 'eye' } = { kind: 'plan' };

/** Fits what is selected, or the whole map, into the drawings. */
export function frameAll(): void {
  const { doc } = editor();
  const box = pickedBounds(
    doc,
    nothingPicked() ? { brushes: new Set(doc.brushes.keys()), entities: new Set(doc.entities.keys()) } : picked(),
  );
  if (!box) return view().set({ centre: [0, 0, 130], zoom: 0.5 });
  const pane = document.querySelector('[data-pane=plan]') ?? document.querySelector('[data-pane=section]');
  // A pane that is not laid out yet has no size; a usual one serves until the next time.
  const [w, h] = [Math.max(200, pane?.clientWidth ?? 0), Math.max(160, pane?.clientHeight ?? 0)];
  const room = 96;
  const zoom = Math.min(
    (w - room) / Math.max(64, box.max[0] - box.min[0]),
    (h - room) / Math.max(64, box.max[1] - box.min[1], box.max[2] - box.min[2]),
    4,
  );
  const centre = boxCenter(box);
  view().set({ centre, zoom, ...(nothingPicked() ? {} : { sectionAt: Math.round(centre[1]) }) });
  if (!nothingPicked()) useEyeRequest.getState().look(centre);
}

/** Opens a doorway between two picked rooms, or between one and its only neighbour. */
export function doorwayBetween(a: string, b: string): void {
  const room = editor().doc.rooms.get(a);
  const other = editor().doc.rooms.get(b);
  if (!room || !other) return;
  const clear = Math.min(room.ceiling, other.ceiling) - Math.max(room.floor, other.floor);
  const widest = Math.max(0, ...doorwayPlaces(editor().doc, a, b).map((p) => p.to - p.from));
  const size = { width: Math.min(112, widest), height: Math.min(208, clear), sill: 0 };
  editor().run('Open doorway', (doc) => openDoorway(doc, a, b, size));
}

function doorwayOfSelection(): void {
  const rooms = [...editor().selection.rooms];
  if (rooms.length === 2) doorwayBetween(rooms[0]!, rooms[1]!);
  else notify('Select two rooms that share a wall, then open the doorway.');
}

export function goToSpawn(): void {
  const spawn = firstSpawn(editor().doc.entities.values());
  if (spawn) useEyeRequest.getState().look([spawn.at[0], spawn.at[1], spawn.at[2] + 164], true, spawn.turn);
  else notify('There is no spawn yet. Place one: tool Place, then Spawn.');
}

/** Turns the selection a quarter about its middle. */
function quarterTurn(degrees: number): void {
  const box = pickedBounds(editor().doc, picked());
  if (!box) return;
  const { grid } = editor().doc.settings;
  const c = boxCenter(box);
  const about: Vec3 = [Math.round(c[0] / grid) * grid, Math.round(c[1] / grid) * grid, c[2]];
  editor().run('Turn', (doc) =>
    transformPicked(
      doc,
      { ...picked(), brushes: new Set([...picked().brushes!]) },
      rotation(2, degrees, about),
      view().carry,
    ),
  );
}

function mirrorPicked(axis: 0 | 1): void {
  const box = pickedBounds(editor().doc, picked());
  if (box)
    editor().run('Mirror', (doc) =>
      transformPicked(doc, picked(), mirror(axis, (box.min[axis] + box.max[axis]) / 2), view().carry),
    );
}

/** Everything that can be done in Shape. The palette, the shortcut sheet and the keys are made from this one table. */
export const COMMANDS: readonly Command[] = [
  { id: 'tool.pick', group: 'Tools', label: 'Pick', keys: 'v', run: () => chooseTool('pick') },
  { id: 'tool.draw', group: 'Tools', label: 'Draw a brush', keys: 'b', run: () => chooseTool('draw') },
  { id: 'tool.room', group: 'Tools', label: 'Room', keys: 'r', run: () => chooseTool('room') },
  { id: 'tool.paint', group: 'Tools', label: 'Paint', keys: 'p', run: () => chooseTool('paint') },
  { id: 'tool.place', group: 'Tools', label: 'Place', keys: 'l', run: () => chooseTool('place') },

  { id: 'edit.undo', group: 'Edit', label: 'Undo', keys: 'mod+z', run: () => editor().undoOne() },
  { id: 'edit.redo', group: 'Edit', label: 'Redo', keys: 'mod+shift+z', run: () => editor().redoOne() },
  { id: 'edit.delete', group: 'Edit', label: 'Delete', keys: 'delete, backspace', run: () => { if (!nothingPicked()) editor().run('Delete', (doc) => removePicked(doc, picked())); } },
  {
    id: 'edit.duplicate', group: 'Edit', label: 'Duplicate', keys: 'mod+d',
    run: () => {
      if (nothingPicked()) return;
      const { grid } = editor().doc.settings;
      let made = NOTHING;
      editor().run('Duplicate', (doc) => {
        const result = duplicatePicked(doc, picked(), [grid, -grid, 0]);
        made = { ...NOTHING, ...result.picked };
        return result.doc;
      });
      editor().select(made);
    },
  },
  { id: 'edit.all', group: 'Edit', label: 'Select everything', keys: 'mod+a', run: () => editor().select(selectOnly([...[...editor().doc.rooms.keys()].map((id) => ({ type: 'room', id }) as const), ...[...editor().doc.brushes.values()].filter((b) => !b.room).map((b) => ({ type: 'brush', id: b.id }) as const), ...[...editor().doc.entities.keys()].map((id) => ({ type: 'entity', id }) as const)])) },
  { id: 'edit.turnLeft', group: 'Edit', label: 'Turn a quarter left', keys: 'mod+left', run: () => quarterTurn(90) },
  { id: 'edit.turnRight', group: 'Edit', label: 'Turn a quarter right', keys: 'mod+right', run: () => quarterTurn(-90) },
  { id: 'edit.mirrorX', group: 'Edit', label: 'Mirror east to west', keys: 'mod+m', run: () => mirrorPicked(0) },
  { id: 'edit.mirrorY', group: 'Edit', label: 'Mirror north to south', keys: 'mod+shift+m', run: () => mirrorPicked(1) },
  { id: 'edit.doorway', group: 'Edit', label: 'Open a doorway between two rooms', keys: 'mod+o', run: doorwayOfSelection },
  { id: 'nudge.left', group: 'Edit', label: 'Nudge left', keys: 'left', run: () => nudge(-1, 0) },
  { id: 'nudge.right', group: 'Edit', label: 'Nudge right', keys: 'right', run: () => nudge(1, 0) },
  { id: 'nudge.up', group: 'Edit', label: 'Nudge up in the drawing', keys: 'up', run: () => nudge(0, 1) },
  { id: 'nudge.down', group: 'Edit', label: 'Nudge down in the drawing', keys: 'down', run: () => nudge(0, -1) },
  { id: 'nudge.rise', group: 'Edit', label: 'Nudge higher', keys: 'alt+up', run: () => nudge(0, 0, 1) },
  { id: 'nudge.sink', group: 'Edit', label: 'Nudge lower', keys: 'alt+down', run: () => nudge(0, 0, -1) },

  { id: 'view.frame', group: 'View', label: 'Frame the selection or the map', keys: 'f', run: frameAll },
  { id: 'view.home', group: 'View', label: 'Eye: stand at the spawn', keys: 'home', run: goToSpawn },
  { id: 'view.mode', group: 'View', label: 'Eye: clay or textured', keys: 't', run: () => view().set({ eyeMode: view().eyeMode === 'clay' ? 'textured' : 'clay' }) },
  { id: 'view.snap', group: 'View', label: 'Snap to grid on or off', keys: 'g', run: () => view().set({ snap: !view().snap }) },
  { id: 'view.finer', group: 'View', label: 'Finer grid', keys: 'shift+g', run: () => changeGrid(-1) },
  { id: 'view.coarser', group: 'View', label: 'Coarser grid', keys: 'alt+g', run: () => changeGrid(1) },
  { id: 'view.full', group: 'View', label: 'Fill the centre with one pane, or show all', keys: 'mod+enter', run: () => view().set({ full: view().full ? null : lastPane.kind }) },
  { id: 'view.register', group: 'View', label: 'Register', keys: 'shift+r', run: () => view().set({ drawer: view().drawer === 'register' ? null : 'register' }) },
  { id: 'view.stock', group: 'View', label: 'Stock', keys: 'shift+s', run: () => view().set({ drawer: view().drawer === 'stock' ? null : 'stock' }) },
  { id: 'view.particulars', group: 'View', label: 'Particulars', keys: 'shift+p', run: () => view().set({ particulars: !view().particulars }) },
  { id: 'view.levelUp', group: 'View', label: 'Storey up', keys: 'pageup', run: () => moveLevel(1) },
  { id: 'view.levelDown', group: 'View', label: 'Storey down', keys: 'pagedown', run: () => moveLevel(-1) },
]; // prettier-ignore

/** Goes to the next floor height that a room has, above or below. */
function moveLevel(by: 1 | -1): void {
  const floors = [...new Set([...editor().doc.rooms.values()].map((r) => r.floor))].sort((a, b) => a - b);
  const { level } = view();
  const next = by > 0 ? floors.find((f) => f > level) : floors.findLast((f) => f < level);
  if (next !== undefined) view().set({ level: next, centre: [view().centre[0], view().centre[1], next + 130] });
  else notify(by > 0 ? 'No room stands higher.' : 'No room stands lower.', 'storey');
}

/** Where some brushes and things are, to go there. */
export function goTo(at: Vec3 | undefined, brushes: readonly string[] = [], entities: readonly string[] = []): void {
  const { doc, select } = editor();
  const things = [
    ...brushes.filter((id) => doc.brushes.has(id)).map((id) => ({ type: 'brush', id }) as const),
    ...entities.filter((id) => doc.entities.has(id)).map((id) => ({ type: 'entity', id }) as const),
  ];
  if (things.length) select(selectOnly(things));
  const place =
    at ?? (things[0]?.type === 'brush' ? boxCenter(brushBounds(doc.brushes.get(things[0].id)!)) : undefined);
  if (!place) return;
  view().set({ centre: place, sectionAt: Math.round(place[1]) });
  useEyeRequest.getState().look(place);
}

/** `mod+shift+z` as people read it. */
export const keyLabel = (keys: string): string =>
  keys.split(',')[0]!.trim().split('+').map((k) => ({ mod: 'Ctrl', shift: 'Shift', alt: 'Alt', left: '←', right: '→', up: '↑', down: '↓', delete: 'Del', pageup: 'PgUp', pagedown: 'PgDn', enter: 'Enter', home: 'Home' })[k] ?? k.toUpperCase()).join(' '); // prettier-ignore

export const commandById = (id: string): Command => COMMANDS.find((c) => c.id === id)!;
