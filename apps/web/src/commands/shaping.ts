import {
  alignPicked, boxCenter, boxSize, changeInset, changeRoom, distributePicked, facesFacing, giveBack, groupPicked, intersectPicked, mergePicked, mirror,
  moveToLayer, openWall, pasteText, pickedBounds, repairPicked, repeatAlong, repeatAround, removePicked, replaceWith, rootGroup, rotation, shellPicked, sideNear,
  sideOf, similarBrushes, similarEntities, snapToGrid, subtractBrushes, transformPicked, ungroup, wallsOf,
  type Likeness, type MapDocument, type OpeningKind, type Point2, type Shaped, type Vec3,
} from '@yesca/core'; // prettier-ignore
import { useEditor } from '../state/editor.ts';
import { movedPicked } from '../state/moved.ts';
import { notify } from '../state/notify.ts';
import { asPicked, isEmptySelection, NOTHING, selectedBrushes, selectOnly } from '../state/selection.ts';
import { useHidden } from '../state/shown.ts';
import { freshMaterial, useView } from '../state/view.ts';
import { pivotOf } from '../tools/pick.ts';

const editor = () => useEditor.getState();
const view = () => useView.getState();
const picked = () => asPicked(editor().selection);

/** The brushes an operation works on: the selected ones, and all of selected rooms. */
export const brushesNow = (): ReadonlySet<string> => selectedBrushes(editor().selection, editor().doc);

const selectBrushes = (ids: Iterable<string>) => editor().select(selectOnly([...ids].map((id) => ({ type: 'brush', id })))); // prettier-ignore

/** Runs a geometry operation on the selected brushes and selects what it made. */
export function shapeSelection(label: string, operation: (doc: MapDocument, ids: ReadonlySet<string>) => Shaped): void {
  let made: Shaped | null = null;
  const done = editor().run(label, (doc) => (made = operation(doc, brushesNow())).doc);
  if (!done || !made) return;
  selectBrushes((made as Shaped).brushes);
  if ((made as Shaped).sliver) notify('Pieces too thin for a brush were left out.', 'sliver');
}

export const subtractSelection = () =>
  shapeSelection('Subtract', (doc, ids) => subtractBrushes(doc, ids, undefined, false, freshMaterial()));
export const intersectSelection = () => shapeSelection('Intersect', intersectPicked);
export const mergeSelection = (how: 'hull' | 'union') => shapeSelection('Merge', (doc, ids) => mergePicked(doc, ids, how)); // prettier-ignore
export const shellSelection = (thickness: number, where: 'inside' | 'outside') => shapeSelection('Shell', (doc, ids) => shellPicked(doc, ids, thickness, where)); // prettier-ignore
export const snapSelection = () => shapeSelection('Snap to grid', (doc, ids) => snapToGrid(doc, ids, doc.settings.grid)); // prettier-ignore

export function repairSelection(): void {
  let words = '';
  shapeSelection('Repair', (doc, ids) => {
    const out = repairPicked(doc, ids.size ? ids : new Set(doc.brushes.keys()));
    words = out.mended + out.removed ? `Mended ${out.mended}, removed ${out.removed}.` : 'Nothing was broken.';
    return out;
  });
  if (words) notify(words, 'repair');
}

/** Turns the selection about its middle. */
export function turnSelection(degrees: number, axis: 0 | 1 | 2 = 2): void {
  const box = pickedBounds(editor().doc, picked());
  if (box) editor().run('Turn', (doc) => transformPicked(doc, movedPicked(doc, editor().selection), rotation(axis, degrees, pivotOf(box)), view().carry)); // prettier-ignore
}

export function mirrorSelection(axis: 0 | 1 | 2): void {
  const box = pickedBounds(editor().doc, picked());
  if (box) editor().run('Mirror', (doc) => transformPicked(doc, movedPicked(doc, editor().selection), mirror(axis, boxCenter(box)[axis]), view().carry)); // prettier-ignore
}

