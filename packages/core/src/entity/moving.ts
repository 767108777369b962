import { EASES, params } from '../params/index.ts';
import type { Memory, Moment } from './behaviour.ts';
import { facing, type SpaceLine } from './strokes.ts';

/** What it does to those in its way whom it cannot push aside: parameters of all that moves. */
export const obstruction = (initial: 'back' | 'stop' | 'crush') => ({
  obstructed: params.choice(['back', 'stop', 'crush'], initial, {
    label: 'Somebody in the way',
    help: 'What it does when somebody who stands in its way cannot be pushed aside',
    names: { back: 'Turns back', stop: 'Waits', crush: 'Crushes' },
  }),
  harm: params.quantity('/s', 40, {
    label: 'Harm',
    help: 'What it takes from the health of who it crushes, each second; health is 100',
    min: 0,
    max: 10_000,
    shownWhen: (v) => v.obstructed === 'crush',
  }),
});

export const easing = params.choice(EASES, 'gentle', {
  label: 'Moves',
  help: 'Gently at both ends, evenly, or gently at one end',
  names: { gentle: 'Gently', even: 'Evenly', start: 'Gently at first', end: 'Gently at last' },
});

export const shadow = params.yesNo(true, {
  label: 'Casts shadow',
  help: 'Whether it shades the light of the build where it is drawn',
});

/** Whose light it has while it moves. */
const litAt = params.reference('thing', {
  label: 'Lit as at',
  help: 'A thing whose place it keeps the light of, wherever it moves; none for that of where it is',
});

/** What light has to do with something that moves, and how its kind tells. */
export const lightSpecs = { shadow, litAt };
export const tellsLight = {
  shades: ({ values }: { readonly values: { readonly shadow: boolean } }) => values.shadow,
  litAt: ({ values }: { readonly values: { readonly litAt: string } }) => values.litAt,
};

/** What is heard when something moves and when it comes to rest: names of sounds, none when empty. */
export const movingSounds = (moves: string, ends: string) => ({
  soundMoves: params.reference('sound', {
    label: 'Sound of moving',
    help: 'What is heard when it begins to move',
    initial: moves,
  }),
  soundEnds: params.reference('sound', {
    label: 'Sound of stopping',
    help: 'What is heard when it comes to rest',
    initial: ends,
  }),
});

/** What a thing that moves remembers after it met somebody who could not be pushed aside. */
export function metSomebody<M extends Memory>(
  { obstructed, harm }: { readonly obstructed: string; readonly harm: number },
  before: M,
  turned: M,
  player: number,
  moment: Moment,
): M {
  moment.signal('obstructed', player);
  if (obstructed === 'crush') moment.harm(player, harm * moment.dt);
  return obstructed === 'back' ? turned : before;
}

export const obstructedSignal = {
  label: 'is obstructed',
  help: 'Somebody in its way could not be pushed aside',
};

/** Marks what stands on the floor and has a front. */
export const floorMark = (turn: number): SpaceLine[] => {
  const [c, s] = facing(turn);
  return [
    [
      [-s * 30, c * 30, 2],
      [s * 30, -c * 30, 2],
    ],
    [
      [0, 0, 2],
      [c * 30, s * 30, 2],
    ],
  ];
};
