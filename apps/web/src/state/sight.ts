import { create } from 'zustand';
import {
  levelCell,
  levelSees,
  portalsOn,
  witnessOf,
  type Box,
  type Sight,
  type SightLine,
  type Vec3,
} from '@yesca/core';
import { useEditor } from './editor.ts';
import { eyeMemory } from './eye.ts';
import { keptStore } from './kept.ts';

/** What cells are coloured by. */
export const MEASURES = {
  cellSeenTriangles: { label: 'Triangles seen', unit: '', tip: 'Triangles drawn for whoever stands in the cell' },
  cellShutTriangles: {
    label: 'Triangles seen, doors closed',
    unit: '',
    tip: 'The same while every door stands closed in its gate',
  },
  cellSeen: { label: 'Cells seen', unit: '', tip: 'Cells that may be seen from it' },
  cellTriangles: { label: 'Triangles here', unit: '', tip: 'Triangles of the cell itself' },
  cellLights: { label: 'Lights here', unit: '', tip: 'Things that shine in it' },
  cellLongest: { label: 'Longest line', unit: ' cm', tip: 'The longest clear line known to go through it' },
} as const;
export type Measure = keyof typeof MEASURES;

interface SightState {
  /** What the page shows; null while there is none. */
  readonly sight: Sight | null;
  /** Whether drawings show cells: the page is open. */
  readonly shown: boolean;
  /** The point one looks from, and the point it is asked whether that is seen. */
  readonly pin: Vec3 | null;
  readonly goal: Vec3 | null;
  /** The cell under the pointer, −1 for none. */
  readonly hovered: number;
  /** A long line that was picked from the list. */
  readonly line: SightLine | null;
  /** Where what is suggested would stand, while it is pointed at. */
  readonly proposal: Box | null;
}

export const useSight = create<SightState>(() => ({
  sight: null,
  shown: false,
  pin: null,
  goal: null,
  hovered: -1,
  line: null,
  proposal: null,
}));

// A pin is a place in one map.
useEditor.subscribe((now, before) => {
  if (now.mapId !== before.mapId) useSight.setState({ pin: null, goal: null });
});

/** Looks from where the camera of the Eye is. */
export const pinCamera = (): void => useSight.setState({ pin: [...eyeMemory.at], goal: null });

/** What is kept in this browser. */
export const useSightOptions = keptStore<{ readonly measure: Measure; readonly live: boolean }>(
  'sight',
  { measure: 'cellSeenTriangles', live: false },
  ['measure', 'live'],
);

/** Steps of the scale. */
export const STEPS = 5;

/** The scale of a measure: its least and most, and the step of a value, 0 to {@link STEPS} − 1. */
export function scaleOf(sight: Sight, measure: Measure) {
  const values = sight[measure];
  let [low, high] = [Infinity, 0];
  for (const v of values) {
    low = Math.min(low, v);
    high = Math.max(high, v);
  }
  if (low > high) low = high;
  const step = (v: number) => (high > low ? Math.min(STEPS - 1, Math.floor(((v - low) / (high - low)) * STEPS)) : 0);
  const from = (k: number) => low + ((high - low) * k) / STEPS;
  return { low, high, step, from };
}

/** The cell at a point, a little above it where it lies on a floor; −1 outside all. */
export function cellAt(sight: Sight, p: Vec3): number {
  const cell = levelCell(sight, p);
  return cell >= 0 ? cell : Math.max(-1, levelCell(sight, [p[0], p[1], p[2] + 1]));
}

/** Whether a cell is seen from another. */
export const isSeen = (sight: Sight, from: number, cell: number): boolean => from < 0 || levelSees(sight, from, cell);

type Asked = Pick<SightState, 'sight' | 'pin' | 'goal'>;

/** Whether the goal is seen from the pin, with the line that proves it. */
function answerTo({ sight, pin, goal }: Asked) {
  if (!sight || !pin || !goal) return null;
  const [a, b] = [cellAt(sight, pin), cellAt(sight, goal)];
  if (a < 0 || b < 0) return null;
  if (a === b) return { answer: 'same' } as const;
  if (!levelSees(sight, a, b)) return { answer: 'no' } as const;
  const line = witnessOf(sight, a, b);
  return line ? ({ answer: 'yes', sight, line } as const) : ({ answer: 'unproven' } as const);
}

/** Why the goal is seen from the pin, or that it is not. */
export type Why =
  | { readonly answer: 'same' | 'no' | 'unproven' }
  | { readonly answer: 'yes'; readonly line: SightLine; readonly portals: readonly number[] };

export function whySeen(asked: Asked): Why | null {
  const found = answerTo(asked);
  if (found?.answer !== 'yes') return found;
  const { answer, sight, line } = found;
  return { answer, line, portals: portalsOn(sight, line) };
}

/** The line that proves it, to be drawn: its portals are not looked for. */
export function whyLine(asked: Asked): SightLine | null {
  const found = answerTo(asked);
  return found?.answer === 'yes' ? found.line : null;
}
