import { params, type ParamSpecs } from '../params/index.ts';
import { add, scale, type Vec3 } from '../math/index.ts';
import type { Happening, Memory, Moment } from './behaviour.ts';
import type { Around, ThingFlaw, Trade } from './kind.ts';
import { partBox } from './parts.ts';
import { facing, type SpaceLine, type Stroke } from './strokes.ts';
import type { Entity } from './types.ts';

/** Who a thing is for, and how often it works: parameters of all that notices somebody. */
export const attention = {
  once: params.yesNo(false, { label: 'Only once', help: 'It works for the first who comes, and never again' }),
  again: params.quantity('s', 0, {
    label: 'Works again after',
    help: 'How long it ignores everybody after it has worked',
    min: 0,
    max: 3600,
    shownWhen: (v) => v.once === false,
  }),
  key: params.text('', { label: 'Key', help: 'Name of the key that one has to carry; none when empty', longest: 60 }),
  price: params.integer(0, { label: 'Price', help: 'Tokens that it costs each time', max: 100_000 }),
} satisfies ParamSpecs;

interface Attention {
  readonly once: boolean;
  readonly again: number;
  readonly key: string;
  readonly price: number;
}

type Price = Pick<Attention, 'key' | 'price'>;

/** What such a thing remembers of its work. */
export interface Attended extends Record<string, Memory[string]> {
  readonly on: boolean;
  readonly worked: boolean;
  /** For how long it still ignores everybody, s. */
  readonly rests: number;
  /** Who is inside, in the order of players. */
  readonly inside: readonly number[];
}

export const ATTENDS: Attended = { on: true, worked: false, rests: 0, inside: [] };

/** Whether it works for somebody now: takes the price, and tells who is refused. */
export function works(values: Attention, now: Attended, by: number, moment: Moment): boolean {
  if (!now.on || now.rests > 0 || (values.once && now.worked)) return false;
  if (values.key !== '' && !moment.holds(by, values.key)) return (moment.signal('refused', by), false);
  if (values.price > 0 && !moment.pay(by, values.price)) return (moment.signal('refused', by), false);
  return true;
}

export const hasWorked = <A extends Attended>(values: Attention, now: A): A => ({
  ...now,
  worked: true,
  rests: values.again,
});

/** What the actions on, off and toggle make of it. */
export const switched = <A extends Attended>(now: A, action: string): A =>
  action === 'on' || (action === 'toggle' && !now.on)
    ? { ...now, on: true }
    : action === 'off' || action === 'toggle'
      ? { ...now, on: false }
      : now;

export const rested = <A extends Attended>(now: A, dt: number): A =>
  now.rests > 0 ? { ...now, rests: Math.max(0, now.rests - dt) } : now;

export const switchActions = {
  on: { label: 'switch on', help: 'It works from now on' },
  off: { label: 'switch off', help: 'It works no more' },
  toggle: { label: 'switch over', help: 'Off when it is on, on when it is off' },
} as const;

export const refusedSignal = { label: 'is refused', help: 'Somebody lacks its key or its price' };

/** What a player is told who is refused. */
function wants(values: Price, name: string): string {
  const list = [
    values.key && `the ${values.key}`,
    values.price && `${values.price} token${values.price === 1 ? '' : 's'}`,
  ];
  const needed = list.filter(Boolean).join(' and ');
  return needed ? `${name} wants ${needed}.` : `${name} is locked.`;
}

/** What all tell alike that ask for a key or a price. */
export const asks = {
  trade: ({ values: { key, price } }: { readonly values: Price }): Trade => ({ wantsKey: key, wantsTokens: price }),
  hint: ({ values }: { readonly values: Price }, signal: string, name: string): string | null =>
    signal === 'refused' ? wants(values, name) : null,
};

/** Who is inside now; the same memory when that has not changed. */
export const withInside = <A extends Attended>(now: A, inside: readonly number[]): A =>
  inside.length === now.inside.length && inside.every((k, i) => k === now.inside[i]) ? now : { ...now, inside };

/** A step of what does one thing with each who comes in, once a visit: `enter` does it, for those whom it `lets`. */
export function eachWhoEnters(
  values: Attention,
  memory: Memory,
  happenings: readonly Happening[],
  moment: Moment,
  enter: (by: number) => void,
  lets: (by: number) => boolean = () => true,
): Attended {
  let now = rested(memory as Attended, moment.dt);
  const inside: number[] = [];
  for (const h of happenings)
    if (h.what === 'action') now = switched(now, h.action);
    else if (h.what === 'inside') {
      inside.push(h.by);
      if (now.inside.includes(h.by) || !lets(h.by) || !works(values, now, h.by, moment)) continue;
      now = hasWorked(values, now);
      enter(h.by);
    }
  return withInside(now, inside);
}

/** A region without brushes notices nobody. */
export const regionFlaw = (thing: Pick<Entity, 'id'>, around: Around): ThingFlaw[] =>
  partBox(around, thing)
    ? []
    : [
        {
          code: 'noRegion',
          severity: 'error',
          text: (name) => `${name} has no brushes that say where it is. Select brushes and it, then add them.`,
        },
      ];

/** Corner brackets round a sign: how regions are drawn. */
export const regionSymbol = (...sign: readonly Stroke[]): Stroke[] => [
  { circle: 9, fill: 'paper' },
  ...(
    [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ] as const
  ).map(([x, y]): Stroke => ({
    line: [
      [x * 11, y * 6],
      [x * 11, y * 11],
      [x * 6, y * 11],
    ],
  })),
  ...sign,
];

/** A small cross over the floor, with a line in front where the turn matters. */
export const regionMark = (turn?: number): SpaceLine[] => [
  [
    [-12, 0, 2],
    [12, 0, 2],
  ],
  [
    [0, -12, 2],
    [0, 12, 2],
  ],
  ...(turn === undefined ? [] : [[[0, 0, 2] as Vec3, add([0, 0, 2], scale(facing(turn), 40))]]),
];
