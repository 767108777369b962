import {
  brushBounds, duplicatePicked, movePicked, pickedBounds, resizePicked, type Box, type MapDocument, type Vec3,
} from '@yesca/core'; // prettier-ignore
import { HANDLES, handleAt } from '../panes/draw-overlay.ts';
import { snapTo, type SheetView } from '../panes/projection.ts';
import { drawnBrush } from '../panes/sheet-geometry.ts';
import { useEditor } from '../state/editor.ts';
import {
  asPicked,
  isSelected,
  NOTHING,
  selectOnly,
  thingsOf,
  toggleThing,
  type Selection,
  type Thing,
} from '../state/selection.ts';
import { useView } from '../state/view.ts';
import { samePixel, type PanePointer, type Tool } from './tool.ts';

type Handle = (typeof HANDLES)[number];

type State =
  | { readonly name: 'idle' }
  | {
      readonly name: 'pressed';
      readonly start: PanePointer;
      readonly handle: Handle | null;
      readonly thing: Thing | null;
    }
  | {
      readonly name: 'moving';
      readonly start: PanePointer;
      readonly box: Box;
      readonly by: Vec3;
      readonly copy: boolean;
    }
  | {
      readonly name: 'resizing';
      readonly start: PanePointer;
      readonly box: Box;
      readonly to: Box;
      readonly handle: Handle;
    }
  | { readonly name: 'marquee'; readonly start: PanePointer };

let state: State = { name: 'idle' };
/** Where and what was clicked last: a click at the same spot goes on to what is behind. */
let lastClick: { x: number; y: number; pane: string; depth: number } | null = null;

const editor = () => useEditor.getState();
const gridStep = (): number | null => (useView.getState().snap ? editor().doc.settings.grid : null);

const selectionBox = (): Box | null => pickedBounds(editor().doc, asPicked(editor().selection));

function handleUnder(p: PanePointer): Handle | null {
  const box = selectionBox();
  if (!p.view || !box) return null;
  const { h, v } = p.view;
  if (box.max[h] - box.min[h] <= 0 && box.max[v] - box.min[v] <= 0) return null;
  return HANDLES.find((handle) => Math.hypot(...minus(handleAt(p.view!, box, handle), [p.x, p.y])) <= 8) ?? null;
}

const minus = (a: readonly [number, number], b: readonly [number, number]): [number, number] => [
  a[0] - b[0],
  a[1] - b[1],
];

/** The way a drag moves a box: its low corner ends on the grid. */
function dragBy(start: PanePointer, now: PanePointer, box: Box, grid: number | null): Vec3 {
  const by: [number, number, number] = [0, 0, 0];
  for (const axis of now.view ? [now.view.h, now.view.v] : []) {
    const d = now.raw[axis] - start.raw[axis];
    by[axis] = grid === null ? d : snapTo(box.min[axis] + d, grid) - box.min[axis];
  }
  // Shift keeps the drag to its longer direction.
  if (now.shift && now.view) {
    const { h, v } = now.view;
    if (Math.abs(by[h]) >= Math.abs(by[v])) by[v] = 0;
    else by[h] = 0;
  }
  return by;
}

function resizedBox(box: Box, handle: Handle, now: PanePointer, grid: number | null): Box {
  const min: [number, number, number] = [...box.min];
  const max: [number, number, number] = [...box.max];
  const view = now.view!;
  for (const [side, axis] of [
    [handle[0], view.h],
    [handle[1], view.v],
  ] as const) {
    const at = grid === null ? now.raw[axis] : snapTo(now.raw[axis], grid);
    const least = grid ?? 1;
    if (side < 0) min[axis] = Math.min(at, max[axis] - least);
    if (side > 0) max[axis] = Math.max(at, min[axis] + least);
  }
  return { min, max };
}

const movedCommand = (s: { by: Vec3; copy: boolean }) => (doc: MapDocument) => {
  const picked = asPicked(editor().selection);
  return s.copy ? duplicatePicked(doc, picked, s.by).doc : movePicked(doc, picked, s.by, useView.getState().carry);
};

function click(p: PanePointer): void {
  const { selection, select } = editor();
  const things = p.hits.map((hit) => hit.thing);
  if (p.alt) {
    const hit = p.hits.find((h) => h.thing.type === 'brush' && h.face >= 0);
    const brush = hit && editor().doc.brushes.get(hit.thing.id);
    if (!brush) return;
    const ref = { brush: brush.id, face: brush.faces[hit.face]!.id };
    const faces = p.shift || p.ctrl ? [...selection.faces, ref] : [ref];
    return select({ ...NOTHING, faces });
  }
  const again = lastClick && lastClick.pane === p.pane && samePixel(lastClick, p, 3) && !p.ctrl && !p.shift;
  const depth = again && things.length ? (lastClick!.depth + 1) % things.length : 0;
  lastClick = { x: p.x, y: p.y, pane: p.pane, depth };
  const thing = things[depth];
  if (!thing) return p.shift || p.ctrl ? undefined : select(NOTHING);
  if (p.ctrl) select(toggleThing(selection, thing));
  else if (p.shift) select(selectOnly([...thingsOf(selection), thing]));
  else select(selectOnly([thing]));
}

