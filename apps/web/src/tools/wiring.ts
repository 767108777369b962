import { create } from 'zustand';
import {
  call,
  entityKind,
  entityName,
  entityNameWithin,
  isMoving,
  likelyWire,
  type Call,
  type Entity,
} from '@yesca/core';
import { useEditor } from '../state/editor.ts';
import { notify } from '../state/notify.ts';
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
export function thingUnder({ hits }: PanePointer): Entity | undefined {
  const { doc } = useEditor.getState();
  for (const { thing } of hits) {
    if (thing.type === 'entity') return doc.entities.get(thing.id);
    const brush = thing.type === 'brush' ? doc.brushes.get(thing.id) : undefined;
    if (brush?.owner && (isMoving(doc, brush) || brush.role === 'zone')) return doc.entities.get(brush.owner.id);
  }
  return undefined;
}

const tells = (e: Entity): boolean => Object.keys(entityKind(e.kind)?.signals ?? {}).length > 0;
const acts = (e: Entity): boolean => Object.keys(entityKind(e.kind)?.actions ?? {}).length > 0;

/** Whether a wire can begin or end at a thing. */
export const takesWires = (e: Entity): boolean => tells(e) || acts(e);

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
