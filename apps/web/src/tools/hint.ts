import { IconSeparatorVertical } from '@tabler/icons-react';
import { call, sub, type Brush, type HintLine } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { hintSavings, type Saving } from '../state/hint-saving.ts';
import { planeLine, planeLineGesture, type PlaneLine } from './plane-line.ts';
import type { Tool } from './tool.ts';

const editor = () => useEditor.getState();

/** Where a hint along a drawn line lies: on along the view, or through the third of three points. */
const hintLine = ({ points, away }: PlaneLine): HintLine => ({
  from: points[0]!,
  to: points[1]!,
  along: away ?? sub(points[2]!, points[0]!),
});

const count = (n: number): string => Math.round(n).toLocaleString('en');

/** What a hint saves, in words. */
export function savingWords(saving: Saving): string {
  if (saving === 'working') return 'Trying it…';
  if (saving === 'open') return 'The map is open: close it to hear what a hint saves.';
  const { before, after } = saving;
  const share = before > 0 ? Math.round((1 - after / before) * 100) : 0;
  if (share < 1) return `Saves nothing here: ${count(before)} triangles are drawn on average either way.`;
  return `Saves ${share} %: ${count(before)} → ${count(after)} triangles drawn on average.`;
}

/** Draw a line across a corridor or a corner; it becomes a hint as wide and high as the place, and what it saves is told meanwhile. */
export function hintTool(meter: typeof hintSavings = hintSavings): Tool {
  let saving: Saving = 'working';
  let shown: {
    readonly line: PlaneLine;
    readonly typed: string;
    readonly ready: boolean;
    readonly hint: Brush;
  } | null = null;
  // What is known of a moment ago is better than nothing.
  const savings = meter((now) => {
    saving = now;
    write();
  });
  const write = (): void => {
    if (!shown) return;
    const { line, typed, ready } = shown;
    editor().setOverlay({
      lines: [planeLine(line.points)],
      typed,
      note: `${savingWords(saving)}${ready ? ' Enter places it; drag an end to adjust, or draw another line.' : ''}`,
    });
  };
  const show = (line: PlaneLine, typed: string, ready: boolean): void => {
    const outcome = editor().preview(call('brush.hint', hintLine(line)));
    const hint = outcome?.made?.brushes?.[0];
    if (!outcome || !hint) {
      shown = null;
      editor().preview(null);
      editor().setOverlay({
        lines: [planeLine(line.points)],
        typed,
        note: 'Nothing closes this place there. Draw the line inside a room.',
      });
      return;
    }
    shown = { line, typed, ready, hint: outcome.doc.brushes.get(hint)! };
    savings.ask(shown.hint);
    write();
  };
  return {
    name: 'hint',
    label: 'Hint',
    hint: 'Draw a line across a corridor or a corner, or click three points in Eye: what lies beyond need not be drawn. Enter places it.',
    key: 'shift+c',
    icon: IconSeparatorVertical,
    options: [],
    ...planeLineGesture({
      noun: 'hint',
      begin: () => {
        saving = 'working';
        return true;
      },
      drawing: (line) => show(line, '', false),
      show: (line, typed) => show(line, typed, true),
      commit: (line) => {
        const done = editor().run(call('brush.hint', hintLine(line))) !== null;
        if (done) shown = null;
        return done;
      },
      drop: () => {
        shown = null;
        savings.stop();
        editor().preview(null);
        editor().setOverlay({});
      },
    }),
  };
}
