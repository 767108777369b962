import { allFaces, call, facesIntoRoom, flushFaces, type Call, type FaceRef } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { materialLabel, useLibrary } from '../state/library.ts';
import { notify } from '../state/notify.ts';
import { NOTHING } from '../state/selection.ts';
import { startTextureDrag, textureBox, textureDrag, textureGripUnder, type TextureDrag } from './texture-box.ts';
import { optionsIn, samePixel, type OptionGroup, type PanePointer, type Shows, type Tool } from './tool.ts';
import { lastPainted, rememberPainted } from '../commands/last-painted.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { IconBucketDroplet } from '@tabler/icons-react';
import { useCurrent } from '../state/current.ts';

/** What a click of Paint covers. */
export const usePaintOptions = options('paint', {
  mode: params.choice(['face', 'brush', 'flush', 'flow', 'both'], 'face', {
    label: 'What a click covers',
    help: 'The face; the whole brush (Shift); flush neighbours as one; flow from the face painted last; the face and the far side of a thin brush',
    names: { face: 'Face', brush: 'Brush', flush: 'Flush', flow: 'Flow', both: 'Both sides' },
  }),
});
export type PaintMode = ReturnType<typeof usePaintOptions.getState>['mode'];

/** The active material among a tool's options. */
export const activeMaterial = (when?: OptionGroup['when']): OptionGroup =>
  optionsIn(
    useCurrent,
    { material: params.reference('material', { label: 'Material', help: 'The active material' }) },
    when,
  );

const editor = () => useEditor.getState();

const sameFace = (a: FaceRef, b: FaceRef): boolean => a.brush === b.brush && a.face === b.face;

/** The face under the pointer: the one that is seen there, or in a cut the side nearest to it. */
function faceUnder(p: PanePointer): { refs: FaceRef[]; material: string } | null {
  const hit = p.hits.find((h) => h.thing.type === 'brush' && h.face >= 0);
  const brush = hit && editor().doc.brushes.get(hit.thing.id);
  if (!brush) return null;
  const face = brush.faces[hit.face]!;
  return { refs: [{ brush: brush.id, face: face.id }], material: face.material };
}

/** Takes up the material under a pointer of any pane. */
export function pickUp(p: PanePointer): void {
  const under = faceUnder(p);
  if (!under) return;
  rememberPainted(under.refs[0]!);
  useCurrent.setState({ material: under.material });
  useLibrary.getState().used(under.material);
  notify(`Picked up ${materialLabel(under.material)}`, 'pickup');
}

/** What a click on a face does: which faces it covers, and how. */
function paintCall(one: FaceRef, material: string, mode: PaintMode): Call {
  const { doc, selection } = editor();
  const from = lastPainted();
  if (mode === 'flow' && from && !sameFace(from, one)) return call('face.flow', { from, faces: [one], paint: true });
  // A click on one of several selected faces covers them all; on one of several selected walls, what looks into their room.
  const inward =
    selection.brushes.size > 1 && selection.brushes.has(one.brush) ? facesIntoRoom(doc, selection.brushes) : [];
  const chosen = selection.faces.some((f) => sameFace(f, one)) ? selection.faces : inward.length ? inward : [one];
  if (mode === 'brush') return call('face.paint', { faces: allFaces(doc, [one.brush]), material, wholes: true });
  // Flush neighbours show one picture that runs on.
  if (mode === 'flush') return call('face.paint', { faces: flushFaces(doc, one), material, like: one });
  return call('face.paint', { faces: chosen, material, bothSides: mode === 'both' });
}

/** Puts a material down where a pointer is, as Paint and a drag from Stock do: a stamp, which leaves the selection as it was. */
export function paintAt(p: PanePointer, material: string, mode: PaintMode): void {
  const under = faceUnder(p);
  if (!under) return;
  if (!editor().run(paintCall(under.refs[0]!, material, mode))) return;
  rememberPainted(under.refs[0]!);
  useLibrary.getState().used(material);
}

/** Puts a material on all faces of some brushes, of walls of rooms on those that look into the room; those Unseen stay so. */
export function paintBrushes(ids: ReadonlySet<string>, material: string): void {
  const inward = facesIntoRoom(editor().doc, ids);
  const walls = new Set(inward.map((f) => f.brush));
  const others = [...ids].filter((id) => !walls.has(id));
  const faces = [...inward, ...allFaces(editor().doc, others)];
  editor().run(call('face.paint', { faces, material, wholes: true }));
  useLibrary.getState().used(material);
}

