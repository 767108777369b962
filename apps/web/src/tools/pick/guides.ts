import { dominantAxis, growBox, guidesFor, rotation, shear, wrapDegrees, type Box, type Vec3 } from '@yesca/core';
import { snapTo, toScreen, type SheetView } from '../../geometry/projection.ts';
import { inAxes } from '../../geometry/own-axes.ts';
import { useEditor } from '../../state/editor.ts';
import { asPicked } from '../../state/selection.ts';
import { dragged, type PanePointer } from '../tool.ts';
import { gridStep } from '../../geometry/snap.ts';
import { pivotOf } from '../../commands/pivot.ts';
import { useWork, angleStep } from '../../state/work.ts';
import type { Gesture, Guide } from './state.ts';

const editor = () => useEditor.getState();

/** A side this near (pixels) to a neighbour's side or middle becomes flush with it. */
const GUIDE = 6;

/** The sides and middles of what stands near, for the whole gesture. */
export function guidesAround(view: SheetView | undefined, box: Box): Guide[] {
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
export const met = (guides: readonly Guide[], box: Box): Guide[] =>
  guides.filter(({ axis, at }) =>
    [box.min[axis], (box.min[axis] + box.max[axis]) / 2, box.max[axis]].some((c) => Math.abs(c - at) < 0.01),
  );

/** A box elsewhere. */
export const moved = (box: Box, by: Vec3): Box => ({
  min: [box.min[0] + by[0], box.min[1] + by[1], box.min[2] + by[2]],
  max: [box.max[0] + by[0], box.max[1] + by[1], box.max[2] + by[2]],
});

/** The way a drag moves a box: its low corner ends on the grid, or a side of what is filled flush with a neighbour. */
export function dragBy({ start, box, filled, guides }: Gesture<'moving'>, now: PanePointer): Vec3 {
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

/** The box as a drag by one of its handles makes it. */
export function resizedBox({ box, turn, handle, guides }: Gesture<'resizing'>, now: PanePointer): Box {
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
export function turnedBy(s: { start: PanePointer; box: Box }, now: PanePointer): number {
  const [cx, cy] = toScreen(now.view!, pivotOf(s.box));
  const angle = (p: PanePointer) => (Math.atan2(cy - p.y, p.x - cx) * 180) / Math.PI;
  const free = angle(now) - angle(s.start);
  const step = useWork.getState().snap && !now.alt ? angleStep() : 0.1;
  const by = Math.round(free / step) * step;
  return wrapDegrees(by + 180) - 180;
}

/** The map that turns what is selected, in the drawing. */
export function turnMap(view: SheetView, box: Box, degrees: number) {
  // Counter-clockwise on the paper is counter-clockwise about the direction towards the viewer.
  const axis = dominantAxis(view.away);
  const sign = view.away[axis] < 0 ? 1 : -1;
  return rotation(axis, sign * degrees, pivotOf(box));
}

/** The map that skews what is selected, in the drawing. */
export function skewMap(view: SheetView, box: Box, along: 'h' | 'v', by: number) {
  const [moves, across] = along === 'h' ? [view.h, view.v] : [view.v, view.h];
  const size = box.max[across] - box.min[across];
  // The side with the tab moves, the one across from it stays: below for a skew to the side, right for one up and down.
  const low = along === 'h';
  return shear(moves, across, size > 0 ? (low ? -by : by) / size : 0, low ? box.max[across] : box.min[across]);
}
