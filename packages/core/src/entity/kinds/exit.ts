import { type ParamSpecs } from '../../params/index.ts';
import {
  attention,
  ATTENDS,
  hasWorked,
  refusedSignal,
  regionFlaw,
  regionMark,
  regionSymbol,
  rested,
  switchActions,
  switched,
  wants,
  works,
  type Attended,
} from '../areas.ts';
import type { Behaviour } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';

const specs = { ...attention } satisfies ParamSpecs;

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: () => ATTENDS,
  step: ({ values }, memory, happenings, moment) => {
    let now = rested(memory as Attended, moment.dt);
    const inside: number[] = [];
    for (const h of happenings)
      if (h.what === 'action') {
        now = switched(now, h.action);
        if (h.action === 'leave') moment.signal('leaves', h.by);
      } else if (h.what === 'inside') {
        inside.push(h.by);
        if (now.inside.includes(h.by) || !works(values, now, h.by, moment)) continue;
        now = hasWorked(values, now);
        moment.signal('leaves', h.by);
      }
    const same = inside.length === now.inside.length && inside.every((k, i) => k === now.inside[i]);
    return same ? now : { ...now, inside };
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
  trade: ({ values: { key, price } }) => ({ wantsKey: key, wantsTokens: price }),
  hint: ({ values }, signal, name) => (signal === 'refused' ? wants(values, name) : null),
  flaws: ({ id }, around) => regionFlaw(id, around),
  behaviour,
});
