import {
  brushPlanes,
  call,
  centroid,
  dot,
  edgesOf,
  type Brush,
  type Call,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { create } from 'zustand';
import { snapTo, toScreen, type SheetView } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes, selectOnly, stillThere, thingsOf, withMembers, type Selection } from '../state/selection.ts';
import { bentSide, movedOutline, outlineHandles, roomToShape } from './room-outline.ts';
import { handleUnder } from './handle-under.ts';
import { dragged, optionsIn, samePixel, typedHere, typedOn, type PanePointer, type Tool } from './tool.ts';
import { gridStep } from '../geometry/snap.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { isWithin, marqueeBetween, marqueeLine } from './marquee.ts';
import type { OverlayMark } from '../state/overlay.ts';
import { IconVector } from '@tabler/icons-react';
import { useWork } from '../state/work.ts';

/** What Reshape's handles are, and what becomes of what they are dragged to. */
export const useReshapeOptions = options('reshape', {
  handles: params.choice(['vertices', 'edges', 'faces'], 'vertices', {
    label: 'Handles',
    help: 'What is taken and dragged — Shift E',
    names: { vertices: 'Vertices', edges: 'Edges', faces: 'Faces' },
  }),
  taper: params.quantity('', 1, {
    label: 'Taper',
    help: 'What is left of a face that is pulled out at its far end: 1 straight, 0.5 half, 0 a point',
    min: 0,
    max: 16,
    shownWhen: (values) => values.handles === 'faces',
  }),
  split: params.yesNo(false, {
    label: 'Split',
    help: 'Split a brush that would become concave into convex parts',
  }),
});
type HandleKind = ReturnType<typeof useReshapeOptions.getState>['handles'];

/** A place that can be taken. */
interface Mark {
  readonly at: Vec3;
  readonly kind: 'vertex' | 'edge' | 'face';
  readonly chosen: boolean;
}
const SHAPES = { vertex: 'square', edge: 'oval', face: 'disc' } as const;

/** A handle: the corners it moves, and for a face which one. Of a room's outline `brush` is the room. */
export interface Handle extends Mark {
  readonly brush: string;
  readonly corners: readonly number[];
  readonly face?: number;
  readonly normal?: Vec3;
  readonly outline?: boolean;
}

/** Which handles are chosen, by kind and place: places survive the renumbering of corners. */
export const useReshape = create<{ chosen: ReadonlySet<string>; choose: (keys: Iterable<string>) => void }>()(
  (set) => ({
    chosen: new Set(),
    choose: (keys) => set({ chosen: new Set(keys) }),
  }),
);

const round = (c: number) => Math.round(c * 50) / 50 + 0;
const keyOf = (h: Pick<Mark, 'at' | 'kind'>): string => `${h.kind} ${h.at.map(round).join(' ')}`;

function handlesOf(brush: Brush, kind: HandleKind): Omit<Handle, 'chosen'>[] {
  const v = brush.vertices;
  if (kind === 'vertices') return v.map((at, i) => ({ at, kind: 'vertex', brush: brush.id, corners: [i] }));
  if (kind === 'edges')
    return edgesOf(brush).map(([a, b]) => ({
      at: centroid([v[a]!, v[b]!]),
      kind: 'edge',
      brush: brush.id,
      corners: [a, b],
    }));
  const planes = brushPlanes(brush);
  return brush.faces.map((f, i) => ({
    at: centroid(f.loop.map((k) => v[k]!)),
    kind: 'face',
    brush: brush.id,
    corners: f.loop,
    face: f.id,
    normal: planes[i]!.normal,
  }));
}

/** All handles of the selected brushes, or of the outline of the one room that is selected. */
function reshapeHandles(
  doc: MapDocument,
  selection: Selection,
  kind: HandleKind,
  chosen: ReadonlySet<string>,
): Handle[] {
  const room = roomToShape(doc, selection);
  if (room) return outlineHandles(room).map((h) => ({ ...h, chosen: chosen.has(keyOf(h)) }));
  return [...selectedBrushes(selection, doc)].flatMap((id) => {
    const brush = doc.brushes.get(id);
    return brush ? handlesOf(brush, kind).map((h) => ({ ...h, chosen: chosen.has(keyOf(h)) })) : [];
  });
}

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'pressed'; readonly start: PanePointer; readonly handle: Handle | null }
  | { readonly name: 'marquee'; readonly start: PanePointer }
  | {
      readonly name: 'dragging';
      readonly start: PanePointer;
      readonly handle: Handle;
      readonly by: Vec3;
      readonly pull: boolean;
      readonly typed: string;
    };

const editor = () => useEditor.getState();
const handlesNow = () => {
  const { doc, selection } = editor();
  return reshapeHandles(doc, selection, useReshapeOptions.getState().handles, useReshape.getState().chosen);
};

