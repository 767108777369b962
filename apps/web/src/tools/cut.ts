import {
  addScaled,
  call,
  cross,
  length,
  normalize,
  planeFromPoints,
  signedDistance,
  sub,
  type Plane,
  type Vec3,
} from '@yesca/core';
import { toScreen } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import { selectedBrushes, selectOnly } from '../state/selection.ts';
import { notify } from '../state/notify.ts';
import { samePixel, typedHere, typedOn, type PanePointer, type Tool, optionsIn } from './tool.ts';
import { snapHere } from '../geometry/snap.ts';
import { options } from '../state/kept.ts';
import { params } from '@yesca/core';
import { IconSlice } from '@tabler/icons-react';
import type { OverlayLine } from '../state/overlay.ts';
import { freshMaterial } from '../state/current.ts';
import { useWork } from '../state/work.ts';

/** Which half a new cut keeps. */
export const useCutOptions = options('cut', {
  keep: params.choice(['both', 'back', 'front'], 'both', {
    label: 'Keep',
    help: 'Which half a new cut keeps',
    names: { both: 'Keep both', back: 'Near half', front: 'Far half' },
  }),
});

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'drawing'; readonly start: PanePointer }
  /** Three points in Eye, so far. */
  | { readonly name: 'points'; readonly points: readonly Vec3[] }
  | {
      readonly name: 'ready';
      /** Two ends of a line on a drawing, or three points. */
      readonly points: readonly Vec3[];
      /** Which way the drawing looks; none for three points. */
      readonly away: Vec3 | null;
      readonly keep: 'both' | 'front' | 'back';
      readonly held: number | null;
      readonly press: PanePointer | null;
      readonly typed: string;
    };

const editor = () => useEditor.getState();

/** The plane of a cut: through a drawn line along the view, or through three points. Null while it has no direction. */
function planeOf(points: readonly Vec3[], away: Vec3 | null): Plane | null {
  if (!away) return points.length === 3 ? planeFromPoints(points[0]!, points[1]!, points[2]!) : null;
  const normal = cross(sub(points[1]!, points[0]!), away);
  if (length(normal) < 1e-6) return null;
  return planeFromPoints(points[0]!, points[1]!, addScaled(points[0]!, away, 100));
}

const cutCall = (plane: Plane, keep: 'front' | 'back' | 'both') =>
  call('brush.cut', {
    brushes: [...selectedBrushes(editor().selection, editor().doc)],
    plane,
    keep,
    material: freshMaterial(),
  });

const cutLine = (points: readonly Vec3[]): OverlayLine => ({ points, ink: 'ember', style: 'dashed', ends: 'dots' });

/** A press selects the brush under it when nothing is selected yet, so that one can start cutting at once. */
function selectSomething(p: PanePointer): boolean {
  const { selection, select, doc } = editor();
  if (selectedBrushes(selection, doc).size) return true;
  const hit = p.hits.find((h) => h.thing.type === 'brush');
  if (hit) select(selectOnly([hit.thing]));
  else notify('Select the brushes to cut first, or begin the line on one.', 'cut-select');
  return hit !== undefined;
}

