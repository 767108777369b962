import { params } from '../../params/index.ts';
import { compass, defineKind } from '../kind.ts';
import { facingHandle } from '../handles.ts';
import { facing, round, seenFrom } from '../strokes.ts';

export const spawn = defineKind({
  kind: 'spawn',
  label: 'Spawn',
  help: 'Where a player begins. The tick shows where they look.',
  family: 'Players',
  standsAt: 0,
  facing: compass('Looks towards'),
  floods: true,
  spawns: true,
  grip: 60,
  params: {
    for: params.choice(['any', 'solo', 'together', 'team', 'all'], 'any', {
      label: 'For',
      help: 'Who begins there: anybody, one player alone, one of up to four together, a team, or everybody against everybody',
      names: {
        any: 'Anybody',
        solo: 'One player',
        together: 'Players together',
        team: 'A team',
        all: 'Each for themselves',
      },
    }),
    number: params.integer(1, {
      label: 'Number',
      help: 'Which of those who play together',
      min: 1,
      max: 4,
      shownWhen: (v) => v.for === 'together',
    }),
    team: params.text('', {
      label: 'Team',
      help: 'Name of the team',
      longest: 60,
      shownWhen: (v) => v.for === 'team',
    }),
  },
  begins: ({ values }) =>
    values.for === 'together'
      ? { for: 'together', number: values.number }
      : values.for === 'team'
        ? { for: 'team', team: values.team }
        : { for: values.for === 'all' ? 'all' : 'solo' },
  symbol: ({ turn }, view) => {
    const [x, y] = seenFrom(view, facing(turn));
    return [
      {
        line: [
          [0, 0],
          [x * 18, y * 18],
        ],
      },
      {
        line: [
          [0, 0],
          [0, 20],
          [15, 20],
          [11, 14.5],
          [15, 9],
          [0, 9],
        ],
        fill: 'paper',
      },
      { text: String(view.number), at: [6, 11.5] },
      { circle: 2.5, fill: 'ink' },
    ];
  },
  mark: ({ turn }) => {
    const [c, s] = facing(turn);
    return [
      [
        [0, 0, 0],
        [0, 0, 120],
        [c * 40, s * 40, 105],
        [0, 0, 90],
      ],
      [
        [0, 0, 2],
        [c * 60, s * 60, 2],
      ],
      round(12, (x, y) => [x * 20, y * 20, 2]),
    ];
  },
  handles: ({ turn }) => [facingHandle(turn, 80)],
});