/** The handles under the pointer: in a drawing the whole column behind the nearest. */
function under(p: PanePointer): Handle[] {
  const all = handlesNow();
  const best = handleUnder(p, all);
  if (!best) return [];
  if (p.view) {
    // What lies behind one another on the paper is taken together.
    const [x, y] = toScreen(p.view, best.at);
    return all.filter((h) => {
      const [hx, hy] = toScreen(p.view!, h.at);
      return Math.hypot(hx - x, hy - y) < 1.5;
    });
  }
  return [best];
}

/** The way the grabbed handle is moved: onto the grid; a face along its normal unless Shift shears it. */
function moveBy(s: Extract<State, { name: 'dragging' }>, now: PanePointer): Vec3 {
  const grid = gridStep();
  const free = dragged(s.start, now);
  const { at, normal } = s.handle;
  const bend = s.pull && s.handle.outline;
  if (normal && !bend && (!now.shift || s.pull)) {
    let out = dot(free, normal);
    // In Eye a drag upward pulls a face that looks sideways out towards the viewer's right; the ground plane decides.
    if (grid !== null) {
      const axis = [0, 1, 2].find((i) => Math.abs(normal[i]!) === 1);
      out =
        axis === undefined
          ? snapTo(out, grid)
          : (snapTo(at[axis]! + out * normal[axis]!, grid) - at[axis]!) * normal[axis]!;
    }
    return [normal[0] * out, normal[1] * out, normal[2] * out];
  }
  if (grid === null) return free;
  // Only the directions the drag went in are put on the grid.
  const on = (i: 0 | 1 | 2) => (Math.abs(free[i]) < 1e-9 ? 0 : snapTo(at[i] + free[i], grid) - at[i]);
  const by: [number, number, number] = [on(0), on(1), on(2)];
  if (now.shift && now.view) {
    const { h, v } = now.view;
    if (Math.abs(by[h]) >= Math.abs(by[v])) by[v] = 0;
    else by[h] = 0;
  }
  return by;
}

/** The command of the drag: of brushes by hand, of a room's outline as a room. */
function reshapeCall({ handle, by, pull }: Extract<State, { name: 'dragging' }>): Call {
  const { taper, split: splitConcave } = useReshapeOptions.getState();
  const { carry } = useWork.getState();
  if (handle.outline) {
    const room = editor().doc.rooms.get(handle.brush)!;
    const corners = new Set(
      handlesNow()
        .filter((h) => h.chosen)
        .flatMap((h) => h.corners),
    );
    const footprint = pull ? bentSide(room, handle.corners[0]!, by) : movedOutline(room, corners, by);
    return call('room.change', { room: room.id, footprint });
  }
  if (pull) return call('brush.pull', { face: { brush: handle.brush, face: handle.face! }, by, taper });
  const list = [...moves(by)].map(([brush, corners]) => ({
    brush,
    corners: [...corners].map(([vertex, to]) => ({ vertex, to })),
  }));
  return call('brush.reshape', { moves: list, split: splitConcave, carry });
}

/** The corners that the chosen handles move, each once. */
function moves(by: Vec3): Map<string, Map<number, Vec3>> {
  const { doc } = editor();
  const out = new Map<string, Map<number, Vec3>>();
  for (const h of handlesNow().filter((x) => x.chosen)) {
    const brush = doc.brushes.get(h.brush)!;
    const mine = out.get(h.brush) ?? new Map<number, Vec3>();
    for (const i of h.corners) {
      const v = brush.vertices[i]!;
      mine.set(i, [v[0] + by[0], v[1] + by[1], v[2] + by[2]]);
    }
    out.set(h.brush, mine);
  }
  return out;
}

/** After a move the chosen handles are chosen again in their new places. */
function follow(by: Vec3): void {
  const { chosen, choose } = useReshape.getState();
  const { doc, selection } = editor();
  const wanted = new Set<string>();
  for (const key of chosen) {
    const [kind, x, y, z] = key.split(' ') as [Mark['kind'], string, string, string];
    wanted.add(keyOf({ kind, at: [Number(x) + by[0], Number(y) + by[1], Number(z) + by[2]] }));
  }
  const all = reshapeHandles(doc, selection, useReshapeOptions.getState().handles, wanted);
  choose(all.filter((h) => h.chosen).map(keyOf));
}

/** Chooses all handles in a marquee, whole columns of them. */
function choosePicked(view: SheetView, from: Vec3, p: PanePointer): void {
  const marquee = marqueeBetween(view, from, p.raw);
  const inside = handlesNow().filter((h) => isWithin(view, marquee, h.at));
  const { chosen, choose } = useReshape.getState();
  choose([...(p.shift || p.ctrl ? chosen : []), ...inside.map(keyOf)]);
}

