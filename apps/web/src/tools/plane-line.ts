import { addScaled, cross, length, normalize, sub, type Vec3 } from '@yesca/core';
import { snapHere } from '../geometry/snap.ts';
import { toScreen } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import type { OverlayLine } from '../state/overlay.ts';
import { samePixel, typedHere, typedOn, type PanePointer, type Tool } from './tool.ts';

/** A line drawn on a drawing, or three points in Eye: what a plane goes through. */
export interface PlaneLine {
  readonly points: readonly Vec3[];
  /** Which way the drawing looks; none for three points. */
  readonly away: Vec3 | null;
}

/** What a tool does with such a line. */
export interface PlaneLineUse {
  /** What its plane is called in the Eye: of the cut. */
  readonly noun: string;
  /** Whether a gesture may begin here. */
  readonly begin?: (p: PanePointer) => boolean;
  /** The line lies, or lies otherwise than before: shows what would come of it. */
  readonly show: (line: PlaneLine, typed: string) => void;
  /** It is still being drawn. */
  readonly drawing: (line: PlaneLine) => void;
  /** A click beside the line. */
  readonly beside?: (line: PlaneLine, p: PanePointer) => void;
  /** Enter. Gives false when nothing came of it. */
  readonly commit: (line: PlaneLine) => boolean;
  readonly drop: () => void;
}

type State =
  | { readonly name: 'idle' }
  | { readonly name: 'drawing'; readonly start: PanePointer }
  /** Three points in Eye, so far. */
  | { readonly name: 'points'; readonly points: readonly Vec3[] }
  | {
      readonly name: 'ready';
      readonly line: PlaneLine;
      readonly held: number | null;
      readonly press: PanePointer | null;
      readonly typed: string;
    };

/** How the line is drawn. */
export const planeLine = (points: readonly Vec3[]): OverlayLine => ({
  points,
  ink: 'ember',
  style: 'dashed',
  ends: 'dots',
});

/** The gesture: draw a line in Plan or Section, or click three points in Eye; drag its ends, type its angle, draw another; Enter. */
export function planeLineGesture(
  use: PlaneLineUse,
): Required<Pick<Tool, 'down' | 'move' | 'up' | 'cancel' | 'commit' | 'type' | 'cursor'>> {
  let state: State = { name: 'idle' };
  const ready = (line: PlaneLine): void => {
    state = { name: 'ready', line, held: null, press: null, typed: '' };
    use.show(line, '');
  };
  const cancel = (): boolean => {
    const had = state.name !== 'idle';
    state = { name: 'idle' };
    use.drop();
    return had;
  };
  const drawn = (start: PanePointer, p: PanePointer): PlaneLine => ({
    points: [start.snapped, p.snapped],
    away: start.view!.away,
  });
  return {
    down: (p) => {
      if (state.name === 'ready') {
        const { view } = p;
        const held = view
          ? state.line.points.findIndex((q) => {
              const [x, y] = toScreen(view, q);
              return Math.hypot(x - p.x, y - p.y) < 9;
            })
          : -1;
        state = { ...state, held: held < 0 ? null : held, press: p };
        return;
      }
      if (use.begin && !use.begin(p)) return;
      if (p.pane === 'eye') {
        const points = [...(state.name === 'points' ? state.points : []), snapHere(p.raw)];
        if (points.length === 3) {
          use.drawing({ points, away: null });
          return ready({ points, away: null });
        }
        state = { name: 'points', points };
        useEditor.getState().setOverlay({
          lines: [planeLine(points)],
          note: `Click ${3 - points.length} more point${points.length === 2 ? '' : 's'} of the ${use.noun}.`,
        });
      } else state = { name: 'drawing', start: p };
    },
    move: (p) => {
      if (state.name === 'drawing') use.drawing(drawn(state.start, p));
      else if (state.name === 'ready' && state.press) {
        const { held, press, line } = state;
        if (held !== null) {
          const points = line.points.map((q, i) => (i === held ? p.snapped : q));
          state = { ...state, line: { ...line, points }, typed: '' };
          use.show(state.line, '');
        } else if (press.view && press.pane === p.pane && !samePixel(press, p)) {
          // Drawn anew beside it.
          state = { name: 'drawing', start: press };
          use.drawing(drawn(press, p));
        }
      }
    },
    up: (p) => {
      if (state.name === 'drawing') {
        const { start } = state;
        if (samePixel(start, p)) return void cancel();
        ready(drawn(start, p));
      } else if (state.name === 'ready' && state.press) {
        const { press, held, line } = state;
        state = { ...state, held: null, press: null };
        if (held === null && samePixel(press, p)) use.beside?.(line, p);
      }
    },
    cancel,
    commit: () => {
      if (state.name !== 'ready' || !use.commit(state.line)) return false;
      state = { name: 'idle' };
      return true;
    },
    // A typed angle turns the line about its first end, counter-clockwise from the right.
    type: (text) => {
      if (state.name !== 'ready' || !state.line.away) return false;
      const typed = typedOn(state.typed, text);
      const [angle] = typedHere(typed);
      const { points, away } = state.line;
      const line = angle === null || angle === undefined ? state.line : { points: turned(points, away, angle), away };
      state = { ...state, line, typed };
      use.show(line, typed);
      return true;
    },
    cursor: () => 'crosshair',
  };
}

/** A line turned about its first end to an angle, degrees counter-clockwise from the right of the drawing. */
function turned(points: readonly Vec3[], away: Vec3, angle: number): Vec3[] {
  const [from, to] = [points[0]!, points[1]!];
  const reach = length(sub(to, from));
  const right = normalize(Math.abs(away[2]) > 0.5 ? [1, 0, 0] : cross(away, [0, 0, 1]));
  const up: Vec3 = Math.abs(away[2]) > 0.5 ? [0, 1, 0] : [0, 0, 1];
  const a = (angle * Math.PI) / 180;
  const end = addScaled(addScaled(from, right, Math.cos(a) * reach), up, Math.sin(a) * reach);
  // What does not move must stay exactly where it is.
  return [from, end.map((c, i) => (Math.abs(c - from[i]!) < 1e-9 ? from[i]! : c)) as unknown as Vec3];
}
