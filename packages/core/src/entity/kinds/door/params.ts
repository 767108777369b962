import { add, rotationAbout, scale, translation, type Vec3 } from '../../../math/index.ts';
import { params, type ParamSpecs, type ValuesOf } from '../../../params/index.ts';
import type { Thing } from '../../kind.ts';
import { AT_REST, type Pose } from '../../motion.ts';
import { easing, movingSounds, obstruction, lightSpecs } from '../../moving.ts';

const leaf = {
  moves: params.choice(['slides', 'turns'], 'slides', {
    label: 'Motion',
    help: 'Whether this leaf slides or turns on a hinge',
    names: { slides: 'Slides', turns: 'Turns' },
  }),
  travel: params.way([0, 0, 200], {
    label: 'Slides by',
    help: 'How far it slides until it is open, in cm',
    shownWhen: (v) => v.moves === 'slides',
  }),
  hinge: params.way([0, 0, 0], {
    label: 'Hinge',
    help: 'A point of the line that it turns about, in cm from the door',
    shownWhen: (v) => v.moves === 'turns',
  }),
  axis: params.axis([0, 0, 1], {
    label: 'Hinge line',
    help: 'Which way the line runs that it turns about',
    shownWhen: (v) => v.moves === 'turns',
  }),
  angle: params.angle(90, {
    label: 'Turns by',
    help: 'How far it turns until it is open, in degrees; negative turns the other way',
    min: -180,
    max: 180,
    shownWhen: (v) => v.moves === 'turns',
  }),
} satisfies ParamSpecs;

/** One moving part of a door. */
export type Leaf = ValuesOf<typeof leaf>;

/** What a door is asked. */
export const specs = {
  leaves: params.list(params.record(leaf, { label: 'Leaf', help: 'One moving part of the door' }), {
    label: 'Leaves',
    help: 'The parts that move, each with a way of its own. Brushes belong to one of them',
    most: 16,
    initial: [{ moves: 'slides', travel: [0, 0, 200], hinge: [0, 0, 0], axis: [0, 0, 1], angle: 90 }],
  }),
  opens: params.choice(['use', 'touch', 'near', 'wires'], 'use', {
    label: 'Opens by',
    help: 'What a player does to open it; wires always can',
    names: { use: 'Use', touch: 'Touch', near: 'Coming near', wires: 'Wires only' },
  }),
  near: params.length(150, {
    label: 'Notices within',
    help: 'How near a player has to come, in cm',
    min: 1,
    max: 5000,
    shownWhen: (v) => v.opens === 'near',
  }),
  away: params.yesNo(true, {
    label: 'Away from who opens',
    help: 'Leaves that turn open away from the player; otherwise always the way they are drawn',
    shownWhen: (v) => turnsOf(v.leaves as readonly Leaf[]),
  }),
  pace: params.choice(['time', 'speed'], 'time', {
    label: 'Pace by',
    help: 'Whether the time to open is given, or the speed of the leaf that goes farthest',
    names: { time: 'Time', speed: 'Speed' },
  }),
  seconds: params.quantity('s', 1.2, {
    label: 'Opens in',
    help: 'How long it takes to open or close',
    min: 0.05,
    max: 120,
    shownWhen: (v) => v.pace === 'time',
  }),
  speed: params.quantity('cm/s', 160, {
    label: 'Speed',
    help: 'How fast the leaf that goes farthest moves',
    min: 1,
    max: 2000,
    shownWhen: (v) => v.pace === 'speed',
  }),
  ease: easing,
  stays: params.yesNo(false, { label: 'Stays open', help: 'Once open it closes only when it is told to' }),
  wait: params.quantity('s', 3, {
    label: 'Closes after',
    help: 'How long it stands open before it closes',
    min: 0,
    max: 3600,
    shownWhen: (v) => v.stays === false,
  }),
  open: params.yesNo(false, { label: 'Starts open', help: 'It stands open when play begins' }),
  locked: params.yesNo(false, {
    label: 'Starts locked',
    help: 'It opens only after a wire has unlocked it, or with its key',
  }),
  key: params.text('', {
    label: 'Key',
    help: 'Name of the key that a player has to carry; none when empty',
    longest: 60,
  }),
  price: params.integer(0, {
    label: 'Price',
    help: 'Tokens that a player pays to open it the first time',
    max: 100_000,
  }),
  ...movingSounds('hinge', 'thud'),
  soundRefused: params.reference('sound', {
    label: 'Sound when refused',
    help: 'What is heard when a player cannot open it',
    initial: 'denied',
  }),
  ...obstruction('back'),
  ...lightSpecs,
} satisfies ParamSpecs;

export type Door = Thing<typeof specs>;

export const turnsOf = (leaves: readonly Leaf[]): boolean => leaves.some((l) => l.moves === 'turns');

/** Where a leaf is when it is open by a share of its way; `sense` −1 turns it against how it is drawn. */
export function leafPose(at: Vec3, l: Leaf, share: number, sense: number): Pose {
  if (share === 0) return AT_REST;
  return l.moves === 'turns'
    ? rotationAbout(l.axis, l.angle * share * sense, add(at, l.hinge))
    : translation(scale(l.travel, share));
}
