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

/** What a lamp remembers. */
interface Now extends Record<string, Memory[string]> {
  /** The share of its strength that it shines with, 0 to 1. */
  readonly share: number;
  /** The share that it goes to. */
  readonly to: number;
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
      strength: params.part(0.5, { label: 'Part', help: 'How much of its strength it then shines with, 0 to 1' }),
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
      return typeof value === 'number' && Number.isFinite(value) ? Math.min(1, Math.max(0, value)) : 0.5;
    default:
      return now.to;
  }
}

/** Lamps go to what they are told, at an even pace, and shine with that share of their strength. */
export const lampBehaviour: Behaviour<Thing<typeof switching>> = {
  begin: ({ values }): Now => ({ share: values.lit ? 1 : 0, to: values.lit ? 1 : 0 }),
  step: ({ values }, memory, happenings, moment): Memory => {
    let now = memory as Now;
    for (const h of happenings) {
      if (h.what !== 'action') continue;
      const to = told(now, h.action, h.value);
      if (to !== now.to) now = { ...now, to };
    }
    if (now.share === now.to) return now;
    const most = values.fades > 0 ? moment.dt / values.fades : 1;
    const left = now.to - now.share;
    // Sums of steps are off by rounding: what is nearly there is there.
    const share = Math.abs(left) <= most + 1e-9 ? now.to : now.share + Math.sign(left) * most;
    if (share === now.to) moment.signal(share > 0 ? 'lit' : 'dark');
    return { ...now, share };
  },
  shine: (_, memory) => (memory as Now).share,
};