export const alignSelection = (axis: 0 | 1 | 2, to: 'low' | 'middle' | 'high') => void editor().run('Align', (doc) => alignPicked(doc, picked(), axis, to, view().carry, view().contents)); // prettier-ignore
export const distributeSelection = (axis: 0 | 1 | 2) => void editor().run('Spread evenly', (doc) => distributePicked(doc, picked(), axis, view().carry, view().contents)); // prettier-ignore

function selectCopies(label: string, make: (doc: MapDocument) => ReturnType<typeof repeatAlong>): void {
  let made = NOTHING;
  const done = editor().run(label, (doc) => {
    const out = make(doc);
    made = { ...NOTHING, ...out.picked };
    return out.doc;
  });
  if (done) editor().select(made);
}

export const repeatSelection = (count: number, step: Vec3) => selectCopies('Repeat', (doc) => repeatAlong(doc, picked(), count, step, view().carry)); // prettier-ignore
export const repeatSelectionAround = (count: number, about: Vec3, degrees: number) => selectCopies('Repeat around', (doc) => repeatAround(doc, picked(), count, 2, about, degrees, view().carry)); // prettier-ignore

/** The step that puts copies side by side along an axis. */
export const sideBySide = (axis: 0 | 1 | 2): number => {
  const box = pickedBounds(editor().doc, picked());
  return box ? boxSize(box)[axis] : 0;
};

/** Puts what is on the clipboard in the place of each selected thing, fitted to its bounds. */
export async function replaceFromClipboard(): Promise<void> {
  const text = await navigator.clipboard.readText().catch(() => '');
  selectCopies('Replace', (doc) => {
    const pasted = pasteText(doc, text, [0, 0, 0]);
    const out = replaceWith(pasted.doc, picked(), pasted.picked.brushes, view().carry);
    return { ...out, doc: removePicked(out.doc, pasted.picked) };
  });
}

export function groupSelection(): void {
  editor().run('Group', (doc) => groupPicked(doc, picked()));
}

/** The outermost groups that anything selected belongs to. */
export function groupsOfSelection(): Set<string> {
  const { doc, selection } = editor();
  const of = (item: { group?: string } | undefined) => rootGroup(doc, item?.group) ?? [];
  return new Set([...[...selection.brushes].flatMap((id) => of(doc.brushes.get(id))), ...[...selection.entities].flatMap((id) => of(doc.entities.get(id)))]); // prettier-ignore
}

export function ungroupSelection(): void {
  const groups = groupsOfSelection();
  if (groups.size) editor().run('Ungroup', (doc) => ungroup(doc, groups));
  else notify('Nothing selected belongs to a group.', 'group');
}

export const layerSelection = (layer: string | null) => void editor().run('Layer', (doc) => moveToLayer(doc, picked(), layer)); // prettier-ignore

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

export const selectFacing = (way: Vec3) => editor().select({ ...NOTHING, faces: facesFacing(editor().doc, brushesNow(), way) }); // prettier-ignore
export const selectAllFaces = () => editor().select({ ...NOTHING, faces: [...brushesNow()].flatMap((id) => editor().doc.brushes.get(id)!.faces.map((f) => ({ brush: id, face: f.id }))) }); // prettier-ignore

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
  run(by > 0 ? 'Raise' : 'Lower', (d) => {
    let out = d;
    for (const [inset, room] of insets) {
      const old = out.rooms.get(room)!.insets!.find((i) => i.id === inset)!;
      // A step through the floor's own height goes on to the other side.
      const height = old.height + by === 0 ? old.height + by * 2 : old.height + by;
      out = changeInset(out, room, inset, { height });
    }
    for (const id of selection.rooms) out = changeRoom(out, id, { [what]: out.rooms.get(id)![what] + by });
    return out;
  });
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
  run(`Open ${kind}`, (d) => openWall(d, room, side, { ...size, ...(kind === 'door' ? {} : { kind }) }));
}

export function giveBackSelection(): void {
  editor().run('Give back to the room', (doc) => giveBack(doc, editor().selection.brushes));
}

export const nothingPicked = () => isEmptySelection(editor().selection);
