import { type ParamSpecs } from '../../params/index.ts';
import {
  asks,
  attention,
  ATTENDS,
  eachWhoEnters,
  refusedSignal,
  regionFlaw,
  regionMark,
  regionSymbol,
  switchActions,
} from '../areas.ts';
import type { Behaviour } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';

const specs = { ...attention } satisfies ParamSpecs;

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: () => ATTENDS,
  step: ({ values }, memory, happenings, moment) => {
    for (const h of happenings) if (h.what === 'action' && h.action === 'leave') moment.signal('leaves', h.by);
    return eachWhoEnters(values, memory, happenings, moment, (by) => moment.signal('leaves', by));
  },
};

export const exit = defineKind({
  kind: 'exit',
  label: 'Exit',
  help: 'Who enters it has done this map, and goes on to the next one of the project.',
  family: 'Regions',
  standsAt: 0,
  body: 'zone',
  leads: 'leaves',
  params: specs,
  firstBody: { min: [-64, -64, 0], max: [64, 64, 192] },
  signals: { leaves: { label: 'is taken', help: 'Somebody leaves the map' }, refused: refusedSignal },
  actions: { ...switchActions, leave: { label: 'leave the map', help: 'As if somebody had entered it' } },
  symbol: () =>
    regionSymbol(
      {
        line: [
          [-5, 0],
          [5, 0],
        ],
      },
      {
        line: [
          [1.5, 3.5],
          [5, 0],
          [1.5, -3.5],
        ],
      },
    ),
  mark: () => regionMark(),
  ...asks,
  flaws: regionFlaw,
  behaviour,
});