/** In the Eye the box of handles over the first selected face, with which its picture is moved, scaled and turned. */
const textureHandles: Shows = (doc, { faces }, view) => {
  const box = view ? null : textureBox(doc, faces);
  if (!box) return {};
  const [top, knob] = [box.grips[1]!.at, box.grips.at(-1)!.at];
  return {
    lines: [
      { points: [...box.corners, box.corners[0]!], ink: 'indigo' },
      { points: [top, knob], ink: 'indigo' },
    ],
    marks: box.grips.map((g) => ({ at: g.at, shape: 'disc' })),
  };
};

type State =
  | { readonly name: 'idle' }
  /** On a handle or a selected face: a drag moves the picture, a click paints. */
  | { readonly name: 'pressed'; readonly start: PanePointer; readonly drag: TextureDrag }
  | { readonly name: 'dragging'; readonly drag: TextureDrag };

const modeOf = (p: PanePointer): PaintMode => (p.shift ? 'brush' : usePaintOptions.getState().mode);
const paintHere = (p: PanePointer) => paintAt(p, useCurrent.getState().material, modeOf(p));

/** Adds the face under the pointer to the selected ones, or takes it out. */
function toggleFace(p: PanePointer): void {
  const under = faceUnder(p);
  if (!under || under.refs.length !== 1) return;
  const [one] = under.refs;
  const { selection, select } = editor();
  const had = selection.faces.some((f) => sameFace(f, one!));
  select({ ...NOTHING, faces: had ? selection.faces.filter((f) => !sameFace(f, one!)) : [...selection.faces, one!] });
}

/**
 * Click puts the active material on a face, with Shift on the whole brush, with Alt it picks the face's up; Ctrl selects
 * faces. In the Eye a drag on a selected face moves its picture, and the handles scale and turn it.
 */
export function paintTool(): Tool {
  let state: State = { name: 'idle' };
  const tool: Tool = {
    name: 'paint',
    label: 'Paint',
    hint: 'Click paints, Shift the whole brush; Ctrl selects faces, whose picture is then dragged in the Eye. I held picks up.',
    key: 'p',
    icon: IconBucketDroplet,
    options: [activeMaterial(), optionsIn(usePaintOptions, usePaintOptions.specs)],
    shows: textureHandles,

    down: (p) => {
      if (p.alt) return pickUp(p);
      if (p.ctrl) return toggleFace(p);
      const grip = textureGripUnder(p);
      const one = faceUnder(p)?.refs;
      const selected = p.ray && one?.length === 1 && editor().selection.faces.some((f) => sameFace(f, one[0]!));
      const drag = grip || selected ? startTextureDrag(p, grip ?? { kind: 'offset' }) : null;
      if (drag) state = { name: 'pressed', start: p, drag };
      else paintHere(p);
    },
    move: (p) => {
      if (state.name === 'pressed' && !samePixel(state.start, p)) state = { name: 'dragging', drag: state.drag };
      if (state.name !== 'dragging') return;
      const now = textureDrag(state.drag, p);
      if (!now) return;
      editor().preview(now.call);
      editor().setOverlay({ note: now.note });
    },
    up: (p) => {
      const was = state;
      state = { name: 'idle' };
      if (was.name === 'pressed') return paintHere(was.start);
      if (was.name !== 'dragging') return;
      const now = textureDrag(was.drag, p);
      if (now) editor().run(now.call);
    },
    cancel: () => {
      if (state.name !== 'idle') {
        state = { name: 'idle' };
        editor().preview(null);
        editor().setOverlay({});
        return true;
      }
      const had = editor().selection.faces.length > 0;
      if (had) editor().select(NOTHING);
      return had;
    },
    commit: () => false,
    cursor: (p) => {
      const grip = textureGripUnder(p);
      return grip ? (grip.kind === 'turn' ? 'grab' : 'nwse-resize') : 'cell';
    },
  };
  return tool;
}

/** What the pointer does while `I` is held, whatever the tool: a click in any pane picks a material up. */
export const PICK_UP = {
  down: pickUp,
  move: () => undefined,
  up: () => undefined,
  cursor: () => 'copy',
} satisfies Partial<Tool>;
