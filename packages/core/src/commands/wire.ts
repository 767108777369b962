import type { ParamValue } from '../params/index.ts';
import { addWire, changeWire, removeWires, rideOn } from '../edit/index.ts';
import { a } from './args.ts';
import { command } from './command.ts';

const value = a.maybe(a.as<ParamValue>(a.value));

export const wireCommands = {
  'wire.add': command(
    'Wire',
    {
      from: a.record({ thing: a.id, signal: a.name }),
      to: a.record({ thing: a.id, action: a.name }),
      value,
      delay: a.maybe(a.number),
      times: a.maybe(a.whole),
    },
    (doc, wire) => addWire(doc, wire),
  ),
  /** A delay or a count that is null is taken away. */
  'wire.change': command(
    'Change wire',
    {
      wire: a.id,
      signal: a.maybe(a.name),
      action: a.maybe(a.name),
      value,
      delay: a.maybe(a.orNone(a.number)),
      times: a.maybe(a.orNone(a.whole)),
    },
    (doc, { wire, ...change }) =>
      changeWire(
        doc,
        wire,
        Object.fromEntries(Object.entries(change).map(([key, v]) => [key, v ?? undefined])) as never,
      ),
  ),
  'wire.remove': command('Remove wire', { wires: a.ids }, (doc, { wires }) => removeWires(doc, new Set(wires))),
  /** Things ride on a part of another one from then on; on none where that is null. */
  'thing.ride': command(
    ({ carrier }) => (carrier === null ? 'Take off its carrier' : 'Let it ride'),
    { things: a.ids, carrier: a.orNone(a.id), part: a.maybe(a.whole) },
    (doc, { things, carrier, part }) => rideOn(doc, things, carrier, part),
  ),
};