/** Vertices, edges and faces as handles; drag them, type how far; Alt on a face pulls a new brush out of it. */
export function reshapeTool(): Tool {
  let state: State = { name: 'idle' };
  function show(): void {
    if (state.name !== 'dragging') return;
    const { preview, setOverlay } = editor();
    const { by, handle, typed } = state;
    const done = preview(reshapeCall(state));
    const concave = done?.note === 'concave';
    const note = !done
      ? handle.outline
        ? 'The outline would cross itself or leave no room. Drag elsewhere.'
        : 'This would leave no brush. Drag less far.'
      : concave
        ? useReshapeOptions.getState().split
          ? 'Concave: it will be split into convex parts.'
          : 'Concave: the hull swallows the corner. Switch on Split to get convex parts instead.'
        : undefined;
    const far = Math.round(Math.hypot(...by) * 100) / 100;
    setOverlay({ typed: typed || String(far), note });
  }
  function finish(s: Extract<State, { name: 'dragging' }>): void {
    const { by, pull, handle } = s;
    const { run, select, selection } = editor();
    const done = run(reshapeCall(s));
    if (!done) return;
    if (handle.outline || pull) {
      // The far face of what was pulled out, or the new corner, is chosen, so that the next drag goes on from there.
      if (!pull) return follow(by);
      const at: Vec3 = [handle.at[0] + by[0], handle.at[1] + by[1], handle.at[2] + by[2]];
      useReshape.getState().choose([keyOf({ kind: handle.outline ? 'vertex' : 'face', at })]);
      return;
    }
    select(selectOnly([...thingsOf(stillThere(selection, editor().doc)), ...thingsOf(editor().selection)]));
    follow(by);
  }
  const tool: Tool = {
    name: 'reshape',
    label: 'Reshape',
    hint: 'Drag handles; a marquee takes whole columns. Alt-drag pulls a brush out of a face, a corner out of a room’s side.',
    key: 'e',
    icon: IconVector,
    options: [optionsIn(useReshapeOptions, useReshapeOptions.specs)],
    watch: [useReshapeOptions, useReshape],
    shows: (doc, selection) => {
      const all = reshapeHandles(doc, selection, useReshapeOptions.getState().handles, useReshape.getState().chosen);
      return { marks: all.map(({ at, kind, chosen }): OverlayMark => ({ at, shape: SHAPES[kind], chosen })) };
    },

    down: (p) => {
      const column = under(p);
      const { chosen, choose } = useReshape.getState();
      if (column.length) {
        const keys = column.map(keyOf);
        const all = keys.every((k) => chosen.has(k));
        if (p.ctrl) choose(all ? [...chosen].filter((k) => !keys.includes(k)) : [...chosen, ...keys]);
        else if (!all) choose(p.shift ? [...chosen, ...keys] : keys);
      }
      state = { name: 'pressed', start: p, handle: column[0] ?? null };
    },
    move: (p) => {
      if (state.name === 'pressed' && !samePixel(state.start, p)) {
        const { start, handle } = state;
        if (handle)
          state = {
            name: 'dragging',
            start,
            handle,
            by: [0, 0, 0],
            pull: start.alt && (handle.face !== undefined || (!!handle.outline && handle.kind === 'edge')),
            typed: '',
          };
        else state = start.view ? { name: 'marquee', start } : { name: 'idle' };
      }
      if (state.name === 'marquee') editor().setOverlay({ lines: [marqueeLine(state.start, p)] });
      if (state.name !== 'dragging' || state.typed) return;
      state = { ...state, by: moveBy(state, p) };
      show();
    },
    up: (p) => {
      const was = state;
      state = { name: 'idle' };
      const { select, selection, setOverlay, doc } = editor();
      if (was.name === 'pressed' && !was.handle) {
        // A click beside every handle takes another brush, or lets go.
        const room = roomToShape(doc, selection);
        const hit = p.hits.map((h) => h.thing).find((t) => t.type === 'brush' || t.type === 'room');
        // A room comes first as a whole; the next click takes the brush itself, to be shaped by hand.
        const thing = room && hit?.id === room.id ? p.hits.find((h) => h.thing.type === 'brush')?.thing : hit;
        useReshape.getState().choose([]);
        if (thing)
          select(
            selectOnly(
              p.shift || p.ctrl
                ? [
                    ...withMembers([thing], doc),
                    ...[...selection.brushes].map((id) => ({ type: 'brush', id }) as const),
                  ]
                : [thing],
            ),
          );
      } else if (was.name === 'marquee') {
        setOverlay({});
        choosePicked(was.start.view!, was.start.raw, p);
      } else if (was.name === 'dragging') finish(was);
    },
    cancel: () => {
      const busy = state.name === 'dragging' || state.name === 'marquee';
      state = { name: 'idle' };
      editor().preview(null);
      editor().setOverlay({});
      if (busy) return true;
      const { chosen, choose } = useReshape.getState();
      choose([]);
      return chosen.size > 0;
    },
    commit: () => {
      if (state.name !== 'dragging') return false;
      const was = state;
      state = { name: 'idle' };
      finish(was);
      return true;
    },
    type: (text) => {
      if (state.name !== 'dragging') return false;
      const typed = typedOn(state.typed, text);
      const [far] = typedHere(typed);
      const reach = Math.hypot(...state.by) || 1;
      const by = state.by.map((c) => (c / reach) * (far ?? reach)) as unknown as Vec3;
      state = { ...state, by, typed };
      show();
      return true;
    },
    cursor: (p) => (under(p).length ? 'move' : 'default'),
  };
  return tool;
}
