import { params, type ParamSpecs } from '../../params/index.ts';
import type { Behaviour, Memory } from '../behaviour.ts';
import { defineKind, type Thing } from '../kind.ts';
import { AT_REST } from '../motion.ts';
import { partBox } from '../parts.ts';
import { floorMark, shadow } from '../moving.ts';

const specs = {
  strength: params.quantity('', 50, {
    label: 'Strength',
    help: 'How much it bears: a blow takes 25, use takes 25',
    min: 1,
    max: 100_000,
  }),
  substance: params.choice(['wood', 'glass', 'stone', 'metal', 'rope'], 'wood', {
    label: 'Substance',
    help: 'What it is made of: how its pieces look and sound',
  }),
  breaks: params.choice(['use', 'touch', 'wires'], 'use', {
    label: 'Breaks by',
    help: 'What breaks it besides wires',
    names: { use: 'Use', touch: 'Running into it', wires: 'Wires only' },
  }),
  shadow,
} satisfies ParamSpecs;

type Breakable = Thing<typeof specs>;

/** What is heard when each substance breaks. */
const BREAKS = { wood: 'breakWood', glass: 'breakGlass', stone: 'breakStone', metal: 'bolt', rope: 'latch' } as const;

/** What one blow takes. */
const BLOW = 25;

interface Now extends Record<string, Memory[string]> {
  /** What it still bears. */
  readonly left: number;
  readonly gone: boolean;
  /** Somebody touches it: who leans on it strikes once. */
  readonly touched: boolean;
}

const behaviour: Behaviour<Breakable> = {
  begin: ({ values }): Now => ({ left: values.strength, gone: false, touched: false }),
  step: ({ values }, memory, happenings, moment) => {
    let now = memory as Now;
    const touched = happenings.some((h) => h.what === 'touched');
    for (const h of happenings) {
      if (now.gone) {
        if (h.what === 'action' && h.action === 'mend') now = { left: values.strength, gone: false, touched };
        continue;
      }
      const struck =
        (h.what === 'used' && values.breaks === 'use') ||
        (h.what === 'touched' && values.breaks === 'touch' && !now.touched);
      const left = h.what === 'action' && h.action === 'break' ? 0 : struck ? Math.max(0, now.left - BLOW) : now.left;
      if (left === now.left) continue;
      const by = h.by;
      moment.signal(left === 0 ? 'broken' : 'struck', by);
      now = { ...now, left, gone: left === 0 };
    }
    return now.touched === touched ? now : { ...now, touched };
  },
  poses: () => [AT_REST],
  way: () => [[AT_REST]],
  gone: (memory) => (memory as Now).gone,
};

export const breakable = defineKind({
  kind: 'breakable',
  label: 'Breakable',
  help: 'Brushes or props that are gone when they have been struck often enough: grilles, crates, thin walls.',
  family: 'What moves',
  standsAt: 0,
  body: 'brushes',
  grip: 30,
  tries: 'break',
  params: specs,
  firstBody: { min: [-8, -64, 0], max: [8, 64, 128] },
  signals: {
    broken: { label: 'is broken', help: 'It is gone' },
    struck: { label: 'is struck', help: 'A blow that it bears' },
  },
  actions: {
    break: { label: 'break', help: 'It is gone at once' },
    mend: { label: 'mend', help: 'It is whole again' },
  },
  symbol: () => [
    {
      line: [
        [-9, -9],
        [9, -9],
        [9, 9],
        [-9, 9],
      ],
      closed: true,
      fill: 'paper',
    },
    {
      line: [
        [-9, 3],
        [-3, 1],
        [-1, 6],
        [2, -2],
        [5, 0],
        [9, -6],
      ],
    },
    {
      line: [
        [-1, 6],
        [1, 9],
      ],
    },
    {
      line: [
        [2, -2],
        [-2, -9],
      ],
    },
  ],
  mark: () => floorMark(0),
  usable: ({ values }) => values.breaks === 'use',
  sounds: ({ values }) => ({ broken: BREAKS[values.substance], struck: 'thud' }),
  shades: ({ values }) => values.shadow,
  flaws: ({ id }, around) => {
    const box = partBox(around, { id });
    return !box
      ? [
          {
            code: 'noBody',
            severity: 'error',
            text: (name) => `${name} has no brushes or props. Select some and it, then add them.`,
          },
        ]
      : [];
  },
  behaviour,
});
