import { params, type ParamSpecs } from '../params/index.ts';
import type { Behaviour, Memory } from './behaviour.ts';
import type { Thing } from './kind.ts';

/** How a lamp is switched in play: parameters of all lamps. */
export const switching = {
  lit: params.yesNo(true, {
    label: 'Lit at first',
    help: 'It shines when play begins; otherwise a wire has to switch it on',
  }),
  fades: params.quantity('s', 0, {
    label: 'Fades in',
    help: 'How long it takes from dark to full strength, and back, when a wire switches it',
    min: 0,
    max: 600,
  }),
} satisfies ParamSpecs;

/** A lamp may be told to shine with so many times its strength. */
const MOST = 1000;

/** What a lamp remembers. */
interface Now extends Record<string, Memory[string]> {
  /** How many times its strength it shines with. */
  readonly share: number;
  /** The share that it goes to. */
  readonly to: number;
  /** How much it changes in the time that it fades. */
  readonly pace: number;
}

export const lampSignals = {
  lit: { label: 'is lit', help: 'It has come to the strength it was told' },
  dark: { label: 'is out', help: 'It shines no more' },
} as const;

export const lampActions = {
  toggle: { label: 'switch over', help: 'Off when it is lit, on when it is dark' },
  on: { label: 'switch on', help: 'Shines with its full strength' },
  off: { label: 'switch off', help: 'Shines no more' },
  fade: {
    label: 'fade',
    help: 'Goes to a part of its strength, in the time that it fades in',
    values: {
      strength: params.quantity('×', 0.5, {
        label: 'Part',
        help: 'How much of its strength it then shines with: 1 is all of it, 2 twice as much',
        min: 0,
        max: MOST,
      }),
    },
  },
} as const;

/** What a wire that leads to a lamp makes it go to. */
function told(now: Now, action: string, value: unknown): number {
  switch (action) {
    case 'on':
      return 1;
    case 'off':
      return 0;
    case 'toggle':
      return now.to > 0 ? 0 : 1;
    case 'fade':
      return typeof value === 'number' && Number.isFinite(value) ? Math.min(MOST, Math.max(0, value)) : 0.5;
    default:
      return now.to;
  }
}

/** Lamps go to what they are told, at an even pace, and shine with so many times their strength. */
export const lampBehaviour: Behaviour<Thing<typeof switching>> = {
  begin: ({ values }): Now => ({ share: values.lit ? 1 : 0, to: values.lit ? 1 : 0, pace: 1 }),
  step: ({ values }, memory, happenings, moment): Memory => {
    let now = memory as Now;
    for (const h of happenings) {
      if (h.what !== 'action') continue;
      const to = told(now, h.action, h.value);
      // Between dark and full strength always as fast; to and from more than that no slower.
      if (to !== now.to) now = { ...now, to, pace: Math.max(1, to, now.share) };
    }
    if (now.share === now.to) return now;
    const most = values.fades > 0 ? (now.pace * moment.dt) / values.fades : Infinity;
    const left = now.to - now.share;
    // Sums of steps are off by rounding: what is nearly there is there.
    const share = Math.abs(left) <= most + 1e-9 ? now.to : now.share + Math.sign(left) * most;
    if (share === now.to) moment.signal(share > 0 ? 'lit' : 'dark');
    return { ...now, share };
  },
  shine: (_, memory) => (memory as Now).share,
};
