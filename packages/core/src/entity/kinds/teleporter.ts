import { params, type ParamSpecs } from '../../params/index.ts';
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
import { sub } from '../../math/index.ts';

const specs = {
  target: params.reference('thing', { label: 'Leads to', help: 'The thing where one comes out, looking as it faces' }),
  ...attention,
} satisfies ParamSpecs;

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: () => ATTENDS,
  step: ({ values }, memory, happenings, moment) => {
    const target = values.target === '' ? undefined : moment.around.thing(values.target);
    const send = (by: number) => {
      moment.put(by, target!.at, target!.turn);
      moment.signal('sent', by);
    };
    // Who comes out of one that leads here is not sent back at once.
    return eachWhoEnters(values, memory, happenings, moment, send, (by) => !!target && !moment.arrived(by));
  },
};

export const teleporter = defineKind({
  kind: 'teleporter',
  label: 'Teleporter',
  help: 'Who enters it stands at another thing a moment later, looking where that faces.',
  family: 'Regions',
  standsAt: 0,
  body: 'zone',
  params: specs,
  firstBody: { min: [-64, -64, 0], max: [64, 64, 192] },
  signals: { sent: { label: 'sends somebody', help: 'Somebody goes through it' }, refused: refusedSignal },
  actions: switchActions,
  symbol: () => regionSymbol({ circle: 5 }, { circle: 1.8, fill: 'ink' }),
  mark: () => regionMark(),
  reach: ({ at, values }, around) => {
    const target = values.target === '' ? undefined : around.thing(values.target);
    return target ? [{ line: [[0, 0, 0], sub(target.at, at)] }] : [];
  },
  ...asks,
  sounds: () => ({ sent: 'shimmer', refused: 'denied' }),
  flaws: ({ id, values }, around) => [
    ...regionFlaw({ id }, around),
    ...(values.target === id || values.target === '' || !around.thing(values.target)
      ? [
          {
            code: 'leadsNowhere',
            severity: 'error' as const,
            text: (name: string) =>
              `${name} leads nowhere. Choose the thing where one comes out: a spawn, or a checkpoint.`,
          },
        ]
      : []),
  ],
  behaviour,
});