/** Draw a line in Plan or Section, or click three points in Eye; adjust; Enter cuts. */
export function cutTool(): Tool {
  let state: State = { name: 'idle' };
  function show(): void {
    const { preview, setOverlay } = editor();
    if (state.name !== 'ready') return;
    const plane = planeOf(state.points, state.away);
    const done = plane !== null && preview(cutCall(plane, state.keep));
    if (!done) preview(null);
    setOverlay({
      lines: [cutLine(state.points)],
      typed: state.typed,
      note: done
        ? 'Enter cuts. Click a half to drop it, drag an end to adjust, type an angle.'
        : 'The line goes through none of the selected brushes.',
    });
  }
  function ready(points: readonly Vec3[], away: Vec3 | null): void {
    state = { name: 'ready', points, away, keep: useCutOptions.getState().keep, held: null, press: null, typed: '' };
    show();
  }
  const tool: Tool = {
    name: 'cut',
    label: 'Cut',
    hint: 'Draw a line across the selection, or click three points in Eye. Enter cuts.',
    key: 'c',
    icon: IconSlice,
    options: [optionsIn(useCutOptions, useCutOptions.specs), optionsIn(useWork, { caps: useWork.specs.caps })],

    down: (p) => {
      if (state.name === 'ready') {
        const held = p.view
          ? state.points.findIndex((q) => Math.hypot(toScreen(p.view!, q)[0] - p.x, toScreen(p.view!, q)[1] - p.y) < 9)
          : -1;
        state = { ...state, held: held < 0 ? null : held, press: p };
        return;
      }
      if (!selectSomething(p)) return;
      if (p.pane === 'eye') {
        const points = [...(state.name === 'points' ? state.points : []), snapHere(p.raw)];
        if (points.length === 3) return ready(points, null);
        state = { name: 'points', points };
        editor().setOverlay({
          lines: [cutLine(points)],
          note: `Click ${3 - points.length} more point${points.length === 2 ? '' : 's'} of the cut.`,
        });
      } else state = { name: 'drawing', start: p };
    },
    move: (p) => {
      if (state.name === 'drawing') editor().setOverlay({ lines: [cutLine([state.start.snapped, p.snapped])] });
      else if (state.name === 'ready' && state.held !== null && state.press) {
        const held = state.held;
        state = { ...state, points: state.points.map((q, i) => (i === held ? p.snapped : q)), typed: '' };
        show();
      }
    },
    up: (p) => {
      if (state.name === 'drawing') {
        const { start } = state;
        if (samePixel(start, p)) return void tool.cancel();
        ready([start.snapped, p.snapped], start.view!.away);
      } else if (state.name === 'ready' && state.press) {
        const { press, held, points, away, keep } = state;
        state = { ...state, held: null, press: null };
        if (held !== null || !samePixel(press, p)) return;
        // A click beside the line drops the half it lies in; once more brings it back.
        const plane = planeOf(points, away);
        if (!plane) return;
        const other = signedDistance(plane, p.raw) > 0 ? 'back' : 'front';
        state = { ...state, keep: keep === other ? 'both' : other };
        show();
      }
    },
    cancel: () => {
      const had = state.name !== 'idle';
      state = { name: 'idle' };
      editor().preview(null);
      editor().setOverlay({});
      return had;
    },
    commit: () => {
      if (state.name !== 'ready') return false;
      const { points, away, keep } = state;
      const plane = planeOf(points, away);
      if (!plane) return false;
      editor().run(cutCall(plane, keep));
      state = { name: 'idle' };
      return true;
    },
    // A typed angle turns the line about its first end, counter-clockwise from the right.
    type: (text) => {
      if (state.name !== 'ready' || !state.away) return false;
      const typed = typedOn(state.typed, text);
      const [angle] = typedHere(typed);
      const [from, to] = [state.points[0]!, state.points[1]!];
      const reach = length(sub(to, from));
      const { away } = state;
      const right = normalize(Math.abs(away[2]) > 0.5 ? [1, 0, 0] : cross(away, [0, 0, 1]));
      const up: Vec3 = Math.abs(away[2]) > 0.5 ? [0, 1, 0] : [0, 0, 1];
      if (angle !== null && angle !== undefined) {
        const a = (angle * Math.PI) / 180;
        const turned = addScaled(addScaled(from, right, Math.cos(a) * reach), up, Math.sin(a) * reach);
        // What does not move must stay exactly where it is.
        const end = turned.map((c, i) => (Math.abs(c - from[i]!) < 1e-9 ? from[i]! : c)) as unknown as Vec3;
        state = { ...state, points: [from, end], typed };
      } else state = { ...state, typed };
      show();
      return true;
    },
    cursor: () => 'crosshair',
  };
  return tool;
}
