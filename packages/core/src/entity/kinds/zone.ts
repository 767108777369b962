import { length } from '../../math/index.ts';
import { params, type ParamSpecs } from '../../params/index.ts';
import {
  asks,
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
  withInside,
  works,
  type Attended,
} from '../areas.ts';
import type { Behaviour } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';

const specs = {
  effect: params.choice(['none', 'harm', 'heal', 'push', 'slow', 'fall'], 'none', {
    label: 'Does',
    help: 'What it does to who is inside',
    names: {
      none: 'Nothing, it notices',
      harm: 'Harms',
      heal: 'Heals',
      push: 'Pushes',
      slow: 'Slows down',
      fall: 'Ends a fall',
    },
  }),
  rate: params.quantity('/s', 20, {
    label: 'By',
    help: 'How much health it takes or gives each second; health is 100',
    min: 0,
    max: 10_000,
    shownWhen: (v) => v.effect === 'harm' || v.effect === 'heal',
  }),
  push: params.way([0, 0, 400], {
    label: 'Towards',
    help: 'The speed it gives who is inside, in cm/s each way',
    shownWhen: (v) => v.effect === 'push',
  }),
  slow: params.part(0.5, {
    label: 'To',
    help: 'The part of their speed at which people walk in it',
    shownWhen: (v) => v.effect === 'slow',
  }),
  stay: params.quantity('s', 0, {
    label: 'Stayed after',
    help: 'How long somebody has to be inside until it tells that they stayed; 0 for never',
    min: 0,
    max: 3600,
  }),
  begins: params.yesNo(true, {
    label: 'On at first',
    help: 'It works when play begins; otherwise a wire has to switch it on',
  }),
  ...attention,
} satisfies ParamSpecs;

interface Now extends Attended {
  /** For how long somebody has been inside, s. */
  readonly since: number;
}

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: ({ values }): Now => ({ ...ATTENDS, on: values.begins, since: 0 }),
  step: ({ values }, memory, happenings, moment) => {
    let now = rested(memory as Now, moment.dt);
    const inside: number[] = [];
    for (const h of happenings)
      if (h.what === 'action') now = switched(now, h.action);
      else if (h.what === 'inside') {
        // Who was refused, or came while it rested, is not inside until they come again.
        if (!now.inside.includes(h.by)) {
          // Asked once a visit: who pays is let in, and nobody is refused in every step.
          if (now.inside.includes(-1 - h.by) || !works(values, now, h.by, moment)) {
            inside.push(-1 - h.by);
            continue;
          }
          now = hasWorked(values, now);
          moment.signal('entered', h.by);
        }
        inside.push(h.by);
        if (values.effect === 'harm') moment.harm(h.by, values.rate * moment.dt);
        if (values.effect === 'heal') moment.harm(h.by, -values.rate * moment.dt);
        if (values.effect === 'push') moment.push(h.by, values.push);
        if (values.effect === 'slow') moment.slow(h.by, values.slow);
        if (values.effect === 'fall') moment.harm(h.by, Infinity);
      } else if (h.what === 'usedInside' && inside.includes(h.by)) moment.signal('used', h.by);
    for (const k of now.inside) if (k >= 0 && !inside.includes(k)) moment.signal('left', k);
    const somebody = inside.find((k) => k >= 0);
    const since = somebody === undefined ? 0 : Math.min(now.since + moment.dt, 7200);
    if (values.stay > 0 && now.since < values.stay && since >= values.stay) moment.signal('stayed', somebody);
    const next = withInside(now, inside);
    return since === next.since ? next : { ...next, since };
  },
};

export const zone = defineKind({
  kind: 'zone',
  label: 'Zone',
  help: 'A region made of brushes that notices who comes and goes, and may do something to them.',
  family: 'Regions',
  standsAt: 0,
  body: 'zone',
  params: specs,
  firstBody: { min: [-96, -96, 0], max: [96, 96, 192] },
  signals: {
    entered: { label: 'is entered', help: 'Somebody comes in' },
    left: { label: 'is left', help: 'Somebody goes out' },
    stayed: { label: 'was stayed in', help: 'Somebody has been inside for as long as it asks' },
    used: { label: 'is used', help: 'Somebody inside presses use' },
    refused: refusedSignal,
  },
  actions: switchActions,
  symbol: () => regionSymbol({ circle: 3.5, fill: 'ink' }),
  mark: () => regionMark(),
  reach: ({ values }) => (values.effect === 'push' ? [{ line: [[0, 0, 0], values.push] }] : []),
  ...asks,
  flaws: ({ id, values }, around) => [
    ...regionFlaw({ id }, around),
    ...(values.effect === 'push' && length(values.push) < 1
      ? [
          {
            code: 'pushesNobody',
            severity: 'warning' as const,
            text: (name: string) => `${name} pushes nowhere. Type how fast, and which way.`,
          },
        ]
      : []),
  ],
  behaviour,
});
