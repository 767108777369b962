import { snapTo } from '../../geometry/projection.ts';
import { handleCall, handleShows } from '../thing-handles.ts';
import { wireOver } from '../wiring.ts';
import { useEditor } from '../../state/editor.ts';
import { notify } from '../../state/notify.ts';
import { isSelected, NOTHING, selectOnly, thingsOf, toggleThings, withMembers } from '../../state/selection.ts';
import { rowAlong } from '../../geometry/row.ts';
import { decalsHeld, layCall } from '../decals.ts';
import { samePixel, typedHere, typedOn, optionsIn, type PanePointer, type Tool } from '../tool.ts';
import { gridStep } from '../../geometry/snap.ts';
import { marqueeLine } from '../marquee.ts';
import { IconPointer } from '@tabler/icons-react';
import { useCurrent } from '../../state/current.ts';
import { useWork } from '../../state/work.ts';
import { usePickOptions } from './options.ts';
import type { State } from './state.ts';
import { withProps, selectionBox, handleBox, gripUnder, shows } from './grips.ts';
import { guidesAround, met, moved, dragBy, resizedBox, turnedBy } from './guides.ts';
import { movedCall, resizeCall, mapCall } from './calls.ts';
import { inMarquee } from './in-marquee.ts';

const editor = () => useEditor.getState();

const { carry, contents, neighbours, angleStep: step } = useWork.specs;

/** Clicks further apart than this (ms) begin with what is in front again. */
const SAME_CLICK = 5000;
/** A pointer that moved this far (pixels) is somewhere else. */
const SAME_SPOT = 3;

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
