import {
  add,
  aroundIn,
  call,
  dot,
  entityKind,
  scale,
  sub,
  type Call,
  type Handle,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { snapPoint, toScreen, toWorld, type SheetView } from '../geometry/projection.ts';
import { thingsOf, type Selection } from '../state/selection.ts';
import { pointOn, type PanePointer } from './tool.ts';
import { gridStep } from '../geometry/snap.ts';
import { useTrial } from '../state/trial.ts';
import { useWork, angleStep } from '../state/work.ts';

/** A handle of the selected thing, where it is in the world. */
export interface ThingHandle {
  readonly thing: string;
  readonly handle: Handle;
  readonly at: Vec3;
  /** Where the thing is. */
  readonly from: Vec3;
}

/** A handle nearer than this to its thing on a drawing (pixels) is left to the other one: there the thing itself is taken. */
const APART = 12;

/** The handles of what is selected: those its kind gives it, when it is one thing alone. On a drawing, those that lie apart from it. */
export function thingHandles(doc: MapDocument, selection: Selection, view?: SheetView): ThingHandle[] {
  const things = thingsOf(selection);
  const entity = things.length === 1 && selection.faces.length === 0 ? doc.entities.get(things[0]!.id) : undefined;
  // While something is tried its parts are elsewhere than its handles say.
  if (!entity || useTrial.getState().running) return [];
  const handles = entityKind(entity.kind)?.handles(entity, aroundIn(doc)) ?? [];
  const all = handles.map((handle) => ({ thing: entity.id, handle, at: add(entity.at, handle.at), from: entity.at }));
  if (!view) return all;
  const [x, y] = toScreen(view, entity.at);
  return all.filter(({ at }) => {
    const [hx, hy] = toScreen(view, at);
    return Math.hypot(hx - x, hy - y) >= APART;
  });
}

/** Where a handle is dragged to: in the drawing's plane through it, in Eye in the plane through it that faces the viewer. */
function draggedTo(h: ThingHandle, start: PanePointer, now: PanePointer): Vec3 | null {
  if (now.view) return toWorld(now.view, now.x, now.y, h.at);
  if (!start.ray) return null;
  const normal: Vec3 = h.handle.level ? [0, 0, 1] : scale(start.ray.towards, -1);
  return pointOn(now, { normal, distance: dot(normal, h.at) });
}

/** The command that dragging a handle of a thing does. Turns go by the angle step, tips of ways onto the grid; Alt goes freely. */
export function handleCall(h: ThingHandle, start: PanePointer, now: PanePointer): Call | null {
  const free = draggedTo(h, start, now);
  if (!free) return null;
  const { snap } = useWork.getState();
  const step = angleStep();
  // The tip of a way from a part goes by grid steps of the way, wherever the part's middle is.
  const base = add(h.from, h.handle.from ?? scale(h.from, -1));
  const to = h.handle.onGrid && !now.alt ? add(base, snapPoint(sub(free, base), gridStep())) : free;
  const change = h.handle.moved(sub(to, h.from));
  const turn =
    change.turn !== undefined && snap && !now.alt ? (Math.round(change.turn / step) * step) % 360 : change.turn;
  return call('thing.change', {
    things: [h.thing],
    label: h.handle.label,
    ...(turn === undefined ? {} : { turn }),
    params: change.params,
  });
}
