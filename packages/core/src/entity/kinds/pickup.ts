import { params, type ParamSpecs } from '../../params/index.ts';
import type { Behaviour, Memory } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';
import { round, type Stroke } from '../strokes.ts';

const WHAT = ['bandage', 'oil', 'armour', 'key', 'tokens'] as const;

const specs = {
  what: params.choice(WHAT, 'bandage', {
    label: 'Lies on it',
    help: 'What is picked up',
    names: { bandage: 'Bandage', oil: 'Lamp oil', armour: 'Armour', key: 'Key', tokens: 'Tokens' },
  }),
  amount: params.integer(25, {
    label: 'Amount',
    help: 'How much of it: health, oil, armour or tokens',
    min: 1,
    max: 1000,
    shownWhen: (v) => v.what !== 'key',
  }),
  named: params.text('tide key', {
    label: 'Name of the key',
    help: 'Doors and zones ask for a key by this name',
    longest: 60,
    shownWhen: (v) => v.what === 'key',
  }),
  again: params.quantity('s', 30, {
    label: 'Lies there again after',
    help: 'How long after it was taken; 0 for never',
    min: 0,
    max: 3600,
  }),
  begins: params.yesNo(true, {
    label: 'There at first',
    help: 'It lies there when play begins; otherwise a wire puts it there',
  }),
} satisfies ParamSpecs;

type Pickup = Thing<typeof specs>;

interface Now extends Record<string, Memory[string]> {
  readonly there: boolean;
  /** For how long it has been gone, s. */
  readonly gone: number;
}

/** Who comes so near (cm, between boxes) takes it. */
const TAKES = 12;

const behaviour: Behaviour<Pickup> = {
  begin: ({ values }): Now => ({ there: values.begins, gone: 0 }),
  notices: () => TAKES,
  step: ({ values }, memory, happenings, moment) => {
    let now = memory as Now;
    for (const h of happenings) {
      if (h.what === 'action') {
        if (h.action === 'put' && !now.there) now = { there: true, gone: 0 };
        if (h.action === 'take' && now.there) now = { there: false, gone: 0 };
      } else if (h.what === 'near' && now.there) {
        // Nobody takes what they cannot use.
        if (!moment.give(h.by, values.what, values.amount, values.named)) continue;
        moment.signal('taken', h.by);
        now = { there: false, gone: 0 };
      }
    }
    if (now.there || values.again === 0 || (!values.begins && now.gone === 0 && now === memory)) return now;
    const gone = now.gone + moment.dt;
    if (gone < values.again) return { ...now, gone };
    moment.signal('back');
    return { there: true, gone: 0 };
  },
  gone: (memory) => !(memory as Now).there,
};

const SIGNS: Readonly<Record<(typeof WHAT)[number], readonly Stroke[]>> = {
  bandage: [
    {
      line: [
        [-4, 0],
        [4, 0],
      ],
    },
    {
      line: [
        [0, -4],
        [0, 4],
      ],
    },
  ],
  oil: [
    {
      line: [
        [0, 5],
        [3.5, -1],
        [2, -4],
        [-2, -4],
        [-3.5, -1],
      ],
      closed: true,
    },
  ],
  armour: [
    {
      line: [
        [-4, 4],
        [4, 4],
        [3.5, -1],
        [0, -5],
        [-3.5, -1],
      ],
      closed: true,
    },
  ],
  key: [
    { circle: 2, at: [-3, 0] },
    {
      line: [
        [-1, 0],
        [5, 0],
      ],
    },
    {
      line: [
        [3, 0],
        [3, -2.5],
      ],
    },
  ],
  tokens: [
    { circle: 3, at: [-1.5, 1] },
    { circle: 3, at: [1.5, -1] },
  ],
};

export const pickup = defineKind({
  kind: 'pickup',
  label: 'Pickup',
  help: 'A stand with something on it that players take: bandages, lamp oil, armour, keys, tokens.',
  family: 'Players',
  standsAt: 0,
  grip: 40,
  params: specs,
  signals: {
    taken: { label: 'is taken', help: 'Somebody takes it' },
    back: { label: 'is there again', help: 'It lies there again' },
  },
  actions: {
    put: { label: 'put there', help: 'It lies there at once' },
    take: { label: 'take away', help: 'It is gone, as if somebody had taken it' },
  },
  symbol: ({ values }) => [
    {
      line: [
        [-8, -3],
        [-5, -8],
        [5, -8],
        [8, -3],
        [8, 3],
        [5, 8],
        [-5, 8],
        [-8, 3],
      ],
      closed: true,
      fill: 'paper',
    },
    ...SIGNS[values.what],
  ],
  mark: () => [
    round(8, (x, y) => [x * 14, y * 14, 1]),
    [
      [0, 0, 1],
      [0, 0, 40],
    ],
    round(4, (x, y) => [x * 9, y * 9, 50]),
    [
      [-9, 0, 50],
      [0, 0, 61],
      [9, 0, 50],
      [0, 0, 39],
      [-9, 0, 50],
    ],
  ],
  trade: ({ values: { what, named, amount, again } }) => ({
    ...(what === 'key' ? { givesKey: named } : {}),
    ...(what === 'tokens' ? { givesTokens: amount, again: again > 0 } : {}),
  }),
  sounds: ({ values }) => ({ taken: values.what === 'tokens' ? 'tokens' : 'pickup' }),
  figure: ({ values }) => {
    const color = { bandage: '#efe6d2', oil: '#d39b3a', armour: '#7a8792', key: '#b9924a', tokens: '#c8a64b' }[
      values.what
    ];
    return [
      { shape: 'round', at: [0, 0, 10], size: [26, 26, 20], color: '#6a5a44' },
      { shape: 'round', at: [0, 0, 22], size: [36, 36, 4], color: '#84725a' },
      {
        shape: values.what === 'tokens' || values.what === 'oil' ? 'round' : 'box',
        at: [0, 0, 33],
        size: values.what === 'key' ? [22, 7, 4] : values.what === 'tokens' ? [16, 16, 7] : [18, 14, 14],
        color,
        taken: true,
      },
    ];
  },
  behaviour,
});
