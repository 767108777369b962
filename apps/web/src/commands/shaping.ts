import {
  boxCenter,
  boxSize,
  call,
  facesFacing,
  idsOf,
  mirror,
  pickedBounds,
  rootGroup,
  rotation,
  sideNear,
  sideOf,
  similarBrushes,
  similarEntities,
  wallsOf,
  type Affine,
  type Likeness,
  type MapDocument,
  type OpeningKind,
  type Point2,
  type Vec3,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { movedPicked } from '../state/moved.ts';
import { notify } from '../state/notify.ts';
import { asPicked, isEmptySelection, NOTHING, pickedIds, selectedBrushes, selectOnly } from '../state/selection.ts';
import { useHidden } from '../state/shown.ts';
import { pivotOf } from './pivot.ts';
import { freshMaterial } from '../state/current.ts';
import { useWork } from '../state/work.ts';

const editor = () => useEditor.getState();
const picked = () => asPicked(editor().selection);
const ids = () => pickedIds(editor().selection);
const brushIds = () => [...brushesNow()];

/** The brushes an operation works on: the selected ones, and all of selected rooms. */
export const brushesNow = (): ReadonlySet<string> => selectedBrushes(editor().selection, editor().doc);

const selectBrushes = (ids: Iterable<string>) =>
  editor().select(selectOnly([...ids].map((id) => ({ type: 'brush', id }))));

export const subtractSelection = () =>
  void editor().run(call('brush.subtract', { brushes: brushIds(), material: freshMaterial() }));
export const intersectSelection = () => void editor().run(call('brush.intersect', { brushes: brushIds() }));
export const mergeSelection = (how: 'hull' | 'union') =>
  void editor().run(call('brush.merge', { brushes: brushIds(), how }));
export const wrapSelection = () =>
  void editor().run(call('brush.wrap', { brushes: brushIds(), things: [...editor().selection.entities] }));
export const shellSelection = (thickness: number, where: 'inside' | 'outside') =>
  void editor().run(call('brush.shell', { brushes: brushIds(), thickness, where }));
export const snapSelection = () => void editor().run(call('brush.snap', { brushes: brushIds() }));

export function repairSelection(): void {
  const brushes = brushIds();
  editor().run(call('brush.repair', brushes.length ? { brushes } : {}));
}

function transformSelection(as: 'turn' | 'mirror', map: Affine): void {
  const { doc, selection, run } = editor();
  run(call('pick.transform', { picked: idsOf(movedPicked(doc, selection)), map, carry: useWork.getState().carry, as }));
}

/** Turns the selection about its middle. */
export function turnSelection(degrees: number, axis: 0 | 1 | 2 = 2): void {
  const box = pickedBounds(editor().doc, picked());
  if (box) transformSelection('turn', rotation(axis, degrees, pivotOf(box)));
}

export function mirrorSelection(axis: 0 | 1 | 2): void {
  const box = pickedBounds(editor().doc, picked());
  if (box) transformSelection('mirror', mirror(axis, boxCenter(box)[axis]));
}

export const alignSelection = (axis: 0 | 1 | 2, to: 'low' | 'middle' | 'high') =>
  void editor().run(
    call('pick.align', {
      picked: ids(),
      axis,
      to,
      carry: useWork.getState().carry,
      contents: useWork.getState().contents,
    }),
  );
export const distributeSelection = (axis: 0 | 1 | 2) =>
  void editor().run(
    call('pick.spread', {
      picked: ids(),
      axis,
      carry: useWork.getState().carry,
      contents: useWork.getState().contents,
    }),
  );

export const repeatSelection = (count: number, step: Vec3) =>
  void editor().run(call('pick.repeat', { picked: ids(), count, step, carry: useWork.getState().carry }));
export const repeatSelectionAround = (count: number, about: Vec3, degrees: number) =>
  void editor().run(
    call('pick.repeatAround', { picked: ids(), count, about, degrees, carry: useWork.getState().carry }),
  );

/** The step that puts copies side by side along an axis. */
export const sideBySide = (axis: 0 | 1 | 2): number => {
  const box = pickedBounds(editor().doc, picked());
  return box ? boxSize(box)[axis] : 0;
};

/** Puts what is on the clipboard in the place of each selected thing, fitted to its bounds. */
export async function replaceFromClipboard(): Promise<void> {
  const text = await navigator.clipboard.readText().catch(() => '');
  editor().run(call('pick.replace', { picked: ids(), text, carry: useWork.getState().carry }));
}

export const groupSelection = () => void editor().run(call('pick.group', { picked: ids() }));

/** The outermost groups that anything selected belongs to. */
export function groupsOfSelection(): Set<string> {
  const { doc, selection } = editor();
  const of = (item: { group?: string } | undefined) => rootGroup(doc, item?.group) ?? [];
  return new Set([
    ...[...selection.brushes].flatMap((id) => of(doc.brushes.get(id))),
    ...[...selection.entities].flatMap((id) => of(doc.entities.get(id))),
  ]);
}

export function ungroupSelection(): void {
  const groups = groupsOfSelection();
  if (groups.size) editor().run(call('pick.ungroup', { groups: [...groups] }));
  else notify('Nothing selected belongs to a group.', 'group');
}

export const layerSelection = (layer: string | null) => void editor().run(call('pick.layer', { picked: ids(), layer }));

/** Selects everything like what is selected. */
export function selectSimilar(by: Likeness): void {
  const { doc, selection, select } = editor();
  const brushes = [...similarBrushes(doc, brushesNow(), by)].map((id) => ({ type: 'brush', id }) as const);
  const things = [...similarEntities(doc, selection.entities)].map((id) => ({ type: 'entity', id }) as const);
  select(selectOnly([...brushes, ...things]));
}

/** The rooms that are selected or that selected brushes belong to. */
const roomsNow = (): Set<string> => {
  const { doc, selection } = editor();
  return new Set([...selection.rooms, ...[...selection.brushes].flatMap((id) => doc.brushes.get(id)?.room?.id ?? [])]);
};

export function selectWalls(): void {
  const rooms = [...roomsNow()];
  if (rooms.length) selectBrushes(rooms.flatMap((id) => [...wallsOf(editor().doc, id)]));
  else notify('Select a room, or a brush of one.', 'walls');
}

export const selectFacing = (way: Vec3) =>
  editor().select({ ...NOTHING, faces: facesFacing(editor().doc, brushesNow(), way) });
export const selectAllFaces = () =>
  editor().select({
    ...NOTHING,
    faces: [...brushesNow()].flatMap((id) =>
      editor()
        .doc.brushes.get(id)!
        .faces.map((f) => ({ brush: id, face: f.id })),
    ),
  });

const everything = (doc: MapDocument) => [...doc.brushes.keys(), ...doc.entities.keys()];

export function hideSelection(): void {
  const ids = [...brushesNow(), ...editor().selection.entities];
  if (ids.length === 0) return;
  useHidden.getState().hide(ids);
  editor().select(NOTHING);
  notify(`${ids.length} hidden. Shift H shows everything again.`, 'hidden');
}

export function isolateSelection(): void {
  const kept = new Set([...brushesNow(), ...editor().selection.entities]);
  if (kept.size) useHidden.getState().hide(everything(editor().doc).filter((id) => !kept.has(id)));
  else notify('Select what is to stay visible.', 'hidden');
}

/** Raises or lowers by grid steps: a selected footprint in a room, or the floors or ceilings of selected rooms. */
export function raiseSelection(what: 'floor' | 'ceiling', steps: number): void {
  const { doc, selection, run } = editor();
  const by = steps * doc.settings.grid;
  const insets = new Map<string, string>();
  for (const id of selection.brushes) {
    const tag = doc.brushes.get(id)?.room;
    if (tag?.part.inset !== undefined) insets.set(tag.part.inset, tag.id);
  }
  if (insets.size === 0 && selection.rooms.size === 0)
    return notify('Select a room, or a footprint inside one, to raise or lower it.', 'raise');
  run(
    call('room.raise', {
      what,
      by,
      rooms: [...selection.rooms],
      insets: [...insets].map(([inset, room]) => ({ room, inset })),
    }),
  );
}

/** Sizes with which openings begin, cm. */
const OPENING: Readonly<Record<OpeningKind, { width: number; height: number; sill: number }>> = {
  door: { width: 112, height: 208, sill: 0 },
  window: { width: 128, height: 112, sill: 96 },
  arch: { width: 128, height: 224, sill: 0 },
};

/** Opens the wall of a room nearest to a place on the plan, there or in its middle. */
export function openingAt(room: string, p: Point2, kind: OpeningKind, centred = false): void {
  const { doc, run } = editor();
  const { side, at } = sideNear(doc, room, p);
  const r = doc.rooms.get(room)!;
  const { length } = sideOf(r, side);
  const usual = OPENING[kind];
  const width = Math.min(usual.width, Math.max(8, length - 16));
  const height = Math.min(usual.height, r.ceiling - r.floor - usual.sill);
  const { grid } = doc.settings;
  const middle = Math.round(at / grid) * grid;
  const fits = Math.min(length - width / 2, Math.max(width / 2, middle));
  const size = { ...usual, width, height: Math.max(8, height), at: centred ? length / 2 : fits };
  run(call('opening.inWall', { room, side, ...size, ...(kind === 'door' ? {} : { kind }) }));
}

export const giveBackSelection = () =>
  void editor().run(call('brush.giveBack', { brushes: [...editor().selection.brushes] }));

export const nothingPicked = () => isEmptySelection(editor().selection);
