import {
  brushBounds,
  call,
  dominantAxis,
  growBox,
  guidesFor,
  idsOf,
  pickedBounds,
  rootGroup,
  rotation,
  shear,
  wrapDegrees,
  type Box,
  type Call,
  type Vec3,
} from '@yesca/core';
import { HANDLES, handleAt, skewTabs, turnKnob } from '../geometry/handle-places.ts';
import { acrossOf, snapTo, spanAlong, toScreen, upOf, type SheetView } from '../geometry/projection.ts';
import { drawnBrush } from '../geometry/sheet-geometry.ts';
import { boxToBox, inAxes, transformBox } from '../geometry/own-axes.ts';
import { handleUnder } from './handle-under.ts';
import { handleCall, thingHandles, type ThingHandle } from './thing-handles.ts';
import { useEditor } from '../state/editor.ts';
import {
  asPicked,
  isSelected,
  isSized,
  NOTHING,
  pickedIds,
  selectOnly,
  thingsOf,
  toggleThings,
  withMembers,
  type Thing,
} from '../state/selection.ts';
import { movedPicked } from '../state/moved.ts';
import { pickable } from '../state/shown.ts';
import { useView } from '../state/view.ts';
import { dragged, samePixel, typedHere, typedOn, type PanePointer, type Tool } from './tool.ts';
import { gridStep } from '../geometry/snap.ts';
import { pivotOf } from '../commands/pivot.ts';

type Handle = (typeof HANDLES)[number];
type Grip =
  | { readonly kind: 'handle'; readonly of: ThingHandle }
  | { readonly kind: 'side'; readonly handle: Handle }
  | { readonly kind: 'turn' }
  | { readonly kind: 'skew'; readonly along: 'h' | 'v' };
type Guide = { readonly axis: 0 | 1 | 2; readonly at: number };

type State =
  | { readonly name: 'idle' }
  | {
      readonly name: 'pressed';
      readonly start: PanePointer;
      readonly grip: Grip | null;
      readonly thing: Thing | null;
    }
  | {
      readonly name: 'moving';
      readonly start: PanePointer;
      readonly box: Box;
      readonly by: Vec3;
      readonly copy: boolean;
      readonly guides: readonly Guide[];
      readonly typed: string;
    }
  | {
      readonly name: 'resizing';
      readonly start: PanePointer;
      readonly box: Box;
      readonly to: Box;
      /** Of the axes both boxes lie in, degrees. */
      readonly turn: number;
      readonly handle: Handle;
      readonly guides: readonly Guide[];
      readonly typed: string;
    }
  | {
      readonly name: 'turning' | 'skewing';
      readonly start: PanePointer;
      readonly box: Box;
      readonly along: 'h' | 'v';
      /** Degrees turned, or cm skewed. */
      readonly by: number;
      readonly typed: string;
    }
  | { readonly name: 'handling'; readonly start: PanePointer; readonly of: ThingHandle; readonly to: PanePointer }
  | { readonly name: 'marquee'; readonly start: PanePointer };

let state: State = { name: 'idle' };
/**
 * Where and what was clicked last: a click at the same spot goes on to what is behind. It is forgotten when the pointer moves
 * away, some time passes, or something else is done.
 */
let lastClick: { x: number; y: number; pane: string; depth: number; when: number } | null = null;
/** Clicks further apart than this (ms) begin with what is in front again. */
const SAME_CLICK = 5000;
/** A pointer that moved this far (pixels) is somewhere else. */
const SAME_SPOT = 3;

const editor = () => useEditor.getState();

const selectionBox = (): Box | null => pickedBounds(editor().doc, asPicked(editor().selection));

/** The box whose handles are shown: on the Plan it may lie in the brush's own axes. */
const handleBox = (view: SheetView) =>
  transformBox(editor().doc, asPicked(editor().selection), view.kind === 'plan' && useView.getState().axes === 'own');

const near = (a: readonly [number, number], p: PanePointer, within = 8) => Math.hypot(a[0] - p.x, a[1] - p.y) <= within;