/** Everything a marquee touches; with Alt only what is fully inside. */
function inMarquee(view: SheetView, a: Vec3, b: Vec3, whole: boolean): Thing[] {
  const { doc } = editor();
  const low = [Math.min(a[view.h], b[view.h]), Math.min(a[view.v], b[view.v])] as const;
  const high = [Math.max(a[view.h], b[view.h]), Math.max(a[view.v], b[view.v])] as const;
  const inside = (p: Vec3) =>
    p[view.h] >= low[0] && p[view.h] <= high[0] && p[view.v] >= low[1] && p[view.v] <= high[1];
  const out: Thing[] = [];
  for (const brush of doc.brushes.values()) {
    const { min, max } = brushBounds(brush);
    const enclosed = inside(min) && inside(max);
    const touches = min[view.h] <= high[0] && max[view.h] >= low[0] && min[view.v] <= high[1] && max[view.v] >= low[1];
    if (!(whole ? enclosed : touches) || (!enclosed && drawnBrush(brush, view).where === 'before')) continue;
    // Floors and walls of a room count as the room, and only when all of it is enclosed; otherwise a marquee inside a room would always take it.
    if (brush.room) continue;
    out.push({ type: 'brush', id: brush.id });
  }
  for (const e of doc.entities.values()) if (inside(e.at)) out.push({ type: 'entity', id: e.id });
  for (const room of doc.rooms.values()) {
    const corners = room.footprint.flatMap(([x, y]): Vec3[] => [
      [x, y, room.floor],
      [x, y, room.ceiling],
    ]);
    if (corners.every(inside)) out.push({ type: 'room', id: room.id });
  }
  return out;
}

/** Select, move, resize, duplicate by dragging. */
export const pickTool: Tool = {
  down: (p) => {
    const handle = handleUnder(p);
    const things = p.hits.map((h) => h.thing);
    const selected = things.find((t) => isSelected(editor().selection, t));
    state = { name: 'pressed', start: p, handle, thing: selected ?? things[0] ?? null };
  },
  move: (p) => {
    const { selection, select, preview, setOverlay } = editor();
    if (state.name === 'pressed' && !samePixel(state.start, p)) {
      if (!p.view) return;
      const { start, handle, thing } = state;
      if (handle) {
        const box = selectionBox()!;
        state = { name: 'resizing', start, box, to: box, handle };
      } else if (thing && !start.shift && (isSelected(selection, thing) || thing.type !== 'room')) {
        if (!isSelected(selection, thing)) select(selectOnly([thing]));
        const box = selectionBox();
        if (box) state = { name: 'moving', start, box, by: [0, 0, 0], copy: start.alt };
      } else state = { name: 'marquee', start };
    }
    if (state.name === 'moving') {
      const by = dragBy(state.start, p, state.box, gridStep());
      state = { ...state, by };
      preview(movedCommand(state));
      const { box } = state;
      setOverlay({
        sizes: {
          min: [box.min[0] + by[0], box.min[1] + by[1], box.min[2] + by[2]],
          max: [box.max[0] + by[0], box.max[1] + by[1], box.max[2] + by[2]],
        },
      });
    } else if (state.name === 'resizing') {
      const to = resizedBox(state.box, state.handle, p, gridStep());
      state = { ...state, to };
      preview((doc) => resizePicked(doc, asPicked(selection), to, useView.getState().carry));
      setOverlay({ sizes: to });
    } else if (state.name === 'marquee') setOverlay({ marquee: { pane: p.pane, from: state.start.raw, to: p.raw } });
  },
  up: (p) => {
    const was = state;
    state = { name: 'idle' };
    const { run, select, selection, setOverlay } = editor();
    if (was.name === 'pressed') click(p);
    else if (was.name === 'moving') {
      const copied = was.copy;
      let made: Selection | null = null;
      run(copied ? 'Duplicate' : 'Move', (doc) => {
        if (!copied) return movedCommand(was)(doc);
        const result = duplicatePicked(doc, asPicked(selection), was.by);
        made = { ...NOTHING, ...result.picked };
        return result.doc;
      });
      if (made) select(made);
    } else if (was.name === 'resizing')
      run('Resize', (doc) => resizePicked(doc, asPicked(selection), was.to, useView.getState().carry));
    else if (was.name === 'marquee') {
      setOverlay({});
      const things = inMarquee(was.start.view!, was.start.raw, p.raw, p.alt);
      if (p.ctrl) select(things.reduce(toggleThing, selection));
      else select(selectOnly(p.shift || was.start.shift ? [...thingsOf(selection), ...things] : things));
    }
  },
  cancel: () => {
    const { selection, select, preview, setOverlay } = editor();
    if (state.name !== 'idle') {
      state = { name: 'idle' };
      preview(null);
      setOverlay({});
      return true;
    }
    const had = thingsOf(selection).length + selection.faces.length > 0;
    if (had) select(NOTHING);
    return had;
  },
  commit: () => false,
  cursor: (p) => {
    const handle = handleUnder(p);
    if (handle)
      return handle[0] === 0
        ? 'ns-resize'
        : handle[1] === 0
          ? 'ew-resize'
          : handle[0] === handle[1]
            ? 'nesw-resize'
            : 'nwse-resize';
    return p.hits.some((h) => isSelected(editor().selection, h.thing)) ? 'move' : 'default';
  },
};
