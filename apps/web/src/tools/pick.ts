import {
  add,
  brushBounds,
  call,
  dominantAxis,
  growBox,
  guidesFor,
  idsOf,
  modelOf,
  pickedBounds,
  propBounds,
  uniteBoxes,
  rootGroup,
  rotation,
  shear,
  wrapDegrees,
  type Box,
  type Call,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { HANDLES, handleAt, skewTabs, turnKnob } from '../geometry/handle-places.ts';
import { snapTo, spanAlong, toScreen, toWorld, type SheetView } from '../geometry/projection.ts';
import { drawnBrush } from '../geometry/sheet-geometry.ts';
import { boxToBox, inAxes, transformBox } from '../geometry/own-axes.ts';
import { handleUnder } from './handle-under.ts';
import { handleCall, handleShows, thingHandles, type HandleDrag, type ThingHandle } from './thing-handles.ts';
import { wireKnobs, wireOver } from './wiring.ts';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
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
  type Selection,
  type Thing,
} from '../state/selection.ts';
import { movedPicked } from '../state/moved.ts';
import { pickable } from '../state/shown.ts';
import { rowAlong } from '../geometry/row.ts';
import { decalsHeld, layCall } from './decals.ts';
import { dragged, samePixel, typedHere, typedOn, optionsIn, type PanePointer, type Shows, type Tool } from './tool.ts';
import { gridStep } from '../geometry/snap.ts';
import { pivotOf } from '../commands/pivot.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { isWithin, marqueeBetween, marqueeLine } from './marquee.ts';
import { IconPointer } from '@tabler/icons-react';
import type { OverlayLine, OverlayMark } from '../state/overlay.ts';
import { useCurrent } from '../state/current.ts';
import { useWork, angleStep } from '../state/work.ts';

/** How what is selected is resized. */
export const usePickOptions = options('pick', {
  resize: params.choice(['scale', 'slopes'], 'scale', {
    label: 'Resize',
    help: 'Resize by scaling the shape, or move only the faces on that side and keep slopes — Shift V',
    names: { scale: 'Scale shape', slopes: 'Keep slopes' },
  }),
  axes: params.choice(['world', 'own'], 'world', {
    label: 'Axes',
    help: 'On the Plan the transform box lies in the world’s axes, or in those of the brush itself — X',
    names: { world: 'World', own: 'Own' },
  }),
});
const { carry, contents, neighbours, angleStep: step } = useWork.specs;

type Handle = (typeof HANDLES)[number];
type Grip =
  | { readonly kind: 'handle'; readonly of: ThingHandle }
  | { readonly kind: 'wire'; readonly thing: string }
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
      /** The same with what its props fill: what comes to lie flush with neighbours. */
      readonly filled: Box;
      readonly by: Vec3;
      readonly copy: boolean;
      /** Copies fill the way, one after another. */
      readonly row: boolean;
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
  /** Decals in the Eye, or copies of them, from surface to surface. */
  | {
      readonly name: 'laying';
      readonly things: readonly string[];
      readonly to: PanePointer;
      readonly copy: boolean;
    }
  | ({ readonly name: 'handling' } & HandleDrag)
  | { readonly name: 'wiring'; readonly thing: string; readonly to: PanePointer }
  | { readonly name: 'marquee'; readonly start: PanePointer };

/** Clicks further apart than this (ms) begin with what is in front again. */
const SAME_CLICK = 5000;
/** A pointer that moved this far (pixels) is somewhere else. */
const SAME_SPOT = 3;

const editor = () => useEditor.getState();

/** A box with all that the selected props fill. */
function withProps(box: Box): Box {
  const { doc, selection } = editor();
  const props = [...selection.entities].flatMap((id) => {
    const thing = doc.entities.get(id);
    return thing && modelOf(thing) ? [propBounds(thing)] : [];
  });
  return props.length ? uniteBoxes([box, ...props]) : box;
}

const selectionBox = (): Box | null => pickedBounds(editor().doc, asPicked(editor().selection));

/** The box whose handles are shown: on the Plan it may lie in the brush's own axes. */
const handleBox = (view: SheetView, doc = editor().doc, selection = editor().selection) =>
  transformBox(doc, asPicked(selection), view.kind === 'plan' && usePickOptions.getState().axes === 'own');

/** A handle: what taking it means, and where and how it is shown. */
type GripAt = OverlayMark & { readonly grip: Grip };

