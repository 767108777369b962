import { call, idsOf, type Vec3 } from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { movedPicked } from '../state/moved.ts';
import { lastPane } from '../state/last-pane.ts';
import { nothingPicked } from './shaping.ts';
import { useCamera } from '../state/camera.ts';
import { useWork } from '../state/work.ts';

const editor = () => useEditor.getState();

/** The grid steps of the set that this browser's user prefers, cm. */
export const gridSteps = (): readonly number[] =>
  useWork.getState().gridSet === 'binary' ? [1, 2, 4, 8, 16, 32, 64, 128, 256, 512] : [1, 5, 10, 25, 50, 100];

/** The next finer or coarser step of the grid. */
export function changeGrid(by: 1 | -1): void {
  const { grid } = editor().doc.settings;
  const next = by > 0 ? gridSteps().find((g) => g > grid) : gridSteps().findLast((g) => g < grid);
  if (next) setGrid(next);
}

/** Sets the step of the grid, cm. */
export const setGrid = (grid: number): void => void editor().run(call('map.settings', { settings: { grid } }));

/** Moves the selection by one grid step in the directions of the drawing that was used last. */
export function nudge(h: number, v: number, up = 0): void {
  if (nothingPicked()) return;
  const { grid } = editor().doc.settings;
  const section = lastPane.kind === 'section';
  // Arrows go in the drawing's directions: right is east on the Plan, and wherever a turned Section has it.
  const looks = Math.round(useCamera.getState().section.looks / 90) * 90;
  const right: readonly [number, number] = section
    ? [Math.round(Math.sin((looks * Math.PI) / 180)), -Math.round(Math.cos((looks * Math.PI) / 180))]
    : [1, 0];
  const by: Vec3 = [
    h * right[0] * grid + 0,
    (h * right[1] + (section ? 0 : v)) * grid + 0,
    ((section ? v : 0) + up) * grid,
  ];
  const { doc, selection, run } = editor();
  run(call('pick.move', { picked: idsOf(movedPicked(doc, selection)), by, carry: useWork.getState().carry }));
}