function gripUnder(p: PanePointer): Grip | null {
  const own = handleUnder(p, thingHandles(pickable(editor().doc), editor().selection, p.view));
  if (own) return { kind: 'handle', of: own };
  const shown = p.view?.square ? handleBox(p.view) : null;
  if (!p.view || !shown) return null;
  const { box, turn } = shown;
  if (near(turnKnob(p.view, box, turn), p)) return { kind: 'turn' };
  if (!isSized(editor().selection)) return null;
  const handle = HANDLES.find((at) => near(handleAt(p.view!, box, at, turn), p));
  if (handle) return { kind: 'side', handle };
  if (turn !== 0) return null;
  const tab = skewTabs(p.view, box).find(({ at }) => near(at, p));
  return tab ? { kind: 'skew', along: tab.along } : null;
}

/** A side this near (pixels) to a neighbour's side or middle becomes flush with it. */
const GUIDE = 6;

/** The sides and middles of what stands near, for the whole gesture. */
function guidesAround(view: SheetView | undefined, box: Box): Guide[] {
  if (!view?.square) return [];
  const reach = Math.min(4000, Math.max(view.width, view.height) / view.zoom);
  const near = growBox(box, reach);
  return ([view.h, view.v] as const).flatMap((axis) => {
    const seen = new Set<number>();
    return guidesFor(editor().doc, asPicked(editor().selection), near, axis).flatMap(({ at }) => {
      if (seen.has(at)) return [];
      seen.add(at);
      return [{ axis, at }];
    });
  });
}

/** The nearest guide to one of some places along an axis, closer than the grid would put them: by how much to move on. */
function flush(guides: readonly Guide[], axis: 0 | 1 | 2, places: readonly number[], reach: number): number | null {
  let best: number | null = null;
  for (const g of guides)
    if (g.axis === axis)
      for (const p of places) {
        const d = g.at - p;
        if (Math.abs(d) <= reach && (best === null || Math.abs(d) < Math.abs(best))) best = d;
      }
  return best;
}

/** Which guides a box lies on. */
const met = (guides: readonly Guide[], box: Box): Guide[] =>
  guides.filter(({ axis, at }) =>
    [box.min[axis], (box.min[axis] + box.max[axis]) / 2, box.max[axis]].some((c) => Math.abs(c - at) < 0.01),
  );

const moved = (box: Box, by: Vec3): Box => ({
  min: [box.min[0] + by[0], box.min[1] + by[1], box.min[2] + by[2]],
  max: [box.max[0] + by[0], box.max[1] + by[1], box.max[2] + by[2]],
});

/** The way a drag moves a box: its low corner ends on the grid, or a side of it flush with a neighbour. */
function dragBy(start: PanePointer, now: PanePointer, box: Box, guides: readonly Guide[]): Vec3 {
  const grid = gridStep();
  const free = dragged(start, now);
  const by: [number, number, number] = [0, 0, 0];
  for (const axis of [0, 1, 2] as const) {
    if (Math.abs(free[axis]) < 1e-9) continue;
    const snapped = grid === null ? free[axis] : snapTo(box.min[axis] + free[axis], grid) - box.min[axis];
    const places = [box.min[axis], (box.min[axis] + box.max[axis]) / 2, box.max[axis]].map((c) => c + free[axis]);
    const reach = GUIDE / (now.view?.zoom ?? Infinity);
    const more = flush(guides, axis, places, grid === null ? reach : Math.min(reach, Math.abs(snapped - free[axis])));
    by[axis] = more === null ? snapped : free[axis] + more;
  }
  // Shift keeps the drag to its longer direction.
  if (now.shift && now.view) {
    const { h, v } = now.view;
    if (Math.abs(by[h]) >= Math.abs(by[v])) by[v] = 0;
    else by[h] = 0;
  }
  return by;
}

function resizedBox({ box, turn, handle, guides }: Extract<State, { name: 'resizing' }>, now: PanePointer): Box {
  const grid = gridStep();
  const min: [number, number, number] = [...box.min];
  const max: [number, number, number] = [...box.max];
  const view = now.view!;
  for (const [side, axis] of [
    [handle[0], view.h],
    [handle[1], view.v],
  ] as const) {
    const raw = inAxes(now.raw, turn)[axis];
    // In its own axes a brush is off the grid; its sides move by whole steps.
    const from = turn === 0 ? 0 : side < 0 ? min[axis] : max[axis];
    const snapped = grid === null ? raw : from + snapTo(raw - from, grid);
    const reach = GUIDE / view.zoom;
    const more = flush(guides, axis, [raw], grid === null ? reach : Math.min(reach, Math.abs(snapped - raw)));
    const at = more === null ? snapped : raw + more;
    const least = grid ?? 1;
    if (side < 0) min[axis] = Math.min(at, max[axis] - least);
    if (side > 0) max[axis] = Math.max(at, min[axis] + least);
  }
  return { min, max };
}