/** The handles of the transform box; of what has no size of its own, as a lamp, only the knob that turns it. */
function boxGrips(doc: MapDocument, selection: Selection, view: SheetView): GripAt[] {
  const shown = view.square ? handleBox(view, doc, selection) : null;
  if (!shown) return [];
  const { box, turn } = shown;
  const at = ([x, y]: readonly [number, number]): Vec3 => toWorld(view, x, y, box.min);
  const knob: GripAt = { at: at(turnKnob(view, box, turn)), shape: 'disc', grip: { kind: 'turn' } };
  if (!isSized(selection)) return [knob];
  const sides = HANDLES.map((handle): GripAt => {
    const grip = { kind: 'side', handle } as const;
    // Corners are diamonds, sides are bars along the side they move.
    const corner = handle[0] !== 0 && handle[1] !== 0;
    const look = corner
      ? ({ shape: 'diamond' } as const)
      : ({ shape: 'bar', along: handle[0] === 0 ? 'h' : 'v' } as const);
    return { at: at(handleAt(view, box, handle, turn)), ...look, grip };
  });
  const tabs = turn === 0 ? skewTabs(view, box) : [];
  return [
    knob,
    ...sides,
    ...tabs.map(({ at: screen, along }): GripAt => ({
      at: at(screen),
      shape: 'tab',
      along,
      grip: { kind: 'skew', along },
    })),
  ];
}

/** The handles that the kind of a selected thing gives it. */
const thingGrips = (doc: MapDocument, selection: Selection, view?: SheetView): GripAt[] =>
  thingHandles(doc, selection, view).map((of): GripAt => ({
    at: of.at,
    shape: 'diamond',
    grip: { kind: 'handle', of },
  }));

/** All handles of what is selected, those of a thing itself first. */
const gripsOf = (doc: MapDocument, selection: Selection, view?: SheetView): GripAt[] => [
  ...thingGrips(doc, selection, view),
  ...wireKnobs(doc, selection, view).map(({ at, thing }): GripAt => ({
    at,
    shape: 'oval',
    grip: { kind: 'wire', thing },
  })),
  ...(view ? boxGrips(doc, selection, view) : []),
];

const gripUnder = (p: PanePointer): Grip | null =>
  handleUnder(p, gripsOf(pickable(editor().doc), editor().selection, p.view))?.grip ?? null;

const CORNERS = HANDLES.filter(([a, b]) => a !== 0 && b !== 0);

/** The handles with the lines between them, and the point that turns go round. */
const shows: Shows = (doc, selection, view) => {
  // In a gesture the box would only follow after it.
  const settled = editor().draft === null;
  const grips = (settled ? gripsOf : thingGrips)(doc, selection, view);
  const lines: OverlayLine[] = [];
  for (const { grip } of grips)
    if (grip.kind === 'handle' && grip.of.handle.line)
      lines.push({
        points: [add(grip.of.from, grip.of.handle.from ?? [0, 0, 0]), grip.of.at],
        ink: 'indigo',
        style: 'fine',
      });
  for (const { grip, at } of grips)
    if (grip.kind === 'wire')
      lines.push({ points: [doc.entities.get(grip.thing)!.at, at], ink: 'indigo', style: 'fine' });
  const shown = settled && view?.square ? handleBox(view, doc, selection) : null;
  if (view && shown) {
    const { box, turn } = shown;
    const at = ([x, y]: readonly [number, number]): Vec3 => toWorld(view, x, y, box.min);
    const corners = CORNERS.map((c) => at(handleAt(view, box, c, turn)));
    if (isSized(selection)) lines.push({ points: [...corners, corners[0]!], ink: 'indigo', style: 'fine' });
    lines.push({ points: stalk(turnKnob(view, box, turn), handleAt(view, box, [0, 0], turn)).map(at), ink: 'indigo' });
  }
  const { pivot } = useCurrent.getState();
  const cross: OverlayMark[] = pivot && view ? [{ at: pivot, shape: 'cross' }] : [];
  return { lines, marks: [...cross, ...grips] };
};

