import { IconSlice } from '@tabler/icons-react';
import { addScaled, call, cross, length, params, planeFromPoints, signedDistance, sub, type Plane } from '@yesca/core';
import { freshMaterial } from '../state/current.ts';
import { useEditor } from '../state/editor.ts';
import { options } from '../state/kept.ts';
import { notify } from '../state/notify.ts';
import { selectedBrushes, selectOnly } from '../state/selection.ts';
import { useWork } from '../state/work.ts';
import { planeLine, planeLineGesture, type PlaneLine } from './plane-line.ts';
import { optionsIn, type PanePointer, type Tool } from './tool.ts';

/** Which half a new cut keeps. */
export const useCutOptions = options('cut', {
  keep: params.choice(['both', 'back', 'front'], 'both', {
    label: 'Keep',
    help: 'Which half a new cut keeps',
    names: { both: 'Keep both', back: 'Near half', front: 'Far half' },
  }),
});

const editor = () => useEditor.getState();

/** The plane of a cut: through a drawn line along the view, or through three points. Null while it has no direction. */
function planeOf({ points, away }: PlaneLine): Plane | null {
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
  /** Which half the cut that is drawn keeps. */
  let keep = useCutOptions.getState().keep;
  const show = (line: PlaneLine, typed: string): void => {
    const { preview, setOverlay } = editor();
    const plane = planeOf(line);
    const done = plane !== null && preview(cutCall(plane, keep));
    if (!done) preview(null);
    setOverlay({
      lines: [planeLine(line.points)],
      typed,
      note: done
        ? 'Enter cuts. Click a half to drop it, drag an end to adjust, type an angle.'
        : 'The line goes through none of the selected brushes.',
    });
  };
  return {
    name: 'cut',
    label: 'Cut',
    hint: 'Draw a line across the selection, or click three points in Eye. Enter cuts.',
    key: 'c',
    icon: IconSlice,
    options: [optionsIn(useCutOptions, useCutOptions.specs), optionsIn(useWork, { caps: useWork.specs.caps })],
    ...planeLineGesture({
      noun: 'cut',
      begin: selectSomething,
      show,
      drawing: ({ points }) => {
        keep = useCutOptions.getState().keep;
        editor().preview(null);
        editor().setOverlay({ lines: [planeLine(points)] });
      },
      // A click beside the line drops the half it lies in; once more brings it back.
      beside: (line, p) => {
        const plane = planeOf(line);
        if (!plane) return;
        const other = signedDistance(plane, p.raw) > 0 ? 'back' : 'front';
        keep = keep === other ? 'both' : other;
        show(line, '');
      },
      commit: (line) => {
        const plane = planeOf(line);
        if (!plane) return false;
        editor().run(cutCall(plane, keep));
        return true;
      },
      drop: () => {
        editor().preview(null);
        editor().setOverlay({});
      },
    }),
  };
}