/** Degrees the pointer went round the pivot, counter-clockwise on the drawing. */
function turnedBy(s: { start: PanePointer; box: Box }, now: PanePointer): number {
  const [cx, cy] = toScreen(now.view!, pivotOf(s.box));
  const angle = (p: PanePointer) => (Math.atan2(cy - p.y, p.x - cx) * 180) / Math.PI;
  const free = angle(now) - angle(s.start);
  const step = useView.getState().snap && !now.alt ? useView.getState().angleStep : 0.1;
  const by = Math.round(free / step) * step;
  return wrapDegrees(by + 180) - 180;
}

function turnMap(view: SheetView, box: Box, degrees: number) {
  // Counter-clockwise on the paper is counter-clockwise about the direction towards the viewer.
  const axis = dominantAxis(view.away);
  const sign = view.away[axis] < 0 ? 1 : -1;
  return rotation(axis, sign * degrees, pivotOf(box));
}

function skewMap(view: SheetView, box: Box, along: 'h' | 'v', by: number) {
  const [moves, across] = along === 'h' ? [view.h, view.v] : [view.v, view.h];
  const size = box.max[across] - box.min[across];
  // The side with the tab moves, the one across from it stays: below for a skew to the side, right for one up and down.
  const low = along === 'h';
  return shear(moves, across, size > 0 ? (low ? -by : by) / size : 0, low ? box.max[across] : box.min[across]);
}

type Gesture<N extends State['name']> = Extract<State, { name: N }>;

function movedCall({ by, copy }: Gesture<'moving'>): Call {
  const { doc, selection } = editor();
  if (copy) return call('pick.duplicate', { picked: pickedIds(selection), by });
  return call('pick.move', { picked: idsOf(movedPicked(doc, selection)), by, carry: useView.getState().carry });
}

/** Resizes by scaling, or, with slopes kept, by moving only the faces on the sides that moved. */
function resizeCall({ box, to, turn }: Gesture<'resizing'>): Call {
  const { selection } = editor();
  const picked = pickedIds(selection);
  const { resize, carry } = useView.getState();
  if (turn !== 0) return call('pick.transform', { picked, map: boxToBox(box, to, turn), carry, as: 'resize' });
  const { brushes = [], ...others } = picked;
  return resize === 'slopes' && brushes.length && Object.keys(others).length === 0
    ? call('pick.stretch', { brushes, to, carry })
    : call('pick.resize', { picked, to, carry });
}

function mapCall(s: Gesture<'turning' | 'skewing'>): Call {
  const { doc, selection } = editor();
  const view = s.start.view!;
  const { carry } = useView.getState();
  if (s.name === 'skewing')
    return call('pick.transform', {
      picked: pickedIds(selection),
      map: skewMap(view, s.box, s.along, s.by),
      carry,
      as: 'skew',
    });
  return call('pick.transform', { picked: idsOf(movedPicked(doc, selection)), map: turnMap(view, s.box, s.by), carry });
}

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
  const again =
    lastClick &&
    lastClick.pane === p.pane &&
    samePixel(lastClick, p, SAME_SPOT) &&
    Date.now() - lastClick.when < SAME_CLICK &&
    !p.ctrl &&
    !p.shift;
  const depth = again && things.length ? (lastClick!.depth + 1) % things.length : 0;
  lastClick = { x: p.x, y: p.y, pane: p.pane, depth, when: Date.now() };
  const thing = things[depth];
  if (!thing) return p.shift || p.ctrl ? undefined : select(NOTHING);
  const members = withMembers([thing], editor().doc);
  if (p.ctrl) select(toggleThings(selection, members));
  else if (p.shift) select(selectOnly([...thingsOf(selection), ...members]));
  else select(selectOnly(members));
}

