import { params, type ParamSpecs } from '../../params/index.ts';
import type { Behaviour, Memory } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';
import { star } from '../strokes.ts';

const specs = {
  sound: params.reference('sound', { label: 'Sound', help: 'What is heard', initial: 'water' }),
  loop: params.yesNo(true, { label: 'Goes on', help: 'Over and over; otherwise once each time a wire plays it' }),
  begins: params.yesNo(true, {
    label: 'Plays at first',
    help: 'It is heard when play begins; otherwise a wire has to start it',
    shownWhen: (v) => v.loop === true,
  }),
  reach: params.length(800, {
    label: 'Heard within',
    help: 'How far from it one hears it, in cm',
    min: 50,
    max: 20_000,
  }),
  volume: params.part(0.7, { label: 'Loudness', help: 'How loud it is where it stands' }),
} satisfies ParamSpecs;

interface Now extends Record<string, Memory[string]> {
  readonly on: boolean;
}

const behaviour: Behaviour<Thing<typeof specs>> = {
  begin: ({ values }): Now => ({ on: values.loop && values.begins }),
  step: ({ values }, memory, happenings, moment) => {
    let now = memory as Now;
    for (const h of happenings) {
      if (h.what !== 'action') continue;
      if (!values.loop) {
        if (h.action !== 'stop') moment.signal('played', h.by);
        continue;
      }
      const on = h.action === 'play' ? true : h.action === 'stop' ? false : h.action === 'toggle' ? !now.on : now.on;
      if (on !== now.on) now = { on };
    }
    return now;
  },
  hum: ({ values }, memory) =>
    (memory as Now).on && values.sound !== ''
      ? { sound: values.sound, reach: values.reach, volume: values.volume }
      : null,
};

export const sound = defineKind({
  kind: 'sound',
  label: 'Sound',
  help: 'Is heard from where it stands: water, wind, machines, or once when a wire plays it.',
  family: 'Players',
  standsAt: 120,
  tries: 'toggle',
  params: specs,
  signals: { played: { label: 'is played', help: 'It is played once' } },
  actions: {
    play: { label: 'play', help: 'It is heard from now on, or once' },
    stop: { label: 'stop', help: 'It is heard no more' },
    toggle: { label: 'play or stop', help: 'Plays when it is silent, stops when it is heard' },
  },
  symbol: () => [
    { circle: 9, fill: 'paper' },
    {
      line: [
        [-5, -2],
        [-2, -2],
        [2, -5],
        [2, 5],
        [-2, 2],
        [-5, 2],
      ],
      closed: true,
    },
    {
      line: [
        [4, -2.5],
        [5, 0],
        [4, 2.5],
      ],
    },
  ],
  mark: () => star(9),
  reach: ({ values }) => [{ sphere: values.reach }],
  sounds: ({ values }) => ({ played: values.sound }),
  flaws: ({ values }) =>
    values.sound === ''
      ? [{ code: 'silent', severity: 'warning', text: (name) => `${name} has no sound. Choose one.` }]
      : [],
  behaviour,
});
