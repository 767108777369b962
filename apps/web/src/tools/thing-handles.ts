import {
  add,
  aroundIn,
  call,
  clearance,
  dot,
  entityKind,
  scale,
  sub,
  type Brush,
  type Call,
  type Clearance,
  type Handle,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { snapPoint, toScreen, toWorld, type SheetView } from '../geometry/projection.ts';
import { thingsOf, type Selection } from '../state/selection.ts';
import type { Overlay } from '../state/overlay.ts';
import { pointOn, typedHere, type PanePointer } from './tool.ts';
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

/** A handle on its way: where the pointer took it and where it is, and what was typed since. */
export interface HandleDrag {
  readonly of: ThingHandle;
  readonly start: PanePointer;
  readonly to: PanePointer;
  readonly typed: string;
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

/**
 * The command that dragging a handle of a thing does. Turns go by the angle step, tips of ways onto the grid; Alt goes freely. Typed
 * numbers stand for what it measures, along the way that it is dragged.
 */
export function handleCall({ of: h, start, to: now, typed }: HandleDrag): Call | null {
  const free = draggedTo(h, start, now);
  if (!free) return null;
  const { snap } = useWork.getState();
  const step = angleStep();
  // The tip of a way from a part goes by grid steps of the way, wherever the part's middle is.
  const base = add(h.from, h.handle.from ?? scale(h.from, -1));
  const to = h.handle.onGrid && !now.alt ? add(base, snapPoint(sub(free, base), gridStep())) : free;
  const there = sub(to, h.from);
  const numbers = typedHere(typed).filter((n) => n !== null);
  const said = numbers.length > 0 ? (h.handle.measure?.typed(numbers, there) ?? null) : null;
  const change = said ?? h.handle.moved(there);
  const turn =
    !said && change.turn !== undefined && snap && !now.alt
      ? (Math.round(change.turn / step) * step) % 360
      : change.turn;
  return call('thing.change', {
    things: [h.thing],
    label: h.handle.label,
    ...(turn === undefined ? {} : { turn }),
    params: change.params,
  });
}

/** What a drag of a handle shows in the map as it would be: how far it goes, and what its part meets on its way. */
export function handleShows(drag: HandleDrag, doc: MapDocument, selection: Selection): Overlay {
  const h = thingHandles(doc, selection).find(({ handle }) => handle.id === drag.of.handle.id);
  const measure = h?.handle.measure;
  if (!h || !measure) return { typed: drag.typed };
  const { unit, now, carries } = measure;
  const amount = `${rounded(now)} ${unit}`;
  const way = [add(h.from, h.handle.from ?? [0, 0, 0]), h.at];
  const met = carries && clearance(doc, h.thing, carries, beyond(unit, now));
  return {
    typed: drag.typed || amount,
    lines: h.handle.line
      ? [{ points: way, ink: met && !met.hidden && met.free < Math.abs(now) ? 'ember' : 'indigo', text: amount }]
      : [],
    ...(carries ? { note: clearanceWords(doc, met ?? null, unit, now) } : {}),
  };
}

const rounded = (n: number): number => Math.round(n * 10) / 10;

/** How far a way is looked along: past its end too, for what more there would be. */
const beyond = (unit: 'cm' | '°', now: number): number =>
  unit === 'cm' ? now + 2000 : (now < 0 ? -1 : 1) * Math.min(180, Math.abs(now) + 90);

function clearanceWords(doc: MapDocument, met: Clearance | null, unit: 'cm' | '°', now: number): string {
  if (!met) return 'Nothing in its way.';
  const left = met.free - Math.abs(now);
  const what = brushWords(doc, met.meets);
  if (met.hidden && left < -0.05)
    return `Slides into ${what}${met.free > 0.05 ? ` after ${rounded(met.free)} ${unit}` : ''}.`;
  return left < -0.05
    ? `Comes to ${what} after ${rounded(met.free)} ${unit}.`
    : `${rounded(Math.max(0, left))} ${unit} clear, then ${what}.`;
}

/** A brush in the middle of a sentence. */
function brushWords(doc: MapDocument, { name, room, role }: Brush): string {
  if (name) return name;
  const of = room && doc.rooms.get(room.id);
  return of ? `the ${room.part.kind} of ${of.name}` : `a brush of ${role[0]!.toUpperCase()}${role.slice(1)}`;
}