/** Everything a marquee touches; with Alt only what is fully inside. */
function inMarquee(view: SheetView, a: Vec3, b: Vec3, whole: boolean): Thing[] {
  const doc = pickable(editor().doc);
  const sorted = (p: number, q: number) => [Math.min(p, q), Math.max(p, q)] as const;
  const across = sorted(acrossOf(view, a), acrossOf(view, b));
  const up = sorted(upOf(view, a), upOf(view, b));
  const inside = (p: Vec3) =>
    acrossOf(view, p) >= across[0] &&
    acrossOf(view, p) <= across[1] &&
    upOf(view, p) >= up[0] &&
    upOf(view, p) <= up[1];
  const out: Thing[] = [];
  for (const brush of doc.brushes.values()) {
    // Floors and walls of a room count as the room, and only when all of it is enclosed; otherwise a marquee inside a room would always take it.
    if (brush.room && !brush.room.released) continue;
    const [a0, a1] = spanAlong(brushBounds(brush), view.right);
    const [b0, b1] = spanAlong(brushBounds(brush), view.up);
    const enclosed = a0 >= across[0] && a1 <= across[1] && b0 >= up[0] && b1 <= up[1];
    const touches = a0 <= across[1] && a1 >= across[0] && b0 <= up[1] && b1 >= up[0];
    if (!(whole ? enclosed : touches) || (!enclosed && drawnBrush(brush, view).where === 'before')) continue;
    const group = rootGroup(doc, brush.group);
    out.push(group ? { type: 'group', id: group } : { type: 'brush', id: brush.id });
  }
  for (const e of doc.entities.values())
    if (inside(e.at)) {
      const group = rootGroup(doc, e.group);
      out.push(group ? { type: 'group', id: group } : { type: 'entity', id: e.id });
    }
  for (const room of doc.rooms.values()) {
    const corners = room.footprint.flatMap(([x, y]): Vec3[] => [
      [x, y, room.floor],
      [x, y, room.ceiling],
    ]);
    if (corners.every(inside)) out.push({ type: 'room', id: room.id });
  }
  return withMembers(out, doc);
}

/** Starts what a press that moves on means: resizing, turning, skewing, moving, or a marquee. */
function begin({ start, grip, thing }: Extract<State, { name: 'pressed' }>): State {
  const { selection, select, doc } = editor();
  const box = selectionBox();
  if (grip?.kind === 'handle') return { name: 'handling', start, of: grip.of, to: start };
  if (grip && box) {
    const common = { start, box, typed: '' };
    if (grip.kind === 'side') {
      const { box: from, turn } = handleBox(start.view!)!;
      return {
        ...common,
        name: 'resizing',
        box: from,
        to: from,
        turn,
        handle: grip.handle,
        guides: turn === 0 ? guidesAround(start.view, box) : [],
      };
    }
    return {
      ...common,
      name: grip.kind === 'turn' ? 'turning' : 'skewing',
      along: grip.kind === 'skew' ? grip.along : 'h',
      by: 0,
    };
  }
  const wholeRoom = thing?.type === 'room' && !isSelected(selection, thing);
  if (thing && !start.shift && !wholeRoom && (start.view || isSelected(selection, thing, doc))) {
    if (!isSelected(selection, thing, doc)) select(selectOnly(withMembers([thing], doc)));
    const bounds = selectionBox();
    if (bounds)
      return {
        name: 'moving',
        start,
        box: bounds,
        by: [0, 0, 0],
        copy: start.alt,
        guides: guidesAround(start.view, bounds),
        typed: '',
      };
  }
  return start.view ? { name: 'marquee', start } : { name: 'idle' };
}

/** Shows what the gesture would do now. */
function show(): void {
  const { preview, setOverlay } = editor();
  if (state.name === 'handling') {
    const call = handleCall(state.of, state.start, state.to);
    if (call) preview(call);
  }
  if (state.name === 'moving') {
    preview(movedCall(state));
    const box = moved(state.box, state.by);
    setOverlay({ sizes: box, guides: met(state.guides, box), typed: state.typed });
  } else if (state.name === 'resizing') {
    preview(resizeCall(state));
    const { to, turn } = state;
    const size = [0, 1, 2].map((i) => Math.round((to.max[i]! - to.min[i]!) * 100) / 100).join(' × ');
    if (turn !== 0) setOverlay({ typed: state.typed || size });
    else setOverlay({ sizes: to, guides: met(state.guides, to), typed: state.typed });
  } else if (state.name === 'turning' || state.name === 'skewing') {
    preview(mapCall(state));
    const text =
      state.name === 'turning' ? `${Math.round(state.by * 10) / 10}°` : `${Math.round(state.by * 100) / 100}`;
    setOverlay({ typed: state.typed || text });
  }
}

