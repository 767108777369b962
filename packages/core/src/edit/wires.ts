import { entityKind, entityName, type Entity } from '../entity/index.ts';
import { newId, type MapDocument, type Wire } from '../map/index.ts';
import { paramFlaw } from '../params/index.ts';
import { EditError } from './errors.ts';

type NewWire = Omit<Wire, 'id'>;

const thingOf = (doc: MapDocument, id: string): Entity => {
  const e = doc.entities.get(id);
  if (!e) throw new EditError('wire.thing', 'That thing is no longer in the map. Select it again.');
  return e;
};

/** Why a wire cannot be, as an error. Signals and actions of kinds that this version does not know are taken as they are. */
function checkWire(doc: MapDocument, { from, to, value, delay, times }: NewWire): void {
  const [cause, effect] = [thingOf(doc, from.thing), thingOf(doc, to.thing)];
  const signals = entityKind(cause.kind)?.signals;
  if (signals && !Object.hasOwn(signals, from.signal))
    throw new EditError(
      'wire.signal',
      `${entityName(cause)} tells nothing called ${from.signal}. It tells ${list(signals)}.`,
    );
  const actions = entityKind(effect.kind)?.actions;
  if (actions && !Object.hasOwn(actions, to.action))
    throw new EditError('wire.action', `${entityName(effect)} cannot ${to.action}. It can ${list(actions)}.`);
  const [spec] = Object.values(actions?.[to.action]?.values ?? {});
  const flaw = spec && value !== undefined ? paramFlaw(spec, value) : null;
  if (flaw) throw new EditError('wire.value', flaw);
  if (delay !== undefined && !(delay >= 0 && delay <= 3600))
    throw new EditError('wire.delay', 'The delay of a wire is from 0 to 3600 s. Type a number in that range.');
  if (times !== undefined && !(Number.isInteger(times) && times >= 1))
    throw new EditError(
      'wire.times',
      'A wire works once or more often: type a whole number from 1, or leave it empty.',
    );
}

const list = (ports: Readonly<Record<string, unknown>>): string => Object.keys(ports).join(', ') || 'nothing';

/** The wire that is there already from a signal to an action; undefined for none. */
export const sameWire = (doc: MapDocument, { from, to }: Pick<Wire, 'from' | 'to'>): Wire | undefined =>
  [...doc.wires.values()].find(
    (w) =>
      w.from.thing === from.thing &&
      w.from.signal === from.signal &&
      w.to.thing === to.thing &&
      w.to.action === to.action,
  );

/** Runs a wire from a signal of one thing to an action of another. The same one twice is one. */
export function addWire(doc: MapDocument, wire: NewWire, id = newId()): MapDocument {
  checkWire(doc, wire);
  return sameWire(doc, wire) ? doc : { ...doc, wires: new Map(doc.wires).set(id, { id, ...wire }) };
}

export function changeWire(
  doc: MapDocument,
  id: string,
  {
    signal,
    action,
    ...change
  }: { signal?: string; action?: string } & Partial<Pick<Wire, 'value' | 'delay' | 'times'>>,
): MapDocument {
  const old = doc.wires.get(id);
  if (!old) throw new EditError('wire.unknown', 'That wire is no longer in the map.');
  const wire: Wire = {
    ...old,
    ...change,
    from: signal === undefined ? old.from : { ...old.from, signal },
    to: action === undefined ? old.to : { ...old.to, action },
  };
  // What an action was done with means nothing to another one.
  if (action !== undefined && action !== old.to.action && change.value === undefined)
    delete (wire as { value?: unknown }).value;
  if (wire.delay === undefined) delete (wire as { delay?: number }).delay;
  if (wire.times === undefined) delete (wire as { times?: number }).times;
  checkWire(doc, wire);
  return { ...doc, wires: new Map(doc.wires).set(id, wire) };
}

export function removeWires(doc: MapDocument, ids: ReadonlySet<string>): MapDocument {
  return { ...doc, wires: new Map([...doc.wires].filter(([id]) => !ids.has(id))) };
}

/** What belongs to a part of a thing, or rides on it, says so; the first part is not told. */
export function partOfThing(id: string, part: number): { id: string; part?: number } {
  if (!Number.isInteger(part) || part < 0 || part > 63)
    throw new EditError('parts.part', 'The number of a part is from 1 to 64.');
  return part === 0 ? { id } : { id, part };
}

/** Lets things ride on a part of another one, or on none. A ride that leads back to itself is refused. */
export function rideOn(doc: MapDocument, things: readonly string[], carrier: string | null, part = 0): MapDocument {
  if (carrier !== null) thingOf(doc, carrier);
  const on = carrier === null ? null : partOfThing(carrier, part);
  for (let up = carrier; up !== null; up = doc.entities.get(up)?.carrier?.id ?? null)
    if (things.includes(up))
      throw new EditError(
        'thing.carrier',
        'A thing cannot ride on itself, nor on what rides on it. Choose another carrier.',
      );
  const entities = new Map(doc.entities);
  for (const id of things) {
    const { carrier: _, ...e } = thingOf(doc, id);
    entities.set(id, on ? { ...e, carrier: on } : e);
  }
  return { ...doc, entities };
}

/** The signal and action that are likely meant between two things: the first that tells of a person, and the first that shows something. */
export function likelyWire(cause: Entity, effect: Entity): { signal: string; action: string } | null {
  const signals = Object.keys(entityKind(cause.kind)?.signals ?? {});
  const kind = entityKind(effect.kind);
  const actions = Object.keys(kind?.actions ?? {});
  const signal = signals[0];
  const action = kind?.likely && actions.includes(kind.likely) ? kind.likely : actions[0];
  return signal && action ? { signal, action } : null;
}
