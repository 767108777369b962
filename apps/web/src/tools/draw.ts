import {
  addBrushes,
  boxSolid,
  dressSolid,
  newId,
  prismSolid,
  wedgeSolid,
  type Box,
  type MapDocument,
  type Solid,
  type Vec3,
} from '@yesca/core';
import { readLength } from '../fields/arithmetic.ts';
import { useEditor } from '../state/editor.ts';
import { selectOnly } from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { snapTo } from '../panes/projection.ts';
import { surfaceUnder } from './surface-under.ts';
import { samePixel, typedSizes, type PanePointer, type Tool } from './tool.ts';

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'pressed' | 'dragging'; readonly start: PanePointer; readonly floor: number }
  | { readonly name: 'ready'; readonly box: Box; readonly typed: string; readonly press: PanePointer | null };

let state: State = { name: 'idle' };
let ghost = newId();

const editor = () => useEditor.getState();

function solidOf(box: Box): Solid {
  const { shape, sides, rises } = useView.getState();
  if (shape === 'wedge') return wedgeSolid(box, rises);
  if (shape === 'prism') return prismSolid(box, sides);
  return boxSolid(box);
}

/** What stands in a room without being part of its walls is detail: it neither seals nor cuts the space into cells. */
const command = (box: Box) => (doc: MapDocument) =>
  addBrushes(doc, [dressSolid(solidOf(box), ghost, useView.getState().material, { role: 'detail' })]);

function show(box: Box, typed: string): void {
  const { preview, setOverlay, select } = editor();
  if (preview(command(box))) select(selectOnly([{ type: 'brush', id: ghost }]));
  setOverlay({ sizes: box, typed });
}

/** The box between two corners of a drag; the missing direction has the height set in the options. */
function boxBetween(start: PanePointer, now: PanePointer, floor: number): Box {
  const { height } = useView.getState();
  const { grid } = editor().doc.settings;
  const a = start.snapped;
  const b = now.snapped;
  const min: [number, number, number] = [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.min(a[2], b[2])];
  const max: [number, number, number] = [Math.max(a[0], b[0]), Math.max(a[1], b[1]), Math.max(a[2], b[2])];
  if (start.pane === 'plan') {
    min[2] = floor;
    max[2] = floor + height;
  } else {
    // In the Section the depth of the new brush is centred on the section line.
    const depth = Math.max(grid, snapTo(height, grid));
    min[1] = snapTo(useView.getState().sectionAt - depth / 2, grid);
    max[1] = min[1] + depth;
  }
  return { min, max };
}

/** Drag the base, adjust or type sizes, Enter or click commits. */
export const drawTool: Tool = {
  down: (p) => {
    if (p.pane === 'eye') return;
    if (state.name === 'ready') {
      state = { ...state, press: p };
      return;
    }
    state = { name: 'pressed', start: p, floor: p.pane === 'plan' ? surfaceUnder(editor().doc, p.raw) : 0 };
  },
  move: (p) => {
    if (state.name === 'ready' && state.press && !samePixel(state.press, p)) {
      // A new drag keeps what is there and starts the next one.
      const { press } = state;
      drawTool.commit();
      state = {
        name: 'pressed',
        start: press,
        floor: press.pane === 'plan' ? surfaceUnder(editor().doc, press.raw) : 0,
      };
    }
    if (state.name === 'pressed' && !samePixel(state.start, p)) {
      ghost = newId();
      state = { ...state, name: 'dragging' };
    }
    if (state.name === 'dragging') show(boxBetween(state.start, p, state.floor), '');
  },
  up: (p) => {
    if (state.name === 'dragging') {
      const box = boxBetween(state.start, p, state.floor);
      const flat = [0, 1, 2].some((i) => box.max[i]! - box.min[i]! <= 0);
      if (flat) return void drawTool.cancel();
      state = { name: 'ready', box, typed: '', press: null };
      show(box, '');
    } else if (state.name === 'ready' && state.press) drawTool.commit();
    else state = { name: 'idle' };
  },
  cancel: () => {
    const had = state.name !== 'idle';
    state = { name: 'idle' };
    const { preview, setOverlay, select, selection } = editor();
    preview(null);
    setOverlay({});
    if (had) select(selectOnly([...selection.brushes].filter((id) => editor().doc.brushes.has(id)).map((id) => ({ type: 'brush', id })))); // prettier-ignore
    return had;
  },
  commit: () => {
    if (state.name !== 'ready') return false;
    const { box } = state;
    state = { name: 'idle' };
    if (editor().run('Draw', command(box))) editor().select(selectOnly([{ type: 'brush', id: ghost }]));
    return true;
  },
  type: (text) => {
    if (state.name !== 'ready') return false;
    const typed = text === 'Backspace' ? state.typed.slice(0, -1) : state.typed + text;
    const sizes = typedSizes(typed, readLength);
    const { min, max } = state.box;
    const size = [0, 1, 2].map((i) => sizes[i] ?? max[i]! - min[i]!);
    const box: Box = { min, max: [min[0] + size[0]!, min[1] + size[1]!, min[2] + size[2]!] as Vec3 };
    state = { ...state, box: size.every((s) => s > 0) ? box : state.box, typed };
    show(state.box, typed);
    return true;
  },
  cursor: () => 'crosshair',
};