/** Select, move, resize, turn, skew, duplicate by dragging. */
export const pickTool: Tool = {
  down: (p) => {
    const { selection, doc } = editor();
    const things = p.hits.map((h) => h.thing);
    const selected = things.find((t) => isSelected(selection, t, doc));
    state = { name: 'pressed', start: p, grip: gripUnder(p), thing: selected ?? things[0] ?? null };
  },
  move: (p) => {
    if (lastClick && (lastClick.pane !== p.pane || !samePixel(lastClick, p, SAME_SPOT))) lastClick = null;
    if (state.name === 'pressed' && !samePixel(state.start, p)) state = begin(state);
    // What was typed holds against the pointer.
    if ('typed' in state && state.typed) return;
    if (state.name === 'handling') state = { ...state, to: p };
    else if (state.name === 'moving') state = { ...state, by: dragBy(state.start, p, state.box, state.guides) };
    else if (state.name === 'resizing') state = { ...state, to: resizedBox(state, p) };
    else if (state.name === 'turning') state = { ...state, by: turnedBy(state, p) };
    else if (state.name === 'skewing') {
      const axis = state.along === 'h' ? p.view!.h : p.view!.v;
      const free = p.raw[axis] - state.start.raw[axis];
      const grid = gridStep();
      state = { ...state, by: grid === null ? free : snapTo(free, grid) };
    } else if (state.name === 'marquee')
      return editor().setOverlay({ marquee: { pane: p.pane, from: state.start.raw, to: p.raw } });
    show();
  },
  up: (p) => {
    const was = state;
    state = { name: 'idle' };
    const { run, select, selection, setOverlay } = editor();
    if (was.name === 'pressed') click(p);
    else if (was.name === 'moving') run(movedCall(was));
    else if (was.name === 'handling') {
      const call = handleCall(was.of, was.start, was.to);
      if (call) run(call);
    } else if (was.name === 'resizing') run(resizeCall(was));
    else if (was.name === 'turning' || was.name === 'skewing') run(mapCall(was));
    else if (was.name === 'marquee') {
      setOverlay({});
      const things = inMarquee(was.start.view!, was.start.raw, p.raw, p.alt);
      if (p.ctrl) select(things.reduce((s, t) => toggleThings(s, [t]), selection));
      else select(selectOnly(p.shift || was.start.shift ? [...thingsOf(selection), ...things] : things));
    }
  },
  cancel: () => {
    lastClick = null;
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
  // A number typed while dragging sets the distance, the size or the angle.
  type: (text) => {
    if (!('typed' in state)) return false;
    const typed = typedOn(state.typed, text);
    const [first, second] = typedHere(typed);
    const view = state.start.view;
    if (state.name === 'moving' && view) {
      const by: [number, number, number] = [0, 0, 0];
      // A single number goes the way the drag went.
      const along = second === undefined && Math.abs(state.by[view.v]) > Math.abs(state.by[view.h]) ? view.v : view.h;
      by[along] = first ?? 0;
      if (second !== undefined) by[view.v] = second ?? 0;
      const sign = second === undefined && state.by[along] < 0 && (first ?? 0) > 0 ? -1 : 1;
      by[along] *= sign;
      state = { ...state, by, typed };
    } else if (state.name === 'resizing' && view) {
      const to = { min: [...state.to.min], max: [...state.to.max] } as {
        min: [number, number, number];
        max: [number, number, number];
      };
      const sides = [
        [state.handle[0], view.h],
        [state.handle[1], view.v],
      ] as const;
      const sizes = state.handle[0] === 0 ? [undefined, first] : [first, second];
      sides.forEach(([side, axis], i) => {
        const size = sizes[i];
        if (!size || size <= 0 || side === 0) return;
        if (side > 0) to.max[axis] = to.min[axis] + size;
        else to.min[axis] = to.max[axis] - size;
      });
      state = { ...state, to, typed };
    } else if (state.name === 'turning' || state.name === 'skewing') state = { ...state, by: first ?? 0, typed };
    show();
    return true;
  },
  cursor: (p) => {
    const grip = gripUnder(p);
    if (grip?.kind === 'turn' || grip?.kind === 'handle') return 'grab';
    if (grip?.kind === 'skew') return grip.along === 'h' ? 'ew-resize' : 'ns-resize';
    if (grip) {
      const { handle } = grip;
      if (handle[0] === 0) return 'ns-resize';
      if (handle[1] === 0) return 'ew-resize';
      return handle[0] === handle[1] ? 'nesw-resize' : 'nwse-resize';
    }
    return p.hits.some((h) => isSelected(editor().selection, h.thing)) ? 'move' : 'default';
  },
};
