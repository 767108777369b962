import { create } from 'zustand';
import {
  add,
  call,
  entityKind,
  entityName,
  entityNameWithin,
  isMoving,
  likelyWire,
  type Call,
  type Entity,
  type MapDocument,
  type Vec3,
} from '@yesca/core';
import { toScreen, toWorld, type SheetView } from '../geometry/projection.ts';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
import { thingsOf, type Selection } from '../state/selection.ts';
import { useTrial } from '../state/trial.ts';
import type { PanePointer, Tool } from './tool.ts';

/** A wire that begins or ends at a thing and whose other end is pointed at next, in whatever pane. */
export const useWiring = create<{
  readonly thing: string | null;
  /** What the thing is to the one that is pointed at. */
  readonly as: 'cause' | 'effect';
  begin: (thing: string, as: 'cause' | 'effect') => void;
  end: () => void;
}>()((set) => ({
  thing: null,
  as: 'cause',
  begin: (thing, as) => set({ thing, as }),
  end: () => set({ thing: null }),
}));

/** The thing under the pointer: itself, or what a brush there belongs to. */
function thingUnder({ hits }: PanePointer): Entity | undefined {
  const { doc } = useEditor.getState();
  for (const { thing } of hits) {
    if (thing.type === 'entity') return doc.entities.get(thing.id);
    const brush = thing.type === 'brush' ? doc.brushes.get(thing.id) : undefined;
    if (brush?.owner && (isMoving(doc, brush) || brush.role === 'zone')) return doc.entities.get(brush.owner.id);
  }
  return undefined;
}

/** Whether a wire can begin at a thing, and whether one can end there. */
export const tells = (e: Entity): boolean => Object.keys(entityKind(e.kind)?.signals ?? {}).length > 0;
export const acts = (e: Entity): boolean => Object.keys(entityKind(e.kind)?.actions ?? {}).length > 0;

/** The wire between two things, with its likely signal and action, and in words; or why there is none. */
export function wireBetween(cause: Entity, effect: Entity): { readonly call: Call | null; readonly words: string } {
  const likely = likelyWire(cause, effect);
  if (!likely) {
    const silent = !tells(cause);
    return {
      call: null,
      words: `${entityName(silent ? cause : effect)} ${silent ? 'tells nothing' : 'can do nothing'} over a wire. Choose another thing.`,
    };
  }
  const { signal, action } = likely;
  const [told, done] = [entityKind(cause.kind)!.signals[signal]!, entityKind(effect.kind)!.actions[action]!];
  return {
    call: call('wire.add', { from: { thing: cause.id, signal }, to: { thing: effect.id, action } }),
    words: `When ${entityNameWithin(cause)} ${told.label}, ${entityNameWithin(effect)}: ${done.label}.`,
  };
}

/** Where wires are dragged from, beside a thing: pixels on a drawing, cm over it in Eye. */
const KNOB = { across: -17, down: 17, over: 40 };

/** The knob of a thing alone that wires can begin or end at; none while something is tried. */
export function wireKnobs(
  doc: MapDocument,
  selection: Selection,
  view?: SheetView,
): { readonly thing: string; readonly at: Vec3 }[] {
  const things = thingsOf(selection);
  const entity = things.length === 1 ? doc.entities.get(things[0]!.id) : undefined;
  if (!entity || !(tells(entity) || acts(entity)) || useTrial.getState().running) return [];
  if (!view) return [{ thing: entity.id, at: add(entity.at, [0, 0, KNOB.over]) }];
  const [x, y] = toScreen(view, entity.at);
  return [{ thing: entity.id, at: toWorld(view, x + KNOB.across, y + KNOB.down, entity.at) }];
}

/** What a wire that is dragged from a thing is between, with the pointer where it is, and what it would be. */
export function wireOver(thing: string, p: PanePointer) {
  const here = useEditor.getState().doc.entities.get(thing);
  const under = thingUnder(p);
  const other = under?.id === thing ? undefined : under;
  return { here, other, wire: here && other ? wireBetween(here, other) : null };
}

/** Runs the wire to what was clicked. */
function wireTo(p: PanePointer): void {
  const { thing, as, end } = useWiring.getState();
  const { doc, run } = useEditor.getState();
  const other = thingUnder(p);
  const here = thing === null ? undefined : doc.entities.get(thing);
  if (!here) return end();
  if (!other) {
    return notify('Click a thing to wire it, or press Esc.');
  }
  const wire = as === 'cause' ? wireBetween(here, other) : wireBetween(other, here);
  if (!wire.call) return notify(wire.words);
  run(wire.call);
  end();
}

/** What the pointer does while a wire's other end is pointed at. */
export const WIRE_END: Pick<Tool, 'down' | 'move' | 'up' | 'cursor'> = {
  down: wireTo,
  move: () => undefined,
  up: () => undefined,
  cursor: () => 'crosshair',
};
