import { entityKind } from '../entity/index.ts';
import { changeEntity, placeEntity } from '../edit/index.ts';
import { newId } from '../map/index.ts';
import { a } from './args.ts';
import { command } from './command.ts';

export const thingCommands = {
  'thing.place': command(
    ({ kind }) => `Place ${entityKind(kind)?.label.toLowerCase() ?? kind}`,
    { kind: a.name, at: a.vec3, turn: a.maybe(a.number) },
    (doc, { kind, at, turn }) => {
      const id = newId();
      return { doc: placeEntity(doc, kind, at, turn, id), made: { entities: [id] } };
    },
  ),
  /** Puts things at one place along one axis; where they are along the others stays. */
  'thing.put': command(
    ({ things }) => (things.length === 1 ? 'Change thing' : 'Change things'),
    { things: a.ids, axis: a.axis, to: a.number },
    (doc, { things, axis, to }) =>
      things.reduce((d, id) => {
        const at: [number, number, number] = [...(d.entities.get(id)?.at ?? [0, 0, 0])];
        at[axis] = to;
        return changeEntity(d, id, { at });
      }, doc),
  ),
  /** A parameter that is null is unset: it then has its usual value. */
  'thing.change': command(
    ({ things, label }) => label ?? (things.length === 1 ? 'Change thing' : 'Change things'),
    {
      things: a.ids,
      label: a.maybe(a.name),
      at: a.maybe(a.vec3),
      turn: a.maybe(a.number),
      name: a.maybe(a.name),
      params: a.maybe(a.params),
    },
    (doc, { things, label: _, params = {}, ...change }) => {
      const values = Object.fromEntries(Object.entries(params).map(([key, v]) => [key, v ?? undefined]));
      return things.reduce((d, id) => changeEntity(d, id, { ...change, params: values }), doc);
    },
  ),
};