/** The line from the knob towards the middle of the box, on screen. */
function stalk([kx, ky]: readonly [number, number], [tx, ty]: readonly [number, number]): [number, number][] {
  const reach = Math.max(1, Math.hypot(tx - kx, ty - ky));
  return [5, 22].map((d) => [kx + ((tx - kx) / reach) * d, ky + ((ty - ky) / reach) * d]);
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

/** The way a drag moves a box: its low corner ends on the grid, or a side of what is filled flush with a neighbour. */
function dragBy({ start, box, filled, guides }: Extract<State, { name: 'moving' }>, now: PanePointer): Vec3 {
  const grid = gridStep();
  const free = dragged(start, now);
  const by: [number, number, number] = [0, 0, 0];
  for (const axis of [0, 1, 2] as const) {
    if (Math.abs(free[axis]) < 1e-9) continue;
    const snapped = grid === null ? free[axis] : snapTo(box.min[axis] + free[axis], grid) - box.min[axis];
    const { min, max } = filled;
    const places = [min[axis], (min[axis] + max[axis]) / 2, max[axis]].map((c) => c + free[axis]);
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
  const step = useWork.getState().snap && !now.alt ? angleStep() : 0.1;
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

function movedCall({ box, by, copy, row }: Gesture<'moving'>): Call {
  const { doc, selection } = editor();
  const along = copy && row ? rowAlong(box, by) : null;
  if (along) return call('pick.repeat', { picked: pickedIds(selection), ...along, carry: useWork.getState().carry });
  if (copy) return call('pick.duplicate', { picked: pickedIds(selection), by });
  return call('pick.move', { picked: idsOf(movedPicked(doc, selection)), by, carry: useWork.getState().carry });
}

/** Resizes by scaling, or, with slopes kept, by moving only the faces on the sides that moved. */
function resizeCall({ box, to, turn }: Gesture<'resizing'>): Call {
  const { selection } = editor();
  const picked = pickedIds(selection);
  const { resize } = usePickOptions.getState();
  const { carry } = useWork.getState();
  if (turn !== 0) return call('pick.transform', { picked, map: boxToBox(box, to, turn), carry, as: 'resize' });
  const { brushes = [], ...others } = picked;
  return resize === 'slopes' && brushes.length && Object.keys(others).length === 0
    ? call('pick.stretch', { brushes, to, carry })
    : call('pick.resize', { picked, to, carry });
}

function mapCall(s: Gesture<'turning' | 'skewing'>): Call {
  const { doc, selection } = editor();
  const view = s.start.view!;
  const { carry } = useWork.getState();
  if (s.name === 'skewing')
    return call('pick.transform', {
      picked: pickedIds(selection),
      map: skewMap(view, s.box, s.along, s.by),
      carry,
      as: 'skew',
    });
  return call('pick.transform', { picked: idsOf(movedPicked(doc, selection)), map: turnMap(view, s.box, s.by), carry });
}

/** Everything a marquee touches; with Alt only what is fully inside. */
function inMarquee(view: SheetView, a: Vec3, b: Vec3, whole: boolean): Thing[] {
  const doc = pickable(editor().doc);
  const marquee = marqueeBetween(view, a, b);
  const { across, up } = marquee;
  const inside = (p: Vec3) => isWithin(view, marquee, p);
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

/** Select, move, resize, turn, skew, duplicate by dragging. */
export function pickTool(): Tool {
  let state: State = { name: 'idle' };
  /**
   * Where and what was clicked last: a click at the same spot goes on to what is behind. It is forgotten when the pointer moves
   * away, some time passes, or something else is done.
   */
  let lastClick: { x: number; y: number; pane: string; depth: number; when: number } | null = null;
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
  /** Starts what a press that moves on means: resizing, turning, skewing, moving, or a marquee. */
  function begin({ start, grip, thing }: Extract<State, { name: 'pressed' }>): State {
    const { selection, select, doc } = editor();
    const box = selectionBox();
    if (grip?.kind === 'handle') return { name: 'handling', start, of: grip.of, to: start, typed: '' };
    if (grip?.kind === 'wire') return { name: 'wiring', thing: grip.thing, to: start };
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
    const held = start.view || thing?.type !== 'entity' ? null : decalsHeld(thing.id);
    if (held) return { name: 'laying', things: held, to: start, copy: start.alt };
    const wholeRoom = thing?.type === 'room' && !isSelected(selection, thing);
    if (thing && !start.shift && !wholeRoom && (start.view || isSelected(selection, thing, doc))) {
      if (!isSelected(selection, thing, doc)) select(selectOnly(withMembers([thing], doc)));
      const bounds = selectionBox();
      if (bounds)
        return {
          name: 'moving',
          start,
          box: bounds,
          filled: withProps(bounds),
          by: [0, 0, 0],
          copy: start.alt,
          row: start.ctrl,
          guides: guidesAround(start.view, withProps(bounds)),
          typed: '',
        };
    }
    return start.view ? { name: 'marquee', start } : { name: 'idle' };
  }
  /** Shows what the gesture would do now. */
  function show(): void {
    const { preview, setOverlay } = editor();
    if (state.name === 'handling') {
      const call = handleCall(state);
      const done = call && preview(call);
      if (done) setOverlay(handleShows(state, done.doc, editor().selection));
      else
        setOverlay({
          typed: state.typed,
          note: call ? 'This cannot be. Let go to hear why, or press Esc.' : undefined,
        });
    }
    if (state.name === 'wiring') {
      const { here, other, wire } = wireOver(state.thing, state.to);
      setOverlay({
        lines: here
          ? [{ points: [here.at, other?.at ?? state.to.raw], ink: wire?.call ? 'ember' : 'indigo', style: 'dashed' }]
          : [],
        note: wire?.words ?? 'Drag onto the thing that the wire leads to. Esc lets go.',
      });
    }
    if (state.name === 'laying') {
      const call = layCall(state.things, state.to, state.copy);
      preview(call);
      setOverlay(call ? {} : { note: 'Drag it onto a surface. Esc puts it back.' });
    }
    if (state.name === 'moving') {
      preview(movedCall(state));
      const box = moved(state.filled, state.by);
      const along = state.copy && state.row ? rowAlong(state.box, state.by) : null;
      if (along) setOverlay({ note: `${along.count + 1} in a row`, typed: state.typed });
      else setOverlay({ sizes: box, guides: met(state.guides, box), typed: state.typed });
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
  const tool: Tool = {
    name: 'pick',
    label: 'Pick',
    hint: 'Click selects, drag moves, handles resize, the knob turns. Alt-drag copies, with Ctrl a row. Type while dragging.',
    key: 'v',
    icon: IconPointer,
    options: [
      optionsIn(usePickOptions, usePickOptions.specs),
      optionsIn(useWork, { carry }),
      { ...optionsIn(useWork, { contents, neighbours }, ({ rooms }) => rooms.size > 0), stacked: true },
      optionsIn(useWork, { angleStep: step }),
    ],
    watch: [usePickOptions, useCurrent],
    shows,

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
      if (state.name === 'handling' || state.name === 'wiring' || state.name === 'laying') state = { ...state, to: p };
      else if (state.name === 'moving') state = { ...state, by: dragBy(state, p), row: p.ctrl };
      else if (state.name === 'resizing') state = { ...state, to: resizedBox(state, p) };
      else if (state.name === 'turning') state = { ...state, by: turnedBy(state, p) };
      else if (state.name === 'skewing') {
        const axis = state.along === 'h' ? p.view!.h : p.view!.v;
        const free = p.raw[axis] - state.start.raw[axis];
        const grid = gridStep();
        state = { ...state, by: grid === null ? free : snapTo(free, grid) };
      } else if (state.name === 'marquee') return editor().setOverlay({ lines: [marqueeLine(state.start, p)] });
      show();
    },
    up: (p) => {
      const was = state;
      state = { name: 'idle' };
      const { run, select, selection, setOverlay } = editor();
      if (was.name === 'pressed') click(p);
      else if (was.name === 'moving') run(movedCall(was));
      else if (was.name === 'laying') {
        setOverlay({});
        const call = layCall(was.things, p, was.copy);
        if (!call || !run(call)) editor().preview(null);
      } else if (was.name === 'handling') {
        const call = handleCall(was);
        setOverlay({});
        // What is refused must not stay as if it were done.
        if (!call || !run(call)) editor().preview(null);
      } else if (was.name === 'wiring') {
        setOverlay({});
        const { other, wire } = wireOver(was.thing, p);
        if (wire?.call) run(wire.call);
        else if (other) notify(wire!.words);
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
      else if (state.name === 'handling') state = { ...state, typed };
      show();
      return true;
    },
    cursor: (p) => {
      const grip = gripUnder(p);
      if (grip?.kind === 'wire') return 'crosshair';
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
  return tool;
}
