import { askPlayer, loopArea, type MapDocument, type Vec3 } from '@yesca/core';
import { showSize } from '../fields/arithmetic.ts';
import { useEditor } from '../state/editor.ts';
import { solidsOf } from '../state/solids.ts';
import { surfaceUnder } from '../geometry/surface-under.ts';
import { optionsIn, samePixel, type PanePointer, type Tool } from './tool.ts';
import { snapHere } from '../geometry/snap.ts';
import { params } from '@yesca/core';
import { IconRuler2 } from '@tabler/icons-react';
import type { OverlayLine } from '../state/overlay.ts';
import { useDisplay } from '../state/display.ts';

type State =
  | { readonly name: 'idle' }
  | {
      readonly name: 'measuring';
      readonly points: readonly Vec3[];
      readonly press: PanePointer | null;
      readonly closed: boolean;
    };

const editor = () => useEditor.getState();

/** The point measured: on the Plan it lies on what is under the pointer. */
const placeOf = (p: PanePointer): Vec3 => {
  if (p.pane === 'eye') return snapHere(p.raw);
  return p.pane === 'plan' ? [p.snapped[0], p.snapped[1], surfaceUnder(editor().doc, p.snapped)] : p.snapped;
};

const between = (a: Vec3, b: Vec3): number => Math.hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
const number = (n: number): string => String(Math.round(n * 100) / 100);

/** The angle at the middle one of three points, degrees. */
export function angleAt(a: Vec3, b: Vec3, c: Vec3): number {
  const [u, v] = [a, c].map((p) => [p[0] - b[0], p[1] - b[1], p[2] - b[2]] as const);
  const cos = (u![0] * v![0] + u![1] * v![1] + u![2] * v![2]) / (Math.hypot(...u!) * Math.hypot(...v!));
  return (Math.acos(Math.max(-1, Math.min(1, cos))) * 180) / Math.PI;
}

/** What was measured, in a sentence: lengths, angle or area, and what a player can do there. */
export function describe(doc: MapDocument, points: readonly Vec3[], closed: boolean): string {
  const { module } = doc.settings;
  if (points.length < 2) return 'Click where to measure to. A third point gives the angle; Enter closes an area.';
  const [a, b] = [points.at(-2)!, points.at(-1)!];
  const parts: string[] = [];
  if (closed && points.length >= 3) parts.push(`Area ${number(loopArea(points) / 10_000)} m²`);
  else {
    const [dx, dy, dz] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
    parts.push(`${showSize(between(a, b), module)} cm (east ${number(dx)}, north ${number(dy)}, up ${number(dz)})`);
  }
  if (points.length >= 3) parts.push(`angle ${number(angleAt(points.at(-3)!, a, b))}°`);
  if (points.length === 2) {
    const can = askPlayer(solidsOf(doc), a, b);
    parts.push(can.stand ? 'can stand' : can.crouch ? 'can only crouch' : 'cannot stand');
    parts.push(can.pass === 'upright' ? 'can pass' : can.pass === 'crouching' ? 'can pass crouching' : 'cannot pass');
    parts.push(can.step ? 'a step' : 'no step', can.jump ? 'can jump' : 'cannot jump');
  }
  return parts.join(' · ');
}

function show(points: readonly Vec3[], closed: boolean): void {
  const { doc, setOverlay } = editor();
  const loop = closed ? [...points, points[0]!] : points;
  const lines = loop.slice(1).map((to, i): OverlayLine => ({
    points: [loop[i]!, to],
    ink: 'indigo',
    ends: 'ticks',
    text: showSize(between(loop[i]!, to), doc.settings.module),
  }));
  setOverlay({ lines, note: describe(doc, points, closed) });
}

/** Distance, angle, area, and what a player can do: drag or click from point to point. */
export function measureTool(): Tool {
  let state: State = { name: 'idle' };
  const tool: Tool = {
    name: 'measure',
    label: 'Measure',
    hint: 'Drag or click from point to point. Two points also say what a player can do there.',
    key: 'm',
    icon: IconRuler2,
    options: [
      optionsIn(useDisplay, {
        figure: params.yesNo(false, {
          label: 'Figure',
          help: 'The player’s figure in the Section, with step and jump — Shift F',
        }),
      }),
    ],

    down: (p) => {
      if (state.name === 'idle' || state.closed)
        state = { name: 'measuring', points: [placeOf(p)], press: p, closed: false };
      else state = { ...state, press: p };
    },
    move: (p) => {
      if (state.name === 'measuring' && !state.closed) show([...state.points, placeOf(p)], false);
    },
    up: (p) => {
      if (state.name !== 'measuring' || !state.press) return;
      const at = placeOf(p);
      const moved = !samePixel(state.press, p);
      const last = state.points.at(-1)!;
      const fresh = state.points.length === 1 && !moved && between(last, at) < 0.01;
      const points = fresh ? state.points : [...state.points, at];
      // A drag measures once; clicks go on from point to point.
      state = { ...state, points, press: null, closed: moved && points.length === 2 };
      show(points, false);
    },
    cancel: () => {
      const had = state.name !== 'idle';
      state = { name: 'idle' };
      editor().setOverlay({});
      return had;
    },
    commit: () => {
      if (state.name !== 'measuring' || state.points.length < 2) return false;
      const closed = state.points.length >= 3;
      state = { ...state, closed: true };
      show(state.points, closed);
      return true;
    },
    cursor: () => 'crosshair',
  };
  return tool;
}
